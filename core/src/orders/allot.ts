import {
  count,
  hasLeft,
  lineOf,
  LONGEST_REASON,
  noted,
  pieceCode,
  refuse,
  SELECTED,
  withLines,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type PieceState,
  type Refusal,
} from '../ledger/index.ts';
import { specDifference, type Spec } from '../options/index.ts';
import type { Route } from '../route/index.ts';
import { list, name, plainWords, whole } from '../units/json-schema.ts';
import { isBehind } from './tag.ts';

/** Pieces are built for a line of an order from now on, or for stock again. */
export interface AllotBody {
  type: 'allot';
  /** 1-based places. */
  pieces: number[];
  /** 'O-12/1'; null: for stock. */
  line: string | null;
  /** What they are to be, as the order says it when it is filed. */
  spec?: Spec;
  /** Reason for giving a line what was built, or begun, otherwise; or for taking it from another. */
  because?: string;
}

type AllotAsked = Omit<AllotBody, 'spec'>;

export const allot: FiledKind<AllotBody, AllotAsked> = {
  type: 'allot',
  apply,
  words: ({ line, because }, pieces) =>
    `${count(pieces, 'piece')} ${line === null ? 'back to stock' : `for ${line}`}${because ? ` because ${because}` : ''}`,
  asked: {
    fields: {
      pieces: list(whole(1), 1, SELECTED.pieces.maxItems),
      line: { anyOf: [name(20), { type: 'null' }] },
      because: plainWords(LONGEST_REASON),
    },
    needs: ['pieces', 'line'],
  },
};

/** Something that speaks against giving a piece to a line: an option that is behind it already, and is another. */
export interface BuiltOtherwise {
  piece: string;
  /** 'Frets medium, not jumbo'. */
  what: string;
}

/** What pieces were built with, or stand past, that a spec wants otherwise. */
export function builtOtherwise(
  state: BatchState,
  route: Route,
  pieces: readonly PieceState[],
  spec: Pick<Spec, 'lines'>,
): BuiltOtherwise[] {
  return pieces.flatMap((piece) =>
    specDifference(lineOf(state, piece) ?? null, spec)
      .filter(({ builtAt }) => builtAt.some((place) => isBehind(route, piece, place)))
      .map(({ name: option, from, to }) => ({
        piece: pieceCode(state.code, piece.position),
        what:
          from === null
            ? `nobody knows its ${option}, ${to ?? 'none'} is wanted`
            : `${option} ${from}, not ${to ?? 'sold any more'}`,
      })),
  );
}

function apply(state: BatchState, route: Route, entry: Entry, body: AllotBody): Outcome {
  const { pieces: places, line, spec, because } = body;
  const pieces = places.flatMap(
    (position) => state.pieces.find((piece) => piece.position === position) ?? [],
  );
  const against = cannot(state, body, pieces);
  if (against) return against;
  if (line !== null && spec) {
    const otherwise = builtOtherwise(state, route, pieces, spec);
    const [first] = otherwise;
    if (first && !because) {
      const more = otherwise.length > 1 ? `, and ${otherwise.length - 1} more` : '';
      return refuse(
        'other-option',
        `${first.piece}: ${first.what}${more}; say why it is right for ${line}`,
        'because',
      );
    }
    const given = withLines(state, [{ line, spec, pieces: places }]);
    return noted(given, entry, null, places, {});
  }
  const chosen = new Set(places);
  const freed = state.pieces.map((piece) => {
    if (!chosen.has(piece.position)) return piece;
    const { line: _gone, ...rest } = piece;
    return rest;
  });
  return noted({ ...state, pieces: freed }, entry, null, places, {});
}

function cannot(
  state: BatchState,
  { pieces: places, line, because }: AllotBody,
  pieces: readonly PieceState[],
): Refusal | undefined {
  const strange = places.find((position) => !pieces.some((piece) => piece.position === position));
  if (strange !== undefined)
    return refuse('not-enough', `${pieceCode(state.code, strange)} never was on the rack`, 'pieces');
  const gone = pieces.find((piece) => hasLeft(piece));
  if (gone)
    return refuse(
      'nothing-here',
      `${pieceCode(state.code, gone.position)} is not here any more: ${gone.standing}`,
    );
  const same = pieces.find((piece) => (piece.line ?? null) === line);
  if (same && line === null)
    return refuse('taken', `${pieceCode(state.code, same.position)} is built for stock already`);
  const other = pieces.find((piece) => piece.line !== undefined && piece.line !== line);
  if (other && !because)
    return refuse(
      'taken',
      `${pieceCode(state.code, other.position)} is built for ${other.line ?? ''}: say why it is taken from there`,
      'because',
    );
  return undefined;
}
