import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A weigh-back that was wrong is taken back: it stays in the record and leaves what is learnt. */
export class WeighBacks1700000000005 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE weigh_back ADD COLUMN taken_back_at timestamptz');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE weigh_back DROP COLUMN taken_back_at');
  }
}
