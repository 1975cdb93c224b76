import {
  count,
  tallyAt,
  whereabouts,
  type BatchState,
  type Effect,
  type EntryBody,
} from '../ledger/index.ts';
import { operationOf, type Route } from '../route/index.ts';
import { ACTION_CHECK, judgeCheck } from '../machining/check.ts';
import { summarise } from '../stats/descriptive.ts';

/** What one entry did, in a few words: '6 done', '1 scrapped (tear-out)', '4 readings, mean 7.95 %'. */
export function actionWords(body: EntryBody, pieces: number): string {
  switch (body.type) {
    case 'open':
      return `${body.quantity} opened`;
    case 'arrive':
      return `${body.parents.length} more joined`;
    case 'start':
      return `${pieces} started${body.load ? ` as ${body.load.code} on ${body.bed ?? 'a table'}` : ''}${body.who ? ` by ${body.who}` : ''}${body.because ? `, rule passed by (${body.because})` : ''}${body.load?.firstPiece ? ': the first piece, measure it before the rest is cut' : ''}`;
    case 'done':
      return `${pieces} done${body.because ? `, rule passed by (${body.because})` : ''}`;
    case 'scrap':
      return `${pieces} scrapped (${body.reason})`;
    case 'rework':
      return `${pieces} sent back (${body.reason}${body.cause ? `: ${body.cause}` : ''})${body.rest === 'waits' ? ', the rest waits' : ''}`;
    case 'hold':
      return `${pieces} put on hold (${body.reason})`;
    case 'end':
      return `hold of ${pieces} ended${body.because ? `, rule passed by (${body.because})` : ''}${body.seen ? ` (${body.seen})` : ''}${body.panel ? ` on ${body.panel}` : ''}`;
    case 'read':
      return `${count(body.valuesPct.length, 'reading')}, mean ${summarise(body.valuesPct).mean.toFixed(2)} %`;
    case 'coat':
      return `${body.number === undefined ? 'a coat' : `coat ${body.number}`} on ${pieces}${body.wetUm === undefined ? '' : `, ${body.wetUm} µm wet`}${body.who ? ` by ${body.who}` : ''}${body.because ? ` (${body.because})` : ''}`;
    case 'sand':
      return body.scuff
        ? `${pieces} scuffed`
        : `${pieces} sanded${body.removalUm === undefined ? '' : `, ${body.removalUm} µm off`}`;
    case 'mark':
      return `mark test ${body.passed ? 'passed' : 'failed'} on ${pieces}`;
    case 'colour':
      return `colour of ${body.labs.length} read`;
    case 'age':
      return body.to === 'cold' ? `${pieces} into the cold` : `${pieces} out of the cold`;
    case 'refinish':
      return `finish is now ${body.finish.recipe} (${body.reason})`;
    case 'measure':
      return `${body.valuesMm.length} measured, mean action ${summarise(body.valuesMm).mean.toFixed(2)} mm`;
    case 'join':
      return `${pieces} joined with ${body.partner}, making ${body.makes}`;
    case 'ship':
      return `${pieces} shipped${body.to ? ` to ${body.to}` : ''}${body.because ? `, rule passed by (${body.because})` : ''}`;
    case 'split':
      return `${pieces} parted, making ${body.makes.map(({ code }) => code).join(' and ')}`;
    case 'place':
      return `${pieces} in ${body.bed}`;
    case 'check':
      return `${body.check} of ${body.values.length} measured, mean ${summarise(body.values).mean.toFixed(2)}`;
    case 'adjust':
      return `${pieces} ${body.how === 'plane' ? 'planed' : 'shimmed'} by ${body.byMm.toFixed(2)} mm: measure again`;
    case 'meet':
      return body.partner === null ? 'meets whom the due dates say' : `meets ${body.partner}`;
    case 'pair':
      return body.pairs.length === 0
        ? `no longer paired with ${body.partner}`
        : `${body.pairs.length} paired with ${body.partner}`;
    case 'reroute':
      return `moved to ${body.routeId}${Object.keys(body.ways).length > 0 ? ` by ${Object.values(body.ways).join(', ')}` : ''} (${body.reason})`;
    case 'undo':
      return `entry ${body.voids.join(', ')} taken back`;
  }
}

/** What a line would change, in one sentence: 'B-217: 6 done, 1 scrapped (tear-out), 5 in hand at Body mill'. */
export function lineEffect(options: {
  state: BatchState;
  route: Route;
  steps: readonly { body: EntryBody; effect: Effect }[];
}): string {
  const { state, route, steps } = options;
  const words = steps.map(
    ({ body, effect }) => verdictWords(route, body, effect) ?? actionWords(body, effect.positions.length),
  );
  return `${state.code}: ${[...words, leftBehind(state, route, steps)].filter(Boolean).join(', ')}`;
}

/** What was measured against its limits, said where it was filed; undefined: there are none. */
function verdictWords(route: Route, body: EntryBody, { operation }: Effect): string | undefined {
  const [key, values] =
    body.type === 'check'
      ? [body.check, body.values]
      : body.type === 'measure'
        ? [ACTION_CHECK, body.valuesMm]
        : [];
  const check = route.operations
    .filter((one) => operation === null || one.key === operation || body.type === 'measure')
    .flatMap((one) => one.checks ?? [])
    .find((one) => one.key === key);
  if (!check || !values) return undefined;
  const { sentence, pass } = judgeCheck(check, values);
  const told = sentence.replace(/\.$/, '');
  return pass ? told : `${told}: it may not go on without a reason`;
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
