import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is sold of each model, what is ordered of it, and which piece is built for which line. */
export class Orders1700000000015 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Each revision stays: what was ordered by it keeps its words.
      CREATE TABLE option_book (
        model text NOT NULL,
        revision int NOT NULL,
        options jsonb NOT NULL,
        rules jsonb NOT NULL,
        person text NOT NULL,
        made_at timestamptz NOT NULL,
        PRIMARY KEY (model, revision)
      );
      CREATE TABLE customer_order (
        code text PRIMARY KEY,
        seq int NOT NULL,
        -- Nothing of it is to be built any more, or its placing was taken back.
        closed boolean NOT NULL,
        -- Pieces that are to be built in all.
        pieces int NOT NULL,
        -- Null when its placing was taken back.
        state jsonb
      );
      CREATE INDEX customer_order_open ON customer_order (code) WHERE NOT closed;
      -- 'O-12/1': the line it is built for; null: for stock.
      ALTER TABLE piece ADD COLUMN line text;
      ALTER TABLE piece ADD COLUMN order_code text GENERATED ALWAYS AS (split_part(line, '/', 1)) STORED;
      CREATE INDEX piece_by_order ON piece (order_code) WHERE order_code IS NOT NULL;
      -- Orders are numbered like batches and lots; a factory that is not set up yet gets its kinds when it is.
      INSERT INTO kind (letter, name, next_number)
        SELECT 'O', 'order', 1 WHERE EXISTS (SELECT 1 FROM kind) ON CONFLICT DO NOTHING;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP INDEX piece_by_order;
      ALTER TABLE piece DROP COLUMN order_code, DROP COLUMN line;
      DROP TABLE customer_order, option_book;
      DELETE FROM kind WHERE letter = 'O';
    `);
  }
}
