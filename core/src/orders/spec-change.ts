import { hasLeft, lineOf, pieceCode, type BatchState } from '../ledger/index.ts';
import { placeOf, specDifference, type Spec } from '../options/index.ts';
import { workMinutes, type Route } from '../route/index.ts';
import { isBehind } from './tag.ts';

/** What a change of an option comes to for the pieces of one rack. */
export interface SpecChange {
  batch: string;
  option: string;
  from: string | null;
  to: string | null;
  /** Names of the operations of this rack that build it in. */
  operations: string[];
  /** Pieces that have it behind them, by what is to be otherwise: done already. */
  done: string[];
  /** Pieces it can still be built into. */
  open: string[];
  /** What building it in once more takes of people and machines, minutes; the pieces it is done of only. */
  minutesAgain: number;
  /** Material and tooling of the same, in the factory's money. */
  costAgain: number;
}

/**
 * What a new spec of a line touches on a rack: which operations, of which pieces they are done already, what doing them again
 * takes by the route's own minutes and cost. Pieces that left are not asked.
 */
export function specChange(state: BatchState, route: Route, line: string, spec: Spec): SpecChange[] {
  const pieces = state.pieces.filter((piece) => piece.line === line && !hasLeft(piece));
  if (pieces.length === 0) return [];
  const differing = specDifference(lineOf(state, { line }) ?? null, spec);
  return differing.flatMap(({ name, from, to, builtAt }): SpecChange[] => {
    const operations = route.operations.filter(({ key }) => builtAt.includes(placeOf(route.kind, key)));
    const done = pieces.filter((piece) => builtAt.some((place) => isBehind(route, piece, place)));
    if (operations.length === 0 && done.length === 0) return [];
    const codes = (some: typeof pieces): string[] =>
      some.map(({ position }) => pieceCode(state.code, position));
    const again = done.length === 0 ? [] : operations;
    return [
      {
        ...{ batch: state.code, option: name, from, to },
        operations: operations.map((operation) => operation.name),
        ...{ done: codes(done), open: codes(pieces.filter((piece) => !done.includes(piece))) },
        minutesAgain: again.reduce((sum, operation) => sum + workMinutes(operation, done.length), 0),
        costAgain: again.reduce((sum, { costPerPiece = 0 }) => sum + costPerPiece * done.length, 0),
      },
    ];
  });
}
