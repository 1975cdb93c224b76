import { DAY_MS, HOUR_MS } from '@ample-crane/core';
import { DateTime } from 'luxon';
import { factoryWords } from './factory-words.ts';

const ZONE = 'Europe/Berlin';
const at = (text: string): number => DateTime.fromISO(text, { zone: ZONE }).toMillis();

describe('instants in the words of the floor', () => {
  const nowMs = at('2026-10-22T14:00');
  const words = factoryWords(nowMs, ZONE);

  it('are a day of the week within a week of now, and a date beyond', () => {
    expect(words(at('2026-10-22T14:20'))).toBe('Thu 14:20');
    expect(words(at('2026-10-19T07:05'))).toBe('Mon 07:05');
    expect(words(at('2026-12-04T09:00'))).toBe('4 Dec 09:00');
    expect(words(at('2026-10-04T09:00'))).toBe('4 Oct 09:00');
  });

  it('of a forecast are no finer than its range allows', () => {
    const then = at('2026-12-04T09:10');
    expect([0, 5 * HOUR_MS, 3 * DAY_MS, 20 * DAY_MS, Infinity].map((range) => words(then, range))).toEqual([
      '4 Dec 09:10',
      '4 Dec 10:00',
      '4 Dec',
      'the week of 30 Nov',
      'Dec 2026',
    ]);
  });

  it('are the clock on the wall in the night of the change, once in summer time and once in winter time', () => {
    const summer = Date.UTC(2026, 9, 25, 0, 30);
    expect([words(summer), words(summer + HOUR_MS), words(summer + 2 * HOUR_MS)]).toEqual([
      'Sun 02:30',
      'Sun 02:30',
      'Sun 03:30',
    ]);
  });

  it('agree with the calendar library at every third hour of two years', () => {
    let n = 0;
    for (let ms = Date.UTC(2025, 0, 1); ms < Date.UTC(2027, 0, 1); ms += 3 * HOUR_MS, n += 1)
      expect(words(ms)).toBe(
        DateTime.fromMillis(ms, { zone: ZONE, locale: 'en-US' }).toFormat(
          Math.abs(ms - nowMs) < 6.5 * DAY_MS ? 'ccc HH:mm' : 'd LLL HH:mm',
        ),
      );
    expect(n).toBeGreaterThan(5800);
  });
});
