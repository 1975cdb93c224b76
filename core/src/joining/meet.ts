import { noted, refuse, type BatchState, type Entry, type Kind, type Outcome } from '../ledger/index.ts';

/** This batch shall meet that one at the join; null: as the due dates say. Filed on both. */
export interface MeetBody {
  type: 'meet';
  partner: string | null;
}

export const meet: Kind<MeetBody> = {
  type: 'meet',
  apply: (state, _route, entry, body) => meeting(state, entry, body),
  words: ({ partner }) => (partner === null ? 'meets whom the due dates say' : `meets ${partner}`),
};

function meeting(state: BatchState, entry: Entry, body: MeetBody): Outcome {
  if (body.partner === state.code) return refuse('not-joinable', `${state.code} cannot meet itself`);
  const { meets: _before, ...rest } = state;
  return noted(rest, entry, null, [], body.partner === null ? {} : { meets: body.partner });
}
