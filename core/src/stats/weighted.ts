export interface Weighted {
  value: number;
  weight: number;
}

/**
 * Quantile of weighted values, straight lines between the middles of their weights; the ends beyond the outer middles
 * take the outer values. `values` may be in any order; infinite values are allowed and stay infinite.
 * @throws RangeError for an empty list or p outside 0…1.
 */
export function quantileOf(values: readonly Weighted[], p: number): number {
  if (values.length === 0) throw new RangeError('quantileOf: needs at least one value');
  if (!(p >= 0 && p <= 1)) throw new RangeError(`quantileOf: p must be within 0…1, got ${p}`);
  const sorted = values.toSorted((a, b) => (a.value === b.value ? 0 : a.value - b.value));
  const whole = sorted.reduce((sum, { weight }) => sum + weight, 0);
  let passed = 0;
  let before: { value: number; at: number } | undefined;
  for (const { value, weight } of sorted) {
    const at = (passed + weight / 2) / whole;
    if (at >= p) {
      if (!before || !Number.isFinite(value) || !Number.isFinite(before.value)) return value;
      return before.value + ((p - before.at) / (at - before.at)) * (value - before.value);
    }
    before = { value, at };
    passed += weight;
  }
  return before?.value ?? NaN;
}
