import type { MigrationInterface, QueryRunner } from 'typeorm';

/** [today, before]: a hold ends, a board is sent to cut; both were called a release. */
const ENTRIES = [
  ['end', 'release'],
  ['to-cut', 'lot-release'],
] as const;
const STANDING = ['to-cut', 'released'] as const;

/**
 * One word, one meaning: a batch is opened, a hold ends, a board is sent to cut. What was logged stays as it was; only the
 * name of its kind is another, so the trigger that keeps the log for ever looks away for this once.
 */
export class OneWord1700000000006 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const [now, before] of ENTRIES) await rename(runner, before, now);
    await restand(runner, STANDING[1], STANDING[0]);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [now, before] of ENTRIES) await rename(runner, now, before);
    await restand(runner, STANDING[0], STANDING[1]);
  }
}

async function rename(runner: QueryRunner, from: string, to: string): Promise<void> {
  await runner.query('ALTER TABLE log_entry DISABLE TRIGGER log_is_for_ever');
  await runner.query(
    `UPDATE log_entry SET type = $2, body = jsonb_set(body, '{type}', to_jsonb($2::text)) WHERE type = $1`,
    [from, to],
  );
  await runner.query('ALTER TABLE log_entry ENABLE TRIGGER log_is_for_ever');
}

async function restand(runner: QueryRunner, from: string, to: string): Promise<void> {
  await runner.query(
    `UPDATE lot SET state = jsonb_set(state, '{boards}', (
       SELECT coalesce(jsonb_agg(CASE WHEN b ->> 'standing' = $1 THEN jsonb_set(b, '{standing}', to_jsonb($2::text)) ELSE b END
                ORDER BY at), '[]')
         FROM jsonb_array_elements(state -> 'boards') WITH ORDINALITY AS boards (b, at)))
      WHERE state IS NOT NULL`,
    [from, to],
  );
}
