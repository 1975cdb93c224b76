import {
  overtimeKey,
  shiftDate,
  startOfFactoryDay,
  stationCalendar,
  workingMinutesOfDay,
  workingSpansOfDay,
  type FactoryCalendar,
  type Overtime,
  type Shift,
  type WorkingSpan,
} from '@ample-crane/core';
import { DateTime } from 'luxon';

/** A stretch of a day's tape, as shares of its 24 hours; a night shift runs on beyond 1. */
export interface TapeSpan {
  from: number;
  to: number;
  /** Of a shift, of the whole house beside it, of some stations only. */
  kind: 'shift' | 'house' | 'stations';
}

export interface DayOfWork {
  /** 'YYYY-MM-DD'. */
  day: string;
  isClosed: boolean;
  /** What the house works; evenings of single stations are not in it. */
  hours: number;
  tape: TapeSpan[];
  extras: Overtime[];
}

export interface WeekOfWork {
  /** Its Monday. */
  monday: string;
  /** ISO week of the year. */
  number: number;
  hours: number;
  days: DayOfWork[];
}

const DAY_MS = 86_400_000;

/** The Monday of the week of a day. */
export function mondayOf(day: string): string {
  return shiftDate(day, 1 - DateTime.fromISO(day, { zone: 'utc' }).weekday);
}

/** Weeks from a Monday on, day by day, as the calendar has them worked. */
export function weeksOfWork(calendar: FactoryCalendar, monday: string, count: number): WeekOfWork[] {
  return Array.from({ length: count }, (_, week) => {
    const first = shiftDate(monday, 7 * week);
    const days = Array.from({ length: 7 }, (__, i) => dayOfWork(calendar, shiftDate(first, i)));
    return {
      monday: first,
      number: DateTime.fromISO(first, { zone: 'utc' }).weekNumber,
      hours: days.reduce((sum, { hours }) => sum + hours, 0),
      days,
    };
  });
}

/** One day, with everything that is worked on it. */
export function dayOfWork(calendar: FactoryCalendar, day: string): DayOfWork {
  const startMs = startOfFactoryDay(calendar, day);
  const drawn = ({ startMs: from, endMs }: WorkingSpan, kind: TapeSpan['kind']): TapeSpan => ({
    from: (from - startMs) / DAY_MS,
    to: (endMs - startMs) / DAY_MS,
    kind,
  });
  const extras = calendar.overtime.filter(({ date }) => date === day);
  const ofHouse = workingSpansOfDay(calendar, day);
  const own = [...new Set(extras.flatMap(({ stations }) => stations ?? []))].flatMap((station) =>
    workingSpansOfDay(stationCalendar(calendar, station), day).filter(
      (span) => !ofHouse.some(({ startMs: from, endMs }) => from === span.startMs && endMs === span.endMs),
    ),
  );
  return {
    day,
    isClosed: calendar.closedDays.includes(day),
    hours: workingMinutesOfDay(calendar, day) / 60,
    tape: [
      ...own.map((span) => drawn(span, 'stations')),
      ...ofHouse.map((span) => drawn(span, span.shift === 'overtime' ? 'house' : 'shift')),
    ],
    extras,
  };
}

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
export const WEEKDAY_OPTIONS = WEEKDAYS.map((words, i) => ({ value: `${i + 1}`, words }));

/** 'Mon to Fri', 'Sat, Sun'. */
export function weekdayWords(weekdays: readonly number[]): string {
  const days = weekdays.toSorted((a, b) => a - b);
  const name = (day: number | undefined): string => WEEKDAYS[(day ?? 1) - 1] ?? '';
  const [first, last] = [days[0], days.at(-1)];
  const inRow = days.length > 2 && (last ?? 0) - (first ?? 0) === days.length - 1;
  return inRow ? `${name(first)} to ${name(last)}` : days.map(name).join(', ');
}

/** '06:00 to 14:30, less 10:00–10:30'. */
export function shiftWords({ start, end, breaks }: Shift): string {
  const pauses = breaks.map((pause) => `${pause.start}–${pause.end}`).join(', ');
  return `${start} to ${end}${pauses === '' ? '' : `, less ${pauses}`}`;
}

/** Breaks as they are typed: '10:00–10:30, 12:00-12:30'. Null: that says none. */
export function readBreaks(text: string): Shift['breaks'] | null {
  const pieces = text
    .split(/[,;]/)
    .map((piece) => piece.trim())
    .filter((piece) => piece !== '');
  const breaks = pieces.map((piece) => /^(\d{1,2}:\d{2})\s*(?:-|–|to)\s*(\d{1,2}:\d{2})$/.exec(piece));
  const read = breaks.flatMap((found) => {
    const [start, end] = [asClock(found?.[1] ?? ''), asClock(found?.[2] ?? '')];
    return start === null || end === null ? [] : [{ start, end }];
  });
  return read.length === pieces.length ? read : null;
}

/** A time of day as it is typed, '6', '6:00', '0600', as 'HH:mm'; null: it is none. */
export function asClock(text: string): string | null {
  const [, hour = '', minute = '00'] = /^(\d{1,2})(?:[:.]?(\d{2}))?$/.exec(text.trim()) ?? [];
  if (hour === '' || Number(hour) > 23 || Number(minute) > 59) return null;
  return `${hour.padStart(2, '0')}:${minute}`;
}

/** 'the whole house', 'Colour and Clear & cure'. */
export function whoWorks({ stations }: Overtime, nameOf: (station: string) => string): string {
  return stations ? stations.map(nameOf).join(' and ') : 'the whole house';
}

export { overtimeKey };
