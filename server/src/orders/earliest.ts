import {
  earliestEndMs,
  groupedBy,
  hasLeft,
  type FactoryCalendar,
  type KindsOfModel,
  type Route,
  type Stage,
  type WorkingClock,
} from '@ample-crane/core';
import type { JudgedRack } from '../flow/judged-racks.service.ts';
import type { OrderedPiece } from '../log/pieces.ts';

/** What is asked of the floor to say where orders are and when they could be through. */
export interface OrderFloor {
  nowMs: number;
  calendar: FactoryCalendar;
  clock: WorkingClock;
  racks: ReadonlyMap<string, JudgedRack>;
  kinds: KindsOfModel;
  /** Stage of each station. */
  stages: ReadonlyMap<string, Stage>;
  /** The newest route of a model and kind by its usual ways; undefined: it has none. */
  usual: (model: string, kind: string) => Route | undefined;
  /** When so many of a kind could be through its newest route, by its usual ways. */
  throughMs: (model: string, kind: string, pieces: number, fromMs: number) => number | null;
}

/** The kind that leaves: what the others become. */
export const lastKind = (kinds: KindsOfModel, model: string): string | undefined =>
  [...(kinds.get(model)?.values() ?? [])][0]?.at(-1);

/** When all of a line could be through, and what decides it. */
export interface Earliest {
  endMs: number;
  /** The slowest of its racks, with the pieces of the line that are on it; null: no rack has it yet. */
  rack: JudgedRack | null;
  /** 1-based places of those pieces. */
  positions: number[];
  kind: string;
  pieces: number;
}

/** When all of a line could be through: its slowest part, then the instrument's own route; null: it is, or nobody can say. */
export function earliestOf(
  model: string,
  pieces: readonly OrderedPiece[],
  unbegun: readonly { kind: string; count: number }[],
  { racks, kinds, nowMs, calendar, clock, throughMs }: OrderFloor,
): Earliest | null {
  const last = lastKind(kinds, model);
  const onTheWay = [...groupedBy(pieces, ({ batch }) => batch)].flatMap(([batch, own]): Earliest[] => {
    const rack = racks.get(batch);
    if (!rack) return [];
    const { state, route } = rack;
    const places = new Set(own.map(({ position }) => position));
    const mine = state.pieces.filter((piece) => !hasLeft(piece) && places.has(piece.position));
    // Of a rack with several orders only its own pieces count: what keeps the others does not keep it.
    const holds = rack.holds.flatMap(({ dto }) =>
      dto.positions.some((position) => places.has(position)) ? [dto] : [],
    );
    const endMs = earliestEndMs({ state: { ...state, pieces: mine }, route, holds, nowMs, calendar, clock });
    const positions = mine.map(({ position }) => position);
    return endMs === null ? [] : [{ endMs, rack, positions, kind: state.kind, pieces: mine.length }];
  });
  const fresh = unbegun.flatMap(({ kind, count }): Earliest[] => {
    const endMs = throughMs(model, kind, count, nowMs);
    return endMs === null ? [] : [{ endMs, rack: null, positions: [], kind, pieces: count }];
  });
  const all = [...onTheWay, ...fresh].map((one) =>
    one.kind === last || last === undefined
      ? one
      : { ...one, endMs: throughMs(model, last, one.pieces, one.endMs) ?? one.endMs },
  );
  return all.toSorted((a, b) => b.endMs - a.endMs)[0] ?? null;
}
