import {
  benchPieces,
  benchSheet,
  eyesAt,
  madeOf,
  measuredOf,
  operationOf,
  pieceCode,
  USUAL_PRACTICE,
  type BenchPiece,
  type BenchSheet,
  type MeasuredOf,
  type PieceAt,
  type Route,
  type SetupPractice,
  type Sheet,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { PerRack } from '../floor/per-rack.ts';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import { entriesInForce } from '../log/entries-in-force.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { tagsOf } from './tags.ts';

/** An instrument on the benches, with what is known of it there. */
export interface BenchLine extends BenchPiece {
  /** 'I-212/03'. */
  piece: string;
  batch: string;
  model: string;
  operationName: string;
  settling: boolean;
  dueMs: number;
}

export interface BenchView {
  nowMs: number;
  zone: string;
  lines: BenchLine[];
}

/** What others of a model were when they were through, by key of the check. */
export type OthersOfModel = Record<string, number[]>;

export interface SheetView extends Omit<BenchSheet, 'sheets'> {
  nowMs: number;
  zone: string;
  piece: string;
  batch: string;
  model: string;
  operationName: string;
  mode: 'attended' | 'gate' | 'hold';
  caution: string | null;
  reworkTo: string | null;
  /** Its serial is given here. */
  givesSerial: boolean;
  /** Two people look at it here. */
  eyes: number;
  /** How its model is turned. */
  practice: SetupPractice;
  sheets: FiledSheet[];
  others: OthersOfModel;
  /** What its parts measured, as they were joined: the tone and the top of its box. */
  parts: MeasuredPart[];
}

/** What one part of an instrument measured while it was on its own. */
export interface MeasuredPart {
  piece: string;
  kindName: string;
  read: MeasuredOf[];
}

/** A sheet as it was filed, with the names of what was read. */
export interface FiledSheet {
  atMs: number;
  byName: string;
  operationName: string;
  note: string | null;
  read: { name: string; unit: string; value: number }[];
}

/** Instruments of a model beside which one is shown. */
const MOST_OTHERS = 60;
const ASSEMBLY = 'assembly';

/** What stands on the benches of assembly, and the sheet of each instrument. */
@Injectable()
export class BenchService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** Judged again when its state or its minute changed. */
  private readonly judged = new PerRack<BenchLine[]>();

  /** Every instrument that is measured one by one in assembly: what wants a hand first. */
  async bench(): Promise<BenchView> {
    const [nowMs, { calendar }, stations, racks] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.setup.stations(),
      this.floor.open(),
    ]);
    const inAssembly = new Set(stations.flatMap(({ code, stage }) => (stage === ASSEMBLY ? [code] : [])));
    const benches = [...inAssembly].join();
    const lines = racks.flatMap((rack) =>
      this.judged.get(rack.state, nowMs, [rack.route, benches], () => linesOf(rack, nowMs, inAssembly)),
    );
    return { nowMs, zone: calendar.zone, lines: lines.toSorted(urgentFirst) };
  }

  /** @throws NotFoundException when there is no such piece, or it stands where nothing is measured piece by piece. */
  async sheet(batch: string, position: number): Promise<SheetView> {
    const [nowMs, { calendar }, { state, route }, people] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.floor.rack(batch),
      this.setup.people(),
    ]);
    const model = await this.setup.model(state.model);
    const open = benchSheet(state, route, position, nowMs);
    const piece = pieceCode(batch, position);
    if (!open) throw new NotFoundException(`${piece} stands at no bench now`);
    const operation = operationOf(route, open.operation);
    const names = new Map(people.map(({ code, name }) => [code, name]));
    return {
      ...open,
      practice: model?.practice ?? USUAL_PRACTICE,
      ...{ nowMs, zone: calendar.zone, piece, batch, model: state.model },
      operationName: operation.name,
      mode: operation.mode === 'gate' || operation.mode === 'hold' ? operation.mode : 'attended',
      ...{ caution: operation.caution, reworkTo: operation.reworkTo, givesSerial: operation.serial ?? false },
      eyes: eyesAt(operation),
      sheets: open.sheets.map((sheet) => filedSheet(sheet, route, names)),
      others: await this.others(state.model, open.operation, piece),
      parts: await this.parts({ batch, position }),
    };
  }

  /** What was measured of the parts of a piece while they were on their own. */
  private async parts(piece: PieceAt): Promise<MeasuredPart[]> {
    const [racks, kinds] = await Promise.all([this.floor.lineage([piece.batch]), this.setup.kinds()]);
    const [, ...parts] = madeOf(piece, (code) => racks.get(code)?.state);
    return parts.flatMap(({ batch, position }): MeasuredPart[] => {
      const rack = racks.get(batch);
      const read = rack ? measuredOf(rack.state, rack.route, position) : [];
      if (!rack || read.length === 0) return [];
      const kindName = kinds.find(({ letter }) => letter === rack.state.kind)?.name ?? rack.state.kind;
      return [{ piece: pieceCode(batch, position), kindName, read }];
    });
  }

  /** A tag for each piece of a rack that has not left: PDF. @throws NotFoundException when there is no such rack. */
  async tags(batch: string): Promise<Buffer> {
    const [{ state }, kinds, { name, calendar }] = await Promise.all([
      this.floor.rack(batch),
      this.setup.kinds(),
      this.setup.factory(),
    ]);
    const kindName = kinds.find(({ letter }) => letter === state.kind)?.name ?? state.kind;
    return tagsOf(state, { factory: name, zone: calendar.zone, kindName });
  }

  /** The last value of each check of the newest other instruments of a model, at an operation of that key. */
  private async others(model: string, operation: string, self: string): Promise<OthersOfModel> {
    const entries = await entriesInForce(this.source, {
      ...{ type: 'sheet', model, operation },
      newest: { count: 2 * MOST_OTHERS },
    });
    // Newest sheets come last and stand: what was turned in between is no value of the model.
    const byPiece = new Map<string, Record<string, number>>();
    for (const { batch, body } of entries) {
      const piece = pieceCode(batch, body.pieces[0] ?? 0);
      if (piece !== self) byPiece.set(piece, { ...byPiece.get(piece), ...body.values });
    }
    const others: OthersOfModel = {};
    for (const values of [...byPiece.values()].slice(-MOST_OTHERS))
      for (const [key, value] of Object.entries(values)) (others[key] ??= []).push(value);
    return others;
  }
}

function linesOf(
  { state, route }: RackInQuestion,
  nowMs: number,
  inAssembly: ReadonlySet<string>,
): BenchLine[] {
  return benchPieces(state, route, nowMs).flatMap((one) => {
    const operation = operationOf(route, one.operation);
    if (!operation.stations.some((station) => inAssembly.has(station))) return [];
    return [
      {
        ...one,
        ...{ piece: pieceCode(state.code, one.position), batch: state.code, model: state.model },
        ...{ operationName: operation.name, settling: operation.mode === 'hold', dueMs: state.dueMs },
      },
    ];
  });
}

/** What was read, in the order of the sheet; a check that its route no more has keeps its key for a name. */
function filedSheet(
  { atMs, by, operation, values, note }: Sheet,
  { operations }: Route,
  names: ReadonlyMap<string, string>,
): FiledSheet {
  const at = operations.find(({ key }) => key === operation);
  const checks = at?.checks ?? [];
  const known = checks.flatMap(({ key, name, unit }) =>
    values[key] === undefined ? [] : [{ name, unit, value: values[key] }],
  );
  const unknown = Object.entries(values).flatMap(([key, value]) =>
    checks.some((check) => check.key === key) ? [] : [{ name: key, unit: '', value }],
  );
  return {
    ...{ atMs, note: note ?? null, byName: names.get(by) ?? by, operationName: at?.name ?? operation },
    read: [...known, ...unknown],
  };
}

const URGENCY: Record<BenchLine['verdict'], number> = { back: 0, adjust: 1, measure: 2, pass: 3, wait: 4 };

/** What went wrong, what is to be read, what may go on, what still settles; of those alike what is due first. */
const urgentFirst = (a: BenchLine, b: BenchLine): number =>
  URGENCY[a.verdict] - URGENCY[b.verdict] ||
  (a.endsMs ?? a.dueMs) - (b.endsMs ?? b.dueMs) ||
  a.piece.localeCompare(b.piece, undefined, { numeric: true });
