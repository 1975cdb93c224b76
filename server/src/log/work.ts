import {
  applyEntry,
  isRefusal,
  staysEnded,
  type BatchState,
  type EntryBody,
  type Route,
} from '@ample-crane/core';
import type { Work } from './filing.ts';
import { Refused } from './refused.ts';

/** When something happened, when it was filed, and by whom. */
export interface When {
  atMs: number;
  filedMs: number;
  by: string;
}

/** A batch that a join or a split makes. */
export const freshWork = (fresh: Pick<Work, 'code' | 'kind' | 'model'>, route: Route): Work => ({
  ...fresh,
  route,
  seq: 0,
  state: null,
  isNew: true,
  ...untouched(null),
});

/** A batch before anything is filed on it. */
export const untouched = (
  before: BatchState | null,
): Pick<Work, 'before' | 'steps' | 'stays' | 'staysBefore'> => ({
  before,
  steps: [],
  stays: [],
  staysBefore: null,
});

/** Applies an entry to a batch that is being filed on. @throws Refused */
export function apply(work: Work, body: EntryBody, when: When, moved?: Route): void {
  const seq = work.seq + 1;
  const entry = { seq, ...when, body };
  const outcome = applyEntry(work.state, work.route, entry, moved);
  if (isRefusal(outcome)) throw new Refused(outcome);
  work.stays.push(...staysEnded(work.state, outcome.state, work.route, entry));
  work.seq = seq;
  work.state = outcome.state;
  work.steps.push({ seq, body, effect: outcome.effect });
}
