import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What is asked of thousands of batches at once, beside their states: who wants it need not open each of them. And the log by when it
 * was filed: the habits of a month are not looked for in all its years.
 */
export class BesideStates1700000000021 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE batch
        ADD COLUMN ways jsonb GENERATED ALWAYS AS (coalesce(state -> 'ways', '{}'::jsonb)) STORED,
        ADD COLUMN due_ms bigint GENERATED ALWAYS AS ((state ->> 'dueMs')::numeric::bigint) STORED;
      CREATE INDEX log_entry_by_filed_at ON log_entry (filed_at);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'DROP INDEX log_entry_by_filed_at; ALTER TABLE batch DROP COLUMN ways, DROP COLUMN due_ms',
    );
  }
}
