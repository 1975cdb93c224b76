import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which lots a batch was made of is asked whenever instruments leave. */
export class BlanksOfBatches1700000000017 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("CREATE INDEX lot_blanks ON lot USING gin ((state -> 'blanks') jsonb_path_ops)");
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX lot_blanks');
  }
}
