import {
  count,
  newPiece,
  refuse,
  type ArriveBody,
  type BatchState,
  type Entry,
  type OpenBody,
  type Outcome,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
/** A batch is one rack; more pieces than this is a slip of the hand. */
export const LARGEST_BATCH = 500;

export function open(route: Route, entry: Entry, body: OpenBody): Outcome {
  const { quantity } = body;
  if (!Number.isInteger(quantity) || quantity < 1 || quantity > LARGEST_BATCH) {
    return refuse('bad-value', `a batch holds 1 to ${LARGEST_BATCH} pieces, not ${quantity}`);
  }
  if (body.parents && body.parents.length !== quantity) {
    return refuse('bad-value', `${count(quantity, 'piece')} but parents for ${body.parents.length}`);
  }
  const pieces = Array.from({ length: quantity }, (_, i) =>
    newPiece(i + 1, body.parents?.[i] ?? [], route, entry.atMs),
  );
  const state: BatchState = {
    code: body.code,
    kind: body.kind,
    model: body.model,
    routeId: body.routeId,
    quantity,
    dueMs: body.dueMs,
    openedMs: entry.atMs,
    lastMs: entry.atMs,
    pieces,
    readings: [],
    coats: [],
    measures: [],
    overrides: [],
    ...(body.ways === undefined ? {} : { ways: body.ways }),
    ...(body.finish === undefined ? {} : { finish: body.finish }),
  };
  return {
    state,
    effect: {
      operation: pieces[0]?.operation ?? null,
      station: null,
      positions: pieces.map((p) => p.position),
    },
  };
}

export function arrive(state: BatchState, route: Route, entry: Entry, body: ArriveBody): Outcome {
  const quantity = state.quantity + body.parents.length;
  if (body.parents.length < 1 || quantity > LARGEST_BATCH) {
    return refuse('bad-value', `a batch holds 1 to ${LARGEST_BATCH} pieces, not ${quantity}`);
  }
  const added = body.parents.map((parents, i) =>
    newPiece(state.quantity + i + 1, parents, route, entry.atMs),
  );
  return {
    state: {
      ...state,
      quantity,
      pieces: [...state.pieces, ...added],
      lastMs: Math.max(state.lastMs, entry.atMs),
    },
    effect: {
      operation: added[0]?.operation ?? null,
      station: null,
      positions: added.map((piece) => piece.position),
    },
  };
}
