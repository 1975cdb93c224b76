export interface Weighted {
  value: number;
  weight: number;
}

/**
 * The quantile function of weighted values, straight lines between the middles of their weights; the ends beyond the
 * outer middles take the outer values. `values` may be in any order; infinite values are allowed and stay infinite.
 * Sorted once: ask it as often as you like.
 * @throws RangeError for an empty list; what it gives throws one for p outside 0…1.
 */
export function quantilesOf(values: readonly Weighted[]): (p: number) => number {
  if (values.length === 0) throw new RangeError('quantilesOf: needs at least one value');
  const sorted = values.toSorted((a, b) => (a.value === b.value ? 0 : a.value - b.value));
  const whole = sorted.reduce((sum, { weight }) => sum + weight, 0);
  let passed = 0;
  const middles = sorted.map(({ weight }) => {
    passed += weight;
    return (passed - weight / 2) / whole;
  });
  const value = (i: number): number => sorted[Math.min(sorted.length - 1, Math.max(0, i))]?.value ?? NaN;
  return (p) => {
    if (!(p >= 0 && p <= 1)) throw new RangeError(`quantilesOf: p must be within 0…1, got ${p}`);
    let [low, high] = [0, middles.length];
    while (low < high) {
      const half = (low + high) >> 1;
      if ((middles[half] ?? 1) < p) low = half + 1;
      else high = half;
    }
    const [before, after] = [value(low - 1), value(low)];
    const [from, to] = [middles[low - 1], middles[low]];
    if (from === undefined || to === undefined || !Number.isFinite(after) || !Number.isFinite(before))
      return after;
    return to > from ? before + ((p - from) / (to - from)) * (after - before) : after;
  };
}

/** One quantile of weighted values; see quantilesOf. */
export const quantileOf = (values: readonly Weighted[], p: number): number => quantilesOf(values)(p);
