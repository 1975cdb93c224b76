import { withRests } from '../coats/index.ts';
import {
  isRefusal,
  opened,
  refuse,
  withResumed,
  type Applied,
  type BatchState,
  type Outcome,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { kindOf, type Entry } from './kinds.ts';
import { rerouted } from './reroute.ts';
import { reunited } from './reunite.ts';

/** Clocks of tablets and servers differ a little; more than this is the future. */
const CLOCK_SLACK_MS = 2 * MINUTE_MS;

/**
 * The reducer: what a batch becomes by one entry, or why the entry is refused. Pure: the state given is never
 * changed, and the same arguments give the same answer. `route` is the worked route (see workedRoute); `moved` the one a
 * 'reroute' leads to. 'undo' is not its business; see replay.
 */
export function applyEntry(state: BatchState | null, route: Route, entry: Entry, moved?: Route): Outcome {
  const { body } = entry;
  if (entry.atMs > entry.filedMs + CLOCK_SLACK_MS) {
    return refuse(
      'in-the-future',
      `that is ${spanWords((entry.atMs - entry.filedMs) / HOUR_MS)} in the future`,
    );
  }
  if (body.type === 'open')
    return state ? refuse('already-open', `${state.code} is already open`) : opened(route, entry, body);
  if (!state) return refuse('unknown-batch', 'this batch is not open');
  if (entry.atMs < state.openedMs) {
    const early = spanWords((state.openedMs - entry.atMs) / HOUR_MS);
    return refuse('too-early', `that is ${early} before ${state.code} was opened`);
  }
  if (body.type === 'reroute') {
    const onto = moved ?? route;
    const outcome = rerouted(state, onto, entry, body);
    return isRefusal(outcome) ? outcome : followed(state, outcome, onto, entry.atMs);
  }
  const { apply } = kindOf(body);
  if (!apply)
    return refuse(
      'nothing-to-undo',
      'a correction is applied by replaying the batch, not as a step of its own',
    );
  const outcome = apply(state, route, entry, body);
  if (isRefusal(outcome)) return outcome;
  const together = { ...outcome, state: reunited(outcome.state, route, entry.atMs) };
  return followed(state, together, route, entry.atMs);
}

/** What follows from any entry for what is kept of the pieces it moved. */
const followed = (before: BatchState, outcome: Applied, route: Route, atMs: number): Applied => ({
  ...outcome,
  state: withResumed(before, withRests(before, outcome.state, route), atMs),
});
