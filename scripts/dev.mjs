/**
 * npm run dev [-- --fresh]: everything for working on the program. A PostgreSQL of its own, the server from source (started again
 * on every change), Vite with hot reload, the simulated sensors and mill. Ctrl-C ends all of it. The data, Tarrow Works at first,
 * are kept in .cache/dev; --fresh removes them.
 */
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

const { values: asked } = parseArgs({ options: { fresh: { type: 'boolean', default: false } } });
const root = fileURLToPath(new URL('..', import.meta.url));
const data = `${root}.cache/dev`;
const PORT = 8630;
const ADDRESS = `http://127.0.0.1:${PORT}`;

const postgres = (...args) =>
  execFileSync(`${root}scripts/postgres.sh`, args, {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  }).trim();

const running = new Set();
let ending = false;
/** Starts a program that belongs to all of this: when one ends, everything does. */
function begin(name, args, { folder = '', env = {} } = {}) {
  const child = spawn('node', args, {
    cwd: root + folder,
    env: { ...process.env, ...env },
    stdio: 'inherit',
  });
  running.add(child);
  child.once('exit', (code) => {
    running.delete(child);
    if (ending) return;
    console.error(`dev: ${name} ended (${code}); the others end with it`);
    void end(1);
  });
}

async function end(code) {
  if (ending) return;
  ending = true;
  for (const child of running) child.kill('SIGTERM');
  for (let i = 0; i < 50 && running.size > 0; i += 1) await wait(100);
  for (const child of running) child.kill('SIGKILL');
  postgres('stop', data);
  process.exit(code);
}

async function written(file) {
  for (let i = 0; i < 100 && !existsSync(file); i += 1) await wait(100);
  return readFileSync(file, 'utf8').trim();
}

execFileSync(`${root}scripts/prepare.sh`, { stdio: 'inherit' });
postgres('install');
mkdirSync(data, { recursive: true });
// Whoever it runs as must come to its own folder.
execFileSync('chmod', ['755', data]);
if (asked.fresh) {
  postgres('stop', data);
  rmSync(`${data}/pg`, { recursive: true, force: true });
}
// Asked twice it still ends in order.
process.on('SIGINT', () => void end(0));
process.on('SIGTERM', () => void end(0));

const DATABASE_URL = postgres('start', data, 'durable');
const [sensorsPort, millPort] = [`${data}/mqtt-port`, `${data}/mill-port`];
for (const file of [sensorsPort, millPort]) rmSync(file, { force: true });
begin('the sensors', [
  'stand-ins/dist/climate-sensors.js',
  ...['--port-file', sensorsPort, '--server', ADDRESS],
]);
begin('the mill', [
  'stand-ins/dist/mill.js',
  ...['--port-file', millPort, '--state-file', `${data}/mill.json`, '--paths', 'table-b1,table-b2'],
  ...['--server', ADDRESS, '--station', 'body-mill'],
]);
const MQTT_URL = `mqtt://127.0.0.1:${await written(sensorsPort)}`;
const CNC_URL = `http://127.0.0.1:${await written(millPort)}`;
const env = { DATABASE_URL, MQTT_URL, CNC_URL, GAUGE_URL: CNC_URL, PORT: String(PORT), DEMO: 'if-empty' };
const fromSource = ['--conditions=@ample-crane/source', '--import', '@swc-node/register/esm-register'];
begin('the server', ['--watch', ...fromSource, 'src/main.ts'], { folder: 'server', env });
begin('Vite', ['../node_modules/vite/bin/vite.js'], { folder: 'web' });
