import {
  choose,
  effectOf,
  isRefusal,
  noted,
  SELECTED,
  tooEarly,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';

/** A nail or hardness mark on some pieces of a cure. */
export interface MarkBody extends Selection {
  type: 'mark';
  passed: boolean;
}

export const mark: FiledKind<MarkBody> = {
  type: 'mark',
  apply,
  words: ({ passed }, pieces) => `mark test ${passed ? 'passed' : 'failed'} on ${pieces}`,
  asked: { fields: { ...SELECTED, passed: { type: 'boolean' } }, needs: ['passed'] },
  line: {
    verbs: { mark: ['marked', 'marks', 'nail'] },
    take: (line, verb) => ({ passed: line.oneOf(verb, 'passed', 'failed') === 'passed' }),
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: MarkBody): Outcome {
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
