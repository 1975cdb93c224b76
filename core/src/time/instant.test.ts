import { instantFromIso, instantsShowing } from './instant.ts';

describe('an instant (12.9)', () => {
  it.each([
    ['2026-11-24T19:20:00Z', Date.UTC(2026, 10, 24, 19, 20)],
    ['2026-11-24T20:20+01:00', Date.UTC(2026, 10, 24, 19, 20)],
    ['2026-11-24T19:20:00.250Z', Date.UTC(2026, 10, 24, 19, 20, 0, 250)],
    ['2028-02-29T00:00:00Z', Date.UTC(2028, 1, 29)],
    ['1970-01-01T00:00:00Z', 0],
  ])('reads %s', (text, ms) => {
    expect(instantFromIso(text)).toBe(ms);
  });

  it.each([
    ['a week', '2026-W53-1'],
    ['a day that is not in the calendar', '2027-02-30T08:00:00Z'],
    ['no offset', '2026-11-24T19:20:00'],
    ['no time', '2026-11-24'],
    ['hour 25', '2026-11-24T25:00:00Z'],
    ['offset of 25 hours', '2026-11-24T19:20:00+25:00'],
    ['a year of six digits', '+275760-09-13T00:00:00Z'],
    ['words', 'yesterday'],
  ])('does not guess at %s', (_what, text) => {
    expect(instantFromIso(text)).toBeNull();
  });
});

describe('a time on the wall at the change of the clocks (12.9)', () => {
  const zone = 'America/Chicago';
  it.each([
    ['an ordinary day', { year: 2026, month: 11, day: 24, hour: 9, minute: 40 }, ['2026-11-24T15:40:00Z']],
    [
      'put back: the hour comes twice',
      { year: 2026, month: 11, day: 1, hour: 1, minute: 30 },
      ['2026-11-01T06:30:00Z', '2026-11-01T07:30:00Z'],
    ],
    ['put forward: the hour does not come', { year: 2026, month: 3, day: 8, hour: 2, minute: 30 }, []],
    ['no such day', { year: 2027, month: 2, day: 30, hour: 9, minute: 0 }, []],
  ])('%s', (_what, wall, instants) => {
    expect(instantsShowing(wall, zone)).toEqual(instants.map((one) => Date.parse(one)));
  });
});
