import {
  isRefusal,
  refuse,
  type Applied,
  type BatchState,
  type Effect,
  type Refusal,
} from '../ledger/index.ts';
import { workedRoute, type Route, type Ways } from '../route/index.ts';
import type { Entry } from './kinds.ts';
import { applyEntry } from './reduce.ts';
import type { UndoBody } from './undo.ts';

/** Every route a log names, as drawn, by id. */
export type RouteBook = (routeId: string) => Route;

/** The route a batch works: of its id, by its ways. A single route stands for a book of one. */
export function routeIn(
  routes: Route | RouteBook,
  { routeId, ways }: { routeId: string; ways?: Ways | undefined },
): Route {
  return workedRoute(typeof routes === 'function' ? routes(routeId) : routes, ways);
}

/** Ids of the routes a log names. */
export const routesNamed = (log: readonly Entry[]): string[] => [
  ...new Set(
    log.flatMap(({ body }) => (body.type === 'open' || body.type === 'reroute' ? [body.routeId] : [])),
  ),
];

/** Sequence numbers taken back by the corrections in a log. */
export function voidedBy(log: readonly Entry[]): Set<number> {
  return new Set(log.flatMap((entry) => (entry.body.type === 'undo' ? entry.body.voids : [])));
}

/**
 * The state a batch's whole log gives: every entry that is neither a correction nor taken back, in sequence.
 * Null when nothing is left of it. A refusal means the log does not hold together without what was taken back.
 */
export function replay(
  routes: Route | RouteBook,
  log: readonly Entry[],
): BatchState | null | (Refusal & { seq: number }) {
  const voided = voidedBy(log);
  let state: BatchState | null = null;
  for (const entry of log) {
    if (entry.body.type === 'undo' || voided.has(entry.seq)) continue;
    const outcome = applyLogged(state, routes, entry);
    if (isRefusal(outcome)) return { ...outcome, seq: entry.seq };
    state = outcome.state;
  }
  return state;
}

/** One entry applied with the routes it needs. */
export function applyLogged(
  state: BatchState | null,
  routes: Route | RouteBook,
  entry: Entry,
): Applied | Refusal {
  const { body } = entry;
  const named = state ?? (body.type === 'open' ? body : null);
  if (!named) return refuse('unknown-batch', 'this batch is not open');
  const moved = body.type === 'reroute' ? routeIn(routes, body) : undefined;
  return applyEntry(state, routeIn(routes, named), entry, moved);
}

export interface Corrected {
  state: BatchState | null;
  effect: Effect;
}

/**
 * Takes entries back: the batch replayed without them, or a refusal that names the later entry which still needs
 * them. A correction cannot be corrected: file again what it took back.
 */
export function applyUndo(
  routes: Route | RouteBook,
  log: readonly Entry[],
  entry: Entry & { body: UndoBody },
): Corrected | Refusal {
  const voided = voidedBy(log);
  for (const seq of entry.body.voids) {
    const target = log.find((candidate) => candidate.seq === seq);
    if (!target) return refuse('nothing-to-undo', `there is no entry ${seq} to take back`);
    if (target.body.type === 'undo') {
      return refuse('undo-of-undo', `entry ${seq} is itself a correction: file again what it took back`);
    }
    if (voided.has(seq)) return refuse('nothing-to-undo', `entry ${seq} is already taken back`);
  }
  const state = replay(routes, [...log, entry]);
  if (isRefusal(state)) {
    const needs = `entry ${state.seq} came after and needs it (${state.refused}): take that back first`;
    return refuse('undo-needed-by-later', needs);
  }
  return { state, effect: { operation: null, station: null, positions: [] } };
}
