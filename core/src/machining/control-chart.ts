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
  /** For subgroups of the usual size. */
  limits: Limits;
  /** Of each point, by how many values it rests on. */
  pointLimits: Limits[];
  /** Moving ranges (none for the first point), or the range of each subgroup; null: of a single value there is none. */
  ranges: (number | null)[];
  rangeLimits: Limits;
  /** Of each range; null where there is none, or where the subgroup is too large for one. */
  rangeLimitsOf: (Limits | null)[];
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

/**
 * A Shewhart chart with 3 σ limits from the ranges: individuals with moving ranges of two (limits x̄ ± 3 R̄ / 1.128,
 * ranges up to 3.267 R̄), or means and ranges of subgroups (x̄ ± A2 R̄, D3 R̄ … D4 R̄). Subgroups may differ in size, down to
 * a first piece alone: σ is then the mean of R / d2 over those of 2 to 10, and every point has limits of its own.
 * `baseline`: limits rest on so many of the first points, so that later trouble does not widen them; all when left out.
 * @throws RangeError for fewer than two points, an empty subgroup or a value that is not finite.
 */
export function controlChart(
  data: ({ values: readonly number[] } | { subgroups: readonly (readonly number[])[] }) & {
    baseline?: number;
  },
): ControlChart {
  const groups = 'values' in data ? data.values.map((value) => [value]) : data.subgroups;
  const empty = groups.findIndex((group) => group.length === 0);
  if (empty >= 0) throw new RangeError(`controlChart: subgroup ${empty + 1} has no value`);
  if (groups.length < FEWEST_POINTS)
    throw new RangeError(`controlChart: needs at least ${FEWEST_POINTS} points, got ${groups.length}`);
  const baseline = Math.max(FEWEST_POINTS, Math.min(groups.length, data.baseline ?? groups.length));
  const single = groups.every((group) => group.length === 1);
  const points = groups.map(mean);
  const ranges = single ? movingRanges(points) : groups.map(ownRange);
  /** How many values a range rests on: two neighbours where every point is a single value. */
  const sizeOf = (group: readonly number[]): number => (single ? 2 : group.length);
  const within = groups.slice(0, baseline).flatMap((group, i) => {
    const range = ranges[i];
    return range === null || range === undefined ? [] : [range / factorsFor(sizeOf(group)).d2];
  });
  // Where no look of the baseline has a range of its own, neighbours stand in for one.
  const between = movingRanges(points.slice(0, baseline)).flatMap((range) => range ?? []);
  const sigma = mean(within.length > 0 ? within : between.map((range) => range / factorsFor(2).d2));
  const centre = mean(groups.slice(0, baseline).flat());
  const around = (size: number): Limits => {
    const reach = single || size === 1 ? 3 * sigma : reachOf(size, sigma);
    return { lower: centre - reach, centre, upper: centre + reach };
  };
  const rangeAround = (size: number): Limits | null => {
    const factors = CHART_FACTORS[size];
    if (!factors) return null;
    const usual = factors.d2 * sigma;
    return { lower: factors.d3 * usual, centre: usual, upper: factors.d4 * usual };
  };
  const usualSize = single ? 2 : mostFrequent(groups.map((group) => group.length).filter((n) => n > 1));
  return {
    kind: single ? 'individuals' : 'mean-range',
    subgroupSize: single ? 1 : usualSize,
    points,
    limits: around(usualSize),
    pointLimits: groups.map((group) => around(single ? 1 : group.length)),
    ranges,
    rangeLimits: rangeAround(usualSize) ?? { lower: 0, centre: sigma, upper: sigma },
    rangeLimitsOf: groups.map((group, i) => (ranges[i] === null ? null : rangeAround(sizeOf(group)))),
    sigma,
    baseline,
  };
}

const mean = (values: readonly number[]): number => summarise(values).mean;
const reachOf = (size: number, sigma: number): number => {
  const factors = CHART_FACTORS[size];
  return factors ? factors.a2 * factors.d2 * sigma : (3 * sigma) / Math.sqrt(size);
};
const movingRanges = (values: readonly number[]): (number | null)[] =>
  values.map((value, i) => (i === 0 ? null : Math.abs(value - (values[i - 1] ?? value))));

/** The range of a subgroup of 2 to 10; of one value there is none, of more it says too little. */
const ownRange = (values: readonly number[]): number | null =>
  CHART_FACTORS[values.length] ? Math.max(...values) - Math.min(...values) : null;

/** The size most subgroups have; of equally frequent ones the larger. */
function mostFrequent(sizes: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const size of sizes) counts.set(size, (counts.get(size) ?? 0) + 1);
  return [...counts].reduce(
    (best, one) => (one[1] > best[1] || (one[1] === best[1] && one[0] > best[0]) ? one : best),
    [2, 0],
  )[0];
}
