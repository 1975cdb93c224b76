import { equilibriumMoistureContentPct, type Air } from './emc.ts';

/** Spread of the logarithm of the time constant before any reading has narrowed it. Default, DOMAIN §3. */
export const DRYING_SIGMA = 0.6;
/** Time constant for 25 mm hardwood at 21 °C near 10 % MC, days. Default, DOMAIN §3. */
export const DRYING_TAU_DAYS = 20;
/** z of a two-sided 90 % interval. */
const Z90 = 1.645;

export interface DryingOutlook {
  /** Hours from the last reading until the mean reaches the gate's upper limit; null: not in this room. */
  hours: { median: number; low90: number; high90: number } | null;
  /** What the room would take the wood to, %. */
  emcPct: number;
}

/**
 * First drying outlook from the latest mean alone: dM/dt = −(M − EMC)/τ with the prior for τ and the room's mean
 * air. The interval is the prior's (log-normal, σ = 0.6), so it is wide on purpose until readings narrow it.
 */
export function dryingOutlook(options: {
  meanPct: number;
  highPct: number;
  air: Air;
  tauDays: number;
}): DryingOutlook {
  const { meanPct, highPct, air, tauDays } = options;
  const emcPct = equilibriumMoistureContentPct(air);
  if (meanPct <= highPct) return { hours: { median: 0, low90: 0, high90: 0 }, emcPct };
  if (emcPct >= highPct) return { hours: null, emcPct };
  const median = 24 * tauDays * Math.log((meanPct - emcPct) / (highPct - emcPct));
  const factor = Math.exp(Z90 * DRYING_SIGMA);
  return { hours: { median, low90: median / factor, high90: median * factor }, emcPct };
}
