import { DateTime } from 'luxon';
import {
  factoryDate,
  nearestWorkingDays,
  shiftDate,
  shiftsOn,
  type FactoryCalendar,
  type Overtime,
  type Shift,
  type WallSpan,
} from './calendar.ts';

/** More of a kind is a mistake, not a calendar. */
const MOST = { shifts: 40, closedDays: 2_000, overtime: 2_000 };
/** A shift, with its breaks, is no longer than this, and so is an extra span; hours. */
const LONGEST_HOURS = 16;

const sameShift = (one: Shift, other: Shift): boolean =>
  JSON.stringify(inOrder(one)) === JSON.stringify(inOrder(other));

/** What a shift is, without the days between which it is in force. */
const inOrder = ({ name, start, end, weekdays, breaks }: Shift): unknown[] => [
  ...[name, start, end, [...weekdays].sort((a, b) => a - b)],
  breaks.map((pause) => [pause.start, pause.end]).sort(),
];

/**
 * The calendar with other shifts from a day on: those before it stay as they were, since what was worked was worked by them; those
 * that had been planned for later give way.
 * @param shifts all of them, without the days between which they are in force
 * @param fromDay 'YYYY-MM-DD'
 */
export function withShifts(
  calendar: FactoryCalendar,
  shifts: readonly Shift[],
  fromDay: string,
): FactoryCalendar {
  const before = shiftDate(fromDay, -1);
  const earlier = calendar.shifts.filter((shift) => (shift.fromDay ?? '') < fromDay);
  const lasts = ({ untilDay = fromDay }: Shift): boolean => untilDay >= fromDay;
  const goesOn = (old: Shift): boolean => lasts(old) && shifts.some((shift) => sameShift(shift, old));
  const kept = earlier.map((shift): Shift => {
    const { untilDay, ...open } = shift;
    if (!lasts(shift)) return { ...open, ...(untilDay === undefined ? {} : { untilDay }) };
    return goesOn(shift) ? open : { ...open, untilDay: before };
  });
  const fresh = shifts.filter((shift) => !earlier.some((old) => lasts(old) && sameShift(shift, old)));
  return {
    ...calendar,
    shifts: [
      ...kept,
      ...fresh.map(({ name, start, end, weekdays, breaks }) => ({
        ...{ name, start, end, weekdays, breaks, fromDay },
      })),
    ],
  };
}

/** The calendar with some days closed, or open again. */
export function withClosed(
  calendar: FactoryCalendar,
  days: readonly string[],
  closed: boolean,
): FactoryCalendar {
  const others = calendar.closedDays.filter((day) => !days.includes(day));
  return { ...calendar, closedDays: (closed ? [...others, ...days] : others).sort() };
}

/** The calendar with an extra span more, or without it. */
export function withOvertime(calendar: FactoryCalendar, extra: Overtime, on: boolean): FactoryCalendar {
  const key = overtimeKey(extra);
  const others = calendar.overtime.filter((one) => overtimeKey(one) !== key);
  const overtime = (on ? [...others, extra] : others).sort((a, b) =>
    overtimeKey(a) < overtimeKey(b) ? -1 : 1,
  );
  return { ...calendar, overtime };
}

/** Tells extra spans apart. */
export const overtimeKey = ({ date, start, end, stations }: Overtime): string =>
  [date, start, end, ...(stations ?? []).toSorted()].join(' ');

/**
 * What is wrong with a calendar, in words; undefined: nothing.
 * @param stations codes of those there are
 * @param atMs from this moment on there must be a day with work within a year
 */
export function calendarFault(
  calendar: FactoryCalendar,
  stations: readonly string[],
  atMs: number,
): string | undefined {
  const { zone, shifts, closedDays, overtime } = calendar;
  if (!DateTime.local({ zone }).isValid) return `there is no time zone '${zone}'`;
  if (shifts.length > MOST.shifts) return `more than ${MOST.shifts} shifts`;
  if (closedDays.length > MOST.closedDays) return `more than ${MOST.closedDays} closed days`;
  if (overtime.length > MOST.overtime) return `overtime on more than ${MOST.overtime} evenings`;
  const wrong =
    first(shifts, shiftFault) ??
    twice(shifts) ??
    first(closedDays, dayFault) ??
    first(overtime, (extra) => overtimeFault(extra, stations));
  if (wrong !== undefined) return wrong;
  const idleFrom = turningDays(calendar, factoryDate(calendar, atMs)).find(
    (day) => nearestWorkingDays(calendar, day).after === undefined,
  );
  return idleFrom === undefined
    ? undefined
    : `nobody would work for a year from ${idleFrom}: nothing could be planned`;
}

/** Today, and the days from then on at which shifts come or go or the house closes: from each of them on somebody must work. */
function turningDays({ shifts, closedDays }: FactoryCalendar, today: string): string[] {
  const days = [
    ...shifts.flatMap(({ fromDay, untilDay }) => [
      ...(fromDay === undefined ? [] : [fromDay]),
      ...(untilDay === undefined ? [] : [shiftDate(untilDay, 1)]),
    ]),
    ...closedDays.filter((day) => !closedDays.includes(shiftDate(day, -1))),
  ];
  return [today, ...days.filter((day) => day > today).sort()];
}

function first<T>(list: readonly T[], fault: (one: T) => string | undefined): string | undefined {
  for (const one of list) {
    const words = fault(one);
    if (words !== undefined) return words;
  }
  return undefined;
}

const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$/;
const minuteOf = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
const DAY_MINUTES = 24 * 60;
/** Minutes from one clock time to the next time it is another. */
const minutesTo = (from: string, to: string): number =>
  ((minuteOf(to) - minuteOf(from) + DAY_MINUTES - 1) % DAY_MINUTES) + 1;

function dayFault(day: string): string | undefined {
  const date = DateTime.fromISO(day, { zone: 'utc' });
  return date.isValid && date.toISODate() === day ? undefined : `'${day}' is no day`;
}

function spanFault({ start, end }: WallSpan, what: string): string | undefined {
  if (!CLOCK.test(start)) return `${what} begins at '${start}', which is no time of day such as 06:00`;
  if (!CLOCK.test(end)) return `${what} ends at '${end}', which is no time of day such as 14:30`;
  const hours = minutesTo(start, end) / 60;
  return hours > LONGEST_HOURS
    ? `${what} from ${start} to ${end} would be ${Number(hours.toFixed(2))} h long`
    : undefined;
}

function shiftFault(shift: Shift): string | undefined {
  const { name, start, end, weekdays, breaks, fromDay, untilDay } = shift;
  if (name.trim() === '') return 'a shift has no name';
  const what = `shift ${name}`;
  const span = spanFault(shift, what);
  if (span !== undefined) return span;
  if (weekdays.length === 0) return `${what} is on no day of the week`;
  if (weekdays.some((day) => !Number.isInteger(day) || day < 1 || day > 7))
    return `${what} is on a day of the week that is none`;
  const length = minutesTo(start, end);
  let takenTo = 0;
  for (const pause of breaks.toSorted((a, b) => fromStart(start, a.start) - fromStart(start, b.start))) {
    const fault = spanFault(pause, `a break of ${what}`);
    if (fault !== undefined) return fault;
    const from = fromStart(start, pause.start);
    const to = from + minutesTo(pause.start, pause.end);
    if (from >= length || to > length)
      return `the break ${pause.start}–${pause.end} is not within ${what}, ${start}–${end}`;
    if (from < takenTo) return `two breaks of ${what} lie over each other at ${pause.start}`;
    takenTo = to;
  }
  if (takenTo > 0 && breaks.reduce((sum, pause) => sum + minutesTo(pause.start, pause.end), 0) >= length)
    return `${what} is all break`;
  for (const day of [fromDay, untilDay]) {
    const fault = day === undefined ? undefined : dayFault(day);
    if (fault !== undefined) return fault;
  }
  return undefined;
}

const fromStart = (start: string, clock: string): number =>
  (minuteOf(clock) - minuteOf(start) + DAY_MINUTES) % DAY_MINUTES;

/** Two shifts of one name would be told apart by nobody. */
function twice(shifts: readonly Shift[]): string | undefined {
  for (const day of new Set(shifts.map(({ fromDay = '' }) => fromDay))) {
    const names = shiftsOn({ shifts }, day === '' ? '0000-01-01' : day).map(({ name }) => name);
    const again = names.find((name, i) => names.indexOf(name) !== i);
    if (again !== undefined) return `two shifts are called ${again}`;
  }
  return undefined;
}

function overtimeFault(extra: Overtime, stations: readonly string[]): string | undefined {
  const day = dayFault(extra.date);
  if (day !== undefined) return day;
  const span = spanFault(extra, `overtime on ${extra.date}`);
  if (span !== undefined) return span;
  if (extra.stations?.length === 0) return `overtime on ${extra.date} is for no station`;
  const unknown = extra.stations?.find((station) => !stations.includes(station));
  return unknown === undefined ? undefined : `there is no station '${unknown}'`;
}
