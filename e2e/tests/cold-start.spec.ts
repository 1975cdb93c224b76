import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from '@playwright/test';
import { freePort } from '../ports.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const PORT = await freePort(8900, 50);
/** The demo is loaded in half a minute, on a machine that many share in several. */
const WHILE_LOADING = { timeout: 600_000 };
const ADDRESS = `http://127.0.0.1:${PORT}`;

/** One run of ./start with what it printed. */
class Run {
  static readonly all: Run[] = [];
  output = '';
  private readonly child: ChildProcess;
  private readonly ended: Promise<number | null>;

  constructor(folder: string, ...options: string[]) {
    const env: NodeJS.ProcessEnv = {
      ...process.env,
      AMPLE_CRANE_DATA: folder,
      SEND_EVERY_S: '2',
      FAULTS: '0',
    };
    delete env.DATABASE_URL;
    this.child = spawn('./start', ['--port', String(PORT), ...options], { cwd: root, env });
    for (const stream of [this.child.stdout, this.child.stderr])
      stream?.on('data', (text) => (this.output += String(text)));
    this.ended = new Promise((resolve) => this.child.once('exit', resolve));
    Run.all.push(this);
  }

  async ready(): Promise<void> {
    await expect.poll(() => this.output, WHILE_LOADING).toContain('Ample Crane is ready');
  }

  /** Killed, as by a power cut of its terminal: it stops nothing. */
  async kill(): Promise<void> {
    this.child.kill('SIGKILL');
    await this.ended;
  }

  async code(): Promise<number | null> {
    return this.ended;
  }

  async stop(): Promise<number | null> {
    this.child.kill('SIGTERM');
    return this.ended;
  }
}

const openBatches = async (): Promise<string[]> => {
  const floor = (await (await fetch(`${ADDRESS}/api/floor`)).json()) as { racks: { code: string }[] };
  return floor.racks.map(({ code }) => code);
};

/** How long ago the wood room's sensor was last heard, factory time. */
async function heardAgoMs(): Promise<number> {
  const get = async <T>(path: string): Promise<T> => (await (await fetch(ADDRESS + path)).json()) as T;
  const rooms = await get<{ room: string; lastMs: number }[]>('/api/climate/rooms');
  const { nowMs } = await get<{ nowMs: number }>('/api/clock');
  return nowMs - (rooms.find(({ room }) => room === 'Wood room')?.lastMs ?? 0);
}

test('./start brings the works up, keeps the data, refuses a second start and stops cleanly', async () => {
  test.setTimeout(1_200_000);
  const folder = mkdtempSync(join(tmpdir(), 'ample-crane-start-'));
  chmodSync(folder, 0o755);
  try {
    const first = new Run(folder);
    await first.ready();
    expect(first.output).toMatch(/demo data: \d+ of \d+ filings/);
    // Run by root, nothing it starts is.
    for (const line of readFileSync(join(folder, 'started'), 'utf8').trim().split('\n')) {
      const status = readFileSync(`/proc/${line.split(' ')[0]}/status`, 'utf8');
      expect(`${line}: ${/^Uid:\s+(\d+)/m.exec(status)?.[1]}`).not.toMatch(/: 0$/);
    }
    // The simulated sensors are heard through their broker.
    await expect.poll(heardAgoMs).toBeLessThan(60_000);
    // The works are open on Wednesdays.
    const due = new Date(Date.now() + 90 * 24 * 3_600_000);
    due.setUTCDate(due.getUTCDate() + ((3 - due.getUTCDay() + 7) % 7));
    const body = {
      key: 'cold-start-1',
      by: 'ostrander',
      kind: 'B',
      model: 'Ratline',
      quantity: 5,
      dueAt: due.toISOString(),
    };
    const opened = await fetch(`${ADDRESS}/api/batches`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    const { entries } = (await opened.json()) as { entries: { batch: string }[] };
    const code = entries[0]?.batch ?? 'nothing';

    const second = new Run(folder);
    expect(await second.code()).toBe(1);
    expect(second.output).toContain(`already runs from this folder: ${ADDRESS}`);

    expect(await first.stop()).toBe(0);
    expect(first.output).toContain('Your data are kept');
    await expect(fetch(ADDRESS)).rejects.toThrow();

    const again = new Run(folder);
    await again.ready();
    expect(again.output).not.toContain('demo data');
    expect(await openBatches()).toContain(code);

    // PostgreSQL that is killed is started again, and nothing is lost.
    const pid = Number(readFileSync(join(folder, 'pg/postmaster.pid'), 'utf8').split('\n')[0]);
    process.kill(pid, 'SIGKILL');
    await expect.poll(() => again.output).toContain('PostgreSQL has ended; starting it again');
    await expect.poll(async () => (await fetch(`${ADDRESS}/api/ready`).catch(() => null))?.status).toBe(200);
    await expect.poll(() => openBatches().catch(() => [])).toContain(code);

    // A ./start that is killed leaves its programs behind; the next one ends them, and only them.
    await again.kill();
    const after = new Run(folder);
    await after.ready();
    expect(after.output).toContain('ending what a killed ./start left behind: server/dist/main.js');
    expect(await openBatches()).toContain(code);
    await after.stop();

    // All data are removed only when that is said twice.
    const unsure = new Run(folder, '--fresh');
    expect(await unsure.code()).toBe(2);
    expect(unsure.output).toContain('--fresh removes all data');

    // What is backed up comes back, once its log agrees with its tables.
    const file = join(folder, 'today.dump');
    const env: NodeJS.ProcessEnv = { ...process.env, AMPLE_CRANE_DATA: folder };
    delete env.DATABASE_URL;
    const told = (script: string, ...args: string[]): string =>
      execFileSync(join(root, 'scripts', script), args, { env, encoding: 'utf8', ...WHILE_LOADING });
    expect(told('backup.sh', file)).toContain(`backup: ${file}`);
    expect(() => told('restore.sh', join(root, 'README.md'))).toThrow(/is no backup/);
    expect(told('restore.sh', file)).toMatch(/all agree[\s\S]*is in place/);
    const restored = new Run(folder);
    await restored.ready();
    expect(restored.output).not.toContain('demo data');
    expect(await openBatches()).toContain(code);
    await restored.stop();

    // Said twice, they are gone: only an empty works gets the demo. It can be stopped while it loads.
    const fresh = new Run(folder, '--fresh', '--yes');
    await expect.poll(() => fresh.output, WHILE_LOADING).toMatch(/demo data: \d+ of \d+ filings/);
    expect(await fresh.stop()).toBe(0);
  } catch (error) {
    const said = Run.all.map(({ output }, i) => `run ${i + 1}:\n${output.slice(-800)}`);
    throw new Error(`${(error as Error).message}\n${said.join('\n')}`, { cause: error });
  } finally {
    // Whatever failed above, nothing of it goes on running; what was just ended may still close a file.
    await Promise.all(Run.all.map((run) => run.stop()));
    rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 250 });
  }
});

test('./start says what is wrong with what it was told', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'ample-crane-start-'));
  const wrong = new Run(folder, '--colour');
  expect(await wrong.code()).toBe(2);
  expect(wrong.output).toContain("'--colour' is not known");
  rmSync(folder, { recursive: true, force: true });
});
