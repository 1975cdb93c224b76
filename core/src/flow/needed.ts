import { plannedHoldHours, workMinutes, type Operation, type Route } from '../route/index.ts';
import { addWorkingMinutes, type FactoryCalendar } from '../time/calendar.ts';
import type { WorkingClock } from '../time/working-clock.ts';
import { HOUR_MS } from '../units/quantities.ts';

/**
 * When an operation must be done at the latest, so that what comes after it — by the route's own times, and those of the
 * instrument it becomes part of — can still meet the due date. Nothing else standing in the way, so a latest moment, not a
 * plan. Worked out forwards from the due date and taken back, which is exact where shifts repeat week by week.
 */
export function neededMs(options: {
  route: Route;
  /** Key of the operation. */
  operation: string;
  pieces: number;
  dueMs: number;
  calendar: FactoryCalendar;
  /** Route of what a join makes of it; null: it ships as it is. */
  then: Route | null;
  /** The calendar laid out from the due date or earlier, where many batches are asked about. */
  clock?: WorkingClock;
}): number {
  const { route, operation, pieces, dueMs, calendar, then, clock } = options;
  const add = clock?.add ?? ((fromMs, minutes) => addWorkingMinutes(calendar, fromMs, minutes));
  const at = route.operations.findIndex(({ key }) => key === operation);
  if (at < 0) throw new RangeError(`neededMs: route ${route.id} has no operation '${operation}'`);
  const rest: Operation[] = [...route.operations.slice(at + 1), ...(then?.operations ?? [])];
  let atMs = dueMs;
  for (const next of rest) {
    atMs =
      next.mode === 'hold' ? atMs + plannedHoldHours(next) * HOUR_MS : add(atMs, workMinutes(next, pieces));
  }
  return dueMs - (atMs - dueMs);
}
