import pg from 'pg';
import { CutLine } from '../testing/cut-line.ts';
import { testDatabaseAddress } from '../testing/databases.ts';
import { failureOf } from './failure.ts';
import { PatientPool } from './patient-pool.ts';
import { HeldClient } from './watched-client.ts';

const config = { connectionString: testDatabaseAddress(), max: 1, Client: HeldClient };

/** A process that hears nothing meanwhile. */
function busyFor(ms: number): void {
  const untilMs = performance.now() + ms;
  while (performance.now() < untilMs);
}
/** Longer than anybody waits for one that others hold, and for a new one. */
const LONGER_THAN_FREE_MS = 3_500;
const LONGER_THAN_NEW_MS = 6_500;

describe('a pool whose process is busy for seconds', () => {
  it('gives a connection that was free all along: pg’s own would say that none was', async () => {
    for (const [Pool, outcome] of [
      [PatientPool, 'given'],
      [pg.Pool, 'timeout exceeded when trying to connect'],
    ] as const) {
      const pool = new Pool({ ...config, connectionTimeoutMillis: 3_000 });
      const first = await pool.connect();
      // Its answer is there in no time, but nobody listens.
      const asked = first.query('SELECT 1').then(() => first.release());
      const second = pool.connect().then(
        (client) => (client.release(), 'given'),
        (error: Error) => error.message,
      );
      busyFor(LONGER_THAN_FREE_MS);
      expect(await second).toBe(outcome);
      await asked;
      await pool.end();
    }
  });

  it('gets a new connection, too', async () => {
    const pool = new PatientPool(config);
    const client = pool.connect();
    busyFor(LONGER_THAN_NEW_MS);
    expect((await (await client).query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
    (await client).release();
    await pool.end();
  });
});

describe('a pool that has none to give', () => {
  it('says so after its time, and gives the one that comes late to the next', async () => {
    const pool = new PatientPool(config);
    const first = await pool.connect();
    const error: unknown = await pool.connect().catch((reason: unknown) => reason);
    expect(failureOf(error)).toBe('not reached');
    first.release();
    const next = await pool.connect();
    expect((await next.query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
    next.release();
    await pool.end();
  });

  it('waits for a database that takes four seconds to begin, as on a machine whose cores are taken', async () => {
    const { line, url } = await CutLine.to(testDatabaseAddress());
    const pool = new PatientPool({ ...config, connectionString: url });
    line.hold();
    const got = pool.connect();
    setTimeout(() => line.letThrough(), 4_000);
    const client = await got;
    expect((await client.query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
    client.release();
    await pool.end();
    await line.close();
  });

  it('says so of a line that swallows what is sent, and is well when the line is', async () => {
    const { line, url } = await CutLine.to(testDatabaseAddress());
    const pool = new PatientPool({ ...config, connectionString: url });
    line.swallow();
    const error: unknown = await pool.connect().catch((reason: unknown) => reason);
    expect(failureOf(error)).toBe('not reached');
    line.heal();
    const client = await pool.connect();
    expect((await client.query('SELECT 1 AS one')).rows).toEqual([{ one: 1 }]);
    client.release();
    await pool.end();
    await line.close();
  });
});
