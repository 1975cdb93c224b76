import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Serials that were given, how they are made, how a model is set up, and the addresses of passports for owners. */
export class Assembly1700000000014 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Null: nobody has said how long its strings are.
      ALTER TABLE model ADD COLUMN practice jsonb;
      -- One row.
      CREATE TABLE serial_setting (
        id int PRIMARY KEY CHECK (id = 1),
        pattern text NOT NULL,
        -- Letters that stand for a model, by its name.
        letters jsonb NOT NULL,
        -- Ranges that paper has used.
        on_paper jsonb NOT NULL
      );
      -- The last number given, of a day ('2026-11-24') or overall.
      CREATE TABLE serial_number (scope text PRIMARY KEY, last int NOT NULL);
      -- Every serial that was ever given, also those whose giving was taken back and those of scrapped pieces: never given again.
      CREATE TABLE serial (
        serial text PRIMARY KEY,
        batch text NOT NULL,
        position int NOT NULL,
        given_at timestamptz NOT NULL
      );
      CREATE FUNCTION serial_is_for_ever() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        RAISE EXCEPTION 'a serial that was given is never changed or given again';
      END $$;
      CREATE TRIGGER serial_is_for_ever BEFORE UPDATE OR DELETE ON serial FOR EACH ROW EXECUTE FUNCTION serial_is_for_ever();
      -- By a part of it from its beginning.
      CREATE INDEX piece_by_serial ON piece (serial text_pattern_ops) WHERE serial IS NOT NULL;
      -- The address by which an owner finds their instrument: nobody can guess it.
      CREATE TABLE owner_page (
        token text PRIMARY KEY,
        batch text NOT NULL,
        position int NOT NULL,
        made_at timestamptz NOT NULL,
        person text NOT NULL,
        UNIQUE (batch, position)
      );
      CREATE INDEX log_entry_shipped ON log_entry (happened_at) WHERE type = 'ship';
      CREATE INDEX log_entry_sheets ON log_entry (happened_at) WHERE type = 'sheet';
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP INDEX log_entry_shipped, log_entry_sheets, piece_by_serial;
      DROP TABLE owner_page, serial, serial_number, serial_setting;
      DROP FUNCTION serial_is_for_ever();
      ALTER TABLE model DROP COLUMN practice;
    `);
  }
}
