import { coat, colour, mark, refinish, sand, withRests } from '../coats/index.ts';
import { age, endHold } from '../holds/index.ts';
import { adjust, join, meet, pair, split } from '../joining/index.ts';
import {
  isRefusal,
  refuse,
  type BatchState,
  type Entry,
  type EntryBody,
  type OpenBody,
  type Outcome,
  type RerouteBody,
} from '../ledger/index.ts';
import { check, measure } from '../measuring/index.ts';
import type { Route } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { done } from './done.ts';
import { callHold } from './hold.ts';
import { arrive, open } from './open.ts';
import { place } from './place.ts';
import { read } from './read.ts';
import { reroute } from './reroute.ts';
import { reunited } from './reunite.ts';
import { rework } from './rework.ts';
import { scrap } from './scrap.ts';
import { ship } from './ship.ts';
import { start } from './start.ts';

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
    return state ? refuse('already-open', `${state.code} is already open`) : open(route, entry, body);
  if (!state) return refuse('unknown-batch', 'this batch is not open');
  if (entry.atMs < state.openedMs) {
    const early = spanWords((state.openedMs - entry.atMs) / HOUR_MS);
    return refuse('too-early', `that is ${early} before ${state.code} was opened`);
  }
  if (body.type === 'reroute') {
    const onto = moved ?? route;
    const rerouted = reroute(state, onto, entry, body);
    return isRefusal(rerouted) ? rerouted : { ...rerouted, state: withRests(state, rerouted.state, onto) };
  }
  const outcome = step(state, route, entry, body);
  if (isRefusal(outcome)) return outcome;
  return { ...outcome, state: withRests(state, reunited(outcome.state, route, entry.atMs), route) };
}

function step(
  state: BatchState,
  route: Route,
  entry: Entry,
  body: Exclude<EntryBody, OpenBody | RerouteBody>,
): Outcome {
  switch (body.type) {
    case 'arrive':
      return arrive(state, route, entry, body);
    case 'start':
      return start(state, route, entry, body);
    case 'done':
      return done(state, route, entry, body);
    case 'scrap':
      return scrap(state, route, entry, body);
    case 'rework':
      return rework(state, route, entry, body);
    case 'hold':
      return callHold(state, route, entry, body);
    case 'end':
      return endHold(state, route, entry, body);
    case 'read':
      return read(state, route, entry, body);
    case 'coat':
      return coat(state, route, entry, body);
    case 'sand':
      return sand(state, route, entry, body);
    case 'mark':
      return mark(state, route, entry, body);
    case 'colour':
      return colour(state, route, entry, body);
    case 'age':
      return age(state, route, entry, body);
    case 'refinish':
      return refinish(state, route, entry, body);
    case 'measure':
      return measure(state, route, entry, body);
    case 'join':
      return join(state, route, entry, body);
    case 'ship':
      return ship(state, route, entry, body);
    case 'split':
      return split(state, route, entry, body);
    case 'place':
      return place(state, route, entry, body);
    case 'check':
      return check(state, route, entry, body);
    case 'adjust':
      return adjust(state, route, entry, body);
    case 'meet':
      return meet(state, entry, body);
    case 'pair':
      return pair(state, entry, body);
    case 'undo':
      return refuse(
        'nothing-to-undo',
        'a correction is applied by replaying the batch, not as a step of its own',
      );
  }
}
