import type { EntityManager } from 'typeorm';
import { STANDS } from '../log/stands.ts';

/** The program each of some tables last cut: what it is set up for. Tables that never cut anything are left out. */
export async function lastPrograms(
  manager: EntityManager,
  tables: readonly string[],
): Promise<Map<string, string>> {
  const rows = await manager.query<{ bed: string; program: string }[]>(
    `SELECT DISTINCT ON (body->>'bed') body->>'bed' AS bed, body->'load'->>'program' AS program
       FROM log_entry e
      WHERE type = 'start' AND body ? 'load' AND body->>'bed' = ANY($1) AND ${STANDS}
      ORDER BY body->>'bed', happened_at DESC, id DESC`,
    [tables],
  );
  return new Map(rows.map(({ bed, program }) => [bed, program]));
}
