import {
  blanksOfPiece,
  correctedReadings,
  operationOf,
  passportOf,
  pieceAt,
  pieceCode,
  setUpOf,
  type LotState,
  type PassportLine,
  type PieceState,
  type Route,
  type SetUpValue,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { entriesInForce } from '../log/entries-in-force.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LotsService } from '../wood/lots.service.ts';
import { MetersService } from '../wood/meters.service.ts';

/** Parts of parts of parts: an instrument, its body, the body's top. */
const MOST_PARTS = 40;

export interface PassportWood {
  lot: string;
  species: string;
  papers: string | null;
  blanks: string[];
  /** These blanks became this very piece; false: they were taken for its rack, and nobody told them apart. */
  own: boolean;
}

export interface PassportPart {
  piece: string;
  batch: string;
  kindName: string;
  model: string;
  /** Null: it has none. */
  serial: string | null;
  standing: string;
  joinedInto: string | null;
  recipe: string | null;
  wood: PassportWood[];
  /** Its model says what its wood must be, and none is noted. */
  woodMissing: boolean;
  /** How it was set up, and how it had settled; empty for parts. */
  setUp: SetUpValue[];
  lines: PassportLine[];
}

export interface Passport {
  nowMs: number;
  zone: string;
  factory: string;
  parts: PassportPart[];
}

/** Gathers what the logs of a piece and of its parts keep about it. */
@Injectable()
export class PassportService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly lots: LotsService,
    private readonly meters: MetersService,
  ) {}

  /** @throws NotFoundException when there is no such batch or piece. */
  async passport(batch: string, position: number): Promise<Passport> {
    const [nowMs, { name, calendar }] = await Promise.all([this.clock.now(), this.setup.factory()]);
    const parts: PassportPart[] = [];
    const wanted = [{ batch, position }];
    for (let one = wanted.shift(); one && parts.length < MOST_PARTS; one = wanted.shift()) {
      const { part, parents } = await this.part(one.batch, one.position);
      parts.push(part);
      for (const parent of parents) {
        wanted.push(pieceAt(parent));
      }
    }
    return { nowMs, zone: calendar.zone, factory: name, parts };
  }

  private async part(
    batch: string,
    position: number,
  ): Promise<{ part: PassportPart; parents: readonly string[] }> {
    const { state, route } = await this.floor.rack(batch);
    const piece = state.pieces.find((one) => one.position === position);
    if (!piece)
      throw new NotFoundException(
        `there is no piece ${pieceCode(batch, position)}: ${batch} has ${pieceCode(batch, 1)} to ${pieceCode(batch, state.pieces.length)}`,
      );
    const [kinds, people, lots, coats] = await Promise.all([
      this.setup.kinds(),
      this.setup.people(),
      this.lots.takenFor(batch),
      this.whoCoated(batch),
    ]);
    const lines = await this.meters.lines();
    const model = await this.setup.model(state.model);
    const wood = lots.map((lot) => ({ lot, own: woodOf(lot, batch, position) }));
    const boards = wood.flatMap(({ lot, own }) => (own?.own ? boardLines(lot, own, lines(lot.species)) : []));
    const names = new Map(people.map(({ code, name }) => [code, name]));
    return {
      parents: piece.parents,
      part: {
        piece: pieceCode(batch, position),
        batch,
        kindName: kinds.find(({ letter }) => letter === state.kind)?.name ?? state.kind,
        model: state.model,
        serial: piece.serial ?? null,
        setUp: setUpOf(state, route, position),
        standing: standingWords(piece, route),
        joinedInto: piece.joinedInto,
        recipe: state.finish?.title ?? null,
        wood: wood.flatMap(({ own }) => own ?? []),
        woodMissing: Boolean(model?.wood?.parts[state.kind]) && wood.every(({ own }) => own === null),
        lines: [...boards, ...passportOf(state, route, position)]
          .toSorted((a, b) => a.atMs - b.atMs)
          .map((line) => {
            const by = line.by ?? (line.kind === 'coat' ? coats.get(line.atMs) : undefined);
            return { ...line, by: by === undefined ? null : (names.get(by) ?? by) };
          }),
      },
    };
  }

  /** Who laid the coats of a batch, by their moment: whoever was named, or filed it. */
  private async whoCoated(batch: string): Promise<Map<number, string>> {
    const coats = await entriesInForce(this.source, { type: 'coat', batch });
    return new Map(coats.map(({ atMs, by, body }) => [atMs, body.who ?? by]));
  }
}

/** What a lot gave to a piece; null: nothing. */
function woodOf(lot: LotState, batch: string, position: number): PassportWood | null {
  const { code, species, papers } = lot;
  const given = blanksOfPiece(lot, batch, position);
  if (!given) return null;
  return { ...{ lot: code, species, papers, own: given.own }, blanks: given.blanks.map(({ id }) => id) };
}

/** What was read of the boards a piece is made of, corrected by the meters' lines of today, oldest first. */
function boardLines(
  lot: LotState,
  { blanks }: PassportWood,
  lineOf: Parameters<typeof correctedReadings>[1],
): PassportLine[] {
  const boards = new Set(lot.blanks.filter(({ id }) => blanks.includes(id)).map(({ board }) => board));
  return correctedReadings(lot.looks, lineOf).flatMap((reading) =>
    reading.board !== null && boards.has(reading.board)
      ? [
          {
            ...{ atMs: reading.atMs, kind: 'moisture' as const, at: `Lot ${lot.code}` },
            ...{ against: null, by: null },
            words: `board ${reading.board}${reading.depth === 'core' ? ', core' : ''}: ${reading.correctedPct.toFixed(1)} % moisture${reading.meter === null ? '' : `, meter ${reading.meter}`}`,
          },
        ]
      : [],
  );
}

function standingWords(piece: PieceState, route: Route): string {
  const { name } = operationOf(route, piece.operation);
  switch (piece.standing) {
    case 'waiting':
      return `waits for ${name}`;
    case 'inHand':
      return `in hand at ${name}`;
    case 'onHold':
      return `on hold at ${name}`;
    case 'scrapped':
      return `scrapped at ${name}: ${piece.scrapReason ?? 'no reason given'}`;
    case 'joined':
      return `joined into ${piece.joinedInto ?? 'another piece'}`;
    case 'parted':
      return `parted into ${(piece.partedInto ?? []).join(', ')}`;
    case 'shipped':
      return 'shipped';
  }
}
