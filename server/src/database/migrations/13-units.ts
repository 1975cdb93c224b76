import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Units each person reads and types in; null: metric. What is kept is metric for everybody. */
export class Units1700000000013 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE person ADD COLUMN units jsonb');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE person DROP COLUMN units');
  }
}
