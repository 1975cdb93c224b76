import { hasLeft, type BatchState, type PieceState } from '../ledger/index.ts';
import { operationIndex, type Route } from '../route/index.ts';
/**
 * Pieces that waited for others of their rack go on when those have caught up, or are no more: every one they wait for has
 * left, or is again as far along the route.
 */
export function reunited(state: BatchState, route: Route, atMs: number): BatchState {
  if (!state.pieces.some((piece) => piece.called?.waitsFor)) return state;
  const caughtUp = (waiting: PieceState, position: number): boolean => {
    const behind = state.pieces.find((piece) => piece.position === position);
    if (!behind || hasLeft(behind)) return true;
    return operationIndex(route, behind.operation) >= operationIndex(route, waiting.operation);
  };
  return {
    ...state,
    pieces: state.pieces.map((piece) => {
      const { called } = piece;
      return called?.waitsFor?.every((position) => caughtUp(piece, position))
        ? { ...piece, standing: called.from, called: null, sinceMs: atMs }
        : piece;
    }),
  };
}
