import {
  changed,
  choose,
  isRefusal,
  offTheTable,
  pieceCode,
  type BatchState,
  type Entry,
  type Outcome,
  type SplitBody,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';
export function split(state: BatchState, route: Route, entry: Entry, body: SplitBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'split';
  const standings = ['inHand', 'waiting'] as const;
  const chosen = choose(state, route, { selection: body, standings: [...standings], at, standard: 'all' });
  if (isRefusal(chosen)) return chosen;
  return changed(state, entry, chosen, (piece, index) => ({
    ...offTheTable(piece),
    standing: 'parted',
    sinceMs: entry.atMs,
    station: null,
    partedInto: body.makes.map(({ code, firstPosition }) => pieceCode(code, firstPosition + index)),
  }));
}
