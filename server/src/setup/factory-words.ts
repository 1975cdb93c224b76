import { DateTime } from 'luxon';

const NEAR_MS = 6.5 * 24 * 3_600_000;

/** Says instants as the floor does: 'Thu 14:20' within a week of now, '4 Dec 14:20' beyond. */
export const factoryWords =
  (nowMs: number, zone: string) =>
  (ms: number): string =>
    DateTime.fromMillis(ms, { zone, locale: 'en-GB' }).toFormat(
      Math.abs(ms - nowMs) < NEAR_MS ? 'ccc HH:mm' : 'd LLL HH:mm',
    );
