import { DateTime } from 'luxon';
import { DAY_MS, MINUTE_MS } from '../units/quantities.ts';

/** A span of wall-clock time, 'HH:mm'. An end at or before the start lies on the next day (a night shift). */
export interface WallSpan {
  start: string;
  end: string;
}

/** One shift as it stands on the notice board. */
export interface Shift extends WallSpan {
  name: string;
  /** ISO weekdays on which the shift starts: 1 Monday … 7 Sunday. */
  weekdays: number[];
  breaks: WallSpan[];
  /** The first and the last day on which it may start, 'YYYY-MM-DD'; absent: it always did, it always will. */
  fromDay?: string;
  untilDay?: string;
}

/** An extra working span on a single day. */
export interface Overtime extends WallSpan {
  date: string;
  /** Codes of the stations that work it; absent: the whole house. */
  stations?: string[];
}

/** When the factory works. Times are wall-clock times in `zone`. */
export interface FactoryCalendar {
  /** IANA time zone. */
  zone: string;
  shifts: Shift[];
  /** Days without any shift, 'YYYY-MM-DD'. A shift that began the evening before still ends. */
  closedDays: string[];
  overtime: Overtime[];
}

/** A stretch of working time between two instants, ms since 1970 UTC: start included, end not. */
export interface WorkingSpan {
  startMs: number;
  endMs: number;
  shift: string;
}

/** A year without a single shift is a calendar nobody can plan with. */
const LONGEST_SEARCH_DAYS = 366;

const spansByDay = new WeakMap<FactoryCalendar, Map<string, WorkingSpan[]>>();

/**
 * The working spans of the shifts that *start* on one factory day, breaks taken out, overlaps merged, in order.
 *
 * Clock changes: spans are built from wall times, so a 22:00–06:00 shift is 7 h long in the night the clock
 * goes forward and 9 h in the night it goes back. A wall time that does not exist (inside the spring gap) means
 * the instant the same distance after the gap began; one that exists twice means its first occurrence.
 */
export function workingSpansOfDay(calendar: FactoryCalendar, date: string): WorkingSpan[] {
  let days = spansByDay.get(calendar);
  if (!days) spansByDay.set(calendar, (days = new Map<string, WorkingSpan[]>()));
  let spans = days.get(date);
  if (!spans) days.set(date, (spans = computeSpans(calendar, date)));
  return spans;
}

function computeSpans(calendar: FactoryCalendar, date: string): WorkingSpan[] {
  const midnight = DateTime.fromISO(date, { zone: calendar.zone });
  if (!midnight.isValid)
    throw new RangeError(`workingSpansOfDay: '${date}' is not a date in ${calendar.zone}`);
  const spans = startingOn(calendar, date, midnight).flatMap((shift) => withoutBreaks(midnight, shift));
  for (const extra of calendar.overtime) {
    if (extra.date === date && !extra.stations)
      spans.push({ ...instants(midnight, extra), shift: 'overtime' });
  }
  return merged(spans);
}

/** The shifts that start on a day. */
function startingOn(calendar: FactoryCalendar, date: string, midnight: DateTime): Shift[] {
  if (calendar.closedDays.includes(date)) return [];
  return shiftsOn(calendar, date).filter(({ weekdays }) => weekdays.includes(midnight.weekday));
}

/** The shifts that are in force on a day, whatever weekday it is. */
export const shiftsOn = ({ shifts }: { shifts: readonly Shift[] }, date: string): Shift[] =>
  shifts.filter(({ fromDay = date, untilDay = date }) => fromDay <= date && date <= untilDay);

const byStation = new WeakMap<FactoryCalendar, Map<string, FactoryCalendar>>();

/** The calendar one station works by: the house's, and the evenings that are its own. The house's itself where it has none. */
export function stationCalendar(calendar: FactoryCalendar, station: string): FactoryCalendar {
  let known = byStation.get(calendar);
  if (!known) byStation.set(calendar, (known = new Map<string, FactoryCalendar>()));
  let own = known.get(station);
  if (!own) known.set(station, (own = ownCalendar(calendar, station)));
  return own;
}

function ownCalendar(calendar: FactoryCalendar, station: string): FactoryCalendar {
  if (!calendar.overtime.some(({ stations }) => stations?.includes(station))) return calendar;
  const overtime = calendar.overtime.flatMap(({ stations, ...span }) =>
    !stations || stations.includes(station) ? [span] : [],
  );
  return { ...calendar, overtime };
}

function instants(
  midnight: DateTime,
  span: WallSpan,
  notBefore?: string,
): { startMs: number; endMs: number } {
  const at = (wall: string, laterThan: string | undefined): number => {
    const [hour = NaN, minute = NaN] = wall.split(':').map(Number);
    if (!(hour >= 0 && hour <= 24 && minute >= 0 && minute < 60))
      throw new RangeError(`calendar: '${wall}' is not HH:mm`);
    const nextDay = laterThan !== undefined && wall <= laterThan;
    const day = midnight.plus({ days: nextDay ? 1 : 0 });
    if (hour === 24) return day.plus({ days: 1 }).toMillis();
    const local = DateTime.fromObject(
      { year: day.year, month: day.month, day: day.day, hour, minute },
      { zone: midnight.zone },
    );
    // Of a wall time that comes twice luxon takes either, by the offset in force today: always take the first.
    return Math.min(...local.getPossibleOffsets().map((possible) => possible.toMillis()));
  };
  const startsNextDay = notBefore !== undefined && span.start < notBefore;
  const startMs = at(span.start, startsNextDay ? notBefore : undefined);
  const endMs = startsNextDay ? at(span.end, notBefore) : at(span.end, span.start);
  return { startMs, endMs };
}

function withoutBreaks(midnight: DateTime, shift: Shift): WorkingSpan[] {
  const whole = instants(midnight, shift);
  let pieces: WorkingSpan[] = [{ ...whole, shift: shift.name }];
  for (const pause of shift.breaks) {
    const gap = instants(midnight, pause, shift.start);
    pieces = pieces.flatMap((span) =>
      gap.endMs <= span.startMs || gap.startMs >= span.endMs
        ? [span]
        : [
            { ...span, endMs: Math.max(span.startMs, gap.startMs) },
            { ...span, startMs: Math.min(span.endMs, gap.endMs) },
          ].filter((rest) => rest.endMs > rest.startMs),
    );
  }
  return pieces;
}

function merged(spans: WorkingSpan[]): WorkingSpan[] {
  const result: WorkingSpan[] = [];
  for (const span of [...spans].sort((a, b) => a.startMs - b.startMs || a.endMs - b.endMs)) {
    const last = result.at(-1);
    if (last && span.startMs < last.endMs) last.endMs = Math.max(last.endMs, span.endMs);
    else result.push({ ...span });
  }
  return result;
}

/** The factory's date ('YYYY-MM-DD') at an instant. */
export function factoryDate(calendar: Pick<FactoryCalendar, 'zone'>, atMs: number): string {
  return DateTime.fromMillis(atMs, { zone: calendar.zone }).toFormat('yyyy-MM-dd');
}

/** Asked for the same days thousands of times. */
const dayStarts = new WeakMap<object, Map<string, number>>();

/** The instant a factory day begins. */
export function startOfFactoryDay(calendar: Pick<FactoryCalendar, 'zone'>, date: string): number {
  let known = dayStarts.get(calendar);
  if (!known) dayStarts.set(calendar, (known = new Map<string, number>()));
  let startMs = known.get(date);
  if (startMs === undefined) {
    startMs = DateTime.fromISO(date, { zone: calendar.zone }).startOf('day').toMillis();
    known.set(date, startMs);
  }
  return startMs;
}

/** The factory date `days` later (or earlier). */
export function shiftDate(date: string, days: number): string {
  // Asked thousands of times: between dates there is no clock to change, so plain arithmetic does.
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
}

/** Working spans from the day before `fromMs` on (a night shift may still run), day by day, without end. */
function* spansFrom(calendar: FactoryCalendar, fromMs: number): Generator<WorkingSpan[]> {
  let date = shiftDate(factoryDate(calendar, fromMs), -1);
  for (;;) {
    yield workingSpansOfDay(calendar, date);
    date = shiftDate(date, 1);
  }
}

/**
 * Working minutes between two instants (ms UTC); negative when `toMs` is earlier.
 * @throws RangeError when an instant is not finite.
 */
export function workingMinutesBetween(calendar: FactoryCalendar, fromMs: number, toMs: number): number {
  if (!Number.isFinite(fromMs) || !Number.isFinite(toMs)) {
    throw new RangeError(`workingMinutesBetween: instants must be finite, got ${fromMs} and ${toMs}`);
  }
  if (toMs < fromMs) return -workingMinutesBetween(calendar, toMs, fromMs);
  let totalMs = 0;
  let coveredToMs = fromMs;
  let dayStartMs = fromMs - DAY_MS;
  for (const spans of spansFrom(calendar, fromMs)) {
    for (const span of spans) {
      const start = Math.max(span.startMs, coveredToMs);
      const end = Math.min(span.endMs, toMs);
      if (end > start) {
        totalMs += end - start;
        coveredToMs = end;
      }
    }
    dayStartMs += DAY_MS;
    if (dayStartMs > toMs + DAY_MS) break;
  }
  return totalMs / MINUTE_MS;
}

/**
 * The instant (ms UTC) at which `minutes` of working time have passed since `fromMs`.
 * Zero minutes from outside a shift is the start of the next one.
 * @throws RangeError when minutes are negative or not finite, or when no shift follows within a year.
 */
export function addWorkingMinutes(calendar: FactoryCalendar, fromMs: number, minutes: number): number {
  if (!(minutes >= 0) || !Number.isFinite(minutes)) {
    throw new RangeError(`addWorkingMinutes: minutes must be 0 or more, got ${minutes}`);
  }
  let leftMs = minutes * MINUTE_MS;
  let coveredToMs = fromMs;
  let idleDays = 0;
  for (const spans of spansFrom(calendar, fromMs)) {
    let worked = false;
    for (const span of spans) {
      const start = Math.max(span.startMs, coveredToMs);
      if (span.endMs <= start) continue;
      worked = true;
      if (leftMs <= span.endMs - start) return start + leftMs;
      leftMs -= span.endMs - start;
      coveredToMs = span.endMs;
    }
    idleDays = worked ? 0 : idleDays + 1;
    if (idleDays > LONGEST_SEARCH_DAYS)
      throw new RangeError('addWorkingMinutes: this calendar has no shift within a year');
  }
  throw new Error('unreachable: spansFrom never ends');
}

/** The working span that covers an instant, or undefined outside shifts and in breaks. */
export function workingSpanAt(calendar: FactoryCalendar, atMs: number): WorkingSpan | undefined {
  const today = factoryDate(calendar, atMs);
  return [...workingSpansOfDay(calendar, shiftDate(today, -1)), ...workingSpansOfDay(calendar, today)].find(
    (span) => span.startMs <= atMs && atMs < span.endMs,
  );
}

interface WholeShift {
  name: string;
  startMs: number;
  endMs: number;
}

const shiftsByDay = new WeakMap<FactoryCalendar, Map<string, WholeShift[]>>();

/** The shifts that start on one factory day, breaks included, in the calendar's order. */
function shiftsOfDay(calendar: FactoryCalendar, date: string): WholeShift[] {
  let days = shiftsByDay.get(calendar);
  if (!days) shiftsByDay.set(calendar, (days = new Map<string, WholeShift[]>()));
  let shifts = days.get(date);
  if (!shifts) {
    const midnight = DateTime.fromISO(date, { zone: calendar.zone });
    const on = startingOn(calendar, date, midnight);
    days.set(date, (shifts = on.map((shift) => ({ name: shift.name, ...instants(midnight, shift) }))));
  }
  return shifts;
}

/** The shift on at an instant, breaks included, with its end; undefined when the factory is closed. */
export function shiftAt(
  calendar: FactoryCalendar,
  atMs: number,
): { name: string; endMs: number } | undefined {
  const today = factoryDate(calendar, atMs);
  const on = [shiftDate(today, -1), today]
    .flatMap((date) => shiftsOfDay(calendar, date))
    .find(({ startMs, endMs }) => startMs <= atMs && atMs < endMs);
  if (on) return { name: on.name, endMs: on.endMs };
  const overtime = workingSpanAt(calendar, atMs);
  return overtime && { name: overtime.shift, endMs: overtime.endMs };
}

/** Working minutes of one factory day (the shifts that start on it). */
export function workingMinutesOfDay(calendar: FactoryCalendar, date: string): number {
  return workingSpansOfDay(calendar, date).reduce(
    (sum, span) => sum + (span.endMs - span.startMs) / MINUTE_MS,
    0,
  );
}

/** Longest time a works is thought to be closed in one piece, days. */
const MOST_CLOSED_DAYS = 366;

/** The working days on or before, and on or after a date; undefined where there is none within a year. */
export function nearestWorkingDays(
  calendar: FactoryCalendar,
  date: string,
): { before: string | undefined; after: string | undefined } {
  const walk = (step: 1 | -1): string | undefined => {
    let day = date;
    for (let i = 0; i < MOST_CLOSED_DAYS; i += 1, day = shiftDate(day, step))
      if (workingMinutesOfDay(calendar, day) > 0) return day;
    return undefined;
  };
  return { before: walk(-1), after: walk(1) };
}

/** Why nothing is due on a date, and the days it could be instead; undefined where the works are open. */
export function closedWords(calendar: FactoryCalendar, date: string): string | undefined {
  const { before, after } = nearestWorkingDays(calendar, date);
  if (after === date) return undefined;
  const say = (day: string): string => DateTime.fromISO(day, { locale: 'en-GB' }).toFormat('ccc d LLL');
  const instead = [before, after].flatMap((day) => (day === undefined ? [] : say(day)));
  return `the works are closed on ${say(date)}${instead.length > 0 ? `: ${instead.join(' or ')}?` : ''}`;
}

/** The instant of a clock time 'HH:mm' on the factory day of `nowMs`. It may lie ahead: the reducer refuses that. */
export function instantOfClock(
  calendar: Pick<FactoryCalendar, 'zone'>,
  nowMs: number,
  clock: string,
): number {
  const [hour = NaN, minute = NaN] = clock.split(':').map(Number);
  return DateTime.fromMillis(nowMs, { zone: calendar.zone })
    .set({ hour, minute, second: 0, millisecond: 0 })
    .toMillis();
}
