import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Parts with their stock, which parts each model wants, and what lies in the bins. */
export class Kits1700000000016 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE part (
        code text PRIMARY KEY,
        seq int NOT NULL,
        -- When it was last counted: what kits took before was seen by the count. Null when its making was taken back.
        counted_at timestamptz,
        -- Null when its making was taken back.
        state jsonb
      );
      -- Each revision stays.
      CREATE TABLE bill (
        model text NOT NULL,
        revision int NOT NULL,
        lines jsonb NOT NULL,
        person text NOT NULL,
        made_at timestamptz NOT NULL,
        PRIMARY KEY (model, revision)
      );
      -- What was laid into the bins of a batch, or put back (negative), as its state says.
      CREATE TABLE kit_part (
        batch text NOT NULL,
        part text NOT NULL,
        at timestamptz NOT NULL,
        quantity int NOT NULL
      );
      CREATE INDEX kit_part_by_batch ON kit_part (batch);
      CREATE INDEX kit_part_by_part ON kit_part (part, at) INCLUDE (quantity);
      -- Parts are numbered like batches and lots; a factory that is not set up yet gets its kinds when it is.
      INSERT INTO kind (letter, name, next_number)
        SELECT 'C', 'component', 1 WHERE EXISTS (SELECT 1 FROM kind) ON CONFLICT DO NOTHING;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE kit_part, bill, part;
      DELETE FROM kind WHERE letter = 'C';
    `);
  }
}
