import { layersOn } from '../coats/index.ts';
import {
  arrived,
  changed,
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
import { operationIndex, type Route } from '../route/index.ts';
import { ORIGIN, originUnknown } from './origin.ts';
import { chooseFault } from './scrap.ts';
import { name, plainWords } from '../units/json-schema.ts';
import { reasoned } from './reasoned.ts';

export interface ReworkBody extends Selection {
  type: 'rework';
  reason: string;
  /** Operation key to go back to; the operation's own rework target when left out. */
  to?: string;
  /** What brought it about: a dull blade, a thin edge. */
  cause?: string;
  /** The operation that caused it, with its kind: 'B/colour'. */
  origin?: string;
  /** Whether the rest of the rack waits until they have caught up; it goes on when left out. */
  rest?: 'waits' | 'goes on';
}

export const rework: FiledKind<ReworkBody> = {
  type: 'rework',
  apply,
  words: ({ reason, cause, origin, rest }, pieces) =>
    `${pieces} sent back (${cause ? `${reason}: ${cause}` : reason}${origin ? `, caused at ${origin}` : ''})${rest === 'waits' ? ', the rest waits' : ''}`,
  asked: {
    fields: {
      ...SELECTED,
      reason: plainWords(LONGEST_REASON),
      to: name(60),
      cause: plainWords(LONGEST_REASON),
      origin: ORIGIN,
      rest: { enum: ['waits', 'goes on'] },
    },
    needs: ['reason'],
  },
  line: reasoned({ rework: ['reworked', 'redo', 'sent-back', 'send-back', 'back'] }),
};

function apply(state: BatchState, route: Route, entry: Entry, body: ReworkBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'rework needs a reason', 'reason');
  const chosen = chooseFault(state, route, body);
  if (isRefusal(chosen)) return chosen;
  const unknown = originUnknown(state, route, body.origin);
  if (unknown) return unknown;
  const from = chosen.operation;
  const targetKey = body.to ?? from.reworkTo;
  if (targetKey === null)
    return refuse('wrong-mode', `${from.name} sends nothing back: scrap it, or say where it goes`);
  const target = route.operations.find((operation) => operation.key === targetKey);
  if (!target)
    return refuse('unknown-operation', `the route of ${state.code} has no operation '${targetKey}'`);
  if (operationIndex(route, target.key) > operationIndex(route, from.key)) {
    return refuse('wrong-mode', `${target.name} comes after ${from.name}: rework goes back`);
  }
  const { reason, cause, origin } = body;
  const sent = chosen.pieces.map((piece) => piece.position);
  const outcome = changed(
    state,
    entry,
    chosen,
    (piece) =>
      arrived(
        {
          ...piece,
          rework: { from: from.key, reason, ...(cause === undefined ? {} : { cause }) },
          ...(state.coats.length > 0 ? { coatsFrom: state.coats.length } : {}),
          ...(state.checks || state.sheets || state.confirms || state.accepted || state.measures.length > 0
            ? { measuredFromMs: entry.atMs }
            : {}),
        },
        target,
        entry.atMs,
      ),
    {
      ...stripped(state, route, entry, sent, { from: from.key, to: target.key }),
      ...(cause === undefined && origin === undefined
        ? {}
        : {
            slips: [
              ...(state.slips ?? []),
              {
                atMs: entry.atMs,
                by: entry.by,
                operation: from.key,
                to: target.key,
                positions: sent,
                reason,
                ...(cause === undefined ? {} : { cause }),
                ...(origin === undefined ? {} : { origin }),
              },
            ],
          }),
    },
  );
  if (isRefusal(outcome) || body.rest !== 'waits') return outcome;
  return { ...outcome, state: restWaits(outcome.state, from.key, sent, entry.atMs) };
}

/** Pieces that go back lose the coats laid from there on: they are taken down to what lay on them before. */
function stripped(
  state: BatchState,
  route: Route,
  entry: Entry,
  positions: number[],
  { from, to }: { from: string; to: string },
): Pick<BatchState, 'sandings'> {
  const laidSince = (operation: string): boolean =>
    operationIndex(route, operation) >= operationIndex(route, to);
  const off = new Map<number, number[]>();
  for (const position of positions) {
    const removalUm = layersOn(state, position)
      .filter(({ coat: { operation } }) => laidSince(operation))
      .reduce((sum, { leftUm }) => sum + leftUm, 0);
    if (removalUm > 0) off.set(removalUm, [...(off.get(removalUm) ?? []), position]);
  }
  if (off.size === 0) return {};
  const taken = [...off].map(([removalUm, alike]) => ({
    ...{ atMs: entry.atMs, operation: from, positions: alike, removalUm },
    ...{ removalSdUm: 0, grits: [], measured: false },
  }));
  return { sandings: [...(state.sandings ?? []), ...taken].toSorted((a, b) => a.atMs - b.atMs) };
}

/** The rest of the rack at an operation waits for the pieces that were sent back from it. */
function restWaits(state: BatchState, operation: string, waitsFor: number[], atMs: number): BatchState {
  const reason = `waits for ${waitsFor.map((position) => pieceCode(state.code, position)).join(', ')}`;
  return {
    ...state,
    pieces: state.pieces.map((piece) =>
      piece.operation === operation && (piece.standing === 'waiting' || piece.standing === 'inHand')
        ? {
            ...piece,
            standing: 'onHold' as const,
            sinceMs: atMs,
            called: { reason, from: piece.standing, waitsFor },
          }
        : piece,
    ),
  };
}
