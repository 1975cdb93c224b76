import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Machining and fitting: who made a revision of a route and why, tables and presses with their places, programs with
 * their revisions, cutters and their changes, and machines with what they told.
 */
export class MillAndFitting1700000000003 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      ALTER TABLE factory
        ADD COLUMN run_rules jsonb NOT NULL DEFAULT '["beyond", "two-of-three", "four-of-five", "eight-on-one-side"]',
        ADD COLUMN hour_rates jsonb NOT NULL DEFAULT '{"person": 34, "machine": 58}';
      ALTER TABLE model DROP CONSTRAINT model_construction_check;
      ALTER TABLE model ADD CONSTRAINT model_construction_check
        CHECK (construction IN ('bolted', 'set', 'through', 'hollow', 'composite'));
      ALTER TABLE route
        ADD COLUMN note text NOT NULL DEFAULT '',
        ADD COLUMN person text REFERENCES person,
        ADD COLUMN made_at timestamptz NOT NULL DEFAULT now();
      -- A table, press, carousel or mould: a part of a station with room for so many pieces at once.
      CREATE TABLE bed (
        code text PRIMARY KEY CHECK (code ~ '^[a-z0-9-]{1,40}$'),
        station text NOT NULL REFERENCES station,
        name text NOT NULL,
        kind text NOT NULL CHECK (kind IN ('table', 'press', 'carousel', 'rack', 'mould')),
        places int NOT NULL CHECK (places > 0),
        position int NOT NULL
      );
      CREATE INDEX batch_beds ON batch USING gin ((state -> 'pieces') jsonb_path_ops) WHERE NOT closed;
      -- Never changed: a new revision is a new row.
      CREATE TABLE program (
        model text NOT NULL REFERENCES model,
        kind text NOT NULL REFERENCES kind,
        operation text NOT NULL,
        revision int NOT NULL CHECK (revision > 0),
        set_up_minutes real NOT NULL CHECK (set_up_minutes >= 0),
        load_minutes real NOT NULL CHECK (load_minutes >= 0),
        cycle_minutes real NOT NULL CHECK (cycle_minutes > 0),
        tools jsonb NOT NULL,
        note text NOT NULL DEFAULT '',
        person text REFERENCES person,
        made_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (model, kind, operation, revision)
      );
      CREATE TABLE cutter (
        station text NOT NULL REFERENCES station,
        tool text NOT NULL,
        life_minutes real NOT NULL CHECK (life_minutes > 0),
        change_minutes real NOT NULL CHECK (change_minutes >= 0),
        cost real NOT NULL CHECK (cost >= 0),
        PRIMARY KEY (station, tool)
      );
      CREATE TABLE cutter_change (
        id bigserial PRIMARY KEY,
        key text NOT NULL UNIQUE,
        station text NOT NULL,
        tool text NOT NULL,
        used_minutes real NOT NULL,
        reason text NOT NULL,
        person text NOT NULL REFERENCES person,
        at timestamptz NOT NULL,
        FOREIGN KEY (station, tool) REFERENCES cutter
      );
      CREATE INDEX cutter_change_newest ON cutter_change (station, tool, at);
      CREATE SEQUENCE load_number;
      CREATE INDEX log_entry_loads ON log_entry (happened_at) WHERE type = 'start' AND body ? 'load';
      CREATE INDEX log_entry_checks ON log_entry ((body ->> 'load')) WHERE type = 'check';
      CREATE INDEX log_entry_check_times ON log_entry ((body ->> 'check'), happened_at) WHERE type = 'check';
      CREATE TABLE machine (
        code text PRIMARY KEY,
        station text NOT NULL REFERENCES station,
        name text NOT NULL,
        url text NOT NULL,
        -- Where to go on reading; null: never reached.
        instance_id bigint,
        next_sequence bigint,
        seen_at timestamptz,
        trouble text,
        -- What is known of its paths.
        state jsonb NOT NULL DEFAULT '{}'
      );
      CREATE TABLE machine_event (
        machine text NOT NULL REFERENCES machine,
        instance_id bigint NOT NULL,
        sequence bigint NOT NULL,
        at timestamptz NOT NULL,
        item text NOT NULL,
        value text NOT NULL,
        PRIMARY KEY (machine, instance_id, sequence)
      );
      CREATE TABLE machine_cycle (
        id bigserial PRIMARY KEY,
        machine text NOT NULL REFERENCES machine,
        path text NOT NULL,
        program text,
        started_at timestamptz NOT NULL,
        ended_at timestamptz,
        -- Minutes not cutting within the cycle: feed hold and stops.
        held_minutes real NOT NULL DEFAULT 0,
        outcome text NOT NULL CHECK (outcome IN ('running', 'complete', 'broken off', 'lost')),
        note text NOT NULL DEFAULT '',
        -- What the operator said of it; null: nothing yet.
        settled text CHECK (settled IN ('filed', 'dismissed')),
        load text,
        UNIQUE (machine, path, started_at)
      );
      CREATE INDEX machine_cycle_open ON machine_cycle (machine, started_at) WHERE settled IS NULL;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      DROP TABLE machine_cycle, machine_event, machine, cutter_change, cutter, program, bed;
      DROP INDEX log_entry_check_times, log_entry_checks, log_entry_loads, batch_beds;
      DROP SEQUENCE load_number;
      ALTER TABLE route DROP COLUMN made_at, DROP COLUMN person, DROP COLUMN note;
      ALTER TABLE model DROP CONSTRAINT model_construction_check;
      ALTER TABLE model ADD CONSTRAINT model_construction_check
        CHECK (construction IN ('bolted', 'set', 'through')) NOT VALID;
      ALTER TABLE factory DROP COLUMN hour_rates, DROP COLUMN run_rules;
    `);
  }
}
