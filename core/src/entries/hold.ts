import {
  anywhere,
  changed,
  choose,
  isRefusal,
  LONGEST_REASON,
  pieceCode,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { plainWords } from '../units/json-schema.ts';
import { reasoned } from './reasoned.ts';

export interface HoldBody extends Selection {
  type: 'hold';
  reason: string;
}

export const hold: FiledKind<HoldBody> = {
  type: 'hold',
  apply,
  words: ({ reason }, pieces) => `${pieces} put on hold (${reason})`,
  asked: { fields: { ...SELECTED, reason: plainWords(LONGEST_REASON) }, needs: ['reason'] },
  line: reasoned({ hold: ['held', 'holds', 'stop', 'stopped', 'on-hold'] }),
};

function apply(state: BatchState, route: Route, entry: Entry, body: HoldBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'a hold needs a reason', 'reason');
  const chosen = choose(state, route, {
    selection: body,
    standings: ['waiting', 'inHand', 'onHold'],
    at: anywhere,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const called = chosen.pieces.find((piece) => piece.called);
  if (called)
    return refuse(
      'taken',
      `${pieceCode(state.code, called.position)} is held already: ${called.called?.reason ?? ''}`,
    );
  return changed(state, entry, chosen, (piece) => ({
    ...piece,
    standing: 'onHold',
    sinceMs: entry.atMs,
    called: {
      reason: body.reason,
      from: piece.standing === 'inHand' || piece.standing === 'onHold' ? piece.standing : 'waiting',
      // What rests goes on resting under it: its own hold counts on from when it began.
      ...(piece.standing === 'onHold' ? { restedSinceMs: piece.sinceMs } : {}),
    },
  }));
}
