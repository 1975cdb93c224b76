import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Boards and blanks have a status; what stands somewhere is a piece. */
export class BoardStatus1700000000011 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await rename(runner, 'standing', 'status');
  }

  async down(runner: QueryRunner): Promise<void> {
    await rename(runner, 'status', 'standing');
  }
}

async function rename(runner: QueryRunner, from: string, to: string): Promise<void> {
  for (const list of ['boards', 'blanks'])
    await runner.query(
      `UPDATE lot SET state = jsonb_set(state, ARRAY[$3::text], (
         SELECT coalesce(jsonb_agg(item - $1::text || jsonb_build_object($2::text, item -> $1::text) ORDER BY at), '[]')
           FROM jsonb_array_elements(state -> $3::text) WITH ORDINALITY AS items (item, at)))
        WHERE state ? $3::text`,
      [from, to, list],
    );
}
