import { DataSource } from 'typeorm';
import { freshDatabase } from '../testing/works.ts';
import { dataSourceOptions, databaseAddress, migrate } from './data-source.ts';

it('goes up, down and up again, and leaves nothing behind in between', async () => {
  const source = await new DataSource(dataSourceOptions(await freshDatabase())).initialize();
  const tables = async (): Promise<number> =>
    (
      await source.query<unknown[]>(
        "SELECT 1 FROM pg_tables WHERE schemaname = 'public' AND tablename <> 'migration'",
      )
    ).length;
  const applied = await migrate(source);
  expect(applied).toHaveLength(1);
  expect(await tables()).toBe(12);
  expect(await migrate(source)).toEqual([]);
  await source.undoLastMigration();
  expect(await tables()).toBe(0);
  await migrate(source);
  expect(await tables()).toBe(12);
  await source.destroy();
});

it('never guesses which database is meant', () => {
  const kept = process.env.DATABASE_URL;
  delete process.env.DATABASE_URL;
  expect(() => databaseAddress()).toThrow(/DATABASE_URL is not set/);
  if (kept) process.env.DATABASE_URL = kept;
});
