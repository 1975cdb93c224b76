import type { BatchState, PieceState } from './batch.ts';

/** Whether a piece is still in what it was in: at the same operation and station, as it stood there, under the same call. */
export const goesOn = (before: PieceState, after: PieceState): boolean =>
  before.operation === after.operation &&
  before.standing === after.standing &&
  before.station === after.station &&
  before.sinceMs === after.sinceMs &&
  (before.called === null) === (after.called === null);

/** When a piece came into what it is in now, ms. */
export const cameMs = ({ sinceMs, resumedMs }: PieceState): number => resumedMs ?? sinceMs;

/**
 * The state an entry leaves, with the moment of the entry kept on pieces whose clock began before it: a hold that lay under a
 * person's own goes on, but the piece came back into it only now.
 */
export function withResumed(before: BatchState, after: BatchState, atMs: number): BatchState {
  let same = true;
  const pieces = after.pieces.map((piece, i) => {
    const was = before.pieces[i];
    if (!was || was === piece || goesOn(was, piece)) return piece;
    const { resumedMs, ...rest } = piece;
    if (piece.sinceMs === atMs && resumedMs === undefined) return piece;
    same = false;
    return piece.sinceMs === atMs ? rest : { ...rest, resumedMs: atMs };
  });
  return same ? after : { ...after, pieces };
}
