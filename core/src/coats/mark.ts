import {
  choose,
  effectOf,
  isRefusal,
  noted,
  tooEarly,
  type BatchState,
  type Entry,
  type MarkBody,
  type Outcome,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
export function mark(state: BatchState, route: Route, entry: Entry, body: MarkBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold'],
    at: (operation) => operation.mode === 'hold' && operation.rule.rule === 'cure',
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const early = tooEarly(state, chosen, entry);
  if (early) return early;
  const positions = chosen.pieces.map((piece) => piece.position);
  const tried = { atMs: entry.atMs, operation: chosen.operation.key, positions, passed: body.passed };
  const applied = noted(state, entry, chosen.operation.key, positions, {
    marks: [...(state.marks ?? []), tried].toSorted((a, b) => a.atMs - b.atMs),
  });
  return { ...applied, effect: effectOf(chosen, body) };
}
