import { refuse, type EntryBody, type LedgerEntry } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { LogEntryRow } from '../database/entities.ts';
import { touchNow } from '../setup/touch.ts';
import { Refused } from './refused.ts';
import { STANDS } from './stands.ts';

/** An entry as it stands in the log. `Body`: of a batch; lots have their own. */
export const entryOf = <Body extends { type: string } = EntryBody>(row: LogEntryRow): LedgerEntry<Body> => ({
  seq: row.seq,
  atMs: row.happenedAt.getTime(),
  filedMs: row.filedAt.getTime(),
  by: row.person,
  body: row.body as { type: string } as Body,
});

/** The whole log of a batch or lot, in sequence. */
export async function logOf<Body extends { type: string } = EntryBody>(
  manager: EntityManager,
  code: string,
): Promise<LedgerEntry<Body>[]> {
  const rows = await manager
    .getRepository(LogEntryRow)
    .find({ where: { batch: code }, order: { seq: 'ASC' } });
  return rows.map((row) => entryOf<Body>(row));
}

/**
 * The filing that is meant when something of a batch or lot is to be taken back: the one its entry `seq` belongs to, or its last
 * one. By batch or lot, the numbers of its entries. @throws Refused when there is none.
 */
export async function filingMeant(
  manager: EntityManager,
  code: string,
  seq: number | undefined,
): Promise<Map<string, number[]>> {
  if (seq === undefined) {
    const [last] = await lastFilingOf(manager, 'batch', code, touchNow()?.seen.get(code));
    if (last) return entriesUnder(manager, last.filing_key);
    throw new Refused(refuse('nothing-to-undo', `there is nothing to take back on ${code}`));
  }
  const row = await manager.getRepository(LogEntryRow).findOneBy({ batch: code, seq });
  if (row) return entriesUnder(manager, row.filingKey);
  throw new Refused(refuse('nothing-to-undo', `${code} has no entry ${seq}`));
}

/** What was filed under a key: by batch or lot, the numbers of its entries. */
export async function entriesUnder(manager: EntityManager, key: string): Promise<Map<string, number[]>> {
  const rows = await manager
    .getRepository(LogEntryRow)
    .find({ where: { filingKey: key }, order: { seq: 'ASC' } });
  const codes = [...new Set(rows.map(({ batch }) => batch))];
  return new Map(
    codes.map((code) => [code, rows.filter(({ batch }) => batch === code).map(({ seq }) => seq)]),
  );
}

/**
 * The last filing of a person or on a batch or lot that is neither a correction nor taken back. `seen`: the last entry whoever
 * asks had seen; what was filed since is not meant.
 */
export function lastFilingOf(
  manager: EntityManager,
  column: 'person' | 'batch',
  value: string,
  seen?: number,
): Promise<{ filing_key: string; batch: string }[]> {
  return manager.query(
    `SELECT filing_key, batch FROM log_entry e
      WHERE ${column} = $1 AND type <> 'undo'
        AND ${STANDS} AND ($2::int IS NULL OR seq <= $2)
      ORDER BY id DESC LIMIT 1`,
    [value, seen ?? null],
  );
}
