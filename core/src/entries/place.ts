import {
  changed,
  choose,
  isRefusal,
  type BatchState,
  type Entry,
  type Outcome,
  type PlaceBody,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';
/** Pieces laid in a press, carousel or table; how many it holds is the server's to know, who sees every batch. */
export function place(state: BatchState, route: Route, entry: Entry, body: PlaceBody): Outcome {
  const lies = (operation: Operation): boolean => operation.mode === 'hold' || operation.mode === 'load';
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold', 'inHand'],
    at: lies,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  return changed(state, entry, chosen, (piece) => ({ ...piece, bed: body.bed }));
}
