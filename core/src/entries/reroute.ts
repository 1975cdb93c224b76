import {
  arrived,
  hasLeft,
  noted,
  pieceCode,
  refuse,
  type BatchState,
  type Entry,
  type Kind,
  type Outcome,
  type PieceState,
  type Refusal,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';

/** The batch goes on by another revision, or other ways, of its route. */
export interface RerouteBody {
  type: 'reroute';
  routeId: string;
  ways: Record<string, string>;
  reason: string;
}

export const reroute: Kind<RerouteBody> = {
  type: 'reroute',
  words: ({ routeId, ways, reason }) => {
    const by = Object.values(ways);
    return `moved to ${routeId}${by.length > 0 ? ` by ${by.join(', ')}` : ''} (${reason})`;
  },
};

/**
 * A batch goes on by another revision of its route, or other ways through it (`route`). Every piece keeps its operation,
 * so the new route must have it; what is in hand can go on only where that is still work.
 */
export function rerouted(state: BatchState, route: Route, entry: Entry, body: RerouteBody): Outcome {
  if (body.reason.trim() === '')
    return refuse('bad-value', 'a move to another route needs a reason', 'reason');
  if (route.model !== state.model || route.kind !== state.kind)
    return refuse('no-way', `${route.id} is no route for ${state.model} ${state.kind}`);
  const pieces: PieceState[] = [];
  for (const piece of state.pieces) {
    const operation = route.operations.find(({ key }) => key === piece.operation);
    if (!operation)
      return refuse(
        'no-way',
        `${pieceCode(state.code, piece.position)} stands at '${piece.operation}', which revision ${route.revision} by these ways does not have`,
      );
    const moved = standing(state, piece, operation, entry.atMs);
    if ('refused' in moved) return moved;
    pieces.push(moved);
  }
  const ways = Object.keys(body.ways).length > 0 ? { ways: body.ways } : {};
  const { ways: _before, ...rest } = state;
  const move = { atMs: entry.atMs, by: entry.by, from: state.routeId, to: body.routeId, reason: body.reason };
  return noted({ ...rest, ...ways, pieces, routeId: body.routeId }, entry, null, [], {
    moves: [...(state.moves ?? []), move],
  });
}

/** A piece that waits where a hold now stands comes onto it, and the reverse; clocks of holds that stay run on. */
function standing(
  state: BatchState,
  piece: PieceState,
  operation: Operation,
  atMs: number,
): PieceState | Refusal {
  if (hasLeft(piece) || piece.called) return piece;
  const holds = operation.mode === 'hold';
  if (holds === (piece.standing === 'onHold')) return piece;
  if (piece.standing === 'inHand')
    return refuse(
      'no-way',
      `${pieceCode(state.code, piece.position)} is in hand at ${operation.name}, which is a hold in that revision`,
    );
  return arrived(piece, operation, atMs);
}
