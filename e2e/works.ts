import { spawn, type ChildProcess } from 'node:child_process';
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
  const server = spawn('node', ['server/dist/main.js'], {
    cwd: root,
    env: {
      ...process.env,
      DATABASE_URL: url.href,
      PORT: String(PORT),
      DEMO: 'if-empty',
      LOG_FILE: `${root}.cache/e2e-server.log`,
    },
    stdio: 'inherit',
  });
  await ready(server);
  return async () => {
    const gone = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await gone;
  };
}

async function ready(server: ChildProcess): Promise<void> {
  for (let i = 0; i < 300; i += 1) {
    if (server.exitCode !== null)
      throw new Error(`the server ended with ${server.exitCode}; see .cache/e2e-server.log`);
    const answer = await fetch(`http://127.0.0.1:${PORT}/api/ready`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error('the server was not ready within a minute');
}
