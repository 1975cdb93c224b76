import {
  count,
  hasLeft,
  LONGEST_REASON,
  noted,
  pieceCode,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type KitPart,
  type KitTurn,
  type LineWords,
  type Outcome,
  type PieceState,
  type Refusal,
  type Selection,
  type Word,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { list, plainWords } from '../units/json-schema.ts';
import { addedUp, binOf, kitOperation, kitPartWords, kitsToPick } from './bin.ts';
import { KIT_PART, MOST_BILL_LINES } from './bill-schema.ts';

/** What the store knows when a bin is filed: what it wants beside what lies in it, and by which options. */
export interface KitTold {
  /** Of each of the bins. */
  missing?: KitPart[];
  choices?: Record<string, string>;
}

/** Parts are laid into the bins of instruments. */
export interface KitBody extends Selection, KitTold {
  type: 'kit';
  /** What is written on the bin. */
  bin?: string;
  /** For one instrument; left out: all that its bill still wants. */
  parts?: KitPart[];
}

/** Parts are put back out of their bins. */
export interface KitBackBody extends Selection, KitTold {
  type: 'kit-back';
  /** Out of each bin; left out: all that lies in it. */
  parts?: KitPart[];
  because: string;
}

const parts = list(KIT_PART, 1, MOST_BILL_LINES);
const BIN = plainWords(20);

export const kit: FiledKind<KitBody, Omit<KitBody, keyof KitTold>> = {
  type: 'kit',
  apply: (state, route, entry, body) => {
    const chosen = instrumentsFor(state, route, body);
    if ('refused' in chosen) return chosen;
    return turned(state, entry, chosen, {
      ...{ parts: body.parts ?? [], missing: body.missing ?? [], choices: body.choices ?? {} },
      bin: body.bin ?? null,
    });
  },
  words: ({ bin, missing = [] }, pieces) =>
    `${count(pieces, 'kit')} picked${bin === undefined ? '' : ` into bin ${bin}`}${missing.length > 0 ? `, without ${kitPartWords(missing)}` : ''}`,
  asked: { fields: { ...SELECTED, bin: BIN, parts }, needs: [] },
  line: {
    verbs: { kit: ['kits', 'kitted', 'picked', 'pick'] },
    number: 'own',
    take: bin,
  },
};

export const kitBack: FiledKind<KitBackBody, Omit<KitBackBody, keyof KitTold>> = {
  type: 'kit-back',
  apply: (state, route, entry, body) => {
    const chosen = instrumentsFor(state, route, body);
    if ('refused' in chosen) return chosen;
    const out = body.parts ?? everythingIn(state, chosen);
    if ('refused' in out) return out;
    const wrong = notInBins(state, chosen, out);
    if (wrong) return wrong;
    return turned(state, entry, chosen, {
      parts: out.map((part) => ({ ...part, quantity: -part.quantity })),
      ...{ missing: body.missing ?? [], choices: body.choices ?? {}, bin: null },
    });
  },
  words: ({ parts: out, because }, pieces) =>
    `${out ? kitPartWords(out) : 'all'} put back out of ${count(pieces, 'bin')} because ${because}`,
  asked: { fields: { ...SELECTED, parts, because: plainWords(LONGEST_REASON) }, needs: ['because'] },
};

/** `14`, `bin a-3`: what is written on the bin. */
function bin(line: LineWords, verb: Word): { bin?: string } {
  const said = line.word() === 'bin' ? line.take() : undefined;
  return said || /^\d/.test(line.word() ?? '')
    ? { bin: line.name(said ?? verb, 'what is written on the bin') }
    : {};
}

/** The instruments whose bins are meant: those named, or all whose kit is still to be picked or put back. */
export function instrumentsFor(
  state: BatchState,
  route: Route,
  { pieces, count: asked, type }: Pick<KitBody | KitBackBody, 'pieces' | 'count' | 'type'>,
): PieceState[] | Refusal {
  if (!kitOperation(route)) return refuse('wrong-mode', `nothing on the route of ${state.code} wants a kit`);
  if (!pieces) {
    const open =
      type === 'kit'
        ? kitsToPick(state, route)
        : state.pieces.filter((piece) => !hasLeft(piece) && binOf(state, piece.position));
    if (asked !== undefined && asked > open.length)
      return refuse('not-enough', `only ${open.length} of ${state.code} are meant, not ${asked}`, 'count');
    if (open.length > 0) return open.slice(0, asked);
    const none = type === 'kit' ? 'wants a kit that is not picked' : 'has a kit';
    return refuse('nothing-here', `no instrument of ${state.code} ${none}`);
  }
  const chosen: PieceState[] = [];
  for (const position of new Set(pieces)) {
    const piece = state.pieces.find((one) => one.position === position);
    if (!piece) return refuse('not-enough', `${state.code} has no piece ${position}`, 'pieces');
    const gone = hasLeft(piece) && !(type === 'kit-back' && piece.standing === 'scrapped');
    if (gone) return refuse('nothing-here', `${pieceCode(state.code, position)} has left`, 'pieces');
    chosen.push(piece);
  }
  return chosen;
}

/**
 * One entry for each instrument a kit is asked for, so that what is there fills as many bins as it can. Where it says which parts,
 * or cannot be, it stays as it is.
 */
export function kitsApart(state: BatchState, route: Route, body: KitBody): KitBody[] {
  const pieces = body.parts ? undefined : instrumentsFor(state, route, body);
  if (!pieces || 'refused' in pieces) return [body];
  const { count: _count, ...asked } = body;
  return pieces.map(({ position }) => ({ ...asked, pieces: [position] }));
}

/** What lies in bins that are alike. */
function everythingIn(state: BatchState, pieces: readonly PieceState[]): KitPart[] | Refusal {
  const [first, ...others] = pieces.map(({ position }) => binOf(state, position)?.parts ?? []);
  if (!first || first.length === 0)
    return refuse(
      'nothing-here',
      `${pieceCode(state.code, pieces[0]?.position ?? 0)} has no kit to put back`,
    );
  const isAlike = (parts: readonly KitPart[]): boolean =>
    addedUp([...first, ...negative(parts)]).length === 0;
  return others.every(isAlike)
    ? first
    : refuse('ambiguous', `the kits of ${state.code} are not alike: put them back one by one`, 'pieces');
}

const negative = (parts: readonly KitPart[]): KitPart[] =>
  parts.map((part) => ({ ...part, quantity: -part.quantity }));

/** Why parts cannot be put back: they do not lie there. */
function notInBins(
  state: BatchState,
  pieces: readonly PieceState[],
  out: readonly KitPart[],
): Refusal | undefined {
  for (const { position } of pieces) {
    const left = addedUp([...(binOf(state, position)?.parts ?? []), ...negative(out)]);
    const over = left.find(({ quantity }) => quantity < 0);
    if (over)
      return refuse(
        'not-enough',
        `the kit of ${pieceCode(state.code, position)} has no ${over.slot} of ${over.part} to put back, or fewer`,
        'parts',
      );
  }
  return undefined;
}

/** It moves no piece. */
function turned(
  state: BatchState,
  entry: Entry,
  pieces: readonly PieceState[],
  turn: Omit<KitTurn, 'atMs' | 'by' | 'positions'>,
): Outcome {
  const positions = pieces.map(({ position }) => position).toSorted((a, b) => a - b);
  const kits = [...(state.kits ?? []), { atMs: entry.atMs, by: entry.by, positions, ...turn }];
  return noted(state, entry, null, positions, { kits });
}
