import type { Entry } from './entry.ts';
import { isRefusal, refuse, type Refusal } from './refusal.ts';

/** A body that takes earlier entries back. */
export interface Correction {
  type: 'undo';
  voids: number[];
}

/** How what has a log of its own (a batch, a lot of lumber) comes out of that log. */
export interface Ledger<State, Body extends { type: string }> {
  /**
   * What it is after one entry, or why that is refused. Pure; `state` is null before the first entry. Corrections do not come
   * here: what they take back is left out.
   */
  apply(state: State | null, entry: Entry<Body>): State | Refusal;
}

/** What a whole log gives, null when nothing is left of it; or the number of the entry that does not hold, and why. */
export type Replayed<State> = State | null | (Refusal & { seq: number });

/** Whether an entry takes others back. */
export const isCorrection = (body: { type: string }): body is Correction => body.type === 'undo';

/** Sequence numbers taken back by the corrections in a log. */
export function voidedBy(log: readonly { body: { type: string } }[]): Set<number> {
  return new Set(log.flatMap(({ body }) => (isCorrection(body) ? body.voids : [])));
}

/**
 * The state a whole log gives: every entry that is neither a correction nor taken back, in sequence. A refusal means the log
 * does not hold together without what was taken back.
 * @param each is told what every entry made of the state.
 */
export function replayed<State, Body extends { type: string }>(
  ledger: Ledger<State, Body>,
  log: readonly Entry<Body>[],
  each?: (before: State | null, after: State, entry: Entry<Body>) => void,
): Replayed<State> {
  const voided = voidedBy(log);
  let state: State | null = null;
  for (const entry of log) {
    if (isCorrection(entry.body) || voided.has(entry.seq)) continue;
    const outcome: State | Refusal = ledger.apply(state, entry);
    if (isRefusal(outcome)) return { ...outcome, seq: entry.seq };
    each?.(state, outcome, entry);
    state = outcome;
  }
  return state;
}

/**
 * Takes entries back: what the log gives without them, or a refusal that names the later entry which still needs them. A
 * correction cannot be corrected: file again what it took back.
 */
export function takenBack<State, Body extends { type: string }>(
  ledger: Ledger<State, Body>,
  log: readonly Entry<Body>[],
  correction: Entry<Body> & { body: Correction },
): State | null | Refusal {
  const voided = voidedBy(log);
  for (const seq of correction.body.voids) {
    const target = log.find((entry) => entry.seq === seq);
    if (!target) return refuse('nothing-to-undo', `there is no entry ${seq} to take back`);
    if (isCorrection(target.body))
      return refuse('undo-of-undo', `entry ${seq} is itself a correction: file again what it took back`);
    if (voided.has(seq)) return refuse('nothing-to-undo', `entry ${seq} is already taken back`);
  }
  const state = replayed(ledger, [...log, correction]);
  if (!isRefusal(state)) return state;
  const needs = `entry ${state.seq} came after and needs it (${state.refused}): take that back first`;
  return refuse('undo-needed-by-later', needs);
}
