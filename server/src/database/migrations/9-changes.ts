import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who changed what everything is judged by, with what stood before and after. It is added to and never changed. */
export class Changes1700000000009 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE change (
        id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
        at timestamptz NOT NULL,
        person text NOT NULL,
        -- 'wood gate', 'room', 'run rules', 'species', 'machine', 'station' or 'weigh-back', and which of them.
        setting text NOT NULL,
        name text NOT NULL,
        -- Null: it was not there.
        before jsonb,
        after jsonb
      );
      CREATE INDEX change_at ON change (at DESC);
      CREATE FUNCTION change_is_for_ever() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        RAISE EXCEPTION 'what was changed is never updated or deleted';
      END $$;
      CREATE TRIGGER change_is_for_ever BEFORE UPDATE OR DELETE ON change
        FOR EACH ROW EXECUTE FUNCTION change_is_for_ever();
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE change; DROP FUNCTION change_is_for_ever()');
  }
}
