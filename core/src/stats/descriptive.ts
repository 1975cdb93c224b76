import { quantileSorted } from 'simple-statistics';

export interface Summary {
  count: number;
  mean: number;
  /** Sample standard deviation (n − 1); 0 for one value. */
  sd: number;
  min: number;
  max: number;
}

/**
 * Count, mean and sample spread in one pass (Welford 1962).
 * @throws RangeError for an empty list or a value that is not finite: a gap must never become a 0.
 */
export function summarise(values: readonly number[]): Summary {
  if (values.length === 0) throw new RangeError('summarise: needs at least one value');
  let mean = 0;
  let squares = 0;
  let min = Infinity;
  let max = -Infinity;
  values.forEach((value, index) => {
    if (!Number.isFinite(value)) throw new RangeError(`summarise: value ${index + 1} is not a finite number`);
    const delta = value - mean;
    mean += delta / (index + 1);
    squares += delta * (value - mean);
    min = Math.min(min, value);
    max = Math.max(max, value);
  });
  return {
    count: values.length,
    mean,
    sd: values.length > 1 ? Math.sqrt(squares / (values.length - 1)) : 0,
    min,
    max,
  };
}

/** Quantile by linear interpolation (Hyndman & Fan type 7); `p` in 0…1, both included. */
export function quantile(values: readonly number[], p: number): number {
  if (values.length === 0) throw new RangeError('quantile: needs at least one value');
  if (!(p >= 0 && p <= 1)) throw new RangeError(`quantile: p must be within 0…1, got ${p}`);
  return quantileSorted(
    values.toSorted((a, b) => a - b),
    p,
  );
}
