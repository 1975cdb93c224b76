import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Finishing: recipes with their revisions, booths and their filters, lots of material and what was mixed of them, test panels;
 * the temperature of the work beside the air, and which readings came late.
 */
export class Finishing1700000000004 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- By kind letter: recipes it may get, the usual one first, and the area that is finished.
      ALTER TABLE model ADD COLUMN finish jsonb NOT NULL DEFAULT '{}';
      ALTER TABLE bed DROP CONSTRAINT bed_kind_check;
      ALTER TABLE bed ADD CONSTRAINT bed_kind_check
        CHECK (kind IN ('table', 'press', 'carousel', 'rack', 'mould', 'freezer'));
      -- Never changed: a new revision is a new row.
      CREATE TABLE recipe (
        id text PRIMARY KEY,
        name text NOT NULL,
        revision int NOT NULL CHECK (revision > 0),
        recipe jsonb NOT NULL,
        note text NOT NULL DEFAULT '',
        person text REFERENCES person,
        made_at timestamptz NOT NULL DEFAULT now(),
        UNIQUE (name, revision)
      );
      CREATE TABLE booth (
        code text PRIMARY KEY CHECK (code ~ '^[a-z0-9-]{1,40}$'),
        name text NOT NULL,
        station text NOT NULL REFERENCES station,
        room text NOT NULL REFERENCES room,
        position int NOT NULL,
        limits jsonb NOT NULL,
        filter_life_hours real NOT NULL CHECK (filter_life_hours > 0)
      );
      CREATE TABLE filter_change (
        id bigserial PRIMARY KEY,
        key text NOT NULL UNIQUE,
        booth text NOT NULL REFERENCES booth,
        used_hours real NOT NULL,
        person text NOT NULL REFERENCES person,
        at timestamptz NOT NULL
      );
      CREATE INDEX filter_change_newest ON filter_change (booth, at);
      CREATE TABLE material (
        name text PRIMARY KEY,
        lead_days real NOT NULL CHECK (lead_days >= 0)
      );
      CREATE TABLE material_lot (
        code text PRIMARY KEY CHECK (code ~ '^[A-Z0-9-]{1,20}$'),
        material text NOT NULL REFERENCES material,
        litres real NOT NULL CHECK (litres > 0),
        received_at timestamptz NOT NULL,
        opened_at timestamptz,
        finished_at timestamptz,
        expires_at timestamptz,
        person text NOT NULL REFERENCES person
      );
      CREATE INDEX material_lot_open ON material_lot (material, opened_at);
      CREATE SEQUENCE mix_number;
      CREATE TABLE mix (
        code text PRIMARY KEY,
        key text NOT NULL UNIQUE,
        material text NOT NULL REFERENCES material,
        lot text REFERENCES material_lot,
        litres real NOT NULL CHECK (litres > 0),
        -- Litres of it that came out of the lot: the rest is hardener and thinner.
        lot_litres real NOT NULL CHECK (lot_litres >= 0),
        mixed_at timestamptz NOT NULL,
        pot_life_hours real NOT NULL CHECK (pot_life_hours > 0),
        ended_at timestamptz,
        person text NOT NULL REFERENCES person
      );
      CREATE INDEX mix_open ON mix (material, mixed_at);
      CREATE SEQUENCE panel_number;
      CREATE TABLE panel (
        code text PRIMARY KEY,
        key text NOT NULL UNIQUE,
        batch text NOT NULL REFERENCES batch,
        recipe text NOT NULL REFERENCES recipe,
        step text NOT NULL,
        material text NOT NULL,
        film_um real NOT NULL CHECK (film_um > 0),
        room text NOT NULL,
        sprayed_at timestamptz NOT NULL,
        person text NOT NULL REFERENCES person
      );
      CREATE INDEX panel_batch ON panel (batch);
      CREATE TABLE panel_weighing (
        id bigserial PRIMARY KEY,
        key text NOT NULL UNIQUE,
        panel text NOT NULL REFERENCES panel,
        grams double precision NOT NULL CHECK (grams > 0),
        person text NOT NULL REFERENCES person,
        at timestamptz NOT NULL,
        UNIQUE (panel, at)
      );
      CREATE INDEX log_entry_coats ON log_entry (happened_at) WHERE type = 'coat';
      CREATE INDEX log_entry_coat_lots ON log_entry ((body ->> 'lot')) WHERE type = 'coat';

      -- Readings that came more than an hour after their time: the clocks of the racks beneath were computed anew.
      CREATE TABLE climate_late (
        id bigserial PRIMARY KEY,
        room text NOT NULL,
        from_at timestamptz NOT NULL,
        to_at timestamptz NOT NULL,
        came_at timestamptz NOT NULL
      );
      CREATE INDEX climate_late_newest ON climate_late (came_at);
      ALTER TABLE climate_reading ADD COLUMN surface_c real;
      ALTER TABLE climate_hour ADD COLUMN surface_c real;
      CREATE OR REPLACE FUNCTION roll_up_climate(of_room text, from_at timestamptz, to_at timestamptz) RETURNS void
      LANGUAGE sql AS $$
        INSERT INTO climate_hour
        SELECT room, date_bin('1 hour', at, 'epoch'), count(*), avg(temperature_c), min(temperature_c), max(temperature_c),
               avg(relative_humidity_pct), min(relative_humidity_pct), max(relative_humidity_pct), avg(surface_c)
          FROM climate_reading
         WHERE room = of_room AND doubt IS NULL
           AND at >= date_bin('1 hour', from_at, 'epoch') AND at < date_bin('1 hour', to_at, 'epoch') + interval '1 hour'
         GROUP BY 1, 2
        ON CONFLICT (room, at) DO UPDATE SET readings = excluded.readings,
          temperature_c = excluded.temperature_c, low_c = excluded.low_c, high_c = excluded.high_c,
          relative_humidity_pct = excluded.relative_humidity_pct,
          low_rh_pct = excluded.low_rh_pct, high_rh_pct = excluded.high_rh_pct, surface_c = excluded.surface_c;
      $$;
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE OR REPLACE FUNCTION roll_up_climate(of_room text, from_at timestamptz, to_at timestamptz) RETURNS void
      LANGUAGE sql AS $$
        INSERT INTO climate_hour (room, at, readings, temperature_c, low_c, high_c, relative_humidity_pct, low_rh_pct, high_rh_pct)
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
      ALTER TABLE climate_hour DROP COLUMN surface_c;
      ALTER TABLE climate_reading DROP COLUMN surface_c;
      DROP TABLE climate_late, panel_weighing, panel, mix, material_lot, material, filter_change, booth, recipe;
      DROP SEQUENCE panel_number, mix_number;
      DROP INDEX log_entry_coat_lots, log_entry_coats;
      DELETE FROM bed WHERE kind = 'freezer';
      ALTER TABLE bed DROP CONSTRAINT bed_kind_check;
      ALTER TABLE bed ADD CONSTRAINT bed_kind_check CHECK (kind IN ('table', 'press', 'carousel', 'rack', 'mould'));
      ALTER TABLE model DROP COLUMN finish;
    `);
  }
}
