import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * The wood room: species, meters and their lines, rooms, lots of lumber, weigh-backs; climate kept by month, with what
 * is not believed marked, and an hourly roll-up of what is.
 */
export class WoodRoom1700000000002 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE species (
        name text PRIMARY KEY,
        basic_specific_gravity real NOT NULL CHECK (basic_specific_gravity > 0),
        radial_shrinkage_pct real NOT NULL CHECK (radial_shrinkage_pct >= 0),
        tangential_shrinkage_pct real NOT NULL CHECK (tangential_shrinkage_pct >= 0),
        papers_needed boolean NOT NULL DEFAULT false
      );
      CREATE TABLE meter (
        code text PRIMARY KEY,
        name text NOT NULL,
        kind text NOT NULL CHECK (kind IN ('pin', 'pinless')),
        note text NOT NULL DEFAULT ''
      );
      CREATE TABLE oven_dry_sample (
        id bigserial PRIMARY KEY,
        key text NOT NULL UNIQUE,
        meter text NOT NULL REFERENCES meter,
        species text NOT NULL REFERENCES species,
        reading_pct double precision NOT NULL,
        wood_temperature_c double precision NOT NULL,
        wet_g double precision NOT NULL,
        dry_g double precision NOT NULL CHECK (dry_g > 0 AND wet_g >= dry_g),
        person text NOT NULL REFERENCES person,
        at timestamptz NOT NULL
      );
      -- The newest line of a meter and species is the one that corrects; older ones stay for the record.
      CREATE TABLE meter_line (
        id bigserial PRIMARY KEY,
        meter text NOT NULL REFERENCES meter,
        species text NOT NULL REFERENCES species,
        a double precision NOT NULL,
        b double precision NOT NULL,
        residual_sd_pct double precision NOT NULL,
        samples int NOT NULL,
        from_pct double precision NOT NULL,
        to_pct double precision NOT NULL,
        person text NOT NULL REFERENCES person,
        at timestamptz NOT NULL
      );
      CREATE INDEX meter_line_newest ON meter_line (meter, species, id);
      CREATE TABLE room (
        name text PRIMARY KEY,
        position int NOT NULL,
        emc_low_pct real NOT NULL,
        emc_high_pct real NOT NULL,
        holds_wood boolean NOT NULL,
        CHECK (emc_low_pct < emc_high_pct)
      );
      -- What was last heard of each room's sensor, and what it did wrong.
      CREATE TABLE sensor (
        room text PRIMARY KEY,
        heard_at timestamptz NOT NULL,
        nonsense int NOT NULL DEFAULT 0,
        nonsense_said text,
        nonsense_at timestamptz,
        clock_off_ms bigint,
        clock_at timestamptz
      );
      CREATE TABLE lot (
        code text PRIMARY KEY,
        seq int NOT NULL,
        used_up boolean NOT NULL,
        state jsonb
      );
      CREATE TABLE weigh_back (
        id bigserial PRIMARY KEY,
        key text NOT NULL UNIQUE,
        model text NOT NULL REFERENCES model,
        kind text NOT NULL REFERENCES kind,
        piece text NOT NULL,
        blank_kg real NOT NULL CHECK (blank_kg > 0),
        finished_kg real NOT NULL CHECK (finished_kg > 0 AND finished_kg <= blank_kg),
        person text NOT NULL REFERENCES person,
        at timestamptz NOT NULL
      );
      CREATE TABLE sheet_columns (headings text PRIMARY KEY, columns jsonb NOT NULL);
      ALTER TABLE model ADD COLUMN wood jsonb;
      ALTER TABLE factory ADD COLUMN wood_gate jsonb NOT NULL
        DEFAULT '{"school": "fixed", "lowPct": 6, "highPct": 8.5}';

      ALTER TABLE climate_reading RENAME TO climate_reading_before;
      CREATE TABLE climate_reading (
        room text NOT NULL,
        at timestamptz NOT NULL,
        temperature_c real NOT NULL,
        relative_humidity_pct real NOT NULL,
        doubt text,
        PRIMARY KEY (room, at)
      ) PARTITION BY RANGE (at);
      CREATE FUNCTION ensure_climate_month(instant timestamptz) RETURNS void LANGUAGE plpgsql AS $$
      DECLARE
        month timestamp := date_trunc('month', instant AT TIME ZONE 'UTC');
        part text := 'climate_reading_' || to_char(month, 'YYYY_MM');
      BEGIN
        IF to_regclass(part) IS NOT NULL THEN RETURN; END IF;
        PERFORM pg_advisory_xact_lock(hashtext('climate months'));
        EXECUTE format('CREATE TABLE IF NOT EXISTS %I PARTITION OF climate_reading FOR VALUES FROM (%L) TO (%L)',
          part, month AT TIME ZONE 'UTC', (month + interval '1 month') AT TIME ZONE 'UTC');
      END $$;
      SELECT ensure_climate_month(month) FROM (
        SELECT DISTINCT date_trunc('month', at AT TIME ZONE 'UTC') AT TIME ZONE 'UTC' AS month FROM climate_reading_before
      ) AS months;
      INSERT INTO climate_reading SELECT room, at, temperature_c, relative_humidity_pct, NULL FROM climate_reading_before;
      DROP TABLE climate_reading_before;
      CREATE TABLE climate_hour (
        room text NOT NULL,
        at timestamptz NOT NULL,
        readings int NOT NULL,
        temperature_c real NOT NULL,
        low_c real NOT NULL,
        high_c real NOT NULL,
        relative_humidity_pct real NOT NULL,
        low_rh_pct real NOT NULL,
        high_rh_pct real NOT NULL,
        PRIMARY KEY (room, at)
      );
      -- Makes the hours of one room within a span anew from the readings that are believed.
      CREATE FUNCTION roll_up_climate(of_room text, from_at timestamptz, to_at timestamptz) RETURNS void LANGUAGE sql AS $$
        INSERT INTO climate_hour
        SELECT room, date_bin('1 hour', at, 'epoch'), count(*), avg(temperature_c), min(temperature_c), max(temperature_c),
               avg(relative_humidity_pct), min(relative_humidity_pct), max(relative_humidity_pct)
          FROM climate_reading
         WHERE room = of_room AND doubt IS NULL
           AND at >= date_bin('1 hour', from_at, 'epoch') AND at < date_bin('1 hour', to_at, 'epoch') + interval '1 hour'
         GROUP BY 1, 2
        ON CONFLICT (room, at) DO UPDATE SET readings = excluded.readings,
          temperature_c = excluded.temperature_c, low_c = excluded.low_c, high_c = excluded.high_c,
          relative_humidity_pct = excluded.relative_humidity_pct,
          low_rh_pct = excluded.low_rh_pct, high_rh_pct = excluded.high_rh_pct;
      $$;
      SELECT roll_up_climate(room, min(at), max(at)) FROM climate_reading GROUP BY room;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE climate_reading_before (
        room text NOT NULL,
        at timestamptz NOT NULL,
        temperature_c real NOT NULL,
        relative_humidity_pct real NOT NULL,
        PRIMARY KEY (room, at)
      );
      INSERT INTO climate_reading_before SELECT room, at, temperature_c, relative_humidity_pct FROM climate_reading;
      DROP TABLE climate_reading, climate_hour;
      DROP FUNCTION ensure_climate_month(timestamptz), roll_up_climate(text, timestamptz, timestamptz);
      ALTER TABLE climate_reading_before RENAME TO climate_reading;
      ALTER INDEX climate_reading_before_pkey RENAME TO climate_reading_pkey;
      ALTER TABLE factory DROP COLUMN wood_gate;
      ALTER TABLE model DROP COLUMN wood;
      DROP TABLE sheet_columns, weigh_back, lot, sensor, room, meter_line, oven_dry_sample, meter, species;
    `);
  }
}
