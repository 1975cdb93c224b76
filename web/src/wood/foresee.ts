import {
  dryingFan,
  fitDrying,
  fittedCurve,
  forecastDrying,
  type Air,
  type DryingOutlook,
  type FanPoint,
} from '@ample-crane/core';
import type { Drying } from './queries.ts';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** The chart looks ahead so far at least, and never farther than the most. */
const LEAST_DAYS = 5;
const MOST_DAYS = 90;

/** What is asked of the forecast, in air of one's own choice. */
export interface Question {
  drying: Drying;
  air: Air;
}

/** Everything a drying chart draws, at instants. */
export interface Foreseen {
  outlook: DryingOutlook | 'never';
  tauDays: { median: number; low90: number; high90: number };
  curve: { atMs: number; mcPct: number }[];
  fan: (Omit<FanPoint, 'hours'> & { atMs: number })[];
  untilMs: number;
}

/** Whether there is anything to make a forecast from: readings, and air to hold them against. */
export const canForesee = ({ readings, climate }: Pick<Drying, 'readings' | 'climate'>): boolean =>
  readings.length > 0 && climate.length > 0;

/** The forecast made anew from what the server sent: the same core, the same answer, in any air. Null: nothing was read. */
export function foresee({ drying, air }: Question): Foreseen | null {
  const { nowMs, readings, climate, tauDays } = drying;
  if (!canForesee(drying)) return null;
  const hoursAt = (ms: number): number => (ms - nowMs) / HOUR_MS;
  const instant = (hours: number): number => nowMs + hours * HOUR_MS;
  const fit = fitDrying({
    readings: readings.map(({ atMs, correctedPct }) => ({ hours: hoursAt(atMs), mcPct: correctedPct })),
    climate: climate.map(({ atMs, ...rest }) => ({ hours: hoursAt(atMs), ...rest })),
    thicknessMm: drying.thicknessMm,
    species: { basicSpecificGravity: drying.basicSpecificGravity },
    ...(tauDays === null ? {} : { tauDays }),
  });
  const fromHours = Math.max(0, fit.lastHours);
  const gate = { ...drying.window, marginPct: drying.marginPct };
  const outlook = forecastDrying(fit, { climate: air, gate, fromHours });
  const reach = outlook === 'never' || !Number.isFinite(outlook.high90) ? 30 * 24 : outlook.high90;
  const past = nowMs - Math.min(...readings.map((reading) => reading.atMs));
  // Room for the whole interval, and about a third of the chart for what is to come.
  const aheadMs = Math.min(
    MOST_DAYS * DAY_MS,
    Math.max(LEAST_DAYS * DAY_MS, 1.25 * reach * HOUR_MS, past / 3),
  );
  const untilHours = fromHours + aheadMs / HOUR_MS;
  return {
    outlook,
    tauDays: fit.tauDays,
    curve: fittedCurve(fit, { untilHours: fromHours }).map(({ hours, mcPct }) => ({
      atMs: instant(hours),
      mcPct,
    })),
    fan: dryingFan(fit, { climate: air, fromHours, untilHours }).map(({ hours, ...band }) => ({
      atMs: instant(hours),
      ...band,
    })),
    untilMs: instant(untilHours),
  };
}
