import { noted, refuse, type BatchState, type Entry, type MeetBody, type Outcome } from '../ledger/index.ts';
export function meet(state: BatchState, entry: Entry, body: MeetBody): Outcome {
  if (body.partner === state.code) return refuse('not-joinable', `${state.code} cannot meet itself`);
  const { meets: _before, ...rest } = state;
  return noted(rest, entry, null, [], body.partner === null ? {} : { meets: body.partner });
}
