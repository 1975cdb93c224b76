import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How long an instrument should take: it caps what is in the house. */
export class WantedLeadTime1700000000020 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    // Days by the calendar; null: nobody wants one.
    await runner.query('ALTER TABLE factory ADD COLUMN wanted_lead_days real CHECK (wanted_lead_days > 0)');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE factory DROP COLUMN wanted_lead_days');
  }
}
