import type { MigrationInterface, QueryRunner } from 'typeorm';

/** [today, before]: a hold ends, a board is sent to cut; both were called a release. */
const ENTRIES = [
  ['end', 'release'],
  ['to-cut', 'lot-release'],
] as const;
const STANDING = ['to-cut', 'released'] as const;

/**
 * One word, one meaning: a batch is opened, a hold ends, a board is sent to cut; and each entry knows which pieces it moved.
 * What was logged stays as it was, so the trigger that keeps the log for ever looks away for this once.
 */
export class OneWord1700000000006 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("ALTER TABLE log_entry ADD COLUMN positions int[] NOT NULL DEFAULT '{}'");
    await lookingAway(runner, async () => {
      for (const [now, before] of ENTRIES) await rename(runner, before, now);
      // Where an entry named no pieces, it moved so many that are not known by number.
      await runner.query(`
        UPDATE log_entry SET positions = CASE
          WHEN jsonb_typeof(body -> 'pieces') = 'array' THEN ARRAY(SELECT jsonb_array_elements_text(body -> 'pieces')::int)
          ELSE ARRAY(SELECT -n FROM generate_series(1, pieces) n) END
         WHERE station IS NOT NULL`);
    });
    await restand(runner, STANDING[1], STANDING[0]);
  }

  async down(runner: QueryRunner): Promise<void> {
    await lookingAway(runner, async () => {
      for (const [now, before] of ENTRIES) await rename(runner, now, before);
    });
    await restand(runner, STANDING[0], STANDING[1]);
    await runner.query('ALTER TABLE log_entry DROP COLUMN positions');
  }
}

async function lookingAway(runner: QueryRunner, change: () => Promise<void>): Promise<void> {
  await runner.query('ALTER TABLE log_entry DISABLE TRIGGER log_is_for_ever');
  await change();
  await runner.query('ALTER TABLE log_entry ENABLE TRIGGER log_is_for_ever');
}

async function rename(runner: QueryRunner, from: string, to: string): Promise<void> {
  await runner.query(
    `UPDATE log_entry SET type = $2, body = jsonb_set(body, '{type}', to_jsonb($2::text)) WHERE type = $1`,
    [from, to],
  );
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
