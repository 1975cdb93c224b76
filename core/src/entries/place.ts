import {
  changed,
  choose,
  isRefusal,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { name } from '../units/json-schema.ts';

/** Pieces lie in a press, carousel or on a table. */
export interface PlaceBody extends Selection {
  type: 'place';
  bed: string;
}

export const place: FiledKind<PlaceBody> = {
  type: 'place',
  apply,
  words: ({ bed }, pieces) => `${pieces} in ${bed}`,
  asked: { fields: { ...SELECTED, bed: name(40) }, needs: ['bed'] },
  line: {
    verbs: { place: ['placed', 'puts', 'put', 'clamped'] },
    number: 'own',
    take: (line, verb) => ({ bed: line.name(verb, 'a press or table') }),
  },
};

/** Pieces laid in a press, carousel or table; how many it holds is the server's to know, who sees every batch. */
function apply(state: BatchState, route: Route, entry: Entry, body: PlaceBody): Outcome {
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
