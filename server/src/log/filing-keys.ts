import { createHash } from 'node:crypto';
import { refuse } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { askPrepared } from '../database/prepared.ts';
import { LIVE_CHANNEL, newsOf } from '../live/tell.ts';
import type { Filed } from './filing.ts';
import { Refused } from './refused.ts';

/**
 * Registers a client's key within a transaction, or gives back what was filed under it. A second request with the same
 * key waits for the first. @throws Refused when the key was used for something else.
 */
export async function claimKey(
  manager: EntityManager,
  claim: { key: string; asked: object; by: string; filedMs: number },
): Promise<Filed | undefined> {
  const fingerprint = createHash('sha256').update(JSON.stringify(claim.asked)).digest('hex');
  const claimed = await manager.query<unknown[]>(
    `INSERT INTO filing (key, fingerprint, person, filed_at)
     SELECT $1, $2, $3, $4 WHERE NOT EXISTS (SELECT 1 FROM answered WHERE key = $1)
         ON CONFLICT DO NOTHING RETURNING 1`,
    [claim.key, fingerprint, claim.by, new Date(claim.filedMs)],
  );
  if (claimed.length > 0) return undefined;
  const [before] = await manager.query<{ fingerprint: string; result: Filed }[]>(
    'SELECT fingerprint, result FROM filing WHERE key = $1',
    [claim.key],
  );
  if (before?.fingerprint === fingerprint) return { ...before.result, repeated: true };
  throw new Refused(refuse('key-used', 'this key was used before to file something else'));
}

/** What a filing writes together with its answer: common table expressions over its key ($1) and its own values ($5 and on). */
export interface LastWrites {
  /** Of these expressions; they are planned once for each connection. */
  name: string;
  expressions: string;
  values: readonly unknown[];
}

/**
 * Keeps what a key led to, and tells every server which batches or lots changed. It is one question with the last writes of the
 * filing: a filing waits for the database more than for anything else.
 */
export async function settleKey(
  manager: EntityManager,
  settled: { key: string; filed: Filed; changed: readonly string[]; types?: readonly string[] },
  last?: LastWrites,
): Promise<void> {
  await askPrepared(
    manager,
    {
      name: `settle ${last?.name ?? 'alone'}`,
      text: `WITH ${last ? `${last.expressions}, ` : ''}
             answered AS (UPDATE filing SET result = $2 WHERE key = $1) SELECT pg_notify($3, $4)`,
    },
    [
      ...[settled.key, JSON.stringify(settled.filed)],
      ...[LIVE_CHANNEL, newsOf(settled.changed, settled.types), ...(last?.values ?? [])],
    ],
  );
}
