import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { PORT } from './playwright.config.ts';

const root = fileURLToPath(new URL('..', import.meta.url));

/** A database of its own with Tarrow Works in it, and the built server on it. */
export default async function works(): Promise<() => Promise<void>> {
  const given = process.env.TEST_DATABASE_URL;
  if (!given) throw new Error('TEST_DATABASE_URL is not set: run ./test');
  const url = new URL(given);
  const name = `e2e_${process.pid}`;
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  await client.query(`CREATE DATABASE ${name}`);
  await client.end();
  url.pathname = `/${name}`;
  const mill = await simulatedMill();
  const server = spawn('node', ['server/dist/main.js'], {
    cwd: root,
    env: {
      ...process.env,
      DATABASE_URL: url.href,
      PORT: String(PORT),
      DEMO: 'if-empty',
      // The same day whenever the tests run: they know what lies where.
      DEMO_NOW: '2026-11-24T19:20:00Z',
      CNC_URL: mill.url,
      GAUGE_URL: mill.url,
      LOG_FILE: `${root}.cache/e2e-server.log`,
    },
    stdio: 'inherit',
  });
  await ready(server);
  return async () => {
    const gone = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await gone;
    mill.process.kill('SIGTERM');
  };
}

/** A mill of two tables whose cycles take seconds; it cuts what lies on its tables. */
async function simulatedMill(): Promise<{ process: ChildProcess; url: string }> {
  const folder = mkdtempSync(join(tmpdir(), 'ample-crane-mill-'));
  const portFile = join(folder, 'port');
  const files = ['--port-file', portFile, '--state-file', join(folder, 'state.json')];
  const floor = [
    '--server',
    `http://127.0.0.1:${PORT}`,
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

async function ready(server: ChildProcess): Promise<void> {
  for (let i = 0; i < 600; i += 1) {
    if (server.exitCode !== null)
      throw new Error(`the server ended with ${server.exitCode}; see .cache/e2e-server.log`);
    const answer = await fetch(`http://127.0.0.1:${PORT}/api/ready`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error('the server was not ready within two minutes');
}
