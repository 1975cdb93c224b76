import {
  changed,
  choose,
  isRefusal,
  offTheTable,
  overriding,
  type BatchState,
  type Entry,
  type Outcome,
  type PieceState,
  type ShipBody,
} from '../ledger/index.ts';
import { limitsBroken } from '../measuring/index.ts';
import type { Operation, Route } from '../route/index.ts';

export function ship(state: BatchState, route: Route, entry: Entry, body: ShipBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'ship';
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const broken = limitsBroken(state, route, chosen);
  if (broken && !body.because) return broken;
  const extra = broken && body.because ? overriding(state, entry, chosen, body.because, broken.refused) : {};
  const shipped = (piece: PieceState): PieceState => ({
    ...offTheTable(piece),
    standing: 'shipped',
    sinceMs: entry.atMs,
    station: null,
    rework: null,
  });
  return changed(state, entry, chosen, shipped, extra);
}
