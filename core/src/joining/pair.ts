import {
  hasLeft,
  noted,
  pieceCode,
  refuse,
  type BatchState,
  type Entry,
  type Kind,
  type Outcome,
} from '../ledger/index.ts';

/** Pieces paired by measurement with those of another batch, in place of any pairing of the two before. Filed on both. */
export interface PairBody {
  type: 'pair';
  partner: string;
  /** Gaps as they will be when the two are joined. */
  pairs: { piece: number; with: number; gapMm: number }[];
  /** What of every gap was allowed for the movement of the wood until then, mm; left out: nothing. */
  allowedMm?: number;
}

export const pair: Kind<PairBody> = {
  type: 'pair',
  apply: (state, _route, entry, body) => pairing(state, entry, body),
  words: ({ pairs, partner }) =>
    pairs.length === 0 ? `no longer paired with ${partner}` : `${pairs.length} paired with ${partner}`,
};

/** Partners of pieces, as measured. An earlier pairing with the same batch is replaced; one with another batch stands in the way. */
function pairing(state: BatchState, entry: Entry, body: PairBody): Outcome {
  const of = new Map(body.pairs.map((one) => [one.piece, one]));
  if (of.size !== body.pairs.length) return refuse('bad-value', 'a piece is paired twice');
  for (const position of of.keys()) {
    const piece = state.pieces.find((candidate) => candidate.position === position);
    if (!piece || hasLeft(piece))
      return refuse(
        'not-enough',
        `${pieceCode(state.code, position)} is not on the rack any more, or never was`,
      );
    const other = piece.partner?.piece.split('/')[0];
    if (other !== undefined && other !== body.partner)
      return refuse(
        'not-paired',
        `${pieceCode(state.code, position)} is paired with ${piece.partner?.piece}: undo that pairing first`,
      );
  }
  const pieces = state.pieces.map((piece) => {
    const { partner, ...rest } = piece;
    const one = of.get(piece.position);
    if (one) {
      const allowed = body.allowedMm ? { allowedMm: body.allowedMm } : {};
      return { ...rest, partner: { piece: pieceCode(body.partner, one.with), gapMm: one.gapMm, ...allowed } };
    }
    return partner && partner.piece.split('/')[0] !== body.partner ? piece : rest;
  });
  return noted({ ...state, pieces }, entry, null, [...of.keys()], {});
}
