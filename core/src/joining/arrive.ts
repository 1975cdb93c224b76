import {
  LARGEST_BATCH,
  newPiece,
  refuse,
  withLines,
  type BatchState,
  type Entry,
  type Kind,
  type LinesOfPieces,
  type Outcome,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';

/** More pieces join a rack of instruments that is already open. */
export interface ArriveBody {
  type: 'arrive';
  parents: string[][];
  /** Lines of orders they are built for; left out: none. */
  lines?: LinesOfPieces[];
}

export const arrive: Kind<ArriveBody> = {
  type: 'arrive',
  apply,
  words: ({ parents }) => `${parents.length} more joined`,
};

function apply(state: BatchState, route: Route, entry: Entry, body: ArriveBody): Outcome {
  const quantity = state.quantity + body.parents.length;
  if (body.parents.length < 1 || quantity > LARGEST_BATCH) {
    return refuse('bad-value', `a batch holds 1 to ${LARGEST_BATCH} pieces, not ${quantity}`);
  }
  const added = body.parents.map((parents, i) =>
    newPiece(state.quantity + i + 1, parents, route, entry.atMs),
  );
  return {
    state: withLines(
      {
        ...state,
        quantity,
        pieces: [...state.pieces, ...added],
        lastMs: Math.max(state.lastMs, entry.atMs),
      },
      body.lines ?? [],
    ),
    effect: {
      operation: added[0]?.operation ?? null,
      station: null,
      positions: added.map((piece) => piece.position),
    },
  };
}
