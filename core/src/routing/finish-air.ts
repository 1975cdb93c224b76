import type { ClimateSample } from '../units/climate.ts';
import { DAY_MS } from '../units/quantities.ts';
import type { ClimateOf } from './standing-air.ts';

/** Readings that came after their time: the hours they are about were bridged until then. */
export interface LateReadings {
  room: string;
  fromMs: number;
  toMs: number;
  cameMs: number;
}

/** The air as it is known now, and as it was known a day ago. */
export interface FinishAir {
  now: ClimateOf;
  yesterday: ClimateOf;
  late: readonly LateReadings[];
}

/** The air of all rooms, with yesterday's knowledge of it worked out once for each room. */
export function finishAir(
  climateOf: ClimateOf,
  nowMs: number,
  late: readonly LateReadings[] = [],
): FinishAir {
  const before = new Map<string, readonly ClimateSample[]>();
  return {
    now: climateOf,
    yesterday: (room) => {
      const known = before.get(room);
      if (known) return known;
      const samples = (climateOf(room) ?? []).filter(({ atMs }) => atMs <= nowMs - DAY_MS);
      before.set(room, samples);
      return samples;
    },
    late,
  };
}
