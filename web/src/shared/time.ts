import { grainOf } from '@ample-crane/core';
import { DateTime } from 'luxon';
import { useEffect, useState } from 'react';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const at = (ms: number, zone: string): DateTime => DateTime.fromMillis(ms, { zone, locale: 'en-GB' });

/**
 * Factory time as the floor says it: 'Thu 14:20' within a week, '4 Dec 14:20' beyond; a forecast no finer than its range
 * allows: 'Thu 15:00', 'Thu', 'the week of 1 Dec', 'Dec 2026'.
 */
export function sayTime(ms: number, zone: string, nowMs: number, rangeMs = 0): string {
  const day = Math.abs(ms - nowMs) < 6.5 * DAY_MS ? 'ccc' : 'd LLL';
  switch (grainOf(rangeMs)) {
    case 'minute':
      return at(ms, zone).toFormat(`${day} HH:mm`);
    case 'hour':
      return at(Math.ceil(ms / HOUR_MS) * HOUR_MS, zone).toFormat(`${day} HH:mm`);
    case 'day':
      return at(ms, zone).toFormat(day);
    case 'week':
      return `the week of ${at(ms, zone).startOf('week').toFormat('d LLL')}`;
    case 'month':
      return at(ms, zone).toFormat('LLL yyyy');
  }
}

export const sayDate = (ms: number, zone: string): string => at(ms, zone).toFormat('ccc d LLL');
export const sayClock = (ms: number, zone: string): string => at(ms, zone).toFormat('ccc d LLL HH:mm');
export const sayMonth = (ms: number, zone: string): string => at(ms, zone).toFormat('LLLL yyyy');
export const sayWeekday = (ms: number, zone: string): string => at(ms, zone).toFormat('ccc');
export const sayHour = (ms: number, zone: string): string => at(ms, zone).toFormat('HH:mm');
export const sayDay = (date: string): string => DateTime.fromISO(date, { locale: 'en-GB' }).toFormat('d LLL');
/** A day with its weekday: 'Thu 24 Dec'. */
export const dayWords = (date: string): string =>
  DateTime.fromISO(date, { locale: 'en-GB' }).toFormat('ccc d LLL');
export const isoDate = (ms: number, zone: string): string => at(ms, zone).toFormat('yyyy-MM-dd');
/** The end of the working day of a date, as an instant. */
/** By which moments are sorted and written to a file: '2026-11-24 13:20', in factory time. */
export const isoMinute = (ms: number, zone: string): string => at(ms, zone).toFormat('yyyy-MM-dd HH:mm');

export const dueInstant = (date: string, zone: string): string =>
  DateTime.fromISO(`${date}T15:00`, { zone }).toUTC().toISO() ?? '';

/** Days late (+) or left (−) as a tag says it: '−2 d' is two days past due. */
export function lateTag(dueMs: number, nowMs: number): string | null {
  const days = Math.floor((nowMs - dueMs) / DAY_MS);
  return nowMs > dueMs ? `−${Math.max(1, days)} d` : null;
}

/** The starts of the factory days after now, with their names. */
export function daysAhead(nowMs: number, zone: string, count: number): { ms: number; name: string }[] {
  const start = at(nowMs, zone).startOf('day');
  return Array.from({ length: count }, (_, i) => {
    const day = start.plus({ days: i + 1 });
    return { ms: day.toMillis(), name: day.toFormat('ccc') };
  });
}

/** The factory's clock, moved on from the last answer of the server; turns every ten seconds. */
export function useFactoryNow(answer: { nowMs: number } | undefined, receivedAtMs: number): number {
  const [browserMs, setBrowserMs] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setBrowserMs(Date.now()), 10_000);
    return () => clearInterval(timer);
  }, []);
  return answer ? answer.nowMs + Math.max(0, browserMs - receivedAtMs) : browserMs;
}

/** A day of the month, for axes: '24 Nov'. */
export const sayDayOf = (ms: number, zone: string): string => at(ms, zone).toFormat('d LLL');
