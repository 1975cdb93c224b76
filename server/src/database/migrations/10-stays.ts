import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The log as rows that can be asked: what every piece was in and how long, where it is, and which entries were taken back. */
export class Stays1700000000010 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Written by what ends it; what has not ended stands in the batch's state. Made anew from the log when one is corrected.
      CREATE TABLE stay (
        batch text NOT NULL,
        -- The entry that ended it.
        seq int NOT NULL,
        -- Pieces that were in the same and went to the same: one row.
        positions int[] NOT NULL,
        operation text NOT NULL,
        station text,
        -- 'waiting', 'inHand' or 'onHold'; by which rule, or 'called' by a person.
        status text NOT NULL,
        rule text,
        -- At a join: the batch it was to meet.
        meets text,
        person text,
        from_at timestamptz NOT NULL,
        to_at timestamptz NOT NULL CHECK (to_at >= from_at),
        -- 'passed', 'scrapped', 'sent back' …, where it went then, and why.
        ended text NOT NULL,
        to_operation text,
        reason text,
        cause text,
        PRIMARY KEY (batch, seq, positions)
      );
      CREATE INDEX stay_by_end ON stay (to_at);
      -- Every body, neck and instrument there ever was.
      CREATE TABLE piece (
        batch text NOT NULL,
        position int NOT NULL,
        standing text NOT NULL,
        -- Where it is, and since when, or where and when it left the route.
        operation text NOT NULL,
        since_at timestamptz NOT NULL,
        serial text UNIQUE,
        PRIMARY KEY (batch, position)
      );
      CREATE INDEX piece_at_work ON piece (since_at) WHERE standing IN ('waiting', 'inHand');
      -- Entries that were taken back, and by which correction; of batches and of lots.
      CREATE TABLE voided (
        batch text NOT NULL,
        seq int NOT NULL,
        by_seq int NOT NULL,
        PRIMARY KEY (batch, seq)
      );
      INSERT INTO voided
        SELECT u.batch, v.seq::int, u.seq FROM log_entry u, jsonb_array_elements_text(u.body -> 'voids') v(seq) WHERE u.type = 'undo'
        ON CONFLICT DO NOTHING;
      CREATE FUNCTION mark_voided() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        INSERT INTO voided SELECT NEW.batch, v.seq::int, NEW.seq FROM jsonb_array_elements_text(NEW.body -> 'voids') v(seq);
        RETURN NULL;
      END $$;
      CREATE TRIGGER corrections_mark AFTER INSERT ON log_entry FOR EACH ROW WHEN (NEW.type = 'undo') EXECUTE FUNCTION mark_voided();
      DROP INDEX log_entry_corrections;
      -- The last version whose states, stays and pieces were all made from the log.
      CREATE TABLE states_made (migration text PRIMARY KEY, made_at timestamptz NOT NULL DEFAULT now());
      -- Roll-ups hold work in front of stations as stays tell it.
      DELETE FROM station_day;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TRIGGER corrections_mark ON log_entry;
      DROP FUNCTION mark_voided();
      DROP TABLE stay, piece, voided, states_made;
      CREATE INDEX log_entry_corrections ON log_entry (batch) WHERE type = 'undo';
    `);
  }
}
