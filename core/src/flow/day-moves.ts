import { hasLeft, cameMs, type PieceState } from '../ledger/index.ts';
import { operationOf, plannedHoldHours, workMinutes, type Operation, type Route } from '../route/index.ts';
import type { Stay, StayStatus } from '../stays/index.ts';
import { HOUR_MS } from '../units/quantities.ts';

/** What moved an earliest day. `not begun`: no rack had it; `partner`: it waited for what it is joined with. */
export type MoveCause = 'not begun' | 'waiting' | 'partner' | 'work' | 'hold' | 'called' | 'sent back';

/** By how much one thing moved it, from when to when. */
export interface DayMove {
  cause: MoveCause;
  /** Rack, and key of the operation; null: before there was a rack. */
  batch: string | null;
  operation: string | null;
  fromMs: number;
  toMs: number;
  /** Later, in milliseconds; below nothing: sooner. */
  movedMs: number;
  /** Why it was sent back or called, as it was said. */
  reason: string | null;
}

/** What a piece was in, as far as its way goes. */
export type StayOnWay = Pick<Stay, 'operation' | 'status' | 'rule' | 'fromMs' | 'toMs' | 'ended' | 'reason'>;

/** One route on the way of a piece: a part's, then that of the instrument it becomes. */
export interface Leg {
  /** Null: no rack has it yet. */
  batch: string | null;
  route: Route;
  /** In the order in which they ended; what has not ended last, up to now. */
  stays: readonly StayOnWay[];
}

/**
 * Why the earliest day of a piece is not what it was at an earlier moment: what each of its stays since then took beyond the
 * route's own times (holds by the wall clock, work in shifts), and what it was sent back for. The moves add up exactly to the
 * difference, since each is the earliest day after a stay less the one before it. Those of one operation and cause are one.
 * @param options.legs the routes in the order of the way, the last of them the one it leaves by.
 * @param options.pieces that go together, by which the route's own times count.
 * @param options.endMs its earliest day as it is reckoned now.
 * @returns `startMs`: its earliest day as it was at `fromMs`; the moves, greatest first, later ones before sooner ones.
 */
export function dayMoves(options: {
  legs: readonly Leg[];
  pieces: number;
  fromMs: number;
  nowMs: number;
  endMs: number;
  /** So many minutes of working time after a moment. */
  add: (fromMs: number, minutes: number) => number;
}): { startMs: number; moves: DayMove[] } {
  const { legs, pieces, fromMs, nowMs, endMs, add } = options;
  const after = (operation: Operation, atMs: number): number =>
    operation.mode === 'hold'
      ? atMs + plannedHoldHours(operation) * HOUR_MS
      : add(atMs, workMinutes(operation, pieces));
  /** The earliest day of what came to an operation at `cameAtMs` and is still there at `atMs`. */
  const earliest = (leg: number, index: number, cameAtMs: number, atMs: number): number => {
    const [here, ...rest] = legs
      .slice(leg)
      .flatMap(({ route: { operations } }, i) => operations.slice(i === 0 ? index : 0));
    if (!here) return atMs;
    const throughMs = here.mode === 'hold' ? Math.max(atMs, after(here, cameAtMs)) : after(here, atMs);
    return rest.reduce((ms, operation) => after(operation, ms), throughMs);
  };
  const stays = legs.flatMap(({ batch, route, stays: own }, leg) =>
    own.flatMap((stay) => {
      const index = route.operations.findIndex(({ key }) => key === stay.operation);
      // What ended before is not why; what is not on its route any more is told with the stay before it.
      return stay.toMs <= fromMs || index < 0 ? [] : [{ ...stay, leg, batch, index }];
    }),
  );
  const [first] = stays;
  const moves: DayMove[] = [];
  const begun = first !== undefined && first.fromMs <= fromMs;
  const start = begun
    ? earliest(first.leg, first.index, first.fromMs, fromMs)
    : earliest(0, 0, fromMs, fromMs);
  /** When it came to where it is, and what its earliest day was then. */
  let point = { atMs: first?.fromMs ?? nowMs, endMs: start };
  if (!begun) {
    const openedMs = first ? earliest(first.leg, first.index, first.fromMs, first.fromMs) : endMs;
    const none = { cause: 'not begun' as const, batch: null, operation: null, reason: null };
    moves.push({ ...none, fromMs, toMs: first?.fromMs ?? nowMs, movedMs: openedMs - start });
    point = { ...point, endMs: openedMs };
  }
  for (const [i, stay] of stays.entries()) {
    const { leg, index, batch, operation } = stay;
    const next = stays[i + 1];
    const said = { batch, operation, fromMs: Math.max(fromMs, stay.fromMs), toMs: stay.toMs };
    const sentBack = stay.ended === 'sent back' && next !== undefined;
    const goesOn = !sentBack && next?.leg === leg && next.index === index;
    const cameAtMs = goesOn ? point.atMs : (next?.fromMs ?? nowMs);
    const nextMs = next ? earliest(next.leg, next.index, cameAtMs, next.fromMs) : endMs;
    const stayedMs = sentBack ? earliest(leg, index, point.atMs, stay.toMs) : nextMs;
    const before = stays[i - 1];
    const called = stay.rule !== 'called' ? null : before?.ended === 'held' ? before.reason : stay.reason;
    moves.push({ ...said, cause: causeOf(legs[leg], stay), movedMs: stayedMs - point.endMs, reason: called });
    if (sentBack)
      moves.push({ ...said, cause: 'sent back', movedMs: nextMs - stayedMs, reason: stay.reason });
    point = { atMs: cameAtMs, endMs: nextMs };
  }
  return { startMs: start, moves: together(moves) };
}

function causeOf(leg: Leg | undefined, { operation, status, rule }: StayOnWay): MoveCause {
  if (status === 'inHand') return 'work';
  if (status === 'onHold') return rule === 'called' ? 'called' : 'hold';
  return leg && operationOf(leg.route, operation).mode === 'join' ? 'partner' : 'waiting';
}

/** Moves of one operation and cause as one; greatest first. */
function together(moves: readonly DayMove[]): DayMove[] {
  const by = new Map<string, DayMove>();
  for (const move of moves) {
    const key = `${move.batch}|${move.operation}|${move.cause}|${move.reason}`;
    const there = by.get(key);
    by.set(key, there ? { ...there, toMs: move.toMs, movedMs: there.movedMs + move.movedMs } : move);
  }
  return [...by.values()].filter(({ movedMs }) => movedMs !== 0).toSorted((a, b) => b.movedMs - a.movedMs);
}

/** What a piece is in now, as a stay that goes on; undefined: it has left its route. */
export function stayNow(piece: PieceState, nowMs: number): StayOnWay | undefined {
  if (hasLeft(piece)) return undefined;
  return {
    operation: piece.operation,
    status: piece.standing as StayStatus,
    rule: piece.called ? 'called' : null,
    ...{ fromMs: cameMs(piece), toMs: Math.max(nowMs, cameMs(piece)) },
    ...{ ended: 'passed', reason: piece.called?.reason ?? null },
  };
}
