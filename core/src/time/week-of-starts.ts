import { addWorkingMinutes, workingMinutesBetween, type FactoryCalendar } from './calendar.ts';

const WEEK_MS = 7 * 24 * 60 * 60 * 1000;
/**
 * Moments at which work may begin, spread evenly over the working time of the week after an instant, ms: what takes as long
 * whenever it begins is then told alike on a Monday and on a Friday afternoon, the better the more there are of them. The instant
 * itself where nobody works that week.
 */
export function weekOfStarts(calendar: FactoryCalendar, fromMs: number, starts: number): number[] {
  const minutes = workingMinutesBetween(calendar, fromMs, fromMs + WEEK_MS);
  if (minutes <= 0) return [fromMs];
  return Array.from({ length: starts }, (_, i) =>
    addWorkingMinutes(calendar, fromMs, (minutes * (i + 0.5)) / starts),
  );
}
