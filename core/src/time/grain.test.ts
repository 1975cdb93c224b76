import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import { grainOf, rangeOf } from './grain.ts';

describe('a forecast is said no finer than its range allows (small)', () => {
  it.each([
    ['minute', 0],
    ['hour', 5 * HOUR_MS],
    ['day', 3 * DAY_MS],
    ['week', 20 * DAY_MS],
    ['month', 90 * DAY_MS],
    ['month', Infinity],
  ])('to the %s', (grain, rangeMs) => {
    expect(grainOf(rangeMs)).toBe(grain);
  });

  it('and an instant without a range is exact', () => {
    expect(rangeOf({ lowMs: null, highMs: null })).toBe(0);
    expect(rangeOf({ lowMs: 1, highMs: 4 })).toBe(3);
  });
});
