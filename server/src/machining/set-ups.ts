import { operationOf, type Route } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { checksAgainst } from './first-piece.ts';
import { STANDS } from '../log/stands.ts';

/** What a table is set up for, and whether its first piece proved it. */
export interface SetUp {
  program: string;
  /** What stands against cutting more than a first piece; null: nothing. */
  against: string | null;
}

interface LastLoad {
  bed: string;
  batch: string;
  seq: number;
  operation: string;
  load: { code: string; program: string; firstPiece: boolean };
}

/**
 * The program each of some tables last cut: what it is set up for. A set-up whose first piece nobody has measured, or which failed,
 * cuts another first piece and nothing more, unless it was ended for a reason. Tables that never cut anything are left out.
 */
export async function setUps(
  manager: EntityManager,
  tables: readonly string[],
  routeOfBatch: (batch: string) => Promise<Route | null>,
): Promise<Map<string, SetUp>> {
  const rows = await manager.query<LastLoad[]>(
    `SELECT DISTINCT ON (body->>'bed') body->>'bed' AS bed, batch, seq, operation, body->'load' AS load
       FROM log_entry e
      WHERE type = 'start' AND body ? 'load' AND body->>'bed' = ANY($1) AND ${STANDS}
      ORDER BY body->>'bed', happened_at DESC, id DESC`,
    [tables],
  );
  const found = new Map<string, SetUp>();
  for (const row of rows)
    found.set(row.bed, {
      program: row.load.program,
      against: await unproved(manager, row, routeOfBatch),
    });
  return found;
}

async function unproved(
  manager: EntityManager,
  { batch, seq, operation, load }: LastLoad,
  routeOfBatch: (batch: string) => Promise<Route | null>,
): Promise<string | null> {
  if (!load.firstPiece) return null;
  const route = await routeOfBatch(batch);
  const checks = route ? (operationOf(route, operation).checks ?? []) : [];
  const against = await checksAgainst(manager, load.code, checks);
  if (against === undefined) return null;
  const passedBy = await manager.query<unknown[]>(
    `SELECT 1 FROM log_entry e
      WHERE type = 'done' AND batch = $1 AND seq > $2 AND operation = $3 AND body ? 'because' AND ${STANDS} LIMIT 1`,
    [batch, seq, operation],
  );
  return passedBy.length > 0 ? null : against;
}
