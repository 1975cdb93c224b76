import type { ClimateOf } from '../coats/index.ts';
/** Readings that came after their time: the hours they are about were bridged until then. */
export interface LateReadings {
  room: string;
  fromMs: number;
  toMs: number;
  cameMs: number;
}

/** The air of every room as it is known now, and what of it came late. */
export interface FinishAir {
  climateOf: ClimateOf;
  late: readonly LateReadings[];
}
