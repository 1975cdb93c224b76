import { count } from '@ample-crane/core';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type { BinAhead, Kits, PartWithLog, Pick, Shortage } from './queries.ts';

export interface Sentence {
  tone: VerdictTone;
  sentence: string;
}

/** How far a bin is, in words. */
export const BIN_WORDS: Record<BinAhead['standing'], string> = {
  none: 'to pick',
  short: 'lacks something',
  whole: 'whole',
  otherwise: 'picked for another spec',
};

/** What is to be picked, and which racks will stand: 'I-188 will stand for …; 12 kits to pick within 10 days.' */
export function kitsSentence({ ahead, shortages }: Kits, days: number): Sentence {
  const open = ahead.flatMap(({ bins }) => bins.filter(({ standing }) => standing !== 'whole')).length;
  const late = ahead.filter(({ short }) => short.length > 0);
  const [first] = late;
  const forgotten = shortages.filter(({ toOrder }) => toOrder > 0).length;
  const toPick = open === 0 ? 'Every kit is picked' : `${count(open, 'kit')} to pick or to fill`;
  const within = `${toPick} within ${count(days, 'day')}`;
  const toOrder = forgotten > 0 ? `; ${count(forgotten, 'part')} to order` : '';
  if (first)
    return {
      tone: 'bad',
      sentence: `${first.batch} will stand for ${first.short.map(({ slot }) => slot).join(', ')}${late.length > 1 ? `, and ${count(late.length - 1, 'more rack')} for parts` : ''}. ${within}${toOrder}.`,
    };
  return { tone: forgotten > 0 || open > 0 ? 'wait' : 'good', sentence: `${within}${toOrder}.` };
}

/** What a shortage asks of whoever buys: 'order 40 by Thu 26 Nov', 'comes Mon 30 Nov, a rack waits until then'. */
export function shortageWords(
  { toOrder, orderByMs, racks }: Shortage,
  nowMs: number,
  say: (ms: number) => string,
): string {
  if (toOrder > 0 && orderByMs !== null)
    return orderByMs < nowMs
      ? `order ${toOrder}: by its lead time since ${say(orderByMs)}`
      : `order ${toOrder} by ${say(orderByMs)}`;
  const comes = racks.flatMap(({ comesMs }) => comesMs ?? []);
  return `all of it ordered; comes late, the last ${say(Math.max(...comes))}`;
}

/** How far the bin of an instrument is, in one sentence. */
export function pickSentence({ standing, otherwise, lines, bin }: Pick): Sentence {
  const where = bin === null ? '' : ` Bin ${bin}.`;
  if (standing === 'otherwise')
    return { tone: 'bad', sentence: `It was ${otherwise ?? 'picked for another spec'}: put it back first.` };
  if (lines.length === 0) return { tone: 'wait', sentence: 'Nobody has said which parts its model wants.' };
  const open = lines.filter(({ wanted, there }) => there < wanted);
  if (open.length === 0) return { tone: 'good', sentence: `Whole: it may be taken in hand.${where}` };
  const missing = open.filter(
    ({ wanted, there, onHand, instead }) =>
      onHand < wanted - there && instead.every((other) => other.onHand < wanted - there),
  );
  if (missing.length > 0)
    return {
      tone: 'bad',
      sentence: `Not on the shelf: ${missing.map(({ slot }) => slot).join(', ')}. Lay in the rest; what is missing is filed with it.${where}`,
    };
  return {
    tone: 'wait',
    sentence: `${count(open.length, 'part')} to lay in, all of them on the shelf.${where}`,
  };
}

/** What is there of a part and what is to be done, in one sentence. */
export function partSentence(
  { onHand, unit, onOrder, coming }: PartWithLog,
  shortage: Shortage | undefined,
  nowMs: number,
  say: (ms: number) => string,
): Sentence {
  const [next] = coming;
  const there = `${onHand} ${unit}${onHand === 1 ? '' : 's'} there`;
  const then = next ? `, ${onOrder} on order, the next ${say(next.expectedMs)}` : ', nothing on order';
  if (!shortage) return { tone: 'good', sentence: `${there}${then}. No rack will stand for it.` };
  const [first] = shortage.racks;
  return {
    tone: 'bad',
    sentence: `${there}${then}. ${first?.rack ?? ''} lacks ${first?.short ?? 0} ${say(first?.wantMs ?? nowMs)}: ${shortageWords(shortage, nowMs, say)}.`,
  };
}

/** 'when Pickups is twin, soap'. */
export const givenWords = (
  when: readonly { option: string; values: string[] }[] | undefined,
  nameOf: (option: string, value?: string) => string,
): string =>
  (when ?? [])
    .map(
      ({ option, values }) =>
        `${nameOf(option)} ${values.map((value) => nameOf(option, value)).join(' or ')}`,
    )
    .join(' and ');
