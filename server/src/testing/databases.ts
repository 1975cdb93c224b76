import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { DataSource } from 'typeorm';
import { dataSourceOptions, migrate } from '../database/data-source.ts';
import { writeMasterData } from '../demo/master-data.ts';
import { ROWS } from '../rows.ts';

/** Monday 1 June 2026, 08:00 at Tarrow Works. */
export const MONDAY = Date.UTC(2026, 5, 1, 13);

/** The tests' PostgreSQL, never a default: a wrong one could be somebody's factory. */
export function testDatabaseAddress(): string {
  const url = process.env.TEST_DATABASE_URL;
  if (!url)
    throw new Error('TEST_DATABASE_URL is not set: run ./test, or start one with scripts/postgres.sh');
  return url;
}

let databases = 0;

/** A fresh database of its own, empty or a copy of another; gives its address. */
export async function freshDatabase(copyOf?: string): Promise<string> {
  const name = `test_${process.pid}_${Date.now()}_${(databases += 1)}`;
  await asOwner((client) =>
    client.query(`CREATE DATABASE ${name}${copyOf === undefined ? '' : ` TEMPLATE ${copyOf}`}`),
  );
  return addressOf(name);
}

/** A fresh database of a works before anything is filed: Tarrow Works' master data, as it stands on MONDAY. */
export const freshWorks = async (): Promise<string> => freshDatabase(await bareWorks());

/** Every suite wants the same migrations and the same master data: the first to come makes them, the others take copies. */
async function bareWorks(): Promise<string> {
  const name = `bare_${sourcesOfBareWorks()}`;
  await asOwner(async (client) => {
    // The lock goes with the connection.
    await client.query('SELECT pg_advisory_lock(hashtext($1))', [name]);
    const { rowCount } = await client.query('SELECT 1 FROM pg_database WHERE datname = $1', [name]);
    if (rowCount !== 0) return;
    const making = await freshDatabase();
    await migrate(making);
    const source = await new DataSource(dataSourceOptions(making, ROWS)).initialize();
    await source.transaction((manager) => writeMasterData(manager, MONDAY)).finally(() => source.destroy());
    await client.query(`ALTER DATABASE ${new URL(making).pathname.slice(1)} RENAME TO ${name}`);
  });
  return name;
}

/** What the bare works is made from: a change of it makes another. */
function sourcesOfBareWorks(): string {
  const hash = createHash('sha256');
  const root = join(__dirname, '../../..');
  const makes = /^(server\/src\/(database|demo|setup|\w+\/rows\.ts)|core\/src)\b/;
  for (const folder of ['core/src', 'server/src'])
    for (const file of readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' }).sort()) {
      const path = `${folder}/${file}`;
      if (makes.test(path) && /(?<!\.test)\.ts$/.test(path)) hash.update(readFileSync(join(root, path)));
    }
  return hash.digest('hex').slice(0, 16);
}

async function asOwner(work: (client: pg.Client) => Promise<unknown>): Promise<void> {
  const client = new pg.Client({ connectionString: testDatabaseAddress() });
  await client.connect();
  await work(client).finally(() => client.end());
}

function addressOf(database: string): string {
  const url = new URL(testDatabaseAddress());
  url.pathname = `/${database}`;
  return url.href;
}
