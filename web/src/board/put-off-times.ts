import { HOUR_MS } from '@ample-crane/core';
import { DateTime } from 'luxon';
import type { Floor } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';

/** Works begin at this hour: what is put off to another day is there when they do. */
const MORNING_HOUR = 7;

/** Moments a call may be put off to, next first: in an hour, at the end of the shift, tomorrow and in a week in the morning. */
export function putOffTimes(
  nowMs: number,
  { zone, shift }: Pick<Floor, 'zone' | 'shift'>,
): { value: string; words: string }[] {
  const morning = (days: number): number =>
    DateTime.fromMillis(nowMs, { zone }).startOf('day').plus({ days }).set({ hour: MORNING_HOUR }).toMillis();
  const times = [
    { ms: nowMs + HOUR_MS, words: 'in an hour' },
    ...(shift && shift.endMs > nowMs + HOUR_MS
      ? [{ ms: shift.endMs, words: 'at the end of the shift' }]
      : []),
    { ms: morning(1), words: 'tomorrow morning' },
    { ms: morning(7), words: 'in a week' },
  ];
  return times.map(({ ms, words }) => ({
    value: new Date(ms).toISOString(),
    words: `${words}: ${sayClock(ms, zone)}`,
  }));
}
