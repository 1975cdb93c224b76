import { MINUTE_MS } from '../units/quantities.ts';
import { factoryDate, shiftDate, workingSpansOfDay, type FactoryCalendar } from './calendar.ts';

/** Days looked ahead before a calendar is said to have no working time. */
const MOST_DAYS = 4000;

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
    if (days > MOST_DAYS) throw new RangeError('workingClock: the calendar has no working time ahead');
    for (const span of workingSpansOfDay(calendar, day)) {
      const last = spans[spans.length - 1];
      const before = last ? last.before + (last.endMs - last.startMs) / MINUTE_MS : 0;
      if (span.endMs > span.startMs) spans.push({ ...span, before });
    }
    day = shiftDate(day, 1);
    days += 1;
  };
  /** The first span that ends after what `reached` asks for. */
  const find = (reached: (span: (typeof spans)[number]) => boolean): (typeof spans)[number] => {
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
      grow();
    }
  };
  return {
    add: (fromMs, minutes) => {
      if (!(minutes >= 0)) throw new RangeError(`workingClock: minutes must be 0 or more, got ${minutes}`);
      if (fromMs < startMs) throw new RangeError('workingClock: asked about a time before its start');
      const span = find(({ endMs }) => endMs > fromMs);
      const atMs = Math.max(span.startMs, fromMs);
      const worked = span.before + (atMs - span.startMs) / MINUTE_MS + minutes;
      if (minutes === 0) return atMs;
      const end = find(({ startMs: from, endMs, before }) => before + (endMs - from) / MINUTE_MS >= worked);
      return end.startMs + (worked - end.before) * MINUTE_MS;
    },
  };
}
