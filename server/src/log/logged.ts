import { refuse, type EntryBody, type LedgerEntry } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { LogEntryRow } from './rows.ts';
import { touchNow } from '../setup/touch.ts';
import { Refused } from './refused.ts';
import { STANDS } from './stands.ts';
import type { When } from './work.ts';

/** An entry as it stands in the log. `Body`: of a batch; lots have their own. */
export const entryOf = <Body extends { type: string } = EntryBody>(row: LogEntryRow): LedgerEntry<Body> => ({
  seq: row.seq,
  atMs: row.happenedAt.getTime(),
  filedMs: row.filedAt.getTime(),
  by: row.person,
  body: row.body as { type: string } as Body,
});

/** Writes entries of one lot into the log; those of batches are written with their states (`WorksService`). */
export async function writeEntries(
  manager: EntityManager,
  key: string,
  { by, atMs, filedMs }: When,
  code: string,
  entries: readonly { seq: number; body: { type: string } }[],
): Promise<void> {
  await manager.query(
    `INSERT INTO log_entry (filing_key, batch, seq, type, pieces, person, happened_at, filed_at, body)
     SELECT $1, $2, r.seq, r.body ->> 'type', 0, $3, $4, $5, r.body FROM jsonb_to_recordset($6::jsonb) AS r(seq int, body jsonb)`,
    [key, code, by, new Date(atMs), new Date(filedMs), JSON.stringify(entries)],
  );
}

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

/** An entry with what it made of its batch when it was filed. */
export interface ToldEntry extends LedgerEntry<EntryBody> {
  operation: string | null;
  station: string | null;
  pieces: number;
}

/** The whole log of a batch with what each entry did, in sequence. */
export async function toldLog(manager: EntityManager, batch: string): Promise<ToldEntry[]> {
  const rows = await manager.getRepository(LogEntryRow).find({ where: { batch }, order: { seq: 'ASC' } });
  return rows.map((row) => ({
    ...entryOf(row),
    ...{ operation: row.operation, station: row.station, pieces: row.pieces },
  }));
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
  return entriesUnder(manager, await keyMeant(manager, code, seq));
}

/** The key of the filing that is meant. @throws Refused when there is none. */
export async function keyMeant(
  manager: EntityManager,
  code: string,
  seq: number | undefined,
): Promise<string> {
  if (seq === undefined) {
    const [last] = await lastFilingOf(manager, 'batch', code, touchNow()?.seen.get(code));
    if (last) return last.filing_key;
    throw new Refused(refuse('nothing-to-undo', `there is nothing to take back on ${code}`));
  }
  const row = await manager.getRepository(LogEntryRow).findOneBy({ batch: code, seq });
  if (row) return row.filingKey;
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
