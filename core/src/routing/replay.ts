import type { BatchState } from './batch.ts';
import type { Entry, UndoBody } from './entry.ts';
import { applyEntry, type Effect } from './reduce.ts';
import { isRefusal, refuse, type Refusal } from './refusal.ts';
import type { Route } from './route.ts';

/** Sequence numbers taken back by the corrections in a log. */
export function voidedBy(log: readonly Entry[]): Set<number> {
  return new Set(log.flatMap((entry) => (entry.body.type === 'undo' ? entry.body.voids : [])));
}

/**
 * The state a batch's whole log gives: every entry that is neither a correction nor taken back, in sequence.
 * Null when nothing is left of it. A refusal means the log does not hold together without what was taken back.
 */
export function replay(route: Route, log: readonly Entry[]): BatchState | null | (Refusal & { seq: number }) {
  const voided = voidedBy(log);
  let state: BatchState | null = null;
  for (const entry of log) {
    if (entry.body.type === 'undo' || voided.has(entry.seq)) continue;
    const outcome = applyEntry(state, route, entry);
    if (isRefusal(outcome)) return { ...outcome, seq: entry.seq };
    state = outcome.state;
  }
  return state;
}

export interface Corrected {
  state: BatchState | null;
  effect: Effect;
}

/**
 * Takes entries back: the batch replayed without them, or a refusal that names the later entry which still needs
 * them. A correction cannot be corrected: file again what it took back.
 */
export function applyUndo(
  route: Route,
  log: readonly Entry[],
  entry: Entry & { body: UndoBody },
): Corrected | Refusal {
  const voided = voidedBy(log);
  for (const seq of entry.body.voids) {
    const target = log.find((candidate) => candidate.seq === seq);
    if (!target) return refuse('nothing-to-undo', `there is no entry ${seq} to take back`);
    if (target.body.type === 'undo') {
      return refuse('undo-of-undo', `entry ${seq} is itself a correction: file again what it took back`);
    }
    if (voided.has(seq)) return refuse('nothing-to-undo', `entry ${seq} is already taken back`);
  }
  const state = replay(route, [...log, entry]);
  if (isRefusal(state)) {
    const needs = `entry ${state.seq} came after and needs it (${state.refused}): take that back first`;
    return refuse('undo-needed-by-later', needs);
  }
  return { state, effect: { operation: null, station: null, positions: [] } };
}
