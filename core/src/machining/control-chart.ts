import { summarise } from '../stats/descriptive.ts';

/**
 * Factors for control limits by subgroup size, 3 σ limits: A2, D3, D4 and d2.
 * Source: ASTM MNL 7, Manual on Presentation of Data and Control Chart Analysis, table of factors for small samples.
 */
export const CHART_FACTORS: Readonly<Record<number, { a2: number; d3: number; d4: number; d2: number }>> = {
  2: { a2: 1.88, d3: 0, d4: 3.267, d2: 1.128 },
  3: { a2: 1.023, d3: 0, d4: 2.575, d2: 1.693 },
  4: { a2: 0.729, d3: 0, d4: 2.282, d2: 2.059 },
  5: { a2: 0.577, d3: 0, d4: 2.114, d2: 2.326 },
  6: { a2: 0.483, d3: 0, d4: 2.004, d2: 2.534 },
  7: { a2: 0.419, d3: 0.076, d4: 1.924, d2: 2.704 },
  8: { a2: 0.373, d3: 0.136, d4: 1.864, d2: 2.847 },
  9: { a2: 0.337, d3: 0.184, d4: 1.816, d2: 2.97 },
  10: { a2: 0.308, d3: 0.223, d4: 1.777, d2: 3.078 },
};

export interface Limits {
  lower: number;
  centre: number;
  upper: number;
}

export interface ControlChart {
  kind: 'individuals' | 'mean-range';
  subgroupSize: number;
  /** Single values, or the mean of each subgroup, in order of time. */
  points: number[];
  limits: Limits;
  /** Moving ranges (none for the first point), or the range of each subgroup. */
  ranges: (number | null)[];
  rangeLimits: Limits;
  /** Spread within, from the mean range: R̄ / d2. */
  sigma: number;
  /** How many of the first points the limits rest on. */
  baseline: number;
}

/** Fewer points than this make no limits worth drawing. */
const FEWEST_POINTS = 2;

function factorsFor(n: number): (typeof CHART_FACTORS)[number] {
  const factors = CHART_FACTORS[n];
  if (!factors) throw new RangeError(`controlChart: subgroups of 2 to 10, got ${n}`);
  return factors;
}

const mean = (values: readonly number[]): number => summarise(values).mean;
const rangeOf = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);

/**
 * A Shewhart chart with 3 σ limits from the ranges: individuals with moving ranges of two (limits x̄ ± 3 R̄ / 1.128,
 * ranges up to 3.267 R̄), or means and ranges of equal subgroups of 2 to 10 (x̄ ± A2 R̄, D3 R̄ … D4 R̄).
 * `baseline`: limits rest on so many of the first points, so that later trouble does not widen them; all when left out.
 * @throws RangeError for fewer than two points, unequal subgroups or a value that is not finite.
 */
export function controlChart(
  data: ({ values: readonly number[] } | { subgroups: readonly (readonly number[])[] }) & {
    baseline?: number;
  },
): ControlChart {
  const { points, ranges, n, kind } =
    'values' in data ? individuals(data.values) : subgrouped(data.subgroups);
  if (points.length < FEWEST_POINTS)
    throw new RangeError(`controlChart: needs at least ${FEWEST_POINTS} points, got ${points.length}`);
  const baseline = Math.max(FEWEST_POINTS, Math.min(points.length, data.baseline ?? points.length));
  const centre = mean(points.slice(0, baseline));
  const meanRange = mean(ranges.slice(0, baseline).filter((range) => range !== null));
  const { a2, d3, d4, d2 } = factorsFor(n);
  const reach = kind === 'individuals' ? (3 * meanRange) / d2 : a2 * meanRange;
  return {
    kind,
    subgroupSize: kind === 'individuals' ? 1 : n,
    points,
    limits: { lower: centre - reach, centre, upper: centre + reach },
    ranges,
    rangeLimits: { lower: d3 * meanRange, centre: meanRange, upper: d4 * meanRange },
    sigma: meanRange / d2,
    baseline,
  };
}

interface Drawn {
  kind: ControlChart['kind'];
  n: number;
  points: number[];
  ranges: (number | null)[];
}

function individuals(values: readonly number[]): Drawn {
  const ranges = values.map((value, i) => (i === 0 ? null : Math.abs(value - (values[i - 1] ?? value))));
  return { kind: 'individuals', n: 2, points: [...values], ranges };
}

function subgrouped(subgroups: readonly (readonly number[])[]): Drawn {
  const n = subgroups[0]?.length ?? 0;
  const odd = subgroups.findIndex((group) => group.length !== n);
  if (odd >= 0)
    throw new RangeError(
      `controlChart: subgroup ${odd + 1} has ${subgroups[odd]?.length ?? 0} values, the first ${n}`,
    );
  return { kind: 'mean-range', n, points: subgroups.map(mean), ranges: subgroups.map(rangeOf) };
}
