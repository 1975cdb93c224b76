import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How well somebody can do what they do, and how long it takes to learn. */
export class People1700000000019 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE person
        -- What they are learning, and cannot do alone yet; what of their skills they can teach.
        ADD COLUMN learning jsonb NOT NULL DEFAULT '[]',
        ADD COLUMN teaches jsonb NOT NULL DEFAULT '[]';
      CREATE TABLE skill (
        name text PRIMARY KEY,
        -- Working days until somebody can do it alone.
        training_days int NOT NULL CHECK (training_days > 0)
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE skill');
    await runner.query('ALTER TABLE person DROP COLUMN learning, DROP COLUMN teaches');
  }
}
