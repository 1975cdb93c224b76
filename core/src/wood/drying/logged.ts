import { samplesWithin, usualAir, type ClimateSample } from '../../units/climate.ts';
import { DAY_MS, HOUR_MS } from '../../units/quantities.ts';
import type { Air } from '../emc.ts';

/** Air of the days to come is taken to be the mean of so many days before. */
export const USUAL_DAYS = 7;
/** How a room wanders is learnt from at least so many days. */
export const WANDER_DAYS = 14;

/**
 * What of a room's logged air a drying forecast rests on, however much of it is at hand: the samples since the first reading, or of
 * the last WANDER_DAYS where that is earlier, and the mean of the last USUAL_DAYS for the days to come.
 * @param samples in order of time. @param readMs moments of the readings.
 * @returns undefined when nothing was logged in the last USUAL_DAYS.
 */
export function dryingAir(
  samples: readonly ClimateSample[],
  atMs: number,
  readMs: readonly number[],
): { climate: ClimateSample[]; usual: Air } | undefined {
  const usual = usualAir(samplesWithin(samples, atMs - USUAL_DAYS * DAY_MS, atMs));
  if (!usual) return undefined;
  const firstMs = Math.min(atMs - WANDER_DAYS * DAY_MS, ...readMs);
  return { climate: samplesWithin(samples, firstMs - HOUR_MS, atMs), usual };
}
