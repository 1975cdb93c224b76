import { errorFunction } from 'simple-statistics';

/** Standard normal distribution function Φ(z); error below 1.3e-7 (that of the error function used). */
export const normalCdf = (z: number): number => (1 + errorFunction(z / Math.SQRT2)) / 2;

/** Newton's steps that bring the start below to the accuracy of normalCdf. */
const STEPS = 12;

/**
 * The z below which a share `p` of a standard normal lies.
 * @throws RangeError unless 0 < p < 1.
 */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1))
    throw new RangeError(`normalQuantile: p must be within 0…1, ends excluded, got ${p}`);
  if (p < 0.5) return -normalQuantile(1 - p);
  // Start: the leading term of the tail expansion (Abramowitz & Stegun 26.2.22).
  const t = Math.sqrt(-2 * Math.log(1 - p));
  let z = t - (2.30753 + 0.27061 * t) / (1 + 0.99229 * t + 0.04481 * t * t);
  for (let i = 0; i < STEPS; i += 1) {
    const density = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
    // Far in the tail the density vanishes: the start is then better than any step.
    if (density < 1e-9) return z;
    z -= (normalCdf(z) - p) / density;
  }
  return z;
}
