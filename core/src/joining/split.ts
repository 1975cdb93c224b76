import {
  changed,
  choose,
  isRefusal,
  laidDown,
  pieceCode,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';

/** Pieces are parted: each becomes one piece of every batch made. */
export interface SplitBody extends Selection {
  type: 'split';
  /** Batches made, with the position of the first piece in each. */
  makes: { code: string; firstPosition: number }[];
}

export const split: FiledKind<SplitBody, Pick<SplitBody, 'type' | 'count' | 'pieces' | 'station'>> = {
  type: 'split',
  apply,
  words: ({ makes }, pieces) => `${pieces} parted, making ${makes.map(({ code }) => code).join(' and ')}`,
  asked: {
    fields: { count: SELECTED.count, pieces: SELECTED.pieces, station: SELECTED.station },
    needs: [],
  },
  line: { verbs: { split: ['splits', 'parted', 'resawn'] } },
};

function apply(state: BatchState, route: Route, entry: Entry, body: SplitBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'split';
  const standings = ['inHand', 'waiting'] as const;
  const chosen = choose(state, route, { selection: body, standings: [...standings], at, standard: 'all' });
  if (isRefusal(chosen)) return chosen;
  return changed(state, entry, chosen, (piece, index) => ({
    ...laidDown(piece),
    standing: 'parted',
    sinceMs: entry.atMs,
    station: null,
    partedInto: body.makes.map(({ code, firstPosition }) => pieceCode(code, firstPosition + index)),
  }));
}
