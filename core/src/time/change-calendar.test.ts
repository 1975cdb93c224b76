import { DateTime } from 'luxon';
import fc from 'fast-check';
import {
  addWorkingMinutes,
  shiftsOn,
  stationCalendar,
  workingMinutesOfDay,
  type FactoryCalendar,
  type Shift,
} from './calendar.ts';
import { calendarFault, withClosed, withOvertime, withShifts } from './change-calendar.ts';
import { workingClock } from './working-clock.ts';

const zone = 'America/Chicago';
const at = (iso: string): number => DateTime.fromISO(iso, { zone }).toMillis();
const words = (ms: number): string => DateTime.fromMillis(ms, { zone }).toFormat('ccc yyyy-MM-dd HH:mm');
const day: Shift = {
  ...{ name: 'A', start: '06:00', end: '14:30', weekdays: [1, 2, 3, 4, 5] },
  breaks: [{ start: '10:00', end: '10:30' }],
};
const house: FactoryCalendar = { zone, shifts: [day], closedDays: [], overtime: [] };
const NOW = at('2026-11-24T09:00');
const STATIONS = ['colour', 'clear'];
const faultOf = (calendar: FactoryCalendar): string | undefined => calendarFault(calendar, STATIONS, NOW);

describe('an evening of a station of its own', () => {
  const evening = { date: '2026-11-24', start: '15:00', end: '18:00', stations: ['clear'] };
  const calendar = withOvertime(house, evening, true);

  it('is worked there, and nowhere else: 14:00 and an hour ends at 15:30 in the booth, Wednesday 6:30 elsewhere', () => {
    expect(workingMinutesOfDay(calendar, '2026-11-24')).toBe(480);
    expect(workingMinutesOfDay(stationCalendar(calendar, 'clear'), '2026-11-24')).toBe(660);
    expect(stationCalendar(calendar, 'colour')).toBe(calendar);
    const clock = workingClock(calendar, NOW);
    const ends = (station?: string): string => words(clock.add(at('2026-11-24T14:00'), 60, station));
    expect(ends('clear')).toBe('Tue 2026-11-24 15:30');
    expect([ends('colour'), ends()]).toEqual(Array(2).fill('Wed 2026-11-25 06:30'));
  });

  it('is taken back as it was told, whatever the order of its stations', () => {
    const two = withOvertime(house, { ...evening, stations: ['clear', 'colour'] }, true);
    expect(withOvertime(two, { ...evening, stations: ['colour', 'clear'] }, false)).toEqual(house);
    expect(withOvertime(calendar, evening, true)).toEqual(calendar);
  });
});

describe('other shifts from a day on', () => {
  const longer = { ...day, end: '15:30' };
  const night: Shift = { ...{ name: 'N', start: '22:00', end: '06:00', weekdays: [5] }, breaks: [] };

  it('leave the days before as they were worked', () => {
    const calendar = withShifts(house, [longer], '2026-12-01');
    const minutes = (date: string): number => workingMinutesOfDay(calendar, date);
    expect([minutes('2026-11-30'), minutes('2026-12-01')]).toEqual([480, 540]);
    expect(calendar.shifts).toEqual([
      { ...day, untilDay: '2026-11-30' },
      { ...longer, fromDay: '2026-12-01' },
    ]);
  });

  it('let a shift that stays go on unbroken, and what was planned for later give way', () => {
    const planned = withShifts(house, [longer], '2026-12-14');
    const calendar = withShifts(planned, [day, night], '2026-12-01');
    expect(calendar.shifts).toEqual([day, { ...night, fromDay: '2026-12-01' }]);
    expect(withShifts(calendar, [day, night], '2026-12-07')).toEqual(calendar);
    expect(withShifts(calendar, [day], '2026-12-01')).toEqual(house);
  });

  it('property: from the day on those that were asked for, before it those that were there, whatever came before', () => {
    const shift = fc.constantFrom(day, longer, night, { ...night, name: 'N2', weekdays: [6] });
    const several = fc.uniqueArray(shift, { selector: ({ name }) => name, maxLength: 3 });
    const date = fc.integer({ min: 1, max: 28 }).map((n) => `2026-12-${String(n).padStart(2, '0')}`);
    const plain = (calendar: FactoryCalendar, on: string): string[] =>
      shiftsOn(calendar, on)
        .map(({ name, end }) => `${name} ${end}`)
        .sort();
    fc.assert(
      fc.property(fc.array(fc.tuple(several, date), { minLength: 1, maxLength: 5 }), date, (steps, probe) => {
        let calendar = house;
        for (const [shifts, from] of steps) {
          const before = calendar;
          calendar = withShifts(calendar, shifts, from);
          const asked = shifts.map(({ name, end }) => `${name} ${end}`).sort();
          expect(plain(calendar, probe)).toEqual(probe >= from ? asked : plain(before, probe));
        }
      }),
    );
  });
});

describe('what is wrong with a calendar', () => {
  it('is nothing with a night shift over midnight and over both changes of the clock', () => {
    const nights = withShifts(
      house,
      [
        {
          ...{ name: 'N', start: '22:00', end: '06:00', weekdays: [6, 7] },
          breaks: [{ start: '01:00', end: '01:30' }],
        },
      ],
      '2026-01-01',
    );
    expect(faultOf(nights)).toBeUndefined();
    // 22:00 to 06:00 less half an hour; an hour less on 7 March 2026 (the clock goes forward), one more on 31 October.
    expect(
      ['2026-03-07', '2026-10-31', '2026-11-28'].map((date) => workingMinutesOfDay(nights, date)),
    ).toEqual([390, 510, 450]);
    expect(words(addWorkingMinutes(nights, at('2026-11-28T22:00'), 450))).toBe('Sun 2026-11-29 06:00');
  });

  it.each([
    [
      'a break outside its shift',
      { shifts: [{ ...day, breaks: [{ start: '14:00', end: '15:00' }] }] },
      'is not within shift A',
    ],
    [
      'a break over another',
      {
        shifts: [
          {
            ...day,
            breaks: [
              { start: '10:00', end: '10:30' },
              { start: '10:15', end: '10:45' },
            ],
          },
        ],
      },
      'over each other at 10:15',
    ],
    ['nothing but break', { shifts: [{ ...day, breaks: [{ start: '06:00', end: '14:30' }] }] }, 'all break'],
    ['no time of day', { shifts: [{ ...day, start: '6:00' }] }, "begins at '6:00'"],
    ['a day of 24 hours', { shifts: [{ ...day, end: '06:00', breaks: [] }] }, '24 h long'],
    ['no name', { shifts: [{ ...day, name: ' ' }] }, 'has no name'],
    ['no weekday', { shifts: [{ ...day, weekdays: [] }] }, 'no day of the week'],
    ['an eighth day of the week', { shifts: [{ ...day, weekdays: [8] }] }, 'that is none'],
    ['two of one name', { shifts: [day, { ...day, weekdays: [6] }] }, 'two shifts are called A'],
    ['a day that is none', { closedDays: ['2027-02-30'] }, "'2027-02-30' is no day"],
    [
      'a station that is none',
      { overtime: [{ date: '2026-11-24', start: '15:00', end: '18:00', stations: ['attic'] }] },
      "no station 'attic'",
    ],
    [
      'overtime for nobody',
      { overtime: [{ date: '2026-11-24', start: '15:00', end: '18:00', stations: [] }] },
      'for no station',
    ],
    ['no shift at all', { shifts: [] }, 'nobody would work for a year'],
    ['a zone that is none', { zone: 'Tarrow/Works' }, 'no time zone'],
  ] as [string, Partial<FactoryCalendar>, string][])('%s', (_, changed, said) => {
    expect(faultOf({ ...house, ...changed })).toContain(said);
  });

  it('a year that is closed, day by day; a week of it is a holiday', () => {
    const days = (count: number): string[] =>
      Array.from(
        { length: count },
        (_, i) => DateTime.fromISO('2026-11-24').plus({ days: i }).toISODate() ?? '',
      );
    expect(faultOf(withClosed(house, days(400), true))).toContain('nobody would work for a year');
    const later = withShifts(house, [], '2027-03-01');
    expect(faultOf(later)).toContain('for a year from 2027-03-01');
    const week = withClosed(house, days(7), true);
    expect(faultOf(week)).toBeUndefined();
    expect(withClosed(week, days(7), false)).toEqual(house);
  });
});
