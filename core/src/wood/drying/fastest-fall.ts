import { quantileOf } from '../../stats/weighted.ts';
import { passThrough, stepsBetween } from './air.ts';
import type { DryingFit } from './fit.ts';

/** The forecast is left on its dry side one time in a hundred. DOMAIN §3, revised. */
const LEFT_BELOW = 0.01;
/** Twice the scatter of the difference of two readings: the one before and this one both have it. */
const NOISES = 2 * Math.SQRT2;

/**
 * The lowest moisture, %, that wood may have come to in the logged air: the dry 99 % edge of what the readings so far leave open
 * of its time constant, less twice the scatter
 * of the two readings’ difference. What reads lower was read wrongly, or was somewhere else.
 * @param options.fromPct what it was at `fromHours`; hours on the axis of the fit.
 */
export function lowestBelievablePct(
  fit: DryingFit,
  { fromPct, fromHours, atHours }: { fromPct: number; fromHours: number; atHours: number },
): number {
  const steps = stepsBetween(fit.pulls, fromHours, atHours);
  const ends = fit.nodes.map(({ tauHours, weight }) => {
    const { gain, offset } = passThrough(steps, tauHours);
    return { value: gain * fromPct + offset, weight };
  });
  return quantileOf(ends, LEFT_BELOW) - NOISES * fit.noiseSdPct;
}
