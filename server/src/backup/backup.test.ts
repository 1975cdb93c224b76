import { mkdtempSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DAY_MS, HOUR_MS } from '@ample-crane/core';
import { Works } from '../testing/works.ts';
import { BackupService, type BackupsView } from './backup.service.ts';

describe('the nightly backup (12.15)', () => {
  let works: Works;
  let folder: string;
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'ample-crane-backups-'));
    process.env.BACKUP_FOLDER = folder;
    works = await Works.open();
  });
  afterAll(async () => {
    delete process.env.BACKUP_FOLDER;
    await works.close();
  });

  const take = (): Promise<void> => works.app.get(BackupService).take();
  const seen = async (): Promise<BackupsView> => (await works.http.get('/api/backups')).body as BackupsView;
  const calls = async (): Promise<string[]> =>
    ((await works.http.get('/api/board')).body as { calls: { kind: string; detail: string }[] }).calls
      .filter(({ kind }) => kind === 'backup')
      .map(({ detail }) => detail);
  /** A backup as it would be after so many days. */
  const aged = (name: string, days: number): void => {
    writeFileSync(join(folder, name), 'a backup');
    const at = (Date.now() - days * DAY_MS) / 1000;
    utimesSync(join(folder, name), at, at);
  };

  it('is none at first, and nobody is called for that', async () => {
    expect(await seen()).toMatchObject({
      on: true,
      keepDays: 14,
      backups: [],
      overdue: false,
      trouble: null,
    });
    expect(await calls()).toEqual([]);
  });

  it('is written whole, by the script people use, and shown with its size', async () => {
    await take();
    const { backups, trouble } = await seen();
    expect([trouble, backups.length]).toEqual([null, 1]);
    expect(backups[0]?.bytes).toBeGreaterThan(10_000);
    expect(Date.now() - (backups[0]?.atMs ?? 0)).toBeLessThan(HOUR_MS);
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('lets go of those that are too old, and of nothing else in the folder', async () => {
    aged('ample-crane-2026-01-01T020000Z.dump', 15);
    aged('ample-crane-2026-01-02T020000Z.dump', 13);
    aged('before-2026-01-01T020000Z.dump', 99);
    await take();
    const names = readdirSync(folder);
    expect(names).not.toContain('ample-crane-2026-01-01T020000Z.dump');
    expect(names).toEqual(
      expect.arrayContaining(['ample-crane-2026-01-02T020000Z.dump', 'before-2026-01-01T020000Z.dump']),
    );
  });

  it('that fails, or is overdue, is a call with its reason', async () => {
    const address = process.env.DATABASE_URL;
    process.env.DATABASE_URL = 'postgres://nobody@127.0.0.1:1/nowhere';
    await take();
    process.env.DATABASE_URL = address;
    expect((await seen()).trouble).toMatch(/connection/i);
    expect(await calls()).toEqual([
      expect.stringMatching(/^The last one is 0 h old\..*connection.*filed since is lost/s),
    ]);
    await take();
    expect(await calls()).toEqual([]);
    for (const name of readdirSync(folder)) aged(name, 2);
    expect((await seen()).overdue).toBe(true);
    expect(await calls()).toEqual([expect.stringMatching(/^The last one is 48 h old/)]);
  });
});
