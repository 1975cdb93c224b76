import { operationOf, type Operation, type Route } from '../route/index.ts';
import { pieceCode, type BatchState, type PieceState, type Standing } from './batch.ts';
import type { Selection } from './entry.ts';
import { count, refuse, type Refusal } from './refusal.ts';

const STANDING_WORDS: Record<Standing, string> = {
  waiting: 'waiting',
  inHand: 'in hand',
  onHold: 'on hold',
  scrapped: 'scrapped',
  joined: 'joined',
  parted: 'parted',
  shipped: 'shipped',
};

export interface Chosen {
  operation: Operation;
  pieces: PieceState[];
}

interface Wanted {
  selection: Selection;
  standings: Standing[];
  /** Operations the entry makes sense at. */
  at: (operation: Operation) => boolean;
  /** Pieces taken when the entry names neither a count nor places. */
  standard: 'all' | 'one';
}

/** Where the pieces of a batch are, in words: '6 in hand at Body mill, 6 waiting at Body mill'. */
export function whereabouts(state: BatchState, route: Route): string {
  const groups = new Map<string, number>();
  for (const piece of state.pieces) {
    const place =
      piece.standing === 'joined' || piece.standing === 'parted' || piece.standing === 'shipped'
        ? STANDING_WORDS[piece.standing]
        : `${STANDING_WORDS[piece.standing]} at ${operationOf(route, piece.operation).name}`;
    groups.set(place, (groups.get(place) ?? 0) + 1);
  }
  return [...groups].map(([place, n]) => `${n} ${place}`).join(', ');
}

/** At any operation. */
export const anywhere = (): boolean => true;

/** Which pieces an entry is about, lowest places first, or why it cannot be told. */
export function choose(state: BatchState, route: Route, wanted: Wanted): Chosen | Refusal {
  const { selection } = wanted;
  const named = namedOperation(state, route, selection);
  if (named && 'refused' in named) return named;
  const fits = (piece: PieceState): boolean => {
    const operation = operationOf(route, piece.operation);
    if (!wanted.standings.includes(piece.standing) || !wanted.at(operation)) return false;
    if (named && operation.key !== named.key) return false;
    return selection.station === undefined || operation.stations.includes(selection.station);
  };
  if (selection.pieces) return chooseNamed(state, route, selection.pieces, fits, wanted);
  const fitting = state.pieces.filter(fits);
  const keys = [...new Set(fitting.map((piece) => piece.operation))];
  const operationKey = keys[0];
  if (operationKey === undefined) {
    const standings = wanted.standings.map((standing) => STANDING_WORDS[standing]).join(' or ');
    const place = named ? ` at ${named.name}` : selection.station ? ' at that station' : '';
    return refuse(
      'nothing-here',
      `nothing of ${state.code} is ${standings}${place} for this: ${whereabouts(state, route)}`,
    );
  }
  if (keys.length > 1) {
    const places = keys.map((key) => operationOf(route, key).name).join(' and ');
    return refuse('ambiguous', `${state.code} has pieces at ${places}: say at which`);
  }
  const operation = operationOf(route, operationKey);
  const asked = selection.count ?? (wanted.standard === 'one' ? 1 : fitting.length);
  if (!Number.isInteger(asked) || asked < 1)
    return refuse('bad-value', `${asked} is not a number of pieces`, 'count');
  if (asked > fitting.length) {
    const standings = wanted.standings.map((standing) => STANDING_WORDS[standing]).join(' or ');
    const be = fitting.length === 1 ? 'is' : 'are';
    return refuse(
      'not-enough',
      `only ${fitting.length} of ${state.quantity} ${be} ${standings} at ${operation.name}, not ${asked}`,
    );
  }
  // Pieces in hand go before those waiting: what is being worked on is what people speak of.
  const order = (piece: PieceState): number => wanted.standings.indexOf(piece.standing);
  return {
    operation,
    pieces: fitting.toSorted((a, b) => order(a) - order(b) || a.position - b.position).slice(0, asked),
  };
}

function namedOperation(
  state: BatchState,
  route: Route,
  selection: Selection,
): Operation | Refusal | undefined {
  if (selection.operation !== undefined) {
    const found = route.operations.find((operation) => operation.key === selection.operation);
    return (
      found ??
      refuse('unknown-operation', `the route of ${state.code} has no operation '${selection.operation}'`)
    );
  }
  if (
    selection.station !== undefined &&
    !route.operations.some((o) => o.stations.includes(selection.station ?? ''))
  ) {
    return refuse('wrong-station', `${state.code} does not go through station '${selection.station}'`);
  }
  return undefined;
}

function chooseNamed(
  state: BatchState,
  route: Route,
  places: number[],
  fits: (piece: PieceState) => boolean,
  wanted: Wanted,
): Chosen | Refusal {
  const pieces: PieceState[] = [];
  for (const place of new Set(places)) {
    const piece = state.pieces.find((candidate) => candidate.position === place);
    if (!piece)
      return refuse(
        'not-enough',
        `${state.code} has no piece ${place}: it has ${count(state.quantity, 'piece')}`,
      );
    if (!fits(piece)) {
      const operation = operationOf(route, piece.operation);
      const standings = wanted.standings.map((standing) => STANDING_WORDS[standing]).join(' or ');
      const is = STANDING_WORDS[piece.standing];
      return refuse(
        'nothing-here',
        `${pieceCode(state.code, place)} is ${is} at ${operation.name}, not ${standings} for this`,
      );
    }
    pieces.push(piece);
  }
  const operation = pieces[0] && operationOf(route, pieces[0].operation);
  if (!operation) return refuse('bad-value', 'no piece was named');
  if (pieces.some((piece) => piece.operation !== operation.key)) {
    return refuse('ambiguous', `the named pieces of ${state.code} are not all at ${operation.name}`);
  }
  return { operation, pieces };
}
