import { kindOf, type EntryBody } from '../entries/index.ts';
import { tallyAt, whereabouts, type BatchState, type Effect } from '../ledger/index.ts';
import { operationOf, type Route } from '../route/index.ts';

/** What one entry did, in a few words: '6 done', '1 scrapped (tear-out)', '4 readings, mean 7.95 %'. */
export const actionWords = (body: EntryBody, pieces: number): string => kindOf(body).words(body, pieces);

/** What a line would change, in one sentence: 'B-217: 6 done, 1 scrapped (tear-out), 5 in hand at Body mill'. */
export function lineEffect(options: {
  state: BatchState;
  route: Route;
  steps: readonly { body: EntryBody; effect: Effect }[];
}): string {
  const { state, route, steps } = options;
  const words = steps.map(
    ({ body, effect }) =>
      kindOf(body).verdict?.(route, body, effect) ?? actionWords(body, effect.positions.length),
  );
  return `${state.code}: ${[...words, leftBehind(state, route, steps)].filter(Boolean).join(', ')}`;
}

/** What is left at the operation that was worked on; where everything is, when nothing is left there. */
function leftBehind(state: BatchState, route: Route, steps: readonly { effect: Effect }[]): string {
  const key = steps.at(-1)?.effect.operation;
  if (!key) return '';
  const tally = tallyAt(state, route, key);
  const left = [
    tally.inHand > 0 ? `${tally.inHand} in hand` : '',
    tally.waiting > 0 ? `${tally.waiting} waiting` : '',
    tally.onHold > 0 ? `${tally.onHold} on hold` : '',
  ].filter(Boolean);
  if (left.length === 0) return `now ${whereabouts(state, route)}`;
  return `${left.join(' and ')} at ${operationOf(route, key).name}`;
}
