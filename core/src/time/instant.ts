import { DateTime } from 'luxon';

/** A day, an hour and its offset: nothing of it is left to be guessed. */
const INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d(?::\d\d(?:\.\d{1,9})?)?(?:Z|[+-](?:0\d|1[0-4]):[0-5]\d)$/;

/**
 * An instant written as ISO 8601 with its offset: '2026-11-24T19:20:00Z', '2026-11-24T20:20+01:00'; ms since 1970.
 * Null for anything else: a week ('2026-W53-1'), a day that is not in the calendar ('2027-02-30'), a time without an offset.
 */
export function instantFromIso(text: string): number | null {
  if (!INSTANT.test(text)) return null;
  const instant = DateTime.fromISO(text);
  return instant.isValid ? instant.toMillis() : null;
}

/** What a clock on a wall shows. */
export interface WallTime {
  year: number;
  month: number;
  day: number;
  hour: number;
  minute: number;
  second?: number;
}

/**
 * The instants at which the clocks of a zone show a time, in order: one; none when they were put forward over it (or the day
 * is not in the calendar); two when they were put back. ms since 1970.
 */
export function instantsShowing(wall: WallTime, zone: string): number[] {
  const time = DateTime.fromObject(wall, { zone });
  if (!time.isValid || time.hour !== wall.hour || time.minute !== wall.minute) return [];
  return time
    .getPossibleOffsets()
    .map((one) => one.toMillis())
    .sort((a, b) => a - b);
}
