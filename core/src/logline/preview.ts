import type { BatchState } from '../routing/batch.ts';
import type { Entry, EntryBody } from '../routing/entry.ts';
import { applyEntry, type Effect } from '../routing/reduce.ts';
import { isRefusal, type Refusal } from '../routing/refusal.ts';
import type { Route } from '../routing/route.ts';

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
