import { DateTime } from 'luxon';
import {
  addWorkingMinutes,
  closedWords,
  factoryDate,
  instantOfClock,
  nearestWorkingDays,
  shiftAt,
  workingMinutesBetween,
  workingMinutesOfDay,
  workingSpansOfDay,
  type FactoryCalendar,
} from './calendar.ts';
import { workingClock } from './working-clock.ts';

const zone = 'America/Chicago';
const at = (iso: string): number => DateTime.fromISO(iso, { zone }).toMillis();
const clock = (ms: number): string => DateTime.fromMillis(ms, { zone }).toFormat('ccc yyyy-MM-dd HH:mm');

/** Day shift with a half-hour break: 9.5 h − 0.5 h = 540 working minutes. */
const days: FactoryCalendar = {
  zone,
  shifts: [
    {
      name: 'A',
      start: '06:00',
      end: '15:30',
      weekdays: [1, 2, 3, 4, 5],
      breaks: [{ start: '10:00', end: '10:30' }],
    },
  ],
  closedDays: ['2026-11-26'],
  overtime: [{ date: '2026-11-28', start: '06:00', end: '10:00' }],
};

const nights: FactoryCalendar = {
  zone,
  shifts: [
    { name: 'N', start: '22:00', end: '06:00', weekdays: [6, 7], breaks: [{ start: '01:00', end: '01:30' }] },
  ],
  closedDays: [],
  overtime: [],
};

describe('working time', () => {
  it('counts a whole day without its break', () => {
    expect(workingMinutesOfDay(days, '2026-11-24')).toBe(540);
    expect(workingMinutesBetween(days, at('2026-11-24T00:00'), at('2026-11-25T00:00'))).toBe(540);
  });

  it('counts nothing inside the break', () => {
    expect(workingMinutesBetween(days, at('2026-11-24T10:00'), at('2026-11-24T10:30'))).toBe(0);
    expect(workingMinutesBetween(days, at('2026-11-24T09:50'), at('2026-11-24T10:40'))).toBe(20);
  });

  it('carries work over a closed day and into overtime: Wed 15:00 + 60 min ends Fri 06:30', () => {
    expect(clock(addWorkingMinutes(days, at('2026-11-25T15:00'), 60))).toBe('Fri 2026-11-27 06:30');
    expect(clock(addWorkingMinutes(days, at('2026-11-27T15:00'), 60))).toBe('Sat 2026-11-28 06:30');
  });

  it('starts outside a shift at the next one', () => {
    expect(clock(addWorkingMinutes(days, at('2026-11-28T18:00'), 0))).toBe('Mon 2026-11-30 06:00');
  });

  it('is negative backwards', () => {
    expect(workingMinutesBetween(days, at('2026-11-24T09:00'), at('2026-11-24T08:00'))).toBe(-60);
  });

  // The clock goes forward on Sunday 2026-03-08 at 02:00 and back on Sunday 2026-11-01 at 02:00.
  // The shift that starts Saturday 22:00 runs 8 h by the wall, less a 30 min break.
  it('makes the night of the spring change one hour shorter', () => {
    expect(workingMinutesOfDay(nights, '2026-03-07')).toBe(7 * 60 - 30);
  });

  it('makes the night of the autumn change one hour longer', () => {
    expect(workingMinutesOfDay(nights, '2026-10-31')).toBe(9 * 60 - 30);
  });

  it('adds minutes through both changes', () => {
    // Sat 22:00 → 01:00 is 180 min, break to 01:30, then 30 min to 02:00 which is 03:00 in spring.
    expect(clock(addWorkingMinutes(nights, at('2026-03-07T22:00'), 240))).toBe('Sun 2026-03-08 03:30');
    // In autumn 01:30 comes twice: 180 min, break 01:00–01:30, 30 min to the second 01:00, 30 min more.
    expect(clock(addWorkingMinutes(nights, at('2026-10-31T22:00'), 240))).toBe('Sun 2026-11-01 01:30');
    expect(workingMinutesBetween(nights, at('2026-10-31T22:00'), at('2026-11-01T06:00'))).toBe(510);
  });

  it('agrees with itself: adding what lies between two working instants arrives at the second', () => {
    const from = at('2026-10-30T09:12');
    for (const iso of ['2026-10-30T11:00', '2026-11-02T06:30', '2026-11-27T14:59']) {
      const minutes = workingMinutesBetween(days, from, at(iso));
      expect(clock(addWorkingMinutes(days, from, minutes))).toBe(clock(at(iso)));
    }
  });

  it('merges overtime that overlaps a shift', () => {
    const calendar = { ...days, overtime: [{ date: '2026-11-24', start: '14:00', end: '17:00' }] };
    expect(workingMinutesOfDay(calendar, '2026-11-24')).toBe(540 + 90);
    expect(workingSpansOfDay(calendar, '2026-11-24')).toHaveLength(2);
  });

  it('refuses a calendar without shifts, negative minutes and a broken instant', () => {
    expect(() => addWorkingMinutes({ ...days, shifts: [], overtime: [] }, at('2026-01-01T00:00'), 1)).toThrow(
      /no shift/,
    );
    expect(() => addWorkingMinutes(days, at('2026-01-01T00:00'), -1)).toThrow(/0 or more/);
    expect(() => workingMinutesBetween(days, NaN, 0)).toThrow(/finite/);
  });
});

describe('the shift on the notice board', () => {
  it('is known in a break and unknown at night', () => {
    expect(shiftAt(days, at('2026-11-24T10:15'))).toEqual({ name: 'A', endMs: at('2026-11-24T15:30') });
    expect(shiftAt(days, at('2026-11-24T20:00'))).toBeUndefined();
    expect(shiftAt(days, at('2026-11-28T07:00'))?.name).toBe('overtime');
  });

  it('runs past midnight', () => {
    expect(shiftAt(nights, at('2026-11-22T03:00'))).toEqual({ name: 'N', endMs: at('2026-11-22T06:00') });
  });

  it('names dates and clock times in the factory zone', () => {
    expect(factoryDate(days, Date.UTC(2026, 10, 24, 3))).toBe('2026-11-23');
    expect(clock(instantOfClock(days, at('2026-11-24T14:00'), '09:40'))).toBe('Tue 2026-11-24 09:40');
  });
});

describe('the working clock', () => {
  it('adds like the calendar does, through breaks, nights, holidays and both clock changes', () => {
    for (const [calendar, iso] of [
      [days, '2026-11-24T05:00'],
      [nights, '2026-03-06T12:00'],
      [nights, '2026-10-30T12:00'],
    ] as const) {
      const laidOut = workingClock(calendar, at(iso));
      for (let i = 0; i < 60; i += 1) {
        const from = at(iso) + i * 2.3 * 3_600_000;
        const minutes = 1 + ((i * 37) % 900);
        expect(clock(laidOut.add(from, minutes))).toBe(clock(addWorkingMinutes(calendar, from, minutes)));
      }
    }
  });

  it('with nothing to add goes to the next start of work', () => {
    expect(clock(workingClock(days, at('2026-11-20T12:00')).add(at('2026-11-20T18:00'), 0))).toBe(
      'Mon 2026-11-23 06:00',
    );
  });

  it('answers about the far future at once, as the calendar does', () => {
    const far = at('2036-05-06T07:00');
    const laidOut = workingClock(days, at('2026-11-24T05:00'));
    expect(laidOut.add(far, 600)).toBe(addWorkingMinutes(days, far, 600));
    expect(laidOut.add(at('2027-12-20T07:00'), 60 * 540)).toBe(
      addWorkingMinutes(days, at('2027-12-20T07:00'), 60 * 540),
    );
    expect(clock(laidOut.add(at('2036-05-04T07:00'), 0))).toBe('Mon 2036-05-05 06:00');
  });

  it('refuses a calendar without work, and the past', () => {
    const never = { ...days, shifts: [], overtime: [] };
    expect(() => workingClock(never, at('2026-11-24T05:00')).add(at('2026-11-24T05:00'), 1)).toThrow(
      /no shift/,
    );
    expect(() => workingClock(days, at('2026-11-24T05:00')).add(at('2026-11-23T05:00'), 1)).toThrow(/before/);
  });
});

describe('a day on which something is due (small: due dates fall on working days)', () => {
  it('is one the works are open; else the nearest are named', () => {
    expect(closedWords(days, '2026-11-24')).toBeUndefined();
    expect(closedWords(days, '2026-12-05')).toBe(
      'the works are closed on Sat 5 Dec: Fri 4 Dec or Mon 7 Dec?',
    );
    expect(nearestWorkingDays(days, '2026-12-05')).toEqual({ before: '2026-12-04', after: '2026-12-07' });
    expect(nearestWorkingDays({ ...days, shifts: [], overtime: [] }, '2026-12-05')).toEqual({
      before: undefined,
      after: undefined,
    });
  });
});
