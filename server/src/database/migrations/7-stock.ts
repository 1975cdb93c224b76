import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Hardener and thinner are stock too: a mix draws every part from a lot of its own. */
export class Stock1700000000007 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE mix
        -- What is mixed in besides the base: [{material, lot, litres}].
        ADD COLUMN additions jsonb NOT NULL DEFAULT '[]',
        -- Why it was mixed of a lot that was empty, closed or past its date.
        ADD COLUMN because text;
      INSERT INTO material (name, lead_days)
        SELECT DISTINCT part ->> 'name', 5
          FROM recipe, jsonb_array_elements(recipe.recipe -> 'steps') step, jsonb_array_elements(step -> 'mix' -> 'parts') WITH ORDINALITY AS parts (part, at)
         WHERE jsonb_typeof(step -> 'mix') = 'object' AND at > 1
        ON CONFLICT DO NOTHING;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE mix DROP COLUMN additions, DROP COLUMN because');
  }
}
