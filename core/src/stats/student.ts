import { normalQuantile } from './normal.ts';

/**
 * Quantile of Student's t with `degrees` of freedom, by the expansion about the normal quantile (Abramowitz & Stegun
 * 26.7.5, four terms). Within 0.5 % of the tables for degrees ≥ 5 and 0.005 ≤ p ≤ 0.995.
 * @throws RangeError for fewer than 5 degrees, where the expansion is too coarse, or p outside 0…1.
 */
export function studentQuantile(p: number, degrees: number): number {
  if (!(degrees >= 5)) throw new RangeError(`studentQuantile: needs 5 degrees or more, got ${degrees}`);
  const z = normalQuantile(p);
  const g1 = (z ** 3 + z) / 4;
  const g2 = (5 * z ** 5 + 16 * z ** 3 + 3 * z) / 96;
  const g3 = (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / 384;
  const g4 = (79 * z ** 9 + 776 * z ** 7 + 1482 * z ** 5 - 1920 * z ** 3 - 945 * z) / 92_160;
  return z + g1 / degrees + g2 / degrees ** 2 + g3 / degrees ** 3 + g4 / degrees ** 4;
}

/** Halvings of the search below: chance to within 1e-9. */
const HALVINGS = 30;

/**
 * How often |t| is this large or larger by chance, with `degrees` of freedom: two-sided, 0…1, by halving studentQuantile, whose
 * accuracy it has.
 * @throws RangeError for fewer than 5 degrees or a negative t.
 */
export function studentChance(t: number, degrees: number): number {
  if (!(t >= 0)) throw new RangeError(`studentChance: t must be 0 or more, got ${t}`);
  let [low, high] = [0.5, 1 - 1e-9];
  if (studentQuantile(high, degrees) <= t) return 2 * (1 - high);
  for (let i = 0; i < HALVINGS; i += 1) {
    const middle = (low + high) / 2;
    if (studentQuantile(middle, degrees) < t) low = middle;
    else high = middle;
  }
  return 2 * (1 - high);
}
