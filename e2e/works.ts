import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import pg from 'pg';
import { freePort } from './ports.ts';

const root = fileURLToPath(new URL('..', import.meta.url));
/** Each worker's server listens on a port of its own range. */
const FIRST_PORT = 8650;
const PORTS_EACH = 50;
/** Another run may have taken the port meanwhile. */
const ATTEMPTS = 3;

/** Tarrow Works is loaded once, into a database that every worker gets a copy of; ./test has done so for all its tests. */
export default async function load(): Promise<void> {
  const name = process.env.TARROW_DATABASE ?? `e2e_${process.pid}`;
  if (!process.env.TARROW_DATABASE)
    await promisify(execFile)('node', [`${root}scripts/tarrow-database.mjs`, name]);
  process.env.E2E_TARROW = name;
}

export interface Works {
  address: string;
  /** The last lines of its log that tell of an error. */
  errors: () => string[];
  stop: () => Promise<void>;
}

/** A copy of Tarrow Works with the built server on it, and a mill that cuts what lies on its tables. */
export async function startWorks(worker: number): Promise<Works> {
  const tarrow = process.env.E2E_TARROW;
  if (!tarrow) throw new Error('E2E_TARROW is not set: the tests run by npm run test:e2e');
  const name = `${tarrow}_${worker}`;
  await onServer(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  await onServer(`CREATE DATABASE ${name} TEMPLATE ${tarrow}`);
  const log = `e2e-server-${worker}`;
  const { address, server, mill } = await listening(worker, addressOf(name), log);
  return {
    address,
    errors: () =>
      readFileSync(firstFileOf(log), 'utf8')
        .split('\n')
        .filter((line) => /"level":[56]0/.test(line))
        .slice(-5),
    stop: async () => {
      await ended(server);
      mill.process.kill('SIGTERM');
    },
  };
}

/** The server of a worker with its mill: the mill must know the port before the server listens there. */
async function listening(worker: number, database: string, log: string, attempt = 1) {
  const port = await freePort(FIRST_PORT + worker * PORTS_EACH, PORTS_EACH);
  const mill = await simulatedMill(port);
  const machines = { CNC_URL: mill.url, GAUGE_URL: mill.url };
  const server = startServer(port, database, machines, log);
  const address = await addressOnceReady(server, log);
  if (address !== null) return { address, server, mill };
  mill.process.kill('SIGTERM');
  if (attempt === ATTEMPTS)
    throw new Error(`the server ended with ${server.exitCode}; see .cache/${log}.*.log`);
  return listening(worker, database, log, attempt + 1);
}

function addressOf(database: string): string {
  const given = process.env.TEST_DATABASE_URL;
  if (!given) throw new Error('TEST_DATABASE_URL is not set: run ./test');
  const url = new URL(given);
  url.pathname = `/${database}`;
  return url.href;
}

async function onServer(statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: addressOf('postgres') });
  await client.connect();
  await client.query(statement);
  await client.end();
}

const logOf = (name: string): string => `${root}.cache/${name}.log`;
/** The log rolls: its files are numbered. */
const firstFileOf = (name: string): string => `${root}.cache/${name}.1.log`;

function startServer(port: number, database: string, machines: NodeJS.ProcessEnv, log: string): ChildProcess {
  rmSync(firstFileOf(log), { force: true });
  return spawn(`${root}scripts/serve.sh`, {
    env: {
      ...process.env,
      DATABASE_URL: database,
      PORT: String(port),
      DEMO: 'if-empty',
      REQUESTS_A_MINUTE: '1000000',
      ALLOWED_HOSTS: 'crane.works.test',
      // The same day whenever the tests run: they know what lies where.
      DEMO_NOW: '2026-11-24T19:20:00Z',
      LOG_FILE: logOf(log),
      ...machines,
    },
    stdio: 'inherit',
  });
}

async function ended(server: ChildProcess): Promise<void> {
  const gone = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGTERM');
  await gone;
}

/** A mill of two tables whose cycles take seconds; it cuts what lies on its tables. */
async function simulatedMill(port: number): Promise<{ process: ChildProcess; url: string }> {
  const folder = mkdtempSync(join(tmpdir(), 'ample-crane-mill-'));
  const portFile = join(folder, 'port');
  const files = ['--port-file', portFile, '--state-file', join(folder, 'state.json')];
  const floor = [
    '--server',
    `http://127.0.0.1:${port}`,
    '--station',
    'body-mill',
    '--paths',
    'table-b1,table-b2',
  ];
  const running = spawn('node', ['stand-ins/dist/mill.js', ...files, ...floor], {
    cwd: root,
    env: { ...process.env, CYCLE_S: '5', FAULTS: '0' },
    stdio: 'inherit',
  });
  for (let i = 0; i < 100 && !existsSync(portFile); i += 1)
    await new Promise((resolve) => setTimeout(resolve, 100));
  await new Promise((resolve) => setTimeout(resolve, 100));
  return { process: running, url: `http://127.0.0.1:${readFileSync(portFile, 'utf8')}` };
}

/** Where a server listens, as its own log says: on its port somebody else might answer. Null: it ended. */
async function addressOnceReady(server: ChildProcess, log: string): Promise<string | null> {
  for (let i = 0; i < 3000 && server.exitCode === null; i += 1) {
    const said = existsSync(firstFileOf(log)) ? readFileSync(firstFileOf(log), 'utf8') : '';
    const [, address] = /"address":"([^"]+)"/.exec(said) ?? [];
    if (address !== undefined) return address;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  if (server.exitCode === null) throw new Error('the server was not ready within ten minutes');
  return null;
}
