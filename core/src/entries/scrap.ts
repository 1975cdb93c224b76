import {
  anywhere,
  changed,
  choose,
  isRefusal,
  LONGEST_REASON,
  laidDown,
  refuse,
  SELECTED,
  type BatchState,
  type Chosen,
  type Entry,
  type FiledKind,
  type Outcome,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { plainWords } from '../units/json-schema.ts';
import { ORIGIN, originUnknown } from './origin.ts';
import { reasoned } from './reasoned.ts';

export interface ScrapBody extends Selection {
  type: 'scrap';
  reason: string;
  /** The operation that caused it, with its kind: 'B/colour'. */
  origin?: string;
}

export const scrap: FiledKind<ScrapBody> = {
  type: 'scrap',
  apply,
  words: ({ reason, origin }, pieces) =>
    `${pieces} scrapped (${reason}${origin ? `, caused at ${origin}` : ''})`,
  asked: { fields: { ...SELECTED, reason: plainWords(LONGEST_REASON), origin: ORIGIN }, needs: ['reason'] },
  line: reasoned({ scrap: ['scrapped', 'scraps', 'scrapping', 'lost', 'bin', 'binned'] }),
};

function apply(state: BatchState, route: Route, entry: Entry, body: ScrapBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'scrap needs a reason', 'reason');
  const chosen = chooseFault(state, route, body);
  if (isRefusal(chosen)) return chosen;
  const unknown = originUnknown(state, route, body.origin);
  if (unknown) return unknown;
  return changed(state, entry, chosen, (piece) => ({
    ...laidDown(piece),
    standing: 'scrapped',
    sinceMs: entry.atMs,
    scrapReason: body.reason,
    called: null,
  }));
}

/** A fault is found on what is in hand first, then on what waits, then on what rests. */
export function chooseFault(state: BatchState, route: Route, body: Selection): Chosen | Refusal {
  const inHand = choose(state, route, {
    selection: body,
    standings: ['inHand'],
    at: anywhere,
    standard: 'one',
  });
  if (!isRefusal(inHand) || inHand.code !== 'nothing-here') return inHand;
  return choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting', 'onHold'],
    at: anywhere,
    standard: 'one',
  });
}
