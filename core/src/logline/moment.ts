import {
  factoryDate,
  instantOfClock,
  shiftDate,
  startOfFactoryDay,
  type FactoryCalendar,
} from '../time/calendar.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';

/** When the line says it happened: a time of today or yesterday, or so long ago. */
export type Moment = { clock: string; daysAgo: number } | { minutesAgo: number };

/** The instant a line speaks of; undefined: now. */
export function instantOf(
  moment: Moment | null,
  calendar: Pick<FactoryCalendar, 'zone'>,
  nowMs: number,
): number | undefined {
  if (!moment) return undefined;
  if ('minutesAgo' in moment) return nowMs - moment.minutesAgo * MINUTE_MS;
  if (moment.daysAgo === 0) return instantOfClock(calendar, nowMs, moment.clock);
  // Noon of that day and a clock: the hour is counted on the day it was, clock changes included.
  const day = shiftDate(factoryDate(calendar, nowMs), -moment.daysAgo);
  return instantOfClock(calendar, startOfFactoryDay(calendar, day) + 12 * HOUR_MS, moment.clock);
}

/** '9:40', '13:05', '1pm', '1:30pm' as 'HH:mm'; undefined: no time of day at all; null: one that cannot be. */
export function clockOf(word: string, half?: string): string | null | undefined {
  const match = /^(\d{1,2})(?::(\d{2}))?(am|pm)?$/i.exec(word);
  if (!match) return undefined;
  const [, hours = '', minutes, own] = match;
  const said = (own ?? half)?.toLowerCase();
  if (minutes === undefined && said === undefined) return undefined;
  let hour = Number(hours);
  if (said !== undefined && (hour < 1 || hour > 12)) return null;
  if (said === 'pm' && hour < 12) hour += 12;
  if (said === 'am' && hour === 12) hour = 0;
  const minute = Number(minutes ?? 0);
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}
