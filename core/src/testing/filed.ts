import { applyEntry, type EntryBody } from '../entries/index.ts';
import { isRefusal, type BatchState } from '../ledger/index.ts';
import { lineEffect } from '../logline/describe.ts';
import type { Route } from '../route/index.ts';
import { entry, hoursIn, openBody } from './tarrow.ts';

/** Files one after the other on a new batch, an hour apart; gives the state, and what each after the opening answered. */
export function filed(
  route: Route,
  code: string,
  bodies: readonly EntryBody[],
  quantity = 3,
): { state: BatchState; said: string[] } {
  let state: BatchState | null = null;
  const said: string[] = [];
  [openBody(route, code, quantity), ...bodies].forEach((body, i) => {
    const outcome = applyEntry(state, route, entry(i + 1, hoursIn(i), body));
    if (isRefusal(outcome)) said.push(`${outcome.code}: ${outcome.refused}`);
    else {
      state = outcome.state;
      said.push(lineEffect({ state, route, steps: [{ body, effect: outcome.effect }] }));
    }
  });
  if (!state) throw new Error('nothing was filed');
  return { state, said: said.slice(1) };
}
