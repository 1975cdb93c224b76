import { operationOf, type LoadMark, type Route } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { checksAgainst } from './first-piece.ts';
import { entriesInForce } from '../log/entries-in-force.ts';

/** What a table is set up for, and whether its first piece proved it. */
export interface SetUp {
  program: string;
  /** What stands against cutting more than a first piece; null: nothing. */
  against: string | null;
}

interface LastLoad {
  batch: string;
  seq: number;
  operation: string;
  load: LoadMark;
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
  const found = new Map<string, SetUp>();
  for (const bed of tables) {
    const [last] = await entriesInForce(manager, {
      ...{ type: 'start', says: { load: 'something', bed: [bed] }, newest: { count: 1 } },
    });
    const load = last?.body.load;
    if (!load || last.operation === null) continue;
    const started = { batch: last.batch, seq: last.seq, operation: last.operation, load };
    found.set(bed, { program: load.program, against: await unproved(manager, started, routeOfBatch) });
  }
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
  const passedBy = await entriesInForce(manager, {
    ...{ type: 'done', batch, operation, afterSeq: seq },
    ...{ says: { because: 'something' }, newest: { count: 1 } },
  });
  return passedBy.length > 0 ? null : against;
}
