import { DAY_MS, MINUTE_MS } from '../units/quantities.ts';
import {
  addWorkingMinutes,
  factoryDate,
  shiftDate,
  stationCalendar,
  workingMinutesBetween,
  workingSpansOfDay,
  type FactoryCalendar,
} from './calendar.ts';

/** Days laid out at most; what lies further ahead is asked of the calendar itself. */
const MOST_DAYS = 400;

/** Working time from one moment on, laid out once: for plans that add to it thousands of times. */
export interface WorkingClock {
  /**
   * `minutes` of working time after an instant; with 0, the instant itself or the next start of work.
   * @param station its code, where the work is done at one that may have evenings of its own
   */
  add: (fromMs: number, minutes: number, station?: string) => number;
  /** Minutes of working time between two instants, the second not before the first. */
  between: (fromMs: number, toMs: number) => number;
}

interface Span {
  startMs: number;
  endMs: number;
  /** Minutes worked up to its start. */
  before: number;
}

/** Working spans from a day on, laid out as far as anybody asked. */
class Layout {
  private readonly spans: Span[] = [];
  private days = 0;

  constructor(
    private readonly calendar: FactoryCalendar,
    private day: string,
  ) {}

  /** The first span that `reached` says yes to, when it says no to all before; undefined beyond what may be laid out. */
  find(reached: (span: Span) => boolean): Span | undefined {
    for (;;) {
      let [low, high] = [0, this.spans.length];
      while (low < high) {
        const middle = (low + high) >> 1;
        const span = this.spans[middle];
        if (span && reached(span)) high = middle;
        else low = middle + 1;
      }
      const found = this.spans[low];
      if (found) return found;
      if (this.days >= MOST_DAYS) return undefined;
      this.grow();
    }
  }

  /** Minutes worked up to an instant; undefined beyond what may be laid out. */
  worked(atMs: number): number | undefined {
    const span = this.find(({ endMs }) => endMs > atMs);
    return span && span.before + Math.max(0, atMs - span.startMs) / MINUTE_MS;
  }

  private grow(): void {
    for (const span of workingSpansOfDay(this.calendar, this.day)) {
      const last = this.spans[this.spans.length - 1];
      const before = last ? last.before + (last.endMs - last.startMs) / MINUTE_MS : 0;
      if (span.endMs > span.startMs) this.spans.push({ ...span, before });
    }
    this.day = shiftDate(this.day, 1);
    this.days += 1;
  }
}

/** The layout that was asked for last: all who plan today begin on one day. */
const laidOut = new WeakMap<FactoryCalendar, { from: string; layout: Layout }>();

function layoutFrom(calendar: FactoryCalendar, from: string): Layout {
  const known = laidOut.get(calendar);
  if (known?.from === from) return known.layout;
  const layout = new Layout(calendar, from);
  laidOut.set(calendar, { from, layout });
  return layout;
}

/**
 * A clock that counts working minutes like addWorkingMinutes, without asking the calendar anew each time.
 * It throws a RangeError for minutes below 0, an instant before `startMs`, or a calendar without work; `between` for an end before
 * its beginning.
 */
export function workingClock(calendar: FactoryCalendar, startMs: number): WorkingClock {
  const layout = layoutFrom(calendar, shiftDate(factoryDate(calendar, startMs), -1));
  const owned = new Map<string, WorkingClock | undefined>();
  /** The clock of a station that has evenings of its own; undefined: it works as the house does. */
  const ownClock = (station: string): WorkingClock | undefined => {
    if (!owned.has(station)) {
      const own = stationCalendar(calendar, station);
      owned.set(station, own === calendar ? undefined : workingClock(own, startMs));
    }
    return owned.get(station);
  };
  const horizonMs = startMs + (MOST_DAYS - 2) * DAY_MS;
  const byCalendar = (fromMs: number, minutes: number): number =>
    minutes === 0
      ? addWorkingMinutes(calendar, fromMs, 1) - MINUTE_MS
      : addWorkingMinutes(calendar, fromMs, minutes);
  return {
    add: (fromMs, minutes, station) => {
      if (!(minutes >= 0)) throw new RangeError(`workingClock: minutes must be 0 or more, got ${minutes}`);
      const own = station === undefined ? undefined : ownClock(station);
      if (own) return own.add(fromMs, minutes);
      if (fromMs < startMs) throw new RangeError('workingClock: asked about a time before its start');
      const span = fromMs < horizonMs ? layout.find(({ endMs }) => endMs > fromMs) : undefined;
      if (!span) return byCalendar(fromMs, minutes);
      const atMs = Math.max(span.startMs, fromMs);
      const worked = span.before + (atMs - span.startMs) / MINUTE_MS + minutes;
      if (minutes === 0) return atMs;
      const end = layout.find(
        ({ startMs: from, endMs, before }) => before + (endMs - from) / MINUTE_MS >= worked,
      );
      if (!end) return byCalendar(fromMs, minutes);
      return end.startMs + (worked - end.before) * MINUTE_MS;
    },
    between: (fromMs, toMs) => {
      if (fromMs < startMs || toMs < fromMs)
        throw new RangeError(
          'workingClock: asked about a time before its start, or an end before its beginning',
        );
      const from = toMs < horizonMs ? layout.worked(fromMs) : undefined;
      const to = from === undefined ? undefined : layout.worked(toMs);
      return from === undefined || to === undefined
        ? workingMinutesBetween(calendar, fromMs, toMs)
        : to - from;
    },
  };
}
