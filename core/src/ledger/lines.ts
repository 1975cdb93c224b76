import type { Spec } from '../options/index.ts';
import type { BatchState, PieceState } from './batch.ts';

/** Pieces of a rack that are built for one line of an order, and what they are to be. */
export interface LinesOfPieces {
  line: string;
  spec: Spec;
  /** 1-based places. */
  pieces: number[];
}

/** What a piece is to be, by the line it is built for; undefined: it is built for stock. */
export const lineOf = (
  { allotted }: Pick<BatchState, 'allotted'>,
  { line }: Pick<PieceState, 'line'>,
): Spec | undefined => (line === undefined ? undefined : allotted?.find((one) => one.line === line)?.spec);

/** A rack with some of its pieces built for these lines. */
export function withLines(state: BatchState, lines: readonly LinesOfPieces[]): BatchState {
  if (lines.length === 0) return state;
  const by = new Map(lines.flatMap(({ line, pieces }) => pieces.map((position) => [position, line])));
  const told = new Map([
    ...(state.allotted ?? []).map(({ line, spec }) => [line, spec] as const),
    ...lines.map(({ line, spec }) => [line, spec] as const),
  ]);
  return {
    ...state,
    allotted: [...told].map(([line, spec]) => ({ line, spec })),
    pieces: state.pieces.map((piece) => {
      const line = by.get(piece.position);
      return line === undefined ? piece : { ...piece, line };
    }),
  };
}
