import pg from 'pg';

/** The role the server works as: it files and reads, and can neither change what is filed nor the tables. */
export const FLOOR_ROLE = 'ample_crane_floor';

/**
 * Gives the floor's role what it needs on the tables of this version. The owner's address is only used for this and for
 * migrations. Does nothing where there is no such role: a database of one's own may have one role for all.
 */
export async function grantFloor(ownerUrl: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  try {
    const { rowCount } = await client.query('SELECT 1 FROM pg_roles WHERE rolname = $1', [FLOOR_ROLE]);
    if (!rowCount) return false;
    await client.query(`
      GRANT USAGE ON SCHEMA public TO ${FLOOR_ROLE};
      GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO ${FLOOR_ROLE};
      REVOKE UPDATE, DELETE ON log_entry, change, serial, option_book, bill FROM ${FLOOR_ROLE};
      REVOKE DELETE ON filing, batch, lot, customer_order, part FROM ${FLOOR_ROLE};
      REVOKE INSERT, UPDATE, DELETE ON migration FROM ${FLOOR_ROLE};
      ALTER DEFAULT PRIVILEGES IN SCHEMA public GRANT SELECT, INSERT ON TABLES TO ${FLOOR_ROLE};
      GRANT USAGE, SELECT, UPDATE ON ALL SEQUENCES IN SCHEMA public TO ${FLOOR_ROLE};
    `);
    return true;
  } finally {
    await client.end();
  }
}
