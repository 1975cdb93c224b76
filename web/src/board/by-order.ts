import type { Stage } from '@ample-crane/core';
import type { RackLine } from '../api/queries.ts';
import type { OrderSummary } from '../orders/queries.ts';
import { marksByStage, type Mark, type StageOf } from './marks.ts';

/** What is built for one order, or for stock, stage by stage. */
export interface OrderRow {
  /** Null: it is built for stock. */
  order: OrderSummary | null;
  /** Racks that have pieces of it, and how many parts and instruments they are. */
  racks: number;
  pieces: number;
  /** The racks in each stage where pieces of it stand, what is due first, first. */
  stages: Record<Stage, Mark[]>;
}

/** Pieces of a rack that nobody ordered. */
const forStock = ({ pieces, orders }: RackLine): number =>
  pieces - orders.reduce((sum, one) => sum + one.pieces, 0);

/**
 * What is on the racks for each order, in the order in which the orders are given, and at last what is built for stock. A rack with
 * pieces of several orders stands in the row of each. Orders of which no rack has anything have a row without marks.
 */
export function byOrder(
  orders: readonly OrderSummary[],
  lines: readonly RackLine[],
  stageOf: StageOf,
): OrderRow[] {
  const there = new Map<string, { line: RackLine; stations: string[]; pieces: number }[]>();
  for (const line of lines.toSorted((a, b) => a.dueMs - b.dueMs))
    for (const { order, stations, pieces } of line.orders)
      there.set(order, [...(there.get(order) ?? []), { line, stations, pieces }]);
  const stock = lines
    .filter((line) => forStock(line) > 0)
    .map((line) => ({ line, stations: line.stations, pieces: forStock(line) }));
  const rowOf = (order: OrderSummary | null, own: typeof stock): OrderRow => ({
    ...{ order, racks: own.length, stages: marksByStage(own, stageOf) },
    pieces: own.reduce((sum, { pieces }) => sum + pieces, 0),
  });
  return [
    ...orders.map((order) => rowOf(order, there.get(order.code) ?? [])),
    ...(stock.length > 0 ? [rowOf(null, stock)] : []),
  ];
}
