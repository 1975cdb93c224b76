import {
  isRefusal,
  operationOf,
  pieceCode,
  refuse,
  shippingAgainst,
  type EntryBody,
  type Refusal,
  type WoodPapers,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { entriesInForce, type EntryInForce } from '../log/entries-in-force.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { serialsOf } from '../log/pieces.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { PapersService } from '../wood/papers.service.ts';
import type { LedgerLine } from './ledger-line.ts';
import { packingList } from './packing-list.ts';

export interface LedgerView {
  nowMs: number;
  zone: string;
  lines: LedgerLine[];
  /** More left in that time: these are the newest. */
  more: boolean;
}

/** One instrument that stands at shipping. */
export interface LeavingLine {
  piece: string;
  batch: string;
  position: number;
  serial: string | null;
  model: string;
  sinceMs: number;
  dueMs: number;
  /** What speaks against it; null: nothing. */
  against: string | null;
  /** Line of the order it is built for; null: for stock. */
  line: string | null;
  /** Papers of its protected wood, with the species; null: none are noted. */
  papers: string | null;
}

/** Entries of shipping that are told at once. */
const MOST_SHIPMENTS = 400;
/** Instruments named in one shipment. */
export const MOST_SHIPPED = 200;

export interface ShipRequest {
  key: string;
  by: string;
  pieces: readonly string[];
  to: string;
  order?: string | undefined;
  carrier?: string | undefined;
  contents?: string | undefined;
  because?: string | undefined;
}

/** What left, for whom, with what; and what is ready to. All of it is in the log: nothing is kept beside it. */
@Injectable()
export class ShippingService {
  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly papers: PapersService,
  ) {}

  /** Instruments that left since a moment, or with one filing; newest first. */
  async ledger(asked: { fromMs: number } | { filing: string }): Promise<LedgerView> {
    const wanted = 'filing' in asked ? asked : { afterMs: asked.fromMs };
    const [nowMs, { calendar }, entries] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      entriesInForce(this.source, { ...wanted, type: 'ship', newest: { count: MOST_SHIPMENTS } }),
    ]);
    const lines = await this.linesOf(entries);
    return { nowMs, zone: calendar.zone, lines: lines.toReversed(), more: entries.length >= MOST_SHIPMENTS };
  }

  /** What left with one filing, on paper: PDF. @throws NotFoundException when nothing did, or it was taken back. */
  async packingList(filing: string): Promise<Buffer> {
    const [entries, { name, calendar }] = await Promise.all([
      entriesInForce(this.source, { type: 'ship', filing }),
      this.setup.factory(),
    ]);
    if (entries.length === 0)
      throw new NotFoundException('nothing left with that filing, or it was taken back');
    const lines = await this.linesOf(entries);
    const inOrder = lines.toSorted((a, b) => a.piece.localeCompare(b.piece, undefined, { numeric: true }));
    return packingList(inOrder, { factory: name, zone: calendar.zone });
  }

  private async linesOf(entries: readonly EntryInForce<'ship'>[]): Promise<LedgerLine[]> {
    const [serial, people] = await Promise.all([
      serialsOf(
        this.source,
        entries.map(({ batch }) => batch),
      ),
      this.setup.people(),
    ]);
    const names = new Map(people.map(({ code, name }) => [code, name]));
    return entries.flatMap(({ atMs, batch, model, positions, by, filing, body }) =>
      positions.map((position) => ({
        ...{ atMs, batch, position, model, filing, piece: pieceCode(batch, position) },
        ...{ serial: serial(batch, position) ?? null, by: names.get(by) ?? by },
        ...{ to: body.to ?? null, order: body.order ?? null, carrier: body.carrier ?? null },
        ...{ contents: body.contents ?? null, because: body.because ?? null },
        papers: papersWords(body.papers ?? [], position),
      })),
    );
  }

  /** Instruments that stand at shipping, those that are due first first. */
  async leaving(): Promise<LeavingLine[]> {
    const racks = await this.floor.open();
    const withPapers = await Promise.all(
      racks.map(async ({ state, route }) => ({
        state,
        route,
        papers: await this.papers.ofLeaving(state, route),
      })),
    );
    return withPapers
      .flatMap(({ state, route, papers }) =>
        state.pieces.flatMap((piece): LeavingLine[] => {
          const operation = operationOf(route, piece.operation);
          if (operation.mode !== 'ship' || !['waiting', 'inHand'].includes(piece.standing)) return [];
          const { position, sinceMs, serial = null, line = null } = piece;
          return [
            {
              ...{
                piece: pieceCode(state.code, position),
                batch: state.code,
                position,
                serial,
                sinceMs,
                line,
              },
              ...{ model: state.model, dueMs: state.dueMs },
              papers: papersWords(papers, position),
              against: shippingAgainst(state, route, { operation, pieces: [piece] }, papers)?.refused ?? null,
            },
          ];
        }),
      )
      .toSorted((a, b) => a.dueMs - b.dueMs || a.sinceMs - b.sinceMs);
  }

  /** Ships instruments of one or several racks in one filing: all of them or none. */
  async ship({ key, by, pieces, ...rest }: ShipRequest): Promise<FilingOutcome> {
    const places = placesBy(pieces);
    if (isRefusal(places)) return places;
    const said = Object.fromEntries(Object.entries(rest).filter(([, words]) => words !== undefined));
    const batches = [...places.keys()];
    return this.log.fileTogether({ key, by, batches, asked: { pieces, ...said } }, () =>
      Promise.resolve(
        batches.toSorted().map((batch) => {
          const body: EntryBody = { type: 'ship', pieces: places.get(batch) ?? [], ...said };
          return { batch, body };
        }),
      ),
    );
  }
}

/** 'import licence 5518 (African mahogany)', of one instrument; null: none are noted. */
function papersWords(papers: readonly WoodPapers[], position: number): string | null {
  const own = papers.flatMap(({ position: of, species, reference }) =>
    of === position && reference !== null ? [`${reference} (${species})`] : [],
  );
  return own.length > 0 ? [...new Set(own)].join(', ') : null;
}

const PIECE = /^([A-Z]-\d{1,9})\/(\d{1,3})$/;

/** 'I-7/03' and 'I-7/04' are places 3 and 4 of I-7. */
function placesBy(pieces: readonly string[]): Map<string, number[]> | Refusal {
  const places = new Map<string, number[]>();
  for (const piece of pieces) {
    const [, batch, place] = PIECE.exec(piece) ?? [];
    if (batch === undefined || place === undefined)
      return refuse('bad-value', `'${piece}' is no piece: I-7/03 is one`, 'pieces');
    places.set(batch, [...(places.get(batch) ?? []), Number(place)]);
  }
  return places;
}
