import { summarise } from '../stats/descriptive.ts';
import { normalCdf } from '../stats/normal.ts';

/** Values needed before Cp and Cpk say anything. Default. */
export const CAPABILITY_POINTS = 25;

export interface Capability {
  count: number;
  mean: number;
  /** Spread within, from the chart's ranges. */
  sigma: number;
  /** (upper − lower) / 6 σ; null with one limit only. */
  cp: number | null;
  /** Distance of the mean to the nearer limit / 3 σ. */
  cpk: number;
  /** Share of pieces outside the limits, %, were the values normal about this mean. */
  outsidePct: number;
}

/**
 * Cp and Cpk against the spec limits (ISO 22514-2), with σ from the ranges of a control chart (R̄ / d2), so that a drift
 * lowers Cpk and not σ. Null until CAPABILITY_POINTS values exist or while they do not vary at all.
 * @throws RangeError when neither limit is given or they are the wrong way round.
 */
export function processCapability(options: {
  values: readonly number[];
  sigma: number;
  lower: number | null;
  upper: number | null;
}): Capability | null {
  const { values, sigma, lower, upper } = options;
  if (lower === null && upper === null) throw new RangeError('processCapability: needs a limit');
  if (lower !== null && upper !== null && lower >= upper)
    throw new RangeError(`processCapability: lower ${lower} is not under upper ${upper}`);
  if (values.length < CAPABILITY_POINTS || !(sigma > 0)) return null;
  const { count, mean } = summarise(values);
  const below = lower === null ? Infinity : (mean - lower) / sigma;
  const above = upper === null ? Infinity : (upper - mean) / sigma;
  return {
    count,
    mean,
    sigma,
    cp: lower === null || upper === null ? null : (upper - lower) / (6 * sigma),
    cpk: Math.min(below, above) / 3,
    outsidePct: 100 * (normalCdf(-below) + normalCdf(-above)),
  };
}
