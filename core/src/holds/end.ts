import { coatedAlike } from '../coats/index.ts';
import {
  anywhere,
  changed,
  choose,
  isRefusal,
  LONGEST_REASON,
  overriding,
  passed,
  refuse,
  SELECTED,
  type BatchState,
  type Chosen,
  type Entry,
  type Facts,
  type FiledKind,
  type Freed,
  type LineWords,
  type Outcome,
  type PieceState,
  type Selection,
} from '../ledger/index.ts';
import type { HoldOperation, Route } from '../route/index.ts';
import { ageingView } from './ageing.ts';
import { holdContext } from './context.ts';
import { lastMark } from './cure.ts';
import { isOver } from './kinds.ts';
import type { HoldContext } from './rules.ts';
import { name, plainWords } from '../units/json-schema.ts';

export interface EndBody extends Selection {
  type: 'end';
  /** Ageing: what was seen that made it enough. */
  seen?: string;
  /** Cure: code of the test panel it is believed on. */
  panel?: string;
  /** Reason for ending the hold though its rule says otherwise. */
  because?: string;
  facts?: Facts;
}

export const end: FiledKind<EndBody> = {
  type: 'end',
  apply,
  words: ({ because, seen, panel }, pieces) =>
    [
      `hold of ${pieces} ended`,
      because ? `, rule passed by (${because})` : '',
      seen ? ` (${seen})` : '',
      panel ? ` on ${panel}` : '',
    ].join(''),
  asked: {
    fields: {
      ...SELECTED,
      seen: plainWords(LONGEST_REASON),
      panel: name(20),
      because: plainWords(LONGEST_REASON),
    },
    needs: [],
  },
  line: {
    verbs: {
      end: ['ended', 'ends', 'ending', 'end-hold', 'free', 'freed', 'release', 'released', 'releases'],
    },
    take: (line) => ({ ...believed(line), ...line.because() }),
  },
};

/** `panel TP-4`: the test panel a cure is believed on. */
const believed = (line: LineWords): { panel?: string } =>
  line.word() === 'panel' ? { panel: line.name(line.take(), 'a test panel').toUpperCase() } : {};

function apply(state: BatchState, route: Route, entry: Entry, body: EndBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold'],
    at: anywhere,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const called = chosen.pieces.filter((piece) => piece.called);
  if (called.length > 0) {
    return changed(state, entry, { ...chosen, pieces: called }, (piece) => ({
      ...piece,
      standing: piece.called?.from ?? 'waiting',
      sinceMs: piece.called?.restedSinceMs ?? entry.atMs,
      called: null,
    }));
  }
  const { operation } = chosen;
  if (operation.mode !== 'hold')
    throw new Error(`end: '${operation.key}' holds pieces without a rule or a call`);
  const open =
    body.count !== undefined || body.pieces !== undefined || body.because
      ? chosen.pieces
      : ready(state, chosen, entry, body);
  const against = firstNotOver(state, { operation, pieces: open }, entry, body);
  if (against && !body.because) return refuse('hold-not-over', against);
  const extra = {
    ...(against && body.because
      ? overriding(state, entry, { operation, pieces: open }, body.because, against)
      : {}),
    ...freed(state, { operation, pieces: open }, entry, body, against),
  };
  return changed(
    state,
    entry,
    { operation, pieces: open },
    (piece) => passed(piece, route, entry.atMs),
    extra,
  );
}

/** Without a count, an end means the pieces whose hold is over; when none is, it means all and will be refused. */
function ready(state: BatchState, chosen: Chosen, entry: Entry, body: EndBody): PieceState[] {
  const over = chosen.pieces.filter(
    (piece) => !firstNotOver(state, { ...chosen, pieces: [piece] }, entry, body),
  );
  return over.length > 0 ? over : chosen.pieces;
}

/** The context the end of a hold is judged in: what the server knew of the cure goes before anything else. */
function contextOf(
  state: BatchState,
  group: { sinceMs: number; positions: number[] },
  entry: Entry,
  { facts }: EndBody,
): HoldContext {
  const [first] = group.positions;
  const cure = facts?.cured?.find(
    (fact) =>
      fact.sinceMs === group.sinceMs &&
      (fact.positions === undefined || (first !== undefined && fact.positions.includes(first))),
  );
  return { ...holdContext(state, group, entry.atMs), ...(cure ? { cure } : {}) };
}

/** Pieces that came onto a hold together and have the same coats. */
function heldAlike(
  state: BatchState,
  pieces: readonly PieceState[],
): { sinceMs: number; positions: number[] }[] {
  return [...new Set(pieces.map((piece) => piece.sinceMs))].flatMap((sinceMs) =>
    coatedAlike(
      state,
      pieces.filter((piece) => piece.sinceMs === sinceMs).map((piece) => piece.position),
    ).map((positions) => ({ sinceMs, positions })),
  );
}

/** The sentence of the first hold among these pieces that is not over; undefined when all are. */
function firstNotOver(state: BatchState, chosen: Chosen, entry: Entry, body: EndBody): string | undefined {
  const { operation } = chosen;
  if (operation.mode !== 'hold') return undefined;
  for (const group of heldAlike(state, chosen.pieces)) {
    const context = contextOf(state, group, entry, body);
    const judgement = isOver(operation, context);
    if (!judgement.over && !seenEnough(operation, context, body)) return judgement.sentence;
  }
  return undefined;
}

/** Ageing stops when it is wanted: once they came out of the cold and somebody says what is to be seen. */
function seenEnough(operation: HoldOperation, context: HoldContext, { seen }: EndBody): boolean {
  if (operation.rule.rule !== 'ageing' || !seen) return false;
  const { cycles, phase } = ageingView(context);
  return cycles > 0 && phase === 'warm';
}

/** What pieces were freed on, kept for ever: of a cure or ageing only. */
export function freed(
  state: BatchState,
  { operation, pieces }: Chosen,
  entry: Entry,
  body: EndBody,
  against: string | undefined,
): Pick<BatchState, 'freed'> {
  if (operation.mode !== 'hold' || !['cure', 'ageing'].includes(operation.rule.rule)) return {};
  const notes = heldAlike(state, pieces).map((group): Freed => {
    const context = contextOf(state, group, entry, body);
    const { sentence } = isOver(operation, context);
    const { rule } = operation;
    const until = rule.rule === 'cure' ? { until: rule.until } : {};
    const by = {
      atMs: entry.atMs,
      by: entry.by,
      operation: operation.key,
      positions: group.positions,
      ...until,
    };
    const believed = context.cure?.panel;
    if (against !== undefined && believed !== undefined)
      return { ...by, on: 'panel', words: `${body.because ?? ''}; ${believed}; ${sentence}` };
    if (against !== undefined) return { ...by, on: 'reason', words: `${body.because ?? ''}; ${sentence}` };
    if (body.seen) return { ...by, on: 'sight', words: body.seen };
    if (believed !== undefined) return { ...by, on: 'panel', words: `${sentence} ${believed}.` };
    return { ...by, on: rule.rule === 'cure' && lastMark(context) ? 'mark' : 'clock', words: sentence };
  });
  return { freed: [...(state.freed ?? []), ...notes] };
}
