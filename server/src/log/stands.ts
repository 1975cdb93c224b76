import { isCorrection, type LedgerEntry } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';

/** SQL: the entry `e` of the log still stands, no correction has taken it back. */
export const STANDS = `NOT EXISTS (SELECT 1 FROM voided v WHERE v.batch = e.batch AND v.seq = e.seq)`;

/** Numbers of the entries of a batch or lot that are marked as taken back, in order. */
export async function marksOf(manager: EntityManager, code: string): Promise<number[]> {
  const rows = await manager.query<{ seq: number }[]>(
    'SELECT seq FROM voided WHERE batch = $1 ORDER BY seq',
    [code],
  );
  return rows.map(({ seq }) => seq);
}

/** Marks are made by the log itself; this puts right what somebody did to them by hand. */
export async function remark(
  manager: EntityManager,
  code: string,
  log: readonly LedgerEntry<{ type: string }>[],
): Promise<void> {
  const marks = log.flatMap(({ seq: by_seq, body }) =>
    isCorrection(body) ? body.voids.map((seq) => ({ seq, by_seq })) : [],
  );
  await manager.query('DELETE FROM voided WHERE batch = $1', [code]);
  await manager.query(
    'INSERT INTO voided SELECT $1, r.seq, r.by_seq FROM jsonb_to_recordset($2::jsonb) AS r(seq int, by_seq int)',
    [code, JSON.stringify(marks)],
  );
}
