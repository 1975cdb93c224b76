import { DataSource } from 'typeorm';
import { freshDatabase } from '../testing/databases.ts';
import { dataSourceOptions, databaseAddress, migrate } from './data-source.ts';

/** Undoes what came after the first so many migrations. */
async function backTo(source: DataSource, first: number): Promise<void> {
  const applied = async (): Promise<number> =>
    (await source.query<unknown[]>('SELECT 1 FROM migration')).length;
  while ((await applied()) > first) await source.undoLastMigration();
}

it('goes up, down and up again, and leaves nothing behind in between', async () => {
  const url = await freshDatabase();
  const source = await new DataSource(dataSourceOptions(url)).initialize();
  const tables = async (): Promise<number> =>
    (
      await source.query<unknown[]>(
        "SELECT 1 FROM pg_tables WHERE schemaname = 'public' AND tablename <> 'migration'",
      )
    ).length;
  const applied = await migrate(url);
  expect(applied).toHaveLength(21);
  const whole = await tables();
  expect(whole).toBeGreaterThan(20);
  expect(await migrate(url)).toEqual([]);
  await backTo(source, 4);
  expect(await tables()).toBe(whole - 20);
  await source.undoLastMigration();
  expect(await tables()).toBe(whole - 20 - 9);
  await source.undoLastMigration();
  expect(await tables()).toBe(whole - 20 - 9 - 7);
  await source.undoLastMigration();
  expect(await tables()).toBe(12);
  await source.undoLastMigration();
  expect(await tables()).toBe(0);
  await migrate(url);
  expect(await tables()).toBe(whole);
  await source.destroy();
});

it('brings climate that was logged before along, month by month and rolled up by the hour, and back', async () => {
  const url = await freshDatabase();
  const source = await new DataSource(dataSourceOptions(url)).initialize();
  await migrate(url);
  await backTo(source, 1);
  await source.query(
    `INSERT INTO climate_reading VALUES ('Wood room', '2026-05-31 23:10Z', 20, 40), ('Wood room', '2026-05-31 23:50Z', 22, 42),
       ('Wood room', '2026-06-01 00:10Z', 21, 41)`,
  );
  await migrate(url);
  const hours = await source.query<object[]>(
    'SELECT readings, temperature_c, low_c, high_c FROM climate_hour ORDER BY at',
  );
  expect(hours).toEqual([
    { readings: 2, temperature_c: 21, low_c: 20, high_c: 22 },
    { readings: 1, temperature_c: 21, low_c: 21, high_c: 21 },
  ]);
  await backTo(source, 1);
  expect(await source.query('SELECT * FROM climate_reading')).toHaveLength(3);
  await source.destroy();
});

it('calls the end of a hold an end in what was logged before, too, and keeps the log for ever', async () => {
  const url = await freshDatabase();
  const source = await new DataSource(dataSourceOptions(url)).initialize();
  await migrate(url);
  await backTo(source, 5);
  await source.query(`INSERT INTO person VALUES ('venn', 'Tamsin Venn', 'mill', '[]')`);
  await source.query(
    `INSERT INTO filing (key, fingerprint, person, filed_at) VALUES ('k', 'f', 'venn', now())`,
  );
  await source.query(
    `INSERT INTO log_entry (filing_key, batch, seq, type, pieces, station, person, happened_at, filed_at, body)
       VALUES ('k', 'B-1', 1, 'release', 2, 'wood', 'venn', now(), now(), '{"type": "release", "pieces": [1, 2]}')`,
  );
  await source.query(
    `INSERT INTO lot (code, seq, used_up, state)
       VALUES ('W-1', 1, false, '{"boards": [{"number": 1, "standing": "released"}, {"number": 2, "standing": "cut"}]}')`,
  );
  await migrate(url);
  expect(await source.query('SELECT type, positions, body FROM log_entry')).toEqual([
    { type: 'end', positions: [1, 2], body: { type: 'end', pieces: [1, 2] } },
  ]);
  const [lot] = await source.query<{ state: object }[]>('SELECT state FROM lot');
  expect(lot?.state).toEqual({
    boards: [
      { number: 1, status: 'to-cut' },
      { number: 2, status: 'cut' },
    ],
  });
  await expect(source.query(`UPDATE log_entry SET person = 'nobody'`)).rejects.toThrow();
  await source.destroy();
});

it('never guesses which database is meant', () => {
  const kept = process.env.DATABASE_URL;
  delete process.env.DATABASE_URL;
  expect(() => databaseAddress()).toThrow(/DATABASE_URL is not set/);
  if (kept) process.env.DATABASE_URL = kept;
});
