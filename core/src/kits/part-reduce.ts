import { refuse, type Ledger, type Refusal } from '../ledger/index.ts';
import type { ExpectPartBody, NewPartBody, PartBody, PartEntry, ReceivePartBody } from './part-entry.ts';
import { stillComing, type Coming, type PartState } from './part.ts';

/** More of a part than a store room holds. */
export const MOST_OF_A_PART = 1_000_000;
/** A part that takes longer is made here. */
export const LONGEST_LEAD_DAYS = 730;
export const HEAVIEST_PART_G = 20_000;
/** Clocks of two tablets differ a little. */
const FUTURE_SLACK_MS = 5 * 60 * 1000;

type Outcome = PartState | Refusal;
const bad = (refused: string, at?: string): Refusal => refuse('bad-value', refused, at);

/** The part after one entry, or why not. Pure; `state` is not changed. Corrections are made by replaying it. */
export function applyPartEntry(state: PartState | null, entry: PartEntry): Outcome {
  const { body, atMs, filedMs } = entry;
  if (atMs > filedMs + FUTURE_SLACK_MS) return refuse('in-the-future', 'that has not happened yet');
  if (body.type === 'part')
    return state ? refuse('already-open', `${body.code} is there already`) : begun(body, atMs);
  if (!state) return refuse('unknown-batch', 'there is no such part');
  if (atMs < state.openedMs) return refuse('too-early', `${state.code} was not kept yet`);
  switch (body.type) {
    case 'part-change': {
      const { type: _type, ...said } = body;
      const next = { ...state, ...said };
      const same = Object.entries(said).every(([key, value]) => state[key as keyof typeof said] === value);
      return same ? bad(`${state.code} is like that already`) : next;
    }
    case 'part-receive':
      return received(state, body, atMs);
    case 'part-count': {
      const { quantity } = body;
      if (atMs < state.counted.atMs) return refuse('too-early', `${state.code} was counted since then`);
      // What was filed late and happened before the count was seen by it.
      const moves = state.moves.filter((move) => move.atMs > atMs);
      return { ...state, counted: { atMs, quantity }, moves };
    }
    case 'part-adjust':
      if (body.quantity === 0) return bad('nothing is put right by 0', 'quantity');
      return isSeenByCount(state, atMs)
        ? refuse('too-early', `${state.code} was counted since then: the count has seen it`)
        : moved(state, body.quantity, atMs);
    case 'part-order': {
      const { quantity, expectedMs, reference = null } = body;
      if (expectedMs < atMs) return bad('it cannot come before it was ordered', 'expectedMs');
      const number = state.ordered + 1;
      const coming = [...state.coming, { number, quantity, orderedMs: atMs, expectedMs, reference }];
      return { ...state, ordered: number, coming: soonestFirst(coming) };
    }
    case 'part-expect':
      return expected(state, body);
    case 'undo':
      throw new Error('applyPartEntry: corrections are made by replaying the part');
  }
}

/** How parts come out of their logs. */
export const partLedger: Ledger<PartState, PartBody> = { apply: applyPartEntry };

const soonestFirst = (coming: Coming[]): Coming[] =>
  coming.toSorted((a, b) => a.expectedMs - b.expectedMs || a.number - b.number);

function begun({ code, name, unit, supplier, leadDays, weightG }: NewPartBody, openedMs: number): Outcome {
  return {
    ...{ code, name, unit, supplier, leadDays, weightG: weightG ?? null, openedMs },
    ...{ counted: { atMs: openedMs, quantity: 0 }, moves: [], coming: [], ordered: 0 },
  };
}

/** Whoever counted later had it in hand. */
const isSeenByCount = ({ counted, openedMs }: PartState, atMs: number): boolean =>
  atMs <= counted.atMs && counted.atMs > openedMs;

const moved = (state: PartState, quantity: number, atMs: number): PartState =>
  isSeenByCount(state, atMs) ? state : { ...state, moves: [...state.moves, { atMs, quantity }] };

function received(state: PartState, { quantity, of }: ReceivePartBody, atMs: number): Outcome {
  const meant = state.coming.filter(({ number }) => of === undefined || number === of);
  if (of !== undefined && meant.length === 0)
    return bad(`nothing of purchase ${of} of ${state.code} is still to come`, 'of');
  if (of !== undefined && quantity > stillComing({ coming: meant }))
    return bad(
      `${stillComing({ coming: meant })} of purchase ${of} are still to come, not ${quantity}`,
      'quantity',
    );
  let left = quantity;
  const coming = state.coming.flatMap((one) => {
    if (!meant.includes(one)) return [one];
    const taken = Math.min(left, one.quantity);
    left -= taken;
    return taken === one.quantity ? [] : [{ ...one, quantity: one.quantity - taken }];
  });
  return { ...moved(state, quantity, atMs), coming };
}

function expected(state: PartState, { of, expectedMs }: ExpectPartBody): Outcome {
  const one = state.coming.find(({ number }) => number === of);
  if (!one) return bad(`nothing of purchase ${of} of ${state.code} is still to come`, 'of');
  if (expectedMs === one.expectedMs) return bad('it is expected then already', 'expectedMs');
  if (expectedMs !== null && expectedMs < one.orderedMs)
    return bad('it cannot come before it was ordered', 'expectedMs');
  const rest = state.coming.filter((other) => other !== one);
  return { ...state, coming: expectedMs === null ? rest : soonestFirst([...rest, { ...one, expectedMs }]) };
}
