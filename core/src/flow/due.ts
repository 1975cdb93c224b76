import { hasLeft, type BatchState } from '../ledger/index.ts';
import { operationIndex, plannedHoldHours, workMinutes, type Route } from '../route/index.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { workingClock, type WorkingClock } from '../time/working-clock.ts';
import { HOUR_MS } from '../units/quantities.ts';

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
  /** Only up to this operation: when it could come there; to the end of the route when left out. */
  upTo?: string;
  /** The calendar laid out from now on, where many batches are asked about. */
  clock?: WorkingClock;
}): number | null {
  const { state, route, calendar, nowMs, holds, upTo, clock = workingClock(calendar, nowMs) } = options;
  const here = state.pieces.filter((piece) => !hasLeft(piece));
  if (here.length === 0) return null;
  const last = Math.min(...here.map((piece) => operationIndex(route, piece.operation)));
  let atMs = nowMs;
  const end = upTo === undefined ? undefined : operationIndex(route, upTo);
  route.operations.slice(last, end).forEach((operation, ahead) => {
    if (operation.mode !== 'hold') {
      atMs = clock.add(atMs, workMinutes(operation, here.length), operation.stations[0]);
      return;
    }
    const ends = ahead === 0 ? (holds.find((hold) => hold.operation === operation.key)?.endMs ?? null) : null;
    atMs = ends === null ? atMs + plannedHoldHours(operation) * HOUR_MS : Math.max(atMs, ends);
  });
  return atMs;
}

/**
 * The earliest so many pieces could be through a route that begins at a moment, if nothing else stood in their way: its holds by
 * the wall clock, its work in shifts, by the route's own times. A lower bound, not a promise.
 */
export function endOfRouteMs(options: {
  route: Route;
  pieces: number;
  fromMs: number;
  calendar: FactoryCalendar;
  clock?: WorkingClock;
}): number {
  const { route, pieces, fromMs, calendar, clock = workingClock(calendar, fromMs) } = options;
  return route.operations.reduce(
    (atMs, operation) =>
      operation.mode === 'hold'
        ? atMs + plannedHoldHours(operation) * HOUR_MS
        : clock.add(atMs, workMinutes(operation, pieces), operation.stations[0]),
    fromMs,
  );
}
