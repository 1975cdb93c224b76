/**
 * npm run soak -- [--minutes 60] [--seed 1] [--clients 12]: the works under everything at once, for an hour. Two servers on one
 * PostgreSQL, clients that file until they are answered, and meanwhile kills of a server and of PostgreSQL, lines that are cut
 * or swallow what is sent, mad sensors, mad machines. Then every filing that was acknowledged is looked for, and the log is
 * replayed. Prints a table for docs/reliability.md; leaves with 1 when anything was lost, doubled, answered 500, or does not agree.
 */
import { execFileSync, spawn } from 'node:child_process';
import { chmodSync, closeSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { createServer as createAgent } from 'node:http';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { deflateSync } from 'node:zlib';
import { Aedes } from 'aedes';
import { connectAsync } from 'mqtt';
import pg from 'pg';
import { randomStream } from '../core/dist/index.js';

const { values: asked } = parseArgs({
  options: {
    minutes: { type: 'string', default: '60' },
    seed: { type: 'string', default: '1' },
    clients: { type: 'string', default: '12' },
  },
});
const MINUTES = Number(asked.minutes);
const CLIENTS = Number(asked.clients);
if (!(MINUTES > 0) || !(CLIENTS > 0) || !Number.isInteger(CLIENTS)) {
  console.error('soak: --minutes and --clients must be numbers above 0');
  process.exit(2);
}

const root = new URL('..', import.meta.url).pathname;
const folder = mkdtempSync(join(tmpdir(), 'ample-crane-soak-'));
chmodSync(folder, 0o755);
const random = randomStream(Number(asked.seed));
const one = (from) => from[Math.floor(random.next() * from.length)];
const between = (low, high) => low + random.next() * (high - low);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const postgres = (...args) =>
  execFileSync(join(root, 'scripts/postgres.sh'), args, {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  }).trim();

const postgresPort = () => readFileSync(join(folder, 'pg-port'), 'utf8').trim();

/** What was done and came of it: printed at the end. */
const counts = new Map();
const count = (what, n = 1) => counts.set(what, (counts.get(what) ?? 0) + n);

/** A line to PostgreSQL that can be cut, or swallow what is sent on it. */
class Line {
  pairs = new Set();
  swallowing = false;

  static async to(url) {
    const line = new Line();
    line.server = createServer((near) => {
      // Asked each time: one that was killed may come back on another port, if somebody took its own meanwhile.
      const far = connect(Number(postgresPort()), new URL(url).hostname);
      const pair = [near, far];
      line.pairs.add(pair);
      for (const [from, to] of [pair, [far, near]]) {
        from.on('data', (data) => line.swallowing || to.write(data));
        from.on('error', () => undefined);
        from.on('close', () => {
          to.destroy();
          line.pairs.delete(pair);
        });
      }
    });
    await new Promise((resolve) => line.server.listen(0, '127.0.0.1', resolve));
    const through = new URL(url);
    through.port = String(line.server.address().port);
    line.url = through.href;
    return line;
  }

  cut() {
    for (const pair of this.pairs) for (const socket of pair) socket.destroy();
  }
}

/** A server that can be killed and comes back. */
class Server {
  memory = [];

  constructor(name, port, url, env) {
    Object.assign(this, { name, port, url, env, address: `http://127.0.0.1:${port}` });
  }

  start() {
    const words = openSync(join(folder, `${this.name}.err`), 'a');
    this.process = spawn(join(root, 'scripts/serve.sh'), {
      stdio: ['ignore', 'ignore', words],
      env: {
        ...process.env,
        ...this.env,
        DATABASE_URL: this.url,
        PORT: String(this.port),
        DEMO: 'if-empty',
        REQUESTS_A_MINUTE: '1000000',
        LOG_FILE: join(folder, `${this.name}.log`),
      },
    });
    closeSync(words);
    const child = this.process;
    child.once('exit', (code, signal) => {
      if (child !== this.asked) this.fell(code ?? signal);
    });
  }

  /** It ended though nobody had asked it to: that is a failure, and the end of the soak. */
  fell(by) {
    const words = readFileSync(join(folder, `${this.name}.err`), 'utf8').slice(-4000);
    console.error(`soak: ${this.name} ended by itself (${by}). Its last words:\n${words}`);
    count('server ended by itself');
    running = false;
  }

  async ready(withinMs) {
    for (const until = Date.now() + withinMs; Date.now() < until; await wait(200)) {
      const answer = await fetch(`${this.address}/api/ready`).catch(() => null);
      if (answer?.ok) return;
    }
    throw new Error(`${this.name} is not ready within ${withinMs / 1000} s; its log is in ${folder}`);
  }

  async end(signal) {
    this.asked = this.process;
    if (this.process.exitCode !== null || this.process.signalCode !== null) return;
    const gone = new Promise((resolve) => this.process.once('exit', resolve));
    this.process.kill(signal);
    await gone;
  }

  noteMemory() {
    try {
      const status = readFileSync(`/proc/${this.process.pid}/status`, 'utf8');
      this.memory.push(Number(/^VmRSS:\s+(\d+)/m.exec(status)?.[1] ?? 0) / 1024);
    } catch {
      // It is just being started again.
    }
  }
}

/** Machines that answer without end, without sense, or not at all. */
async function madMachines() {
  const huge = deflateSync(Buffer.alloc(50_000_000, ' '));
  const agent = createAgent((_request, response) => {
    const mood = random.next();
    if (mood < 0.2) return; // never
    if (mood < 0.4) return response.writeHead(200, { 'content-encoding': 'deflate' }).end(huge);
    if (mood < 0.6) return response.end('<MTConnectStreams>'.repeat(5000));
    if (mood < 0.8) return response.end('\0not XML at all');
    response.writeHead(302, { location: 'http://192.0.2.1/' }).end();
  });
  await new Promise((resolve) => agent.listen(0, '127.0.0.1', resolve));
  return agent;
}

/** Sensors that send sense and nonsense; gives how to stop them. */
async function madSensors(broker) {
  const listener = createServer(broker.handle);
  await new Promise((resolve) => listener.listen(0, '127.0.0.1', resolve));
  const url = `mqtt://127.0.0.1:${listener.address().port}`;
  const client = await connectAsync(url);
  const bad = [
    '',
    '\0',
    '{"at":',
    '{"temperatureC":1e-320}',
    `${'['.repeat(5000)}`,
    '{"at":"+099999-01-01T00:00:00Z"}',
    '5',
  ];
  const timer = setInterval(() => {
    const good = {
      at: new Date().toISOString(),
      temperatureC: between(19, 23),
      relativeHumidityPct: between(35, 50),
    };
    count('sensor messages of sense');
    client.publish('ample-crane/climate/wood-room', JSON.stringify(good));
    count('sensor messages of nonsense');
    client.publish('ample-crane/climate/wood-room', one(bad));
  }, 250);
  return {
    url,
    stop: async () => {
      clearInterval(timer);
      await client.endAsync(true);
      listener.close();
    },
  };
}

/** Filings that were acknowledged, by key: how many entries each said it made. */
const acknowledged = new Map();
const batches = [];
let running = true;

/** Sends one filing, to one server or the other, with the same key until it is answered. */
async function file(servers, path, body) {
  for (let attempt = 0; ; attempt += 1) {
    const answer = await fetch(one(servers).address + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(20_000),
    }).catch(() => null);
    const said = await answer?.json().catch(() => null);
    if (answer && answer.status < 500 && said !== null) {
      if (attempt > 0) count('filings asked more than once');
      if (answer.status !== 200) count(`answered ${answer.status}`);
      return { status: answer.status, said };
    }
    count(answer ? `answered ${answer.status}, asked again` : 'not answered, asked again');
    await wait(between(100, 600));
  }
}

async function client(name, servers) {
  let last = null;
  for (let i = 0; running; i += 1) {
    const key = `soak-${name}-${String(i).padStart(6, '0')}`;
    const batch = one(batches);
    const luck = random.next();
    const reading = Array.from({ length: 3 }, () => Number(between(6.5, 8).toFixed(1)));
    const [path, body] =
      luck < 0.02
        ? ['/api/batches', { kind: 'B', model: 'Ratline', quantity: 3, dueAt: '2027-06-16T12:00:00Z' }]
        : luck < 0.1 && last
          ? ['/api/log/take-back', { filing: last }]
          : luck < 0.55
            ? ['/api/log', { batch, entries: [{ type: 'read', valuesPct: reading }] }]
            : ['/api/log/line', { line: `${batch} read ${reading.join(' ')}` }];
    const { status, said } = await file(servers, path, { key, by: 'venn', ...body });
    if (status === 200) {
      acknowledged.set(key, said.entries.length);
      if (path === '/api/batches') batches.push(said.entries[0].batch);
      last = path === '/api/log/take-back' ? null : key;
    }
    if (random.next() < 0.05) {
      const page = await fetch(`${one(servers).address}/api/board`, {
        signal: AbortSignal.timeout(20_000),
      }).catch(() => null);
      await page?.text().catch(() => undefined);
      count(page?.ok ? 'boards fetched' : 'boards not answered');
    }
  }
}

/** What goes wrong, one thing after the other, until the time is up. */
async function chaos(untilMs, killed, lines) {
  const events = {
    'server killed': async () => {
      await killed.end('SIGKILL');
      await wait(between(200, 2000));
      killed.start();
    },
    'server stopped politely': async () => {
      await killed.end('SIGTERM');
      killed.start();
    },
    'PostgreSQL killed': async () => {
      process.kill(Number(readFileSync(join(folder, 'pg/postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL');
      await wait(1500);
      postgres('start', folder, 'durable');
    },
    'lines cut': async () => one(lines).cut(),
    'line that swallows for some seconds': async () => {
      const line = one(lines);
      line.swallowing = true;
      await wait(between(2000, 12_000));
      line.swallowing = false;
      line.cut();
    },
  };
  while (running && Date.now() < untilMs) {
    const [what, happen] = one(Object.entries(events));
    count(what);
    await happen();
    for (const next = Math.min(Date.now() + between(4000, 12_000), untilMs); running && Date.now() < next;)
      await wait(200);
  }
}

/** Looks for every acknowledged filing: lost, or there more than once; and for filings nobody was told of. */
async function judge(url) {
  const db = new pg.Client({ connectionString: url });
  await db.connect();
  const { rows } = await db.query(
    `SELECT filing_key AS key, count(*)::int AS n FROM log_entry WHERE filing_key LIKE 'soak-%' GROUP BY 1`,
  );
  await db.end();
  const there = new Map(rows.map(({ key, n }) => [key, n]));
  const lost = [...acknowledged].filter(([key, n]) => (there.get(key) ?? 0) < n).map(([key]) => key);
  const doubled = [...acknowledged].filter(([key, n]) => (there.get(key) ?? 0) > n).map(([key]) => key);
  const unasked = [...there.keys()].filter((key) => !acknowledged.has(key));
  return { lost, doubled, unasked, entries: rows.reduce((sum, { n }) => sum + n, 0) };
}

function report(steady, { lost, doubled, unasked, entries }, replay, minutes) {
  const mb = (at) => `${Math.round(steady.memory[Math.floor(at * (steady.memory.length - 1))] ?? 0)} MB`;
  const lines = [
    ['minutes', minutes.toFixed(1)],
    ['clients, servers', `${CLIENTS}, 2`],
    ['filings acknowledged', acknowledged.size],
    ['their entries in the log', entries],
    ['acknowledged and lost', lost.length],
    ['there more than once', doubled.length],
    ['there, though nobody was told', unasked.length],
    ...[...counts].sort(([a], [b]) => a.localeCompare(b)),
    [
      'memory of the server that was never killed',
      `${mb(0.1)} at a tenth, ${mb(0.5)} half-way, ${mb(1)} at the end`,
    ],
    ['replay of the log', replay],
  ];
  console.log('\n| what | figure |\n| --- | --- |');
  for (const [what, figure] of lines) console.log(`| ${what} | ${figure} |`);
  for (const [what, keys] of Object.entries({ lost, doubled, unasked }))
    if (keys.length > 0) console.log(`${what}: ${keys.slice(0, 20).join(', ')}`);
  // 503 says what is the matter; a 500 is a fault of the server's.
  return lost.length + doubled.length + unasked.length === 0 && !counts.has('answered 500, asked again');
}

const servers = [];
let sensors, agent;
let good = false;
try {
  const url = postgres('start', folder, 'durable');
  sensors = await madSensors(await Aedes.createBroker());
  agent = await madMachines();
  const lines = [await Line.to(url), await Line.to(url)];
  const env = { MQTT_URL: sensors.url, MACHINE_HOSTS: '127.0.0.1' };
  const [steady, killed] = ['steady', 'killed'].map(
    (name, i) => new Server(name, 8671 + i, lines[i].url, env),
  );
  servers.push(steady, killed);
  console.log('soak: loading the demo…');
  steady.start();
  await steady.ready(180_000);
  killed.start();
  await killed.ready(60_000);
  for (const code of ['mad-1', 'mad-2'])
    await fetch(`${steady.address}/api/machines`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        ...{ key: `soak-${code}`, by: 'ostrander', code, station: 'body-mill', name: code },
        url: `http://127.0.0.1:${agent.address().port}`,
      }),
    });
  for (let i = 0; i < 6; i += 1) {
    const opened = await file(servers, '/api/batches', {
      ...{ key: `soak-open-${String(i).padStart(3, '0')}`, by: 'ostrander' },
      ...{ kind: 'B', model: 'Ratline', quantity: 3, dueAt: '2027-06-16T12:00:00Z' },
    });
    if (opened.status !== 200) throw new Error(`no rack can be opened: ${JSON.stringify(opened.said)}`);
    acknowledged.set(`soak-open-${String(i).padStart(3, '0')}`, opened.said.entries.length);
    batches.push(opened.said.entries[0].batch);
  }
  const began = Date.now();
  const untilMs = began + MINUTES * 60_000;
  const telling = setInterval(() => {
    steady.noteMemory();
    const left = Math.max(0, (untilMs - Date.now()) / 60_000);
    console.log(`soak: ${acknowledged.size} filings acknowledged, ${left.toFixed(1)} minutes left`);
  }, 10_000);
  process.once('SIGINT', () => (running = false));
  const clients = Array.from({ length: CLIENTS }, (_, i) => client(String(i).padStart(2, '0'), servers));
  await chaos(untilMs, killed, lines);
  running = false;
  // Whoever is not answered yet asks until it is: everything is back now.
  await Promise.all(clients);
  clearInterval(telling);
  for (const server of servers) await server.ready(60_000);
  const minutes = (Date.now() - began) / 60_000;
  const address = postgres('address', folder);
  const found = await judge(address);
  for (const server of servers) await server.end('SIGTERM');
  let replay;
  try {
    replay = execFileSync('node', ['server/dist/commands/replay-check.js'], {
      cwd: root,
      encoding: 'utf8',
      env: { ...process.env, DATABASE_URL: address },
    }).trim();
  } catch (error) {
    replay = String(error.stdout).trim() || error.message;
  }
  good = report(steady, found, replay, minutes) && replay.includes('all agree');
} finally {
  for (const server of servers) await server.end('SIGKILL');
  await sensors?.stop();
  agent?.close();
  agent?.closeAllConnections();
  postgres('stop', folder, 'immediate');
  if (good) rmSync(folder, { recursive: true, force: true });
  else console.log(`soak: logs and database are kept in ${folder}`);
}
process.exit(good ? 0 : 1);
