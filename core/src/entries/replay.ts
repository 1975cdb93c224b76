import {
  isRefusal,
  refuse,
  replayed,
  takenBack,
  type Applied,
  type BatchState,
  type Effect,
  type Ledger,
  type Refusal,
  type Replayed,
} from '../ledger/index.ts';
import { workedRoute, type Route, type Ways } from '../route/index.ts';
import type { Entry, EntryBody } from './kinds.ts';
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

/** How batches come out of their logs. */
const batchLedger = (routes: Route | RouteBook): Ledger<BatchState, EntryBody> => ({
  apply(state, entry) {
    const outcome = applyLogged(state, routes, entry);
    return isRefusal(outcome) ? outcome : outcome.state;
  },
});

/**
 * The state a batch's whole log gives: every entry that is neither a correction nor taken back, in sequence.
 * Null when nothing is left of it. A refusal means the log does not hold together without what was taken back.
 * @param each is told what every entry made of the batch.
 */
export const replay = (
  routes: Route | RouteBook,
  log: readonly Entry[],
  each?: (before: BatchState | null, after: BatchState, entry: Entry) => void,
): Replayed<BatchState> => replayed(batchLedger(routes), log, each);

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
  const state = takenBack(batchLedger(routes), log, entry);
  if (isRefusal(state)) return state;
  return { state, effect: { operation: null, station: null, positions: [] } };
}
