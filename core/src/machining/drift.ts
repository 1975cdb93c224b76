import { summarise } from '../stats/descriptive.ts';
import { studentChance, studentQuantile } from '../stats/student.ts';

/** A trend is looked for in so many of the last points, and not in fewer than the least. Defaults. */
const LOOK_BACK = 30;
const FEWEST = 10;
/** A slope that would come by chance more often than this is none: many dimensions are looked at every day. */
const MOST_BY_CHANCE = 0.002;

export interface Drift {
  /** Change for each point, in the unit of the values. */
  slope: number;
  /** The trend's own value at the last point. */
  now: number;
  toward: 'lower' | 'upper';
  limit: number;
  /** Points from now until the trend meets its limit; 0 when it is already there. */
  pointsToLimit: number;
  /** Range of that from the 90 % interval of the slope; high is Infinity when it may never come. */
  lowPoints: number;
  highPoints: number;
  /** How often such a slope would come by chance, were there none, 0…1. */
  byChance: number;
}

/**
 * Where a dimension drifts to: a least-squares line through the last points, if its slope is surely not nought (two-sided
 * t test, one in 500). Null when there is no trend, too few points, or no limit on the side it goes to.
 */
export function dimensionDrift(options: {
  values: readonly number[];
  lower: number | null;
  upper: number | null;
}): Drift | null {
  const values = options.values.slice(-LOOK_BACK);
  const n = values.length;
  if (n < FEWEST) return null;
  const { mean } = summarise(values);
  const middle = (n - 1) / 2;
  const spreadX = (n * (n * n - 1)) / 12;
  const slope = values.reduce((sum, value, i) => sum + (i - middle) * (value - mean), 0) / spreadX;
  const residual = values.reduce((sum, value, i) => sum + (value - mean - slope * (i - middle)) ** 2, 0);
  const error = Math.sqrt(residual / (n - 2) / spreadX);
  const byChance = error === 0 ? (slope === 0 ? 1 : 0) : studentChance(Math.abs(slope) / error, n - 2);
  if (byChance > MOST_BY_CHANCE) return null;
  const toward = slope > 0 ? 'upper' : 'lower';
  const limit = options[toward];
  if (limit === null) return null;
  const now = mean + slope * middle;
  const way = Math.max(0, (limit - now) * Math.sign(slope));
  const reach = studentQuantile(0.95, n - 2) * error;
  const slowest = Math.abs(slope) - reach;
  return {
    slope,
    now,
    toward,
    limit,
    pointsToLimit: way / Math.abs(slope),
    lowPoints: way / (Math.abs(slope) + reach),
    highPoints: slowest > 0 ? way / slowest : Infinity,
    byChance,
  };
}
