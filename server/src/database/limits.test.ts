import pg from 'pg';
import { CutLine } from '../testing/cut-line.ts';
import { Works } from '../testing/works.ts';

interface Answer {
  status: number;
  body: { message?: string; sentence?: string };
}
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const until = async (what: () => Promise<boolean>, withinMs: number): Promise<number> => {
  const start = Date.now();
  while (Date.now() - start < withinMs) {
    if (await what()) return Date.now() - start;
    await pause(100);
  }
  throw new Error(`it did not come about within ${withinMs} ms`);
};

describe('a row somebody holds (12.8)', () => {
  const ways = {
    'a line': (works: Works, held: string) => works.line(`${held} read 7 7 7 7`),
    'a meeting, filed on two racks together': (works: Works, held: string, guest: string) =>
      works.http
        .post('/api/meetings')
        .send({ key: works.key(), by: 'ostrander', meets: [{ host: held, guest }] }),
  };
  it.each(Object.entries(ways))('delays what is filed on it by %s, and nothing else', async (_, file) => {
    const works = await Works.open();
    const [held, free] = [await works.openRack('B', 4), await works.openRack('B', 4)];
    const guest = await works.openRack('N', 4);
    // The first look at a floor is not what is waited for here.
    expect((await works.http.get('/api/board')).status).toBe(200);
    const holder = new pg.Client({ connectionString: works.databaseUrl });
    await holder.connect();
    await holder.query('BEGIN');
    await holder.query('SELECT 1 FROM batch WHERE code = $1 FOR UPDATE', [held]);
    const waiting = Array.from({ length: 25 }, async () => (await file(works, held, guest)) as Answer);
    await pause(300);
    // With 25 filings waiting for one row there is room for others: in less time than the row is waited for.
    const start = Date.now();
    expect(((await works.line(`${free} read 7 7 7 7`)) as Answer).status).toBe(200);
    expect((await works.http.get('/api/board')).status).toBe(200);
    expect(Date.now() - start).toBeLessThan(4000);
    const answers = await Promise.all(waiting);
    expect(new Set(answers.map(({ status }) => status))).toEqual(new Set([503]));
    expect(answers[0]?.body.message).toBe(
      'somebody else is at work on the same; nothing was filed: try again',
    );
    await holder.query('ROLLBACK');
    await holder.end();
    expect(((await works.line(`${held} read 7 7 7 7`)) as Answer).status).toBe(200);
    await works.close();
  });
});

describe('a network that swallows what is sent (12.8)', () => {
  it('is noticed in seconds, said honestly, and healed without a restart', async () => {
    const direct = await Works.open();
    const batch = await direct.openRack('B', 4);
    await direct.close();
    const { line, url } = await CutLine.to(direct.databaseUrl);
    const works = await Works.open(url);
    const ready = async (): Promise<number> => ((await works.http.get('/api/ready')) as Answer).status;
    await until(async () => (await ready()) === 200, 15_000);
    line.swallow();
    const asked = Date.now();
    const lost = (await works.line(`${batch} read 7 7 7 7`)) as Answer;
    expect(lost.status).toBe(503);
    expect(Date.now() - asked).toBeLessThan(12_000);
    expect(lost.body.message).toMatch(/not known yet|nothing was filed/);
    expect(await ready()).toBe(503);
    line.heal();
    await until(async () => (await ready()) === 200, 15_000);
    expect(((await works.line(`${batch} read 7 7 7 7`)) as Answer).status).toBe(200);
    await works.close();
    await line.close();
  });
});

describe('a statement without end (12.8)', () => {
  it('is ended by the database', async () => {
    const works = await Works.open();
    const { DataSource } = await import('typeorm');
    const [row] = await works.app.get(DataSource).query<{ s: string; l: string; i: string }[]>(
      `SELECT current_setting('statement_timeout') AS s, current_setting('lock_timeout') AS l,
              current_setting('idle_in_transaction_session_timeout') AS i`,
    );
    expect(row).toEqual({ s: '15s', l: '5s', i: '15s' });
    await works.close();
  });
});
