import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { CutLine } from '../testing/cut-line.ts';
import { testDatabaseAddress } from '../testing/databases.ts';
import { heard } from './heard.ts';
import { DatabaseWatch } from './watch.service.ts';

async function eventually(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 100 && !holds(); i += 1) await new Promise((resolve) => setTimeout(resolve, 100));
  expect(holds()).toBe(true);
}

it('ends a connection it was still making when it was told to stop: no program stays behind for it', async () => {
  const { line, url } = await CutLine.to(testDatabaseAddress());
  const before = process.env.DATABASE_URL;
  process.env.DATABASE_URL = url;
  try {
    const watch = new DatabaseWatch();
    line.hold();
    watch.onApplicationBootstrap();
    await eventually(() => line.open === 1);
    watch.beforeApplicationShutdown();
    line.letThrough();
    await eventually(() => line.open === 0);
  } finally {
    process.env.DATABASE_URL = before;
    await line.close();
  }
});

it('hears an answer that came while this process was too busy to listen, and does not wait for one that never comes', async () => {
  const answer = promisify(execFile)('echo', ['here']);
  const busyUntilMs = performance.now() + 1500;
  while (performance.now() < busyUntilMs);
  expect((await heard(answer, 200)).stdout).toBe('here\n');
  // It answers when its time is over, and this process is busy until then, however long that takes.
  const told = join(await mkdtemp(join(tmpdir(), 'heard-')), 'told');
  const slow = heard(promisify(execFile)('sh', ['-c', `sleep 1.5; echo late; touch ${told}`]), 1000);
  while (!existsSync(told));
  expect((await slow).stdout).toBe('late\n');
  await expect(heard(new Promise(() => undefined), 50)).rejects.toThrow('nothing was heard for 50 ms');
});

it('takes one answer that came late for a busy machine, and two in a row for a database that is away', async () => {
  const { line, url } = await CutLine.to(testDatabaseAddress());
  const before = process.env.DATABASE_URL;
  process.env.DATABASE_URL = url;
  const watch = new DatabaseWatch();
  const missed = jest.spyOn(watch as unknown as { letGo(): void }, 'letGo');
  try {
    line.hold();
    watch.onApplicationBootstrap();
    await eventually(() => missed.mock.calls.length === 1);
    expect(watch.answers).toBe(true);
    await eventually(() => missed.mock.calls.length === 2);
    expect(watch.answers).toBe(false);
    line.letThrough();
    await eventually(() => watch.answers);
  } finally {
    watch.beforeApplicationShutdown();
    process.env.DATABASE_URL = before;
    await line.close();
  }
});
