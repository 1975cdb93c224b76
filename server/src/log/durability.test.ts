import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, chmodSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import pg from 'pg';
import { SmallDisk } from '../testing/small-disk.ts';

const run = promisify(execFile);
const root = resolve(__dirname, '../../..');
const main = join(root, 'server/dist/main.js');
const clusterScript = join(root, 'scripts/postgres.sh');

/** A server and a PostgreSQL with durable settings, both of this test alone, to be killed as it likes. */
class Plant {
  /** A disk of its own, where one can be mounted: room for Tarrow Works and little else. */
  readonly disk = SmallDisk.mount(500);
  readonly folder = this.disk?.folder ?? mkdtempSync(join(tmpdir(), 'ample-crane-kill-'));
  private server: ChildProcess | undefined;
  private url = '';
  /** Where its server listens. */
  address = '';

  async postgres(): Promise<void> {
    chmodSync(this.folder, 0o755);
    this.url = (await run(clusterScript, ['start', this.folder, 'durable'])).stdout.trim();
  }

  /** The write-ahead log goes on in a new file, again and again, until there is no room for one and PostgreSQL ends itself. */
  async exhaustLog(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    // Its line breaks when PostgreSQL ends.
    client.on('error', () => undefined);
    await client.connect();
    await client.query('CREATE TABLE scratch AS SELECT 1 AS n');
    this.disk?.fill();
    const ended = (async () => {
      for (;;) {
        await client.query('UPDATE scratch SET n = n + 1');
        await client.query('SELECT pg_switch_wal()');
      }
    })();
    await expect(ended).rejects.toThrow();
    await client.end().catch(() => undefined);
  }

  /** Fills it with the copy of Tarrow Works that ./test has loaded; without one the server loads it when it starts. */
  async fill(): Promise<void> {
    const { TARROW_DATABASE: loaded, TEST_DATABASE_URL: cluster } = process.env;
    if (!loaded || !cluster) return;
    const from = Object.assign(new URL(cluster), { pathname: `/${loaded}` }).href;
    const programs = join(
      '/usr/lib/postgresql',
      readdirSync('/usr/lib/postgresql').sort().at(-1) ?? '',
      'bin',
    );
    const [dump, restore] = ['pg_dump', 'pg_restore'].map((name) => join(programs, name));
    const pipe = '"$0" -Fc "$2" | "$1" --no-owner --no-privileges -d "$3"';
    await run('bash', ['-o', 'pipefail', '-c', pipe, dump ?? '', restore ?? '', from, this.url]);
  }

  /** Starts the server on a port that it picks itself: on one picked for it, another test's may listen by then. */
  async serve(): Promise<void> {
    const log = join(this.folder, 'server.1.log');
    rmSync(log, { force: true });
    const env = {
      ...process.env,
      DATABASE_URL: this.url,
      PORT: '0',
      DEMO: 'if-empty',
      WEB_FOLDER: join(root, 'web/dist'),
      LOG_FILE: join(this.folder, 'server.log'),
      REQUESTS_A_MINUTE: '1000000',
    };
    const server = spawn('node', [main], { env, stdio: 'ignore' });
    this.server = server;
    await eventually(async () => {
      const [, address] = /"address":"([^"]+)"/.exec(await readFile(log, 'utf8').catch(() => '')) ?? [];
      this.address = address ?? '';
      return server.exitCode !== null || address !== undefined;
    }, START_WITHIN_MS);
    if (server.exitCode !== null)
      throw new Error(`the server ended by itself: ${readFileSync(log, 'utf8').slice(-2000)}`);
  }

  async killServer(): Promise<void> {
    const gone = new Promise((done) => this.server?.once('exit', done));
    this.server?.kill('SIGKILL');
    await gone;
  }

  /** Ends the server politely; resolves to how it left. */
  async stopServer(): Promise<number | null> {
    const gone = new Promise<number | null>((done) => this.server?.once('exit', done));
    this.server?.kill('SIGTERM');
    return gone;
  }

  async killPostgres(): Promise<void> {
    const pid = Number(readFileSync(join(this.folder, 'pg/postmaster.pid'), 'utf8').split('\n')[0]);
    process.kill(pid, 'SIGKILL');
    // Its children notice within moments; the shared memory must be free before it can start again.
    await new Promise((done) => setTimeout(done, 1500));
  }

  async replayAgrees(): Promise<string> {
    const env = { ...process.env, DATABASE_URL: this.url };
    return (await run('node', [join(root, 'server/dist/commands/replay-check.js')], { env })).stdout;
  }

  async end(): Promise<void> {
    // The server writes its log to the disk that is about to go.
    if (this.server?.exitCode === null && this.server.signalCode === null) await this.killServer();
    await run(clusterScript, ['stop', this.folder, 'immediate']).catch(() => undefined);
    this.disk?.unmount();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Loading the demo on a durable cluster takes about 15 s alone, several times that beside other tests. */
const START_WITHIN_MS = 600_000;

async function eventually(holds: () => Promise<boolean>, withinMs: number): Promise<void> {
  const until = Date.now() + withinMs;
  while (Date.now() < until) {
    if (await holds().catch(() => false)) return;
    await new Promise((done) => setTimeout(done, 200));
  }
  throw new Error(`not within ${withinMs} ms`);
}

const post = (address: string, path: string, body: object): Promise<Response> =>
  fetch(address + path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

/** Files one entry after the other until told to stop; gives the keys that were acknowledged. */
function stream(
  plant: Plant,
  batch: string,
  name: string,
): {
  /** Resolves when so many were acknowledged. */
  acknowledging: (count: number) => Promise<void>;
  stop: () => Promise<{ acknowledged: string[]; statuses: Set<number> }>;
} {
  let running = true;
  const acknowledged: string[] = [];
  const statuses = new Set<number>();
  const loop = (async () => {
    for (let i = 0; running; i += 1) {
      const key = `stream-${name}-${String(i).padStart(5, '0')}`;
      const entries = [{ type: 'read', valuesPct: [7.1, 7.2, 7.1] }];
      const answer = await post(plant.address, '/api/log', { key, by: 'venn', batch, entries }).catch(
        () => null,
      );
      if (answer) statuses.add(answer.status);
      if (answer?.status === 200) acknowledged.push(key);
      else await new Promise((done) => setTimeout(done, 20));
    }
  })();
  return {
    acknowledging: (count) => eventually(() => Promise.resolve(acknowledged.length >= count), 30_000),
    stop: async () => {
      running = false;
      await loop;
      return { acknowledged, statuses };
    },
  };
}

const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

describe('what was acknowledged', () => {
  const plant = new Plant();
  let batch = '';

  beforeAll(async () => {
    if (!existsSync(main)) throw new Error('the server is not built: npm run build');
    await plant.postgres();
    await plant.fill();
    await plant.serve();
    const dueAt = wednesdayIn90Days();
    const answer = await post(plant.address, '/api/batches', {
      key: 'durability-batch',
      by: 'ostrander',
      kind: 'B',
      model: 'Bowline',
      quantity: 12,
      dueAt,
    });
    batch = ((await answer.json()) as { entries: { batch: string }[] }).entries[0]?.batch ?? '';
  }, 900_000);
  afterAll(() => plant.end());

  /** Every key once more: what was acknowledged is known already, and nothing of it was lost. */
  async function expectAllThere(acknowledged: string[]): Promise<void> {
    expect(acknowledged.length).toBeGreaterThan(5);
    for (const key of acknowledged) {
      const answer = await post(plant.address, '/api/log', {
        key,
        by: 'venn',
        batch,
        entries: [{ type: 'read', valuesPct: [7.1, 7.2, 7.1] }],
      });
      expect(await answer.json()).toMatchObject({ repeated: true });
    }
    expect(await plant.replayAgrees()).toMatch(/all agree/);
  }

  it('survives kill -9 of the server in the middle of filing', async () => {
    const streams = ['a', 'b'].map((name) => stream(plant, batch, `kill-${name}`));
    await Promise.all(streams.map((one) => one.acknowledging(5)));
    await plant.killServer();
    const ended = await Promise.all(streams.map((one) => one.stop()));
    await plant.serve();
    await expectAllThere(ended.flatMap((one) => one.acknowledged));
  });

  it('survives kill -9 of PostgreSQL; the server answers 503 meanwhile and is ready again by itself', async () => {
    const streams = ['a', 'b'].map((name) => stream(plant, batch, `pg-${name}`));
    await Promise.all(streams.map((one) => one.acknowledging(5)));
    await plant.killPostgres();
    await eventually(async () => (await fetch(`${plant.address}/api/ready`)).status === 503, 30_000);
    expect((await fetch(`${plant.address}/api/health`)).status).toBe(200);
    await plant.postgres();
    await eventually(async () => (await fetch(`${plant.address}/api/ready`)).ok, 30_000);
    await wait(500);
    const ended = await Promise.all(streams.map((one) => one.stop()));
    expect(ended.some((one) => one.statuses.has(503))).toBe(true);
    expect(ended.some((one) => one.statuses.has(500))).toBe(false);
    await expectAllThere(ended.flatMap((one) => one.acknowledged));
  });

  // Without a disk of its own to fill there is nothing to try.
  (plant.disk ? it : it.skip)(
    'survives a disk that is full under the write-ahead log, and is filed again when there is room (12.6)',
    async () => {
      const streams = ['a', 'b'].map((name) => stream(plant, batch, `full-${name}`));
      await Promise.all(streams.map((one) => one.acknowledging(5)));
      await plant.exhaustLog();
      await eventually(async () => (await fetch(`${plant.address}/api/ready`)).status === 503, 30_000);
      // A connection may outlive the log for a moment: what was sent through it is not known, and asked again.
      const said = new Set<string>();
      const filing = { key: 'full-disk', by: 'venn', batch, entries: [{ type: 'read', valuesPct: [7.1] }] };
      await eventually(async () => {
        const refused = await post(plant.address, '/api/log', filing);
        const { message } = (await refused.json()) as { message: string };
        said.add(`${refused.status} ${message.replace(/[;:].*/, '')}`);
        return /nothing was filed/.test(message);
      }, 30_000);
      const unknown = '503 the database stopped answering';
      expect([...said].filter((words) => words !== unknown)).toEqual(['503 the database is not answering']);
      // Without room it does not start either, and says why.
      await expect(plant.postgres()).rejects.toThrow(/No space left on device/);
      plant.disk?.empty();
      await plant.postgres();
      await eventually(async () => (await fetch(`${plant.address}/api/ready`)).ok, 30_000);
      await wait(500);
      const ended = await Promise.all(streams.map((one) => one.stop()));
      expect(ended.some((one) => one.statuses.has(500))).toBe(false);
      await expectAllThere(ended.flatMap((one) => one.acknowledged));
    },
  );

  it('is finished before a polite stop, and the stop does not take long', async () => {
    const streams = ['a', 'b'].map((name) => stream(plant, batch, `term-${name}`));
    const events = await fetch(`${plant.address}/api/events`);
    await Promise.all(streams.map((one) => one.acknowledging(5)));
    const before = Date.now();
    expect(await plant.stopServer()).toBe(null);
    expect(Date.now() - before).toBeLessThan(5000);
    await events.body?.cancel().catch(() => undefined);
    const ended = await Promise.all(streams.map((one) => one.stop()));
    await plant.serve();
    await expectAllThere(ended.flatMap((one) => one.acknowledged));
  });
});

/** The works are open on Wednesdays. */
function wednesdayIn90Days(): string {
  const day = new Date(Date.now() + 90 * 24 * 3_600_000);
  day.setUTCDate(day.getUTCDate() + ((3 - day.getUTCDay() + 7) % 7));
  return day.toISOString();
}
