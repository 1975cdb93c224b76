import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What goes wrong on the floor is counted and kept: readings that were dropped, filings that were given up. */
export class Floor1700000000008 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE sensor
        -- Readings that had to be dropped because the database was away too long.
        ADD COLUMN dropped int NOT NULL DEFAULT 0,
        ADD COLUMN dropped_at timestamptz;
      -- Tables of further months are made for a role that may make none.
      ALTER FUNCTION ensure_climate_month(timestamptz) SECURITY DEFINER SET search_path = public, pg_temp;
      REVOKE CREATE ON SCHEMA public FROM PUBLIC;
      -- What a browser kept for its person, the rules then refused, and the person gave up.
      CREATE TABLE given_up (
        key text PRIMARY KEY,
        person text NOT NULL,
        -- What it was, in words, and as it would have been filed.
        words text NOT NULL,
        request jsonb NOT NULL,
        -- Why it was refused.
        why text NOT NULL,
        touched_at timestamptz NOT NULL,
        given_up_at timestamptz NOT NULL
      );
      -- What requests with a key were answered, besides those that are filed in the log.
      CREATE TABLE answered (
        key text PRIMARY KEY,
        fingerprint text NOT NULL,
        answer jsonb NOT NULL,
        answered_at timestamptz NOT NULL
      );
      CREATE INDEX answered_at ON answered (answered_at);
      CREATE INDEX given_up_at ON given_up (given_up_at DESC);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      `DROP TABLE given_up, answered;
       ALTER FUNCTION ensure_climate_month(timestamptz) SECURITY INVOKER RESET ALL;
       ALTER TABLE sensor DROP COLUMN dropped, DROP COLUMN dropped_at`,
    );
  }
}
