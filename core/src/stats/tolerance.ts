import { normalCdf, normalQuantile } from './normal.ts';

/** Simpson's rule over the sampling distribution of s: enough intervals for five digits from n = 2 on. */
const INTERVALS = 400;
/** How far from its mean the spread of a sample is followed, in standard deviations of √(χ²). */
const SPREADS = 9;
const FACTOR_TOLERANCE = 1e-6;
const LARGEST_FACTOR = 1000;

/**
 * One-sided normal tolerance factor k: with `confidence`, at least the share `coverage` of a normal population lies
 * below mean + k · s of a sample of n (s with n − 1). Exact: the noncentral t, written as
 * P = ∫ f(s) Φ(√n (k s − z_coverage)) ds with s² (n − 1) ~ χ², integrated numerically and solved by bisection.
 * Source: Natrella, Experimental Statistics (NBS Handbook 91), table A-7; ISO 16269-6, annex D.
 * @throws RangeError for n below 2, or a confidence or coverage outside 0.5…1, ends excluded.
 */
export function toleranceFactor(options: { n: number; confidence: number; coverage: number }): number {
  const { n, confidence, coverage } = options;
  if (!(Number.isInteger(n) && n >= 2))
    throw new RangeError(`toleranceFactor: n must be 2 or more, got ${n}`);
  for (const [name, value] of Object.entries({ confidence, coverage })) {
    if (!(value > 0.5 && value < 1))
      throw new RangeError(`toleranceFactor: ${name} must be within 0.5…1, ends excluded, got ${value}`);
  }
  const key = `${n}/${confidence}/${coverage}`;
  const kept = factors.get(key) ?? solve(n, confidence, normalQuantile(coverage));
  factors.set(key, kept);
  return kept;
}

/** Factors once solved: a factory asks for the same few over and over. */
const factors = new Map<string, number>();

function solve(n: number, confidence: number, z: number): number {
  const spread = spreadOfSamples(n);
  const reached = (k: number): number =>
    spread.reduce((sum, { s, weight }) => sum + weight * normalCdf(Math.sqrt(n) * (k * s - z)), 0);
  let low = 0;
  let high = LARGEST_FACTOR;
  while (high - low > FACTOR_TOLERANCE) {
    const middle = (low + high) / 2;
    if (reached(middle) < confidence) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Points and weights of the distribution of s for σ = 1; the weights sum to 1. */
function spreadOfSamples(n: number): { s: number; weight: number }[] {
  const freedom = n - 1;
  const centre = Math.sqrt(freedom);
  const from = Math.max(0, centre - SPREADS / Math.SQRT2);
  // What does not depend on s cancels when the weights are made to sum to 1.
  const peak = logDensityOf(Math.sqrt(Math.max(freedom - 1, 0.5)), freedom);
  const step = (centre + SPREADS / Math.SQRT2 - from) / INTERVALS;
  const points = Array.from({ length: INTERVALS + 1 }, (_, i) => {
    const chi = from + i * step;
    const simpson = i === 0 || i === INTERVALS ? 1 : i % 2 === 1 ? 4 : 2;
    const density =
      chi === 0 ? (freedom === 1 ? Math.exp(-peak) : 0) : Math.exp(logDensityOf(chi, freedom) - peak);
    return { s: chi / Math.sqrt(freedom), weight: simpson * density };
  });
  const whole = points.reduce((sum, point) => sum + point.weight, 0);
  return points.map(({ s, weight }) => ({ s, weight: weight / whole }));
}

const logDensityOf = (chi: number, freedom: number): number =>
  (freedom - 1) * Math.log(chi) - (chi * chi) / 2;
