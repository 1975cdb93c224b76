import { judgeCheck, operationOf, type BatchState, type CheckBody, type Route } from '@ample-crane/core';
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

/**
 * What stands against a load being done: a first-piece check that nobody has made, or that failed when it was last made.
 * A load may hold several batches; its first piece may be of any. Undefined when nothing does.
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
  const wanted = (operationOf(route, piece.operation).checks ?? []).filter((check) => check.firstPiece);
  if (wanted.length === 0) return undefined;
  const made = await checksOfLoad(manager, piece.load.code);
  for (const check of wanted) {
    const last = made.findLast((body) => body.check === check.key);
    if (!last) return `the first piece of ${piece.load.code} is not measured: ${check.name.toLowerCase()}`;
    const judgement = judgeCheck(check, last.values);
    if (!judgement.pass) return `the first piece of ${piece.load.code} does not pass. ${judgement.sentence}`;
  }
  return undefined;
}
