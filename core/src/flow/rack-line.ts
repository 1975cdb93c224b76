import { hasLeft, type PieceState } from '../ledger/index.ts';
import { orderOfLine } from '../orders/index.ts';
import { operationIndex, operationOf, type Route } from '../route/index.ts';
import { DAY_MS } from '../units/quantities.ts';
import { standsAt } from './rope.ts';
import type { RoutedBatch } from './station-load.ts';

/** Pieces of a rack that are built for one order, those on its route yet. */
export interface OrderOnRack {
  order: string;
  pieces: number;
  /** Codes of the stations where they stand. */
  stations: string[];
}

/** One open rack in the list of all of them. */
export interface RackLine<H> {
  batch: string;
  /** Kind of part: 'B', 'N', 'I'. */
  kind: string;
  model: string;
  /** Pieces it was opened with. */
  quantity: number;
  /** Pieces still on its route. */
  pieces: number;
  openedMs: number;
  dueMs: number;
  /** The earliest it could be through, by its route and its holds alone; null: not known. */
  earliestMs: number | null;
  /** Where those stand that are furthest behind, and keep the rest. */
  operation: string;
  operationName: string;
  /** Code of the station there. */
  station: string;
  standing: 'waiting' | 'inHand' | 'onHold';
  /** Pieces that stand there like that. */
  here: number;
  /** When the first of them came there. */
  sinceMs: number;
  /** Codes of the people who have any of its pieces in hand. */
  people: string[];
  /** Codes of all stations where any of its pieces stand. */
  stations: string[];
  /** The hold those furthest behind are in; null: none. */
  hold: H | null;
  /** Keys of the operations where any of its pieces may leave a hold now. */
  over: string[];
  /** The orders any of its pieces are built for, in order of their codes; what is missing is built for stock. */
  orders: OrderOnRack[];
}

/** Days by which a rack will be late, by its route and its holds alone; null: it can still be in time, or nobody can say. */
export const daysLate = ({
  earliestMs,
  dueMs,
}: Pick<RackLine<never>, 'earliestMs' | 'dueMs'>): number | null =>
  earliestMs !== null && earliestMs > dueMs ? (earliestMs - dueMs) / DAY_MS : null;

/** What somebody asks of the open racks; what is left out is not asked. */
export interface RackQuestion {
  model?: string;
  /** Code of a person who has any of its pieces in hand. */
  person?: string;
  /** Code of an order any of its pieces are built for. */
  order?: string;
  /** Those alone that will be late. */
  late?: boolean;
}

/** Whether a rack is like what is asked. */
export const isLike = (line: RackLine<unknown>, { model, person, order, late }: RackQuestion): boolean =>
  (model === undefined || line.model === model) &&
  (person === undefined || line.people.includes(person)) &&
  (order === undefined || line.orders.some((one) => one.order === order)) &&
  (late !== true || daysLate(line) !== null);

/** What keeps a rack longest comes first: a hold, then a queue, then the work. */
const ORDER = ['onHold', 'waiting', 'inHand'] as const;

/**
 * What the list of racks says of one: where its hindmost pieces stand. `holds` are those it is in, as they were judged; of several at
 * one operation the first counts. Null when no piece is left on the route.
 */
export function rackLine<H extends { operation: string; over: boolean }>(
  { state, route }: RoutedBatch,
  holds: readonly H[],
  earliestMs: number | null,
): RackLine<H> | null {
  const left = state.pieces.filter((piece) => !hasLeft(piece));
  const hindmost = Math.min(...left.map((piece) => operationIndex(route, piece.operation)));
  const there = left.filter((piece) => operationIndex(route, piece.operation) === hindmost);
  const standing = ORDER.find((one) => there.some((piece) => piece.standing === one));
  const here = there.filter((piece) => piece.standing === standing);
  const [first] = here;
  if (!standing || !first) return null;
  const operation = operationOf(route, first.operation);
  return {
    batch: state.code,
    kind: state.kind,
    model: state.model,
    quantity: state.quantity,
    pieces: left.length,
    openedMs: state.openedMs,
    dueMs: state.dueMs,
    earliestMs,
    operation: operation.key,
    operationName: operation.name,
    station: standsAt(first, route),
    stations: [...new Set(left.map((piece) => standsAt(piece, route)))],
    standing,
    here: here.length,
    sinceMs: Math.min(...here.map((piece) => piece.sinceMs)),
    people: peopleOf(left),
    hold: (standing === 'onHold' && holds.find((hold) => hold.operation === operation.key)) || null,
    over: [...new Set(holds.filter((hold) => hold.over).map((hold) => hold.operation))],
    orders: ordersOf(left, route),
  };
}

function ordersOf(pieces: readonly PieceState[], route: Route): OrderOnRack[] {
  const orders = new Map<string, OrderOnRack>();
  for (const piece of pieces) {
    const order = piece.line === undefined ? undefined : orderOfLine(piece.line)?.order;
    if (order === undefined) continue;
    const one = orders.get(order) ?? { order, pieces: 0, stations: [] };
    const station = standsAt(piece, route);
    orders.set(order, {
      order,
      pieces: one.pieces + 1,
      stations: one.stations.includes(station) ? one.stations : [...one.stations, station],
    });
  }
  return [...orders.values()].toSorted((a, b) => a.order.localeCompare(b.order, 'en', { numeric: true }));
}

const peopleOf = (pieces: readonly PieceState[]): string[] =>
  [...new Set(pieces.flatMap(({ standing, who }) => (standing === 'inHand' && who ? [who] : [])))].toSorted();
