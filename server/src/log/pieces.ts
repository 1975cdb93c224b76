import type { Standing } from '@ample-crane/core';
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
