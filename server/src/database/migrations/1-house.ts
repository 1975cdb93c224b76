import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The tables every later issue stands on. */
export class House1700000000001 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE factory (
        id int PRIMARY KEY CHECK (id = 1),
        name text NOT NULL,
        calendar jsonb NOT NULL,
        clock_offset_ms bigint NOT NULL DEFAULT 0
      );
      CREATE TABLE kind (letter text PRIMARY KEY, name text NOT NULL, next_number int NOT NULL DEFAULT 1);
      CREATE TABLE model (
        name text PRIMARY KEY,
        construction text NOT NULL CHECK (construction IN ('bolted', 'set', 'through')),
        description text NOT NULL
      );
      CREATE TABLE station (
        code text PRIMARY KEY,
        name text NOT NULL UNIQUE,
        stage text NOT NULL,
        position int NOT NULL,
        parallel int NOT NULL CHECK (parallel > 0),
        room text NOT NULL,
        note text NOT NULL
      );
      CREATE TABLE person (code text PRIMARY KEY, name text NOT NULL, role text NOT NULL, skills jsonb NOT NULL);
      CREATE TABLE absence (person text NOT NULL REFERENCES person, day date NOT NULL, PRIMARY KEY (person, day));
      CREATE TABLE route (
        id text PRIMARY KEY,
        model text NOT NULL REFERENCES model,
        kind text NOT NULL REFERENCES kind,
        revision int NOT NULL,
        operations jsonb NOT NULL,
        UNIQUE (model, kind, revision)
      );
      CREATE TABLE batch (
        code text PRIMARY KEY,
        kind text NOT NULL REFERENCES kind,
        model text NOT NULL REFERENCES model,
        route_id text NOT NULL REFERENCES route,
        seq int NOT NULL,
        closed boolean NOT NULL,
        state jsonb
      );
      CREATE INDEX batch_open ON batch (code) WHERE NOT closed;
      CREATE TABLE filing (
        key text PRIMARY KEY,
        fingerprint text NOT NULL,
        person text NOT NULL REFERENCES person,
        filed_at timestamptz NOT NULL,
        result jsonb
      );
      CREATE TABLE log_entry (
        id bigserial PRIMARY KEY,
        filing_key text NOT NULL REFERENCES filing,
        batch text NOT NULL,
        seq int NOT NULL,
        type text NOT NULL,
        operation text,
        station text,
        pieces int NOT NULL,
        person text NOT NULL,
        happened_at timestamptz NOT NULL,
        filed_at timestamptz NOT NULL,
        body jsonb NOT NULL,
        UNIQUE (batch, seq)
      );
      CREATE INDEX log_entry_by_filing ON log_entry (filing_key);
      CREATE INDEX log_entry_by_time ON log_entry (happened_at);
      CREATE INDEX log_entry_by_person ON log_entry (person, id);
      CREATE INDEX log_entry_corrections ON log_entry (batch) WHERE type = 'undo';
      CREATE FUNCTION log_is_for_ever() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        RAISE EXCEPTION 'entries of the log are never updated or deleted; file a correction';
      END $$;
      CREATE TRIGGER log_is_for_ever BEFORE UPDATE OR DELETE ON log_entry
        FOR EACH ROW EXECUTE FUNCTION log_is_for_ever();
      CREATE TABLE climate_reading (
        room text NOT NULL,
        at timestamptz NOT NULL,
        temperature_c real NOT NULL,
        relative_humidity_pct real NOT NULL,
        PRIMARY KEY (room, at)
      );
      CREATE TABLE station_day (
        day date NOT NULL,
        station text NOT NULL,
        hours_waiting real NOT NULL,
        days real NOT NULL,
        PRIMARY KEY (day, station)
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE station_day, climate_reading, log_entry, filing, batch, route, absence, person, station, model, kind, factory;
      DROP FUNCTION log_is_for_ever();
    `);
  }
}
