import { DAY_MS, MINUTE_MS } from '@ample-crane/core';
import { IANAZone } from 'luxon';

const NEAR_MS = 6.5 * DAY_MS;
const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Says instants as the floor does: 'Thu 14:20' within a week of now, '4 Dec 14:20' beyond. */
export function factoryWords(nowMs: number, zone: string): (ms: number) => string {
  const offsetAt = offsetsOf(zone);
  return (ms) => {
    const local = new Date(ms + offsetAt(ms) * MINUTE_MS);
    const day =
      Math.abs(ms - nowMs) < NEAR_MS
        ? DAYS[local.getUTCDay()]
        : `${local.getUTCDate()} ${MONTHS[local.getUTCMonth()]}`;
    return `${day} ${local.toISOString().slice(11, 16)}`;
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
