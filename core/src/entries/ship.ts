import {
  changed,
  choose,
  isRefusal,
  LONGEST_REASON,
  laidDown,
  overriding,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type PieceState,
  type Selection,
} from '../ledger/index.ts';
import { limitsBroken } from '../measuring/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { plainWords } from '../units/json-schema.ts';

export interface ShipBody extends Selection {
  type: 'ship';
  to?: string;
  /** Reason for shipping what lies outside its limits. */
  because?: string;
}

export const ship: FiledKind<ShipBody> = {
  type: 'ship',
  apply,
  words: ({ to, because }, pieces) =>
    `${pieces} shipped${to ? ` to ${to}` : ''}${because ? `, rule passed by (${because})` : ''}`,
  asked: {
    fields: { ...SELECTED, to: plainWords(LONGEST_REASON), because: plainWords(LONGEST_REASON) },
    needs: [],
  },
  line: {
    verbs: { ship: ['shipped', 'ships', 'send', 'sent', 'packed'] },
    endsReason: true,
    take: (line) => ({
      ...(line.word() === 'to' ? { to: line.reason(line.take()) } : {}),
      ...line.because(),
    }),
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: ShipBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'ship';
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const broken = limitsBroken(state, route, chosen);
  if (broken && !body.because) return broken;
  const extra = broken && body.because ? overriding(state, entry, chosen, body.because, broken.refused) : {};
  const shipped = (piece: PieceState): PieceState => ({
    ...laidDown(piece),
    standing: 'shipped',
    sinceMs: entry.atMs,
    station: null,
    rework: null,
  });
  return changed(state, entry, chosen, shipped, extra);
}
