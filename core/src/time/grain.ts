import { DAY_MS, HOUR_MS } from '../units/quantities.ts';

/** How finely an instant is said. */
export type DateGrain = 'minute' | 'hour' | 'day' | 'week' | 'month';

/** Up to this range, from the 5th to the 95th of a hundred outcomes, a date is said so finely. Default, ms. */
const WIDEST: readonly (readonly [DateGrain, number])[] = [
  ['minute', HOUR_MS],
  ['hour', DAY_MS],
  ['day', 5 * DAY_MS],
  ['week', 45 * DAY_MS],
];

/** The finest grain a forecast of this range supports; of a range without an end, the month. */
export function grainOf(rangeMs: number): DateGrain {
  return WIDEST.find(([, widest]) => rangeMs <= widest)?.[0] ?? 'month';
}

/** Range of a forecast, ms; 0 where an instant is exact. */
export const rangeOf = ({ lowMs, highMs }: { lowMs: number | null; highMs: number | null }): number =>
  lowMs === null || highMs === null ? 0 : highMs - lowMs;
