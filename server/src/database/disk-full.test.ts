import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { DataSource } from 'typeorm';
import { writeMasterData } from '../demo/master-data.ts';
import { SmallDisk } from '../testing/small-disk.ts';
import { MONDAY, testDatabaseAddress } from '../testing/databases.ts';
import { Works } from '../testing/works.ts';

interface Answer {
  status: number;
  body: { message?: string };
}

const disk = SmallDisk.mount(64);
const name = `full_${process.pid}`;
const asOwner = async (...statements: string[]): Promise<void> => {
  const client = new pg.Client({ connectionString: testDatabaseAddress() });
  await client.connect();
  for (const statement of statements) await client.query(statement);
  await client.end();
};

afterAll(async () => {
  if (!disk) return;
  await asOwner(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`, `DROP TABLESPACE IF EXISTS ${name}`);
  disk.unmount();
});

// Without a disk of its own to fill there is nothing to try.
(disk ? it : it.skip)(
  'a full disk refuses what is filed, lets what is there be read, and comes back by itself when there is room (12.6)',
  async () => {
    if (!disk) return;
    const tables = join(disk.folder, 'tables');
    mkdirSync(tables);
    execFileSync('chown', ['postgres', tables]);
    await asOwner(
      `CREATE TABLESPACE ${name} LOCATION '${tables}'`,
      `CREATE DATABASE ${name} TABLESPACE ${name}`,
    );
    const url = new URL(testDatabaseAddress());
    url.pathname = `/${name}`;
    const works = await Works.open(url.href);
    await works.app.get(DataSource).transaction((manager) => writeMasterData(manager, MONDAY));
    const batch = await works.openRack('B', 100);
    const readings = Array.from({ length: 100 }, (_, i) => (7 + (i % 7) / 10).toFixed(1)).join(' ');
    const file = async (): Promise<Answer> => await works.line(`${batch} read ${readings}`);
    expect((await file()).status).toBe(200);
    disk.fill();

    let full: Answer = { status: 200, body: {} };
    for (let i = 0; i < 400 && full.status === 200; i += 1) full = await file();
    expect(full).toMatchObject({
      status: 507,
      body: {
        message: 'the disk of the database is full; nothing was filed. What is there can still be read',
      },
    });
    expect((await works.http.get(`/api/batches/${batch}`)).status).toBe(200);
    expect((await works.http.get('/api/ready')).status).toBe(200);
    disk.empty();
    expect((await file()).status).toBe(200);
    await works.close();
  },
);
