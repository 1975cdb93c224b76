import { operationIndex, type Route } from '../route/index.ts';
import type { BatchState, PieceState } from './batch.ts';

/** Where the pieces of a batch are, seen from one operation. The seven numbers add up to the quantity. */
export interface Tally {
  /** Not there yet. */
  before: number;
  waiting: number;
  inHand: number;
  onHold: number;
  /** Through this operation and standing further along the route. */
  ahead: number;
  /** Left the route as good: joined or shipped. */
  left: number;
  scrapped: number;
}

/** How many pieces of a batch stand at an operation, and how, are before it or ahead of it. They add up to its quantity. */
export function tallyAt(state: BatchState, route: Route, operationKey: string): Tally {
  const here = operationIndex(route, operationKey);
  const tally: Tally = { before: 0, waiting: 0, inHand: 0, onHold: 0, ahead: 0, left: 0, scrapped: 0 };
  for (const piece of state.pieces) tally[placeOf(piece, route, here)] += 1;
  return tally;
}

function placeOf(piece: PieceState, route: Route, here: number): keyof Tally {
  if (piece.standing === 'scrapped') return 'scrapped';
  if (piece.standing === 'joined' || piece.standing === 'parted' || piece.standing === 'shipped')
    return 'left';
  const there = operationIndex(route, piece.operation);
  if (there < here) return 'before';
  if (there > here) return 'ahead';
  return piece.standing;
}

/** The operations at which a batch has pieces now, in route order. */
export function operationsInUse(state: BatchState, route: Route): string[] {
  const keys = new Set(
    state.pieces
      .filter((p) => p.standing === 'waiting' || p.standing === 'inHand' || p.standing === 'onHold')
      .map((p) => p.operation),
  );
  return route.operations.map((operation) => operation.key).filter((key) => keys.has(key));
}
