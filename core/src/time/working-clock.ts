import { DAY_MS, MINUTE_MS } from '../units/quantities.ts';
import {
  addWorkingMinutes,
  factoryDate,
  shiftDate,
  workingSpansOfDay,
  type FactoryCalendar,
} from './calendar.ts';

/** Days laid out at most; what lies further ahead is asked of the calendar itself. */
const MOST_DAYS = 400;

/** Working time from one moment on, laid out once: for plans that add to it thousands of times. */
export interface WorkingClock {
  /** `minutes` of working time after an instant; with 0, the instant itself or the next start of work. */
  add: (fromMs: number, minutes: number) => number;
}

/**
 * A clock that counts working minutes like addWorkingMinutes, without asking the calendar anew each time.
 * Its `add` throws a RangeError for minutes below 0, an instant before `startMs`, or a calendar without work.
 */
export function workingClock(calendar: FactoryCalendar, startMs: number): WorkingClock {
  /** Ends of the spans known so far, and the minutes worked up to the end of each. */
  const spans: { startMs: number; endMs: number; before: number }[] = [];
  let day = shiftDate(factoryDate(calendar, startMs), -1);
  let days = 0;
  const grow = (): void => {
    for (const span of workingSpansOfDay(calendar, day)) {
      const last = spans[spans.length - 1];
      const before = last ? last.before + (last.endMs - last.startMs) / MINUTE_MS : 0;
      if (span.endMs > span.startMs) spans.push({ ...span, before });
    }
    day = shiftDate(day, 1);
    days += 1;
  };
  /** The first span that ends after what `reached` asks for; undefined beyond what is laid out. */
  const find = (reached: (span: (typeof spans)[number]) => boolean): (typeof spans)[number] | undefined => {
    for (;;) {
      let [low, high] = [0, spans.length];
      while (low < high) {
        const middle = (low + high) >> 1;
        const span = spans[middle];
        if (span && reached(span)) high = middle;
        else low = middle + 1;
      }
      const found = spans[low];
      if (found) return found;
      if (days >= MOST_DAYS) return undefined;
      grow();
    }
  };
  const horizonMs = startMs + (MOST_DAYS - 2) * DAY_MS;
  const byCalendar = (fromMs: number, minutes: number): number =>
    minutes === 0
      ? addWorkingMinutes(calendar, fromMs, 1) - MINUTE_MS
      : addWorkingMinutes(calendar, fromMs, minutes);
  return {
    add: (fromMs, minutes) => {
      if (!(minutes >= 0)) throw new RangeError(`workingClock: minutes must be 0 or more, got ${minutes}`);
      if (fromMs < startMs) throw new RangeError('workingClock: asked about a time before its start');
      const span = fromMs < horizonMs ? find(({ endMs }) => endMs > fromMs) : undefined;
      if (!span) return byCalendar(fromMs, minutes);
      const atMs = Math.max(span.startMs, fromMs);
      const worked = span.before + (atMs - span.startMs) / MINUTE_MS + minutes;
      if (minutes === 0) return atMs;
      const end = find(({ startMs: from, endMs, before }) => before + (endMs - from) / MINUTE_MS >= worked);
      if (!end) return byCalendar(fromMs, minutes);
      return end.startMs + (worked - end.before) * MINUTE_MS;
    },
  };
}
