import { addWorkingMinutes, type FactoryCalendar } from '../time/calendar.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { hasLeft, type BatchState } from '../routing/batch.ts';
import { operationIndex, operationOf, workMinutes, type Route } from '../routing/route.ts';

/** Drying time planned for a rack nobody has read yet, hours. Default. */
const UNREAD_DRYING_HOURS = 7 * 24;

/** Hours on the wall a hold of this route is planned to take, from its start, at reference conditions. */
function plannedHoldHours(route: Route, key: string): number {
  const operation = operationOf(route, key);
  if (operation.mode !== 'hold') return 0;
  const { rule } = operation;
  switch (rule.rule) {
    case 'elapsed':
    case 'settle':
      return rule.hours;
    case 'cure':
      return rule.referenceHours;
    case 'moisture':
      return UNREAD_DRYING_HOURS;
  }
}

/**
 * The earliest a batch could leave its route if nothing else stood in its way: its slowest piece, through the rest of
 * the holds (wall clock) and work (shifts), by the route's own times. A lower bound, not a promise.
 */
export function earliestEndMs(options: {
  state: BatchState;
  route: Route;
  calendar: FactoryCalendar;
  nowMs: number;
  /** Forecast ends of the holds its pieces are in, as already worked out; the first of each operation counts. */
  holds: readonly { operation: string; endMs: number | null }[];
}): number | null {
  const { state, route, calendar, nowMs, holds } = options;
  const here = state.pieces.filter((piece) => !hasLeft(piece));
  if (here.length === 0) return null;
  const last = Math.min(...here.map((piece) => operationIndex(route, piece.operation)));
  let atMs = nowMs;
  route.operations.slice(last).forEach((operation, ahead) => {
    if (operation.mode !== 'hold') {
      atMs = addWorkingMinutes(calendar, atMs, workMinutes(operation, here.length));
      return;
    }
    const end = ahead === 0 ? (holds.find((hold) => hold.operation === operation.key)?.endMs ?? null) : null;
    atMs = end === null ? atMs + plannedHoldHours(route, operation.key) * HOUR_MS : Math.max(atMs, end);
  });
  return atMs;
}
