import type { AllottedPiece, Standing } from '@ample-crane/core';
import type { Asks } from './entries-in-force.ts';

/** An instrument that has its serial. */
export interface SerialledPiece {
  serial: string;
  batch: string;
  position: number;
  model: string;
  standing: Standing;
}

const COLUMNS = 'p.serial, p.batch, p.position, b.model, p.standing';

/** Instruments whose serial begins so, in its order; at most so many. @param beginning as it is written, capitals */
export const piecesBySerial = (db: Asks, beginning: string, most: number): Promise<SerialledPiece[]> =>
  db.query(
    `SELECT ${COLUMNS} FROM piece p JOIN batch b ON b.code = p.batch
      WHERE p.serial LIKE $1 ORDER BY p.serial LIMIT $2`,
    [`${beginning.replaceAll(/[\\%_]/g, String.raw`\$&`)}%`, most],
  );

/** Serials of the pieces of some batches, by batch and 1-based place. */
export async function serialsOf(
  db: Asks,
  batches: readonly string[],
): Promise<(batch: string, position: number) => string | undefined> {
  const rows = await db.query<{ batch: string; position: number; serial: string }[]>(
    'SELECT batch, position, serial FROM piece WHERE batch = ANY($1) AND serial IS NOT NULL',
    [[...new Set(batches)]],
  );
  const known = new Map(rows.map(({ batch, position, serial }) => [`${batch}/${position}`, serial]));
  return (batch, position) => known.get(`${batch}/${position}`);
}

/** An instrument that left, with when it did. */
export interface ShippedPiece {
  batch: string;
  position: number;
  model: string;
  serial: string | null;
  /** When its rack was due; null: it is not known any more. */
  dueMs: number | null;
  leftMs: number;
}

/** What left since a moment, the newest first; at most so many. */
export async function shippedSince(
  db: Asks,
  { fromMs, most }: { fromMs: number; most: number },
): Promise<ShippedPiece[]> {
  const rows = await db.query<
    (Omit<ShippedPiece, 'leftMs' | 'dueMs'> & { due_ms: string | null; since_at: Date })[]
  >(
    `SELECT p.batch, p.position, b.model, p.serial, b.due_ms, p.since_at FROM piece p JOIN batch b ON b.code = p.batch
      WHERE p.standing = 'shipped' AND p.since_at >= $1 ORDER BY p.since_at DESC, p.batch, p.position LIMIT $2`,
    [new Date(fromMs), most],
  );
  return rows.map(({ since_at, due_ms, ...piece }) => ({
    ...piece,
    ...{ dueMs: due_ms === null ? null : Number(due_ms), leftMs: since_at.getTime() },
  }));
}

/** A piece that is built for a line, with where it is. */
export interface OrderedPiece extends AllottedPiece {
  operation: string;
  sinceMs: number;
  serial: string | null;
}

/** Every piece there ever was that is built for these orders, by line, rack and place. @param orders their codes */
export async function piecesOfOrders(db: Asks, orders: readonly string[]): Promise<OrderedPiece[]> {
  const rows = await db.query<(Omit<OrderedPiece, 'sinceMs'> & { since_at: Date })[]>(
    `SELECT p.line, p.batch, b.kind, p.position, p.standing, p.operation, p.since_at, p.serial
       FROM piece p JOIN batch b ON b.code = p.batch
      WHERE p.order_code = ANY($1) ORDER BY p.line, p.batch, p.position`,
    [[...new Set(orders)]],
  );
  return rows.map(({ since_at, ...piece }) => ({ ...piece, sinceMs: since_at.getTime() }));
}

/** Orders of which so many pieces have left, by code; of those named. */
export async function shippedOfOrders(db: Asks, orders: readonly string[]): Promise<Map<string, number>> {
  const rows = await db.query<{ code: string; pieces: number }[]>(
    `SELECT order_code AS code, count(*)::int AS pieces FROM piece
      WHERE order_code = ANY($1) AND standing = 'shipped' GROUP BY order_code`,
    [orders],
  );
  return new Map(rows.map(({ code, pieces }) => [code, pieces]));
}
