import { hasLeft, type BatchState } from '../ledger/index.ts';
import { operationIndex, plannedHoldHours, workMinutes, type Operation, type Route } from '../route/index.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { workingClock, type WorkingClock } from '../time/working-clock.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';

/** One of the two choices when pieces go back: when the rack is through its route, and when those that went back are. */
export interface SendBackChoice {
  rackEndMs: number;
  sentEndMs: number;
  /** Past the due date, days: of the rack, and of the pieces that went back. */
  rackLateDays: number;
  sentLateDays: number;
}

/** What sending pieces back costs, by the route's own times. */
export interface SendBackCosts {
  /** When they are again where they were sent from. */
  backMs: number;
  loopDays: number;
  /** Pieces that did not go back. */
  rest: number;
  /** The rack waits for them: everything later by the loop, one set-up at each station. */
  waits: SendBackChoice;
  /** The rack goes on: they come after it, and every station ahead is set up twice. */
  goesOn: SendBackChoice & { setUpMinutes: number };
}

/**
 * What it costs when some pieces go back from one operation to an earlier one: whether the rest of the rack waits for them or
 * goes on. By planned hours and minutes with nothing else in the way: both choices are lower bounds, their difference is what
 * counts.
 * @throws RangeError when the route lacks one of the operations, the target does not come first, or no piece is sent.
 */
export function sendBackCosts(options: {
  state: BatchState;
  route: Route;
  from: string;
  to: string;
  positions: readonly number[];
  calendar: FactoryCalendar;
  nowMs: number;
  clock?: WorkingClock;
  /** When the hold that the rest of the rack is in ends, by its own clock, where it is in one; null or absent: nobody can say. */
  holdEndMs?: number | null;
}): SendBackCosts {
  const { state, route, from, to, positions, calendar, nowMs, holdEndMs = null } = options;
  const clock = options.clock ?? workingClock(calendar, nowMs);
  const [fromIndex, toIndex] = [operationIndex(route, from), operationIndex(route, to)];
  if (fromIndex < 0 || toIndex < 0 || toIndex > fromIndex)
    throw new RangeError(`sendBackCosts: '${to}' does not come before '${from}' on ${route.id}`);
  if (positions.length === 0) throw new RangeError('sendBackCosts: no piece is sent back');
  const along = (operations: readonly Operation[], atMs: number, pieces: number): number =>
    operations.reduce(
      (ms, operation) =>
        operation.mode === 'hold'
          ? ms + plannedHoldHours(operation) * HOUR_MS
          : clock.add(ms, workMinutes(operation, pieces), operation.stations[0]),
      atMs,
    );
  const sent = positions.length;
  const rest = state.pieces.filter(
    (piece) => !hasLeft(piece) && piece.operation === from && !positions.includes(piece.position),
  ).length;
  const ahead = route.operations.slice(fromIndex);
  const backMs = along(route.operations.slice(toIndex, fromIndex), nowMs, sent);
  const choice = (rackEndMs: number, sentEndMs: number): SendBackChoice => ({
    rackEndMs,
    sentEndMs,
    rackLateDays: Math.max(0, (rackEndMs - state.dueMs) / DAY_MS),
    sentLateDays: Math.max(0, (sentEndMs - state.dueMs) / DAY_MS),
  });
  const together = along(ahead, backMs, sent + rest);
  const alone = along(ahead, backMs, sent);
  /** The rest does not begin its hold anew: it has what is left of it. */
  const onward = (): number =>
    ahead[0]?.mode === 'hold' && holdEndMs !== null
      ? along(ahead.slice(1), Math.max(nowMs, holdEndMs), rest)
      : along(ahead, nowMs, rest);
  return {
    backMs,
    loopDays: (backMs - nowMs) / DAY_MS,
    rest,
    waits: choice(together, together),
    goesOn: {
      ...choice(rest === 0 ? alone : onward(), alone),
      setUpMinutes: ahead.reduce((sum, one) => sum + (one.mode === 'hold' ? 0 : one.setUpMinutes), 0),
    },
  };
}
