/**
 * Loads Tarrow Works once, on the tests' day, into a database of its own that tests take copies of.
 * Usage: node scripts/tarrow-database.mjs NAME, with the tests' PostgreSQL in TEST_DATABASE_URL and the server built.
 */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
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

const client = new pg.Client({ connectionString: addressOf('postgres') });
await client.connect();
await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
await client.query(`CREATE DATABASE ${name}`);
await client.end();

mkdirSync(`${root}.cache`, { recursive: true });
const log = `${root}.cache/tarrow-database`;
rmSync(`${log}.1.log`, { force: true });
const server = spawn('node', ['server/dist/main.js'], {
  cwd: root,
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
