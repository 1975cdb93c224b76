import type { FinishPlan } from '../finishing/recipe.ts';
import { noted, refuse, type BatchState, type Entry, type Kind, type Outcome } from '../ledger/index.ts';
import { operationOf, type Route } from '../route/index.ts';

/** The batch goes on by another finish, or another revision of it. */
export interface RefinishBody {
  type: 'refinish';
  finish: FinishPlan;
  reason: string;
}

export const refinish: Kind<RefinishBody> = {
  type: 'refinish',
  apply,
  words: ({ finish, reason }) => `finish is now ${finish.recipe} (${reason})`,
};

function apply(state: BatchState, route: Route, entry: Entry, body: RefinishBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'another finish needs a reason', 'reason');
  const from = state.finish?.recipe ?? 'no recipe';
  if (from === body.finish.recipe) return refuse('bad-value', `${state.code} has ${from} already`);
  const move = { atMs: entry.atMs, by: entry.by, from, to: body.finish.recipe, reason: body.reason };
  const here = state.pieces.find((piece) => operationOf(route, piece.operation));
  return noted(
    state,
    entry,
    here?.operation ?? null,
    state.pieces.map((piece) => piece.position),
    {
      finish: body.finish,
      moves: [...(state.moves ?? []), move],
    },
  );
}
