import {
  changed,
  choose,
  count,
  isRefusal,
  LONGEST_REASON,
  overriding,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { ageingView } from './ageing.ts';
import { name, plainWords } from '../units/json-schema.ts';

/** Pieces go into the cold, or come out of it. */
export interface AgeBody extends Selection {
  type: 'age';
  to: 'cold' | 'warm';
  /** Freezer they lie in. */
  bed?: string;
  /** Reason for taking them out before their time. */
  because?: string;
}

export const age: FiledKind<AgeBody> = {
  type: 'age',
  apply,
  words: ({ to }, pieces) => (to === 'cold' ? `${pieces} into the cold` : `${pieces} out of the cold`),
  asked: {
    fields: {
      ...SELECTED,
      to: { enum: ['cold', 'warm'] },
      bed: name(40),
      because: plainWords(LONGEST_REASON),
    },
    needs: ['to'],
  },
  line: {
    verbs: { age: ['aged', 'freeze', 'frozen'] },
    take: (line, verb) => ({ to: line.oneOf(verb, 'cold', 'warm'), ...line.because() }),
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: AgeBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold'],
    at: (operation) => operation.mode === 'hold' && operation.rule.rule === 'ageing',
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const { operation, pieces } = chosen;
  if (operation.mode !== 'hold' || operation.rule.rule !== 'ageing') throw new Error('age: no ageing');
  const positions = pieces.map((piece) => piece.position);
  const sinceMs = Math.min(...pieces.map((piece) => piece.sinceMs));
  const seen = ageingView({ ageing: state.ageing ?? [], positions, sinceMs, atMs: entry.atMs });
  const passed = (entry.atMs - seen.sinceMs) / HOUR_MS;
  const { coldHours, cycles } = operation.rule;
  const short =
    body.to === 'cold' && seen.cycles >= cycles
      ? refuse('hold-not-over', `${count(cycles, 'cycle')} are done, no more are wanted`)
      : body.to === 'warm' && passed < coldHours
        ? refuse(
            'hold-not-over',
            `${spanWords(coldHours - passed)} of cold are left in cycle ${seen.cycles + 1}`,
          )
        : undefined;
  if (seen.phase === body.to || (body.to === 'warm' && seen.phase === null))
    return refuse(
      'wrong-mode',
      body.to === 'cold' ? 'they are in the cold already' : 'they are not in the cold',
    );
  if (short && !body.because) return short;
  const extra = short && body.because ? overriding(state, entry, chosen, body.because, short.refused) : {};
  const turn = { atMs: entry.atMs, operation: operation.key, positions, to: body.to };
  return changed(
    state,
    entry,
    chosen,
    (piece) => {
      const { bed: _left, ...rest } = piece;
      return body.to === 'cold' && body.bed !== undefined ? { ...rest, bed: body.bed } : rest;
    },
    { ...extra, ageing: [...(state.ageing ?? []), turn] },
  );
}
