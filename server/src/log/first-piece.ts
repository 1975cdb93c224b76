import {
  judgeCheck,
  operationOf,
  type BatchState,
  type Check,
  type CheckBody,
  type Route,
} from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { STANDS } from './stands.ts';

/** Checks of a load as they were filed, oldest first, without those taken back. */
export async function checksOfLoad(manager: EntityManager, load: string): Promise<CheckBody[]> {
  const rows = await manager.query<{ body: CheckBody }[]>(
    `SELECT body FROM log_entry e
      WHERE type = 'check' AND body ->> 'load' = $1
        AND ${STANDS}
      ORDER BY id`,
    [load],
  );
  return rows.map((row) => row.body);
}

/** What of some checks stands against a load's first piece: one nobody made, or that failed when it was last made. */
export async function checksAgainst(
  manager: EntityManager,
  load: string,
  checks: readonly Check[],
): Promise<string | undefined> {
  const wanted = checks.filter((check) => check.firstPiece);
  if (wanted.length === 0) return undefined;
  const made = await checksOfLoad(manager, load);
  for (const check of wanted) {
    const last = made.findLast((body) => body.check === check.key);
    if (!last) return `the first piece of ${load} is not measured: ${check.name.toLowerCase()}`;
    const judgement = judgeCheck(check, last.values);
    if (!judgement.pass) return `the first piece of ${load} does not pass. ${judgement.sentence}`;
  }
  return undefined;
}

/**
 * What stands against a load being done: its first piece. A load may hold several batches; its first piece may be of any.
 * Undefined when nothing does.
 */
export async function firstPieceAgainst(
  manager: EntityManager,
  state: BatchState,
  route: Route,
): Promise<string | undefined> {
  const piece = state.pieces.find(
    (candidate) => candidate.standing === 'inHand' && candidate.load?.firstPiece,
  );
  if (!piece?.load) return undefined;
  return checksAgainst(manager, piece.load.code, operationOf(route, piece.operation).checks ?? []);
}
