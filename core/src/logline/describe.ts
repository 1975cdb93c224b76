import { kindOf, type EntryBody } from '../entries/index.ts';
import { tallyAt, whereabouts, type AnyBody, type BatchState, type Effect } from '../ledger/index.ts';
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
  const words = together(steps).map(
    ({ body, effect }) =>
      kindOf(body).verdict?.(route, body, effect) ?? actionWords(body, effect.positions.length),
  );
  return `${state.code}: ${[...words, leftBehind(state, route, steps)].filter(Boolean).join(', ')}`;
}

/** Entries that say the same of other pieces, one after the other, are told as one. */
function together<Step extends { body: EntryBody; effect: Effect }>(steps: readonly Step[]): Step[] {
  const told: Step[] = [];
  for (const step of steps) {
    const last = told.at(-1);
    if (last && saidOf(last.body) === saidOf(step.body)) {
      const positions = [...last.effect.positions, ...step.effect.positions];
      told[told.length - 1] = { ...last, effect: { ...last.effect, positions } };
    } else told.push(step);
  }
  return told;
}

const saidOf = ({ pieces: _pieces, count: _count, ...said }: AnyBody): string => JSON.stringify(said);

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
