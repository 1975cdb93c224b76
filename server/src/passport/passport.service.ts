import {
  operationOf,
  passportOf,
  pieceCode,
  type PassportLine,
  type PieceState,
  type Route,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BatchRow } from '../database/entities.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LotsService } from '../wood/lots.service.ts';

/** Parts of parts of parts: an instrument, its body, the body's top. */
const MOST_PARTS = 40;

export interface PassportWood {
  lot: string;
  species: string;
  papers: string | null;
  blanks: string[];
}

export interface PassportPart {
  piece: string;
  batch: string;
  kindName: string;
  model: string;
  standing: string;
  joinedInto: string | null;
  recipe: string | null;
  wood: PassportWood[];
  lines: PassportLine[];
}

export interface Passport {
  nowMs: number;
  zone: string;
  parts: PassportPart[];
}

/** Gathers what the logs of a piece and of its parts keep about it. */
@Injectable()
export class PassportService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly lots: LotsService,
  ) {}

  /** @throws NotFoundException when there is no such batch or piece. */
  async passport(batch: string, position: number): Promise<Passport> {
    const [nowMs, { calendar }] = await Promise.all([this.clock.now(), this.setup.factory()]);
    const parts: PassportPart[] = [];
    const wanted = [{ batch, position }];
    for (let one = wanted.shift(); one && parts.length < MOST_PARTS; one = wanted.shift()) {
      const { part, parents } = await this.part(one.batch, one.position);
      parts.push(part);
      for (const parent of parents) {
        const [code = '', place = ''] = parent.split('/');
        wanted.push({ batch: code, position: Number(place) });
      }
    }
    return { nowMs, zone: calendar.zone, parts };
  }

  private async part(
    batch: string,
    position: number,
  ): Promise<{ part: PassportPart; parents: readonly string[] }> {
    const row = await this.source.getRepository(BatchRow).findOneBy({ code: batch });
    const piece = row?.state?.pieces.find((one) => one.position === position);
    if (!row?.state) throw new NotFoundException(`there is no batch ${batch}`);
    if (!piece)
      throw new NotFoundException(
        `there is no piece ${pieceCode(batch, position)}: ${batch} has ${pieceCode(batch, 1)} to ${pieceCode(batch, row.state.pieces.length)}`,
      );
    const { state } = row;
    const [route, kinds, people, lots] = await Promise.all([
      this.setup.routeOf(state),
      this.setup.kinds(),
      this.setup.people(),
      this.lots.takenFor(batch),
    ]);
    const names = new Map(people.map(({ code, name }) => [code, name]));
    return {
      parents: piece.parents,
      part: {
        piece: pieceCode(batch, position),
        batch,
        kindName: kinds.find(({ letter }) => letter === state.kind)?.name ?? state.kind,
        model: state.model,
        standing: standingWords(piece, route),
        joinedInto: piece.joinedInto,
        recipe: state.finish?.title ?? null,
        wood: lots.map(({ code, species, papers, blanks }) => ({
          ...{ lot: code, species, papers },
          blanks: blanks.filter((blank) => blank.batch === batch).map(({ id }) => id),
        })),
        lines: passportOf(state, route, position).map((line) => ({
          ...line,
          by: line.by === null ? null : (names.get(line.by) ?? line.by),
        })),
      },
    };
  }
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
