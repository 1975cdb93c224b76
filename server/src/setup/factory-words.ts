import { DAY_MS, grainOf, HOUR_MS, MINUTE_MS } from '@ample-crane/core';
import { IANAZone } from 'luxon';

const NEAR_MS = 6.5 * DAY_MS;
const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/**
 * Says instants as the floor does: 'Thu 14:20' within a week of now, '4 Dec 14:20' beyond; a forecast no finer than its range
 * allows: 'Thu 15:00', 'Thu', 'the week of 1 Dec', 'Dec 2026'.
 */
export function factoryWords(nowMs: number, zone: string): (ms: number, rangeMs?: number) => string {
  const offsetAt = offsetsOf(zone);
  return (ms, rangeMs = 0) => {
    const grain = grainOf(rangeMs);
    const exact = new Date(ms + offsetAt(ms) * MINUTE_MS);
    if (grain === 'month') return `${MONTHS[exact.getUTCMonth()]} ${exact.getUTCFullYear()}`;
    if (grain === 'week') {
      const monday = new Date(exact.getTime() - ((exact.getUTCDay() + 6) % 7) * DAY_MS);
      return `the week of ${monday.getUTCDate()} ${MONTHS[monday.getUTCMonth()]}`;
    }
    const local = grain === 'hour' ? new Date(Math.ceil(exact.getTime() / HOUR_MS) * HOUR_MS) : exact;
    const day =
      Math.abs(ms - nowMs) < NEAR_MS
        ? DAYS[local.getUTCDay()]
        : `${local.getUTCDate()} ${MONTHS[local.getUTCMonth()]}`;
    return grain === 'day' ? (day ?? '') : `${day} ${local.toISOString().slice(11, 16)}`;
  };
}

/** Minutes a zone is ahead of UTC: looking that up is the slow part, so a day without a change is looked up once. */
function offsetsOf(zone: string): (ms: number) => number {
  const rules = IANAZone.create(zone);
  const days = new Map<number, number | null>();
  return (ms) => {
    const day = Math.floor(ms / DAY_MS);
    let whole = days.get(day);
    if (whole === undefined) {
      const [first, last] = [rules.offset(day * DAY_MS), rules.offset((day + 1) * DAY_MS)];
      days.set(day, (whole = first === last ? first : null));
    }
    return whole ?? rules.offset(ms);
  };
}
