import { operationIndex, operationOf, HOUR_MS, type BatchState } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { BedRow } from '../setup/rows.ts';
import type { RackInQuestion } from '../floor/racks.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

/** Pieces of one batch that lie together since one moment. */
export interface LyingView {
  batch: string;
  model: string;
  operation: string;
  operationName: string;
  pieces: number[];
  sinceMs: number;
  /** When their clock is over; null: their rule has no fixed end. */
  endMs: number | null;
}

export interface BedView {
  code: string;
  name: string;
  kind: BedRow['kind'];
  station: string;
  stationName: string;
  places: number;
  free: number;
  /** When the next of its places comes free, and when all are; null: it is empty. */
  nextFreeMs: number | null;
  allFreeMs: number | null;
  lying: LyingView[];
}

/** Pieces that need a place and have none, or that come to one next. */
export interface ComingView extends LyingView {
  /** On its hold without a place, or still at the work before it. */
  state: 'unplaced' | 'next';
  station: string;
  /** For what comes next: somebody works on it, so that it goes into the press when that is done. */
  inHand: boolean;
}

export interface PressesView {
  nowMs: number;
  zone: string;
  beds: BedView[];
  coming: ComingView[];
}

/** Presses, carousels and moulds: what lies in each, and when it comes free. */
@Injectable()
export class PressesService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly floor: RacksService,
  ) {}

  async presses(): Promise<PressesView> {
    const [nowMs, { calendar }, stations, beds, racks] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.setup.stations(),
      this.setup.beds(),
      this.floor.open(),
    ]);
    const names = new Map(stations.map(({ code, name }) => [code, name]));
    return {
      nowMs,
      zone: calendar.zone,
      beds: beds
        .filter((bed) => bed.kind !== 'table' && bed.kind !== 'freezer')
        .map((bed) => bedView(bed, names.get(bed.station) ?? bed.station, racks)),
      coming: racks.flatMap((rack) => [...unplaced(rack), ...next(rack)]),
    };
  }
}

function bedView(bed: BedRow, stationName: string, racks: readonly RackInQuestion[]): BedView {
  const lying = racks.flatMap((rack) => groups(rack, (piece) => piece.bed === bed.code));
  const taken = lying.reduce((sum, group) => sum + group.pieces.length, 0);
  const ends = lying.flatMap((group) => group.endMs ?? []);
  const { code, name, kind, station, places } = bed;
  return {
    ...{ code, name, kind, station, stationName, places },
    free: places - taken,
    nextFreeMs: ends.length > 0 ? Math.min(...ends) : null,
    allFreeMs: ends.length > 0 ? Math.max(...ends) : null,
    lying,
  };
}

/** Pieces together by operation and the moment their clock began. */
function groups(
  { state, route }: RackInQuestion,
  wanted: (piece: BatchState['pieces'][number]) => boolean,
): LyingView[] {
  const found = new Map<string, LyingView>();
  for (const piece of state.pieces) {
    if (!wanted(piece)) continue;
    const operation = operationOf(route, piece.operation);
    const id = `${piece.operation} ${piece.sinceMs}`;
    const hours = operation.mode === 'hold' && 'hours' in operation.rule ? operation.rule.hours : null;
    const group = found.get(id) ?? {
      batch: state.code,
      model: state.model,
      operation: piece.operation,
      operationName: operation.name,
      pieces: [],
      sinceMs: piece.sinceMs,
      endMs: hours === null ? null : piece.sinceMs + hours * HOUR_MS,
    };
    group.pieces.push(piece.position);
    found.set(id, group);
  }
  return [...found.values()];
}

function unplaced(rack: RackInQuestion): ComingView[] {
  const { route } = rack;
  return groups(rack, (piece) => {
    if (piece.standing !== 'onHold' || piece.bed !== undefined) return false;
    const operation = operationOf(route, piece.operation);
    return operation.mode === 'hold' && operation.bedded === true;
  }).map((group) => ({
    ...group,
    state: 'unplaced',
    station: operationOf(route, group.operation).stations[0] ?? '',
    inHand: false,
  }));
}

/** Pieces at the work right before a press: they want a place next. */
function next(rack: RackInQuestion): ComingView[] {
  const { route } = rack;
  const before = (piece: BatchState['pieces'][number]): boolean => {
    const after = route.operations[operationIndex(route, piece.operation) + 1];
    return after?.mode === 'hold' && after.bedded === true;
  };
  return (['inHand', 'waiting'] as const).flatMap((standing) =>
    groups(rack, (piece) => piece.standing === standing && before(piece)).map((group): ComingView => {
      const at = operationIndex(route, group.operation);
      return {
        ...group,
        endMs: null,
        state: 'next',
        station: route.operations[at + 1]?.stations[0] ?? '',
        inHand: standing === 'inHand',
      };
    }),
  );
}
