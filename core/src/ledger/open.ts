import type { FinishPlan } from '../finishing/recipe.ts';
import type { Route } from '../route/index.ts';
import type { BatchState } from './batch.ts';
import type { Entry } from './entry.ts';
import type { Kind } from './kind.ts';
import { count, refuse } from './refusal.ts';
import { withLines, type LinesOfPieces } from './lines.ts';
import { newPiece, type Outcome } from './step.ts';

/** A batch is one rack; more pieces than this is a slip of the hand. */
export const LARGEST_BATCH = 500;

export interface OpenBody {
  type: 'open';
  code: string;
  kind: string;
  model: string;
  routeId: string;
  quantity: number;
  dueMs: number;
  /** For instruments, one list of parent piece codes for each piece. */
  parents?: string[][];
  /** Ways chosen where the route forks; left out: the usual ones. */
  ways?: Record<string, string>;
  /** The finish it gets; left out: none. */
  finish?: FinishPlan;
  /** Lines of orders its pieces are built for; left out: none. */
  lines?: LinesOfPieces[];
}

/** There is no batch yet to apply it to: see `opened`. */
export const open: Kind<OpenBody> = {
  type: 'open',
  words: ({ quantity }) => `${quantity} opened`,
};

/** A new batch with all its pieces at the first operation of its route. Refused for a quantity that no rack holds, and for parents that are not one for each piece. */
export function opened(route: Route, entry: Entry, body: OpenBody): Outcome {
  const { quantity } = body;
  if (!Number.isInteger(quantity) || quantity < 1 || quantity > LARGEST_BATCH) {
    return refuse('bad-value', `a batch holds 1 to ${LARGEST_BATCH} pieces, not ${quantity}`, 'quantity');
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
    state: withLines(state, body.lines ?? []),
    effect: {
      operation: pieces[0]?.operation ?? null,
      station: null,
      positions: pieces.map((p) => p.position),
    },
  };
}
