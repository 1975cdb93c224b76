import { HOUR_MS } from '../units/quantities.ts';
import type { ClimateSample } from '../units/climate.ts';
import { equilibriumMoistureContentPct, loggedAirEmcPct, relativeHumidityForEmcPct } from './emc.ts';
import type { MoistureWindow } from './gate.ts';

export interface RoomDrift {
  /** Since when the room's EMC has been outside its band without a break. */
  sinceMs: number;
  hours: number;
  damp: boolean;
  /** Mean EMC since then, %. */
  emcPct: number;
}

export interface RoomJudgement {
  /** Where the last sample would take wood, %; null without samples. */
  emcPct: number | null;
  drift: RoomDrift | null;
  /** Humidity that would hold the middle of the band at the present temperature; null where no humidity does. */
  wantedRhPct: number | null;
}

/** Below this no humidity is worth recommending; the equation of the EMC ends there. */
const COLDEST_C = -1;
/** A room is called after this; doors are opened. */
const DRIFT_AFTER_HOURS = 1;

const outside = (emcPct: number, band: MoistureWindow): -1 | 0 | 1 =>
  emcPct > band.highPct ? 1 : emcPct < band.lowPct ? -1 : 0;

/**
 * A room against the EMC it should hold. `samples`: hourly means in order of time, the last one the present; the drift
 * is the unbroken run of samples on one side of the band up to now, once it lasts longer than an hour.
 */
export function judgeRoom(samples: readonly ClimateSample[], band: MoistureWindow): RoomJudgement {
  const last = samples.at(-1);
  if (!last) return { emcPct: null, drift: null, wantedRhPct: null };
  const emcPct = loggedAirEmcPct(last);
  const side = outside(emcPct, band);
  const run: { atMs: number; emcPct: number }[] = [];
  for (const sample of samples.toReversed()) {
    const emc = loggedAirEmcPct(sample);
    if (side === 0 || outside(emc, band) !== side) break;
    run.push({ atMs: sample.atMs, emcPct: emc });
  }
  const sinceMs = run.at(-1)?.atMs ?? last.atMs;
  // The hourly mean of an hour stands for the whole of it.
  const hours = (last.atMs - sinceMs) / HOUR_MS + 1;
  const mean = run.reduce((sum, { emcPct: emc }) => sum + emc, 0) / Math.max(1, run.length);
  return {
    emcPct,
    drift:
      run.length > 0 && hours > DRIFT_AFTER_HOURS ? { sinceMs, hours, damp: side > 0, emcPct: mean } : null,
    wantedRhPct: wantedHumidity(last.temperatureC, (band.lowPct + band.highPct) / 2),
  };
}

function wantedHumidity(temperatureC: number, emcPct: number): number | null {
  if (temperatureC < COLDEST_C) return null;
  const dry = equilibriumMoistureContentPct({ temperatureC, relativeHumidityPct: 0 });
  const wet = equilibriumMoistureContentPct({ temperatureC, relativeHumidityPct: 100 });
  return emcPct >= dry && emcPct <= wet ? relativeHumidityForEmcPct({ temperatureC, emcPct }) : null;
}
