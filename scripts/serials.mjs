/**
 * npm run serials -- [--count 100000] [--clients 8]: gives so many serials to as many instruments from several clients at once, with
 * the server killed (SIGKILL) a third and two thirds of the way. Then each is looked for: once each, none lost, none doubled, numbers
 * without a gap and in the order of the log. Prints a table for docs/assembly.md; leaves with 1 when anything is not so.
 */
import { execFileSync, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import pg from 'pg';

const { values: asked } = parseArgs({
  options: { count: { type: 'string', default: '100000' }, clients: { type: 'string', default: '8' } },
});
const [COUNT, CLIENTS] = [Number(asked.count), Number(asked.clients)];
/** Instruments of one rack, and of one filing. */
const [RACK, FILING] = [500, 50];
if (!(COUNT >= RACK) || COUNT % RACK !== 0 || !(CLIENTS > 0)) {
  console.error(`serials: --count must be a multiple of ${RACK}, --clients above 0`);
  process.exit(2);
}

const root = new URL('..', import.meta.url).pathname;
const folder = mkdtempSync(join(tmpdir(), 'ample-crane-serials-'));
chmodSync(folder, 0o755);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const postgres = (...args) =>
  execFileSync(join(root, 'scripts/postgres.sh'), args, {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  }).trim();
const freePort = () =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });

const url = postgres('start', folder, 'durable');
const port = await freePort();
const base = `http://127.0.0.1:${port}`;
let server;
async function start() {
  server = spawn(join(root, 'scripts/serve.sh'), {
    env: {
      ...process.env,
      DATABASE_URL: url,
      PORT: String(port),
      DEMO: 'if-empty',
      REQUESTS_A_MINUTE: '10000000',
    },
    stdio: 'ignore',
  });
  for (;;) {
    await wait(300);
    const ready = await fetch(`${base}/api/ready`).catch(() => null);
    if (ready?.ok) return;
  }
}

/** Asks until it is answered; under one key it is filed once. @returns what the server said */
async function ask(method, path, body) {
  for (;;) {
    try {
      const answer = await fetch(`${base}${path}`, {
        method,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(20_000),
      });
      const said = await answer.json();
      // The same key is still being filed: look again.
      const undecided = answer.status === 409 && said.refused === undefined;
      if (answer.status < 500 && !undecided) return { status: answer.status, body: said };
    } catch {
      // The server is away, or died over it: nobody knows yet whether it was filed.
    }
    retried += 1;
    await wait(250);
  }
}

let retried = 0;
let refused = 0;
let failed;
try {
  await start();
  await ask('PUT', '/api/serials', {
    ...{ key: 'serials-pattern', by: 'rusk', pattern: 'S{all:7}', letters: [], onPaper: [] },
  });
  const racks = [];
  for (let i = 0; i < COUNT / RACK; i += 1) {
    const dueAt = new Date(Date.now() + 60 * 86_400_000);
    while (dueAt.getUTCDay() !== 2) dueAt.setUTCDate(dueAt.getUTCDate() + 1);
    const { status, body } = await ask('POST', '/api/batches', {
      ...{ key: `serials-rack-${i}`, by: 'rusk', kind: 'I', model: 'Halyard', quantity: RACK },
      dueAt: dueAt.toISOString(),
    });
    if (status !== 200) throw new Error(`no rack was opened: ${JSON.stringify(body)}`);
    racks.push(body.entries[0].batch);
  }
  console.error(`${racks.length} racks of ${RACK} opened`);
  const jobs = Array.from({ length: RACK / FILING }, (_, part) =>
    racks.map((batch) => ({
      batch,
      pieces: Array.from({ length: FILING }, (_, i) => part * FILING + i + 1),
    })),
  ).flat();
  const all = jobs.length;
  let done = 0;
  const kills = [Math.floor(all / 3), Math.floor((2 * all) / 3)];
  const began = performance.now();
  const client = async (n) => {
    for (let job = jobs.shift(); job; job = jobs.shift()) {
      const { batch, pieces } = job;
      const { status } = await ask('POST', '/api/log', {
        ...{ key: `serials-${batch}-${pieces[0]}-${n}`, by: 'rusk', batch },
        entries: [{ type: 'serial', operation: 'assemble', pieces }],
      });
      if (status !== 200) refused += 1;
      done += 1;
      if (done % 200 === 0) console.error(`${done} of ${all} filings`);
    }
  };
  const killer = (async () => {
    for (const at of kills) {
      while (done < at) await wait(20);
      server.kill('SIGKILL');
      await wait(500);
      await start();
    }
  })();
  await Promise.all(Array.from({ length: CLIENTS }, (_, n) => client(n)));
  await killer;
  const seconds = (performance.now() - began) / 1000;

  const db = new pg.Client({ connectionString: url });
  await db.connect();
  const one = async (sql) => (await db.query(sql, [racks])).rows[0];
  const given = await one(
    'SELECT count(*)::int AS n, count(DISTINCT serial)::int AS unlike, min(serial) AS first, max(serial) AS last FROM serial WHERE batch = ANY($1)',
  );
  const { rows: carried } = await db.query(
    `SELECT count(*)::int AS n FROM piece p JOIN serial s ON s.serial = p.serial AND s.batch = p.batch AND s.position = p.position
      WHERE p.batch = ANY($1)`,
    [racks],
  );
  const { rows: entries } = await db.query(
    `SELECT body -> 'serials' AS serials FROM log_entry WHERE type = 'serial' AND batch = ANY($1) ORDER BY id`,
    [racks],
  );
  await db.end();
  const logged = entries.flatMap(({ serials }) => serials);
  const inOrder = logged.every((serial, i) => i === 0 || serial > logged[i - 1]);
  const span = Number(given.last.slice(1)) - Number(given.first.slice(1)) + 1;
  const rows = [
    ['instruments', COUNT, COUNT],
    ['serials given', given.n, COUNT],
    ['different ones', given.unlike, COUNT],
    ['numbers from the first to the last', span, COUNT],
    ['pieces that carry the serial that was given to them', carried[0].n, COUNT],
    ['serials in the log', logged.length, COUNT],
    ['in the order of the log', inOrder ? 'yes' : 'no', 'yes'],
    ['filings refused', refused, 0],
  ];
  console.log(
    `| ${CLIENTS} clients, ${all} filings of ${FILING}, the server killed twice | came to | wanted |\n| --- | --- | --- |`,
  );
  for (const [what, came, wanted] of rows) console.log(`| ${what} | ${came} | ${wanted} |`);
  console.log(`| asked again | ${retried} | |\n| seconds | ${seconds.toFixed(0)} | |`);
  failed = rows.filter(([, came, wanted]) => came !== wanted).length;
} finally {
  server?.kill('SIGTERM');
  await wait(1500);
  postgres('stop', folder, 'fast');
  rmSync(folder, { recursive: true, force: true });
}
process.exit(failed === 0 ? 0 : 1);
