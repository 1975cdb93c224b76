import { applyEntry, type Entry, type EntryBody } from '../entries/index.ts';
import { isRefusal, type BatchState, type Effect, type Refusal } from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
export interface Steps {
  state: BatchState;
  steps: { body: EntryBody; effect: Effect }[];
}

/** Several entries on one batch, one after the other; the first refusal refuses them all. */
export function applyAll(
  start: BatchState,
  route: Route,
  bodies: readonly EntryBody[],
  when: Omit<Entry, 'seq' | 'body'> & { seq: number },
): Steps | Refusal {
  const result: Steps = { state: start, steps: [] };
  for (const body of bodies) {
    const outcome = applyEntry(result.state, route, { ...when, seq: when.seq + result.steps.length, body });
    if (isRefusal(outcome)) return outcome;
    result.state = outcome.state;
    result.steps.push({ body, effect: outcome.effect });
  }
  return result;
}
