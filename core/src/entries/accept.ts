import {
  choose,
  count,
  isRefusal,
  noted,
  pieceCode,
  refuse,
  SELECTED,
  tooEarly,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type PieceState,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';

/** The next department takes over what came to it: it was looked at, and is good. */
export interface AcceptBody extends Selection {
  type: 'accept';
}

export const accept: FiledKind<AcceptBody> = {
  type: 'accept',
  apply,
  words: (_body, pieces) => `${count(pieces, 'piece')} accepted`,
  asked: { fields: SELECTED, needs: [] },
  line: { verbs: { accept: ['accepted', 'accepts'] } },
};

const isHandOff = ({ accepts }: Operation): boolean => accepts === true;

/** Pieces that came to an operation where they are accepted, wait there, and were not yet. */
export function toAccept(state: BatchState, route: Route): PieceState[] {
  const handOffs = new Set(route.operations.filter(isHandOff).map(({ key }) => key));
  return state.pieces.filter(
    (piece) => piece.standing === 'waiting' && handOffs.has(piece.operation) && !isAccepted(state, piece),
  );
}

/** What was accepted before a piece was sent back does not count for it any more. */
const isAccepted = ({ accepted = [] }: BatchState, piece: PieceState): boolean =>
  accepted.some(
    ({ operation, positions, atMs }) =>
      operation === piece.operation &&
      positions.includes(piece.position) &&
      atMs >= (piece.measuredFromMs ?? -Infinity),
  );

/** It moves no piece. */
function apply(state: BatchState, route: Route, entry: Entry, body: AcceptBody): Outcome {
  const chosen = choose(state, route, {
    selection: { ...body, count: undefined },
    standings: ['waiting'],
    at: isHandOff,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const open = chosen.pieces.filter((piece) => !isAccepted(state, piece));
  const [first] = chosen.pieces;
  if (open.length === 0 && first)
    return refuse('taken', `${pieceCode(state.code, first.position)} is accepted already`);
  if (body.count !== undefined && body.count > open.length)
    return refuse('not-enough', `only ${open.length} of ${state.code} are still to be accepted`, 'count');
  const pieces = open.slice(0, body.count);
  const early = tooEarly(state, { ...chosen, pieces }, entry);
  if (early) return early;
  const positions = pieces.map(({ position }) => position);
  const { key } = chosen.operation;
  const taken = { atMs: entry.atMs, by: entry.by, operation: key, positions };
  return noted(state, entry, key, positions, { accepted: [...(state.accepted ?? []), taken] });
}

/** Why work does not begin on pieces: what came was not looked at and accepted. */
export function unaccepted(
  state: BatchState,
  { pieces, operation }: { pieces: readonly PieceState[]; operation: Operation },
): Refusal | undefined {
  if (!isHandOff(operation)) return undefined;
  const open = pieces.filter((piece) => !isAccepted(state, piece));
  const [first] = open;
  if (!first) return undefined;
  const more = open.length > 1 ? `, and ${open.length - 1} more` : '';
  return refuse(
    'not-accepted',
    `${pieceCode(state.code, first.position)} was not accepted at ${operation.name}${more}: look at it, then say '${state.code} accept' or send it back`,
  );
}
