/**
 * Loads Tarrow Works once, on the tests' day, into a database of its own that tests take copies of. What was loaded is kept in
 * .cache: as long as what was built is the same, the next time takes it from there.
 * Usage: node scripts/tarrow-database.mjs NAME, with the tests' PostgreSQL in TEST_DATABASE_URL and the server built.
 */
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

const root = fileURLToPath(new URL('..', import.meta.url));
/** A slow machine is no failure; one that stands still is. */
const LONGEST_MS = 300_000;

const [name] = process.argv.slice(2);
const given = process.env.TEST_DATABASE_URL;
if (!name || !/^\w+$/.test(name) || !given) {
  console.error('usage: TEST_DATABASE_URL=… node scripts/tarrow-database.mjs NAME');
  process.exit(2);
}

const addressOf = (database) => Object.assign(new URL(given), { pathname: `/${database}` }).href;

const cache = `${root}.cache/`;
mkdirSync(cache, { recursive: true });
const sources = sourcesHash();
await emptied();
if (await takenFromCache()) process.exit(0);

const log = `${cache}tarrow-database`;
rmSync(`${log}.1.log`, { force: true });
const server = spawn(`${root}scripts/serve.sh`, {
  env: {
    ...process.env,
    DATABASE_URL: addressOf(name),
    PORT: '0',
    DEMO: 'if-empty',
    // The same day whenever the tests run: they know what lies where.
    DEMO_NOW: '2026-11-24T19:20:00Z',
    LOG_FILE: `${log}.log`,
  },
  stdio: 'inherit',
});
// Its own log says when it is ready: on a port that was picked for it, another server might answer while this one still loads.
const isReady = () =>
  existsSync(`${log}.1.log`) && readFileSync(`${log}.1.log`, 'utf8').includes('Ample Crane is ready');
const ended = new Promise((resolve) => server.once('exit', resolve));

const sinceMs = Date.now();
while (!isReady()) {
  const late = Date.now() - sinceMs > LONGEST_MS;
  if (late) server.kill('SIGKILL');
  if (late || server.exitCode !== null) {
    console.error(
      `Tarrow Works ${late ? 'was not loaded in time' : 'could not be loaded'}; see .cache/tarrow-database.*.log`,
    );
    process.exit(1);
  }
  await new Promise((resolve) => setTimeout(resolve, 200));
}
server.kill('SIGTERM');
await ended;
if (sources) keep();

async function ask(database, ...statements) {
  const client = new pg.Client({ connectionString: addressOf(database) });
  await client.connect();
  for (const statement of statements) await client.query(statement);
  await client.end();
}

async function emptied() {
  await ask('postgres', `DROP DATABASE IF EXISTS ${name} WITH (FORCE)`, `CREATE DATABASE ${name}`);
}

/** One of PostgreSQL's own programs. */
function program(called, ...options) {
  const versions = '/usr/lib/postgresql';
  const [newest] = readdirSync(versions).toSorted((a, b) => Number(b) - Number(a));
  execFileSync(`${versions}/${newest}/bin/${called}`, options);
}

/** What was built, and this script; null where nobody knows what was built. */
function sourcesHash() {
  const built = `${cache}built`;
  if (!existsSync(built)) return null;
  const hash = createHash('sha256')
    .update(readFileSync(built))
    .update(readFileSync(new URL(import.meta.url)));
  return hash.digest('hex').slice(0, 16);
}

/** What was kept: its sources, and the moment at which the factory's clock showed what it shows there. */
function snapshots() {
  return readdirSync(cache).flatMap((file) => {
    const [, of, keptMs] = /^tarrow-([0-9a-f]{16})-(\d+)\.dump$/.exec(file) ?? [];
    return of ? [{ file: cache + file, of, keptMs: Number(keptMs) }] : [];
  });
}

/** Whether it could be: what is damaged is loaded anew. */
async function takenFromCache() {
  const kept = snapshots().find(({ of }) => of === sources);
  if (!kept) return false;
  try {
    program('pg_restore', '--exit-on-error', `--dbname=${addressOf(name)}`, kept.file);
    // The day of the story does not go on while it lies there.
    await ask(
      name,
      `UPDATE factory SET clock_offset_ms = clock_offset_ms - ${Date.now() - kept.keptMs}`,
      'ANALYZE',
    );
    return true;
  } catch (error) {
    console.error(`what was kept of Tarrow Works could not be taken: ${error.message}`);
    await emptied();
    return false;
  }
}

/** Keeps what was loaded in the place of what other sources made. */
function keep() {
  for (const { file } of snapshots()) rmSync(file);
  const part = `${cache}tarrow-database.part`;
  const keptMs = Date.now();
  program('pg_dump', '--format=custom', `--file=${part}`, addressOf(name));
  renameSync(part, `${cache}tarrow-${sources}-${keptMs}.dump`);
}
