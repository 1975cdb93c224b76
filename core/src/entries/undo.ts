import type { Correction, FiledKind } from '../ledger/index.ts';
import { whole } from '../units/json-schema.ts';

/** Takes entries of this batch back; the batch is replayed without them. */
export interface UndoBody extends Correction {
  reason?: string;
}

/** A filing taken back: the one this entry of the batch belongs to, or the batch's last one. */
export interface UndoAsked {
  type: 'undo';
  seq?: number;
}

/** Applied by replaying the batch, not as a step of its own: see `applyUndo`. */
export const undo: FiledKind<UndoBody, UndoAsked> = {
  type: 'undo',
  words: ({ voids }) => `entry ${voids.join(', ')} taken back`,
  asked: { fields: { seq: whole(1) }, needs: [] },
  line: {
    verbs: { undo: ['undone', 'take-back', 'takeback', 'correct'] },
    number: 'own',
    endsReason: true,
  },
};
