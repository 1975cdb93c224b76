import { count, DAY_MS, daysLate } from '@ample-crane/core';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type {
  Backlog,
  LineMoves,
  LineWeight,
  Order,
  OrderPlace,
  OrderSummary,
  SpecChange,
  TagOption,
} from './queries.ts';

/** '2 × Halyard, 1 × Bowline'. */
export const modelsWords = (models: readonly { model: string; quantity: number }[]): string =>
  models.map(({ model, quantity }) => `${quantity} × ${model}`).join(', ');

/** What the order book comes to, in one sentence. */
export function bookSentence(orders: readonly OrderSummary[]): { tone: VerdictTone; sentence: string } {
  const late = orders.filter((order) => daysLate(order) !== null).length;
  const pieces = orders.reduce((sum, order) => sum + order.pieces - order.shipped, 0);
  const fresh = orders.reduce((sum, { unbegun }) => sum + unbegun, 0);
  const open = `${count(orders.length, 'order')}, ${count(pieces, 'instrument')} still to leave, ${fresh} of them not begun`;
  return late > 0
    ? { tone: 'bad', sentence: `${open}. ${count(late, 'order')} cannot be in time.` }
    : { tone: 'good', sentence: `${open}. All of them can be in time.` };
}

/** Whether an order can be in time, in one sentence. */
export function orderSentence(
  order: Pick<Order, 'earliestMs' | 'dueMs'>,
  say: (ms: number) => string,
): { tone: VerdictTone; sentence: string } {
  const { earliestMs, dueMs } = order;
  if (earliestMs === null) return { tone: 'good', sentence: 'Nothing of it is left to build.' };
  const ready = `ready ${say(earliestMs)} at the earliest, by routes and holds alone; due ${say(dueMs)}`;
  return earliestMs > dueMs
    ? { tone: 'bad', sentence: `Late: ${ready}.` }
    : { tone: 'good', sentence: `In time so far: ${ready}.` };
}

const STANDS: Record<OrderPlace['standing'], string> = {
  waiting: 'waits at',
  inHand: 'in hand at',
  onHold: 'on hold at',
  scrapped: 'scrapped at',
  joined: 'joined at',
  parted: 'parted at',
  shipped: 'left from',
};

/** Where pieces stand and what they wait for: 'on hold at Cure, over Thu 26 Nov'. */
export function placeWords(
  { standing, operation, holdEndMs }: Pick<OrderPlace, 'standing' | 'operation' | 'holdEndMs'>,
  say: (ms: number) => string,
): string {
  const where = `${STANDS[standing]} ${operation}`;
  return holdEndMs === null ? where : `${where}, over ${say(holdEndMs)}`;
}

/** What a change touches: 'Frets on N-120: done on 2 (N-120/01, N-120/02), 75 min again'. */
export function touchWords({ batch, operations, done, open, minutesAgain, costAgain }: SpecChange): string {
  const at = operations.length > 0 ? ` at ${operations.join(', ')}` : '';
  if (done.length === 0) return `${batch}${at}: not built in yet on ${count(open.length, 'piece')}`;
  const again = minutesAgain > 0 ? `, ${Math.round(minutesAgain)} min of work again` : '';
  const cost = costAgain > 0 ? `, ${costAgain.toFixed(2)} of material` : '';
  return `${batch}${at}: built in already on ${done.join(', ')}${again}${cost}`;
}

/** Fewer than so many of a hundred such would be inside: somebody should choose its wood. */
const DOUBTFUL_SHARE = 0.75;

/** Whether an instrument may well miss the weight that is wished. */
export const isDoubtful = ({ insideShare }: Pick<LineWeight, 'insideShare'>): boolean =>
  insideShare !== null && insideShare < DOUBTFUL_SHARE;

/** 'B-197/03 will weigh 3.42 kg (3.30 to 3.53): 88 of 100 such are inside'. */
export function weightWords({
  piece,
  weighed,
  kg,
  lowKg,
  highKg,
  insideShare,
  chamberKg,
}: LineWeight): string {
  const which = piece ?? 'What is not begun';
  if (weighed)
    return `${which} weighs ${kg.toFixed(2)} kg${insideShare !== null && insideShare < 0.5 ? ': outside' : ''}`;
  const inside = insideShare === null ? '' : `: ${Math.round(100 * insideShare)} of 100 such are inside`;
  const chambered = chamberKg >= 0.01 ? `; chamber ${chamberKg.toFixed(2)} kg out of the body` : '';
  return `${which} will weigh ${kg.toFixed(2)} kg (${lowKg.toFixed(2)} to ${highKg.toFixed(2)})${inside}${chambered}`;
}

const FROM: Record<LineWeight['terms'][number]['from'], string> = {
  weighed: 'weighed',
  blank: 'of its blank',
  reckoned: 'reckoned',
};

/** 'body B-197/03 1.98 of its blank, kit 1.10 reckoned'. */
export const termsWords = ({ terms }: Pick<LineWeight, 'terms'>): string =>
  terms.map(({ what, kg, from }) => `${what} ${kg.toFixed(2)} ${FROM[from]}`).join(', ');

/** '96 instruments, 62 h at Colour, which paces the factory: 1.4 weeks of its work'. */
export function backlogWords({ pieces, stationName, hours, weeks }: Backlog): string {
  const all = count(pieces, 'instrument');
  if (stationName === null || weeks === null) return `${all} not begun`;
  return `${all} not begun: ${hours.toFixed(0)} h at ${stationName}, which paces the factory, ${weeks.toFixed(1)} weeks of its work`;
}

type Move = LineMoves['moves'][number];

/** What moved a day by less is told together with the rest. */
const LEAST_TOLD_MS = DAY_MS / 4;
const MOST_TOLD = 5;

/** What moved a day, greatest first, and by how much all else did together. */
export function toldMoves(moves: readonly Move[]): { told: Move[]; restMs: number } {
  const told = moves
    .filter(({ movedMs }) => Math.abs(movedMs) >= LEAST_TOLD_MS)
    .toSorted((a, b) => Math.abs(b.movedMs) - Math.abs(a.movedMs))
    .slice(0, MOST_TOLD);
  const restMs = moves.reduce((sum, move) => (told.includes(move) ? sum : sum + move.movedMs), 0);
  return { told, restMs };
}

/** '5.1 days later', '0.4 days sooner'. */
export function movedWords(movedMs: number): string {
  const days = Math.abs(movedMs) / DAY_MS;
  return `${days.toFixed(1)} ${days.toFixed(1) === '1.0' ? 'day' : 'days'} ${movedMs < 0 ? 'sooner' : 'later'}`;
}

const CAUSES: Record<Move['cause'], string> = {
  'not begun': 'no rack had it',
  waiting: 'it waited at',
  partner: 'it waited for its partner at',
  work: 'work at',
  hold: 'the hold of',
  called: 'it was called to a stop at',
  'sent back': 'it was sent back from',
};

/** Why: 'it waited at Neck set', 'it was sent back from Final inspection: fret buzz'. */
export function moveWords({ cause, operationName, reason, movedMs }: Move): string {
  const what = operationName === null ? CAUSES[cause] : `${CAUSES[cause]} ${operationName}`;
  const than = movedMs < 0 ? 'less' : 'more';
  const took =
    cause === 'work'
      ? ` took ${than} than its own pieces need`
      : cause === 'hold'
        ? ` took ${than} than the route reckons`
        : '';
  return `${what}${took}${reason === null ? '' : `: ${reason}`}`;
}

/** One value of all is its name; several say which places: 'right-handed 1–3, 5; left-handed 4'. */
export function tagWords({ values }: Pick<TagOption, 'values'>): string {
  if (values.length === 1) return values[0]?.valueName ?? '';
  return values.map(({ valueName, positions }) => `${valueName} ${placesWords(positions)}`).join('; ');
}

/** '1–3, 5'. @param positions 1-based, in order */
function placesWords(positions: readonly number[]): string {
  const runs: [first: number, last: number][] = [];
  for (const position of positions) {
    const run = runs.at(-1);
    if (run?.[1] === position - 1) run[1] = position;
    else runs.push([position, position]);
  }
  return runs.map(([first, last]) => (first === last ? `${first}` : `${first}–${last}`)).join(', ');
}
