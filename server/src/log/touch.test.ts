import { HOUR_MS, MINUTE_MS } from '@ample-crane/core';
import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

interface Answer {
  status: number;
  body: { refused?: string; sentence?: string; repeated?: boolean };
}
const post = (path: string, body: object): Promise<Answer> =>
  works.http.post(path).send({ by: 'ostrander', ...body });
const iso = (ms: number): string => new Date(ms).toISOString();
const happened = async (batch: string): Promise<number[]> => {
  const rows = await works.app
    .get(DataSource)
    .query<{ happened_at: Date }[]>('SELECT happened_at FROM log_entry WHERE batch = $1 ORDER BY seq', [
      batch,
    ]);
  return rows.map((row) => row.happened_at.getTime());
};

describe('a filing that was kept while the line was lost (12.2)', () => {
  it('happened when it was touched, not when it came', async () => {
    const batch = await works.openRack('B', 4);
    works.later(2);
    const nine = works.time.nowMs;
    works.later(40 / 60);
    const body = { key: works.key(), line: `${batch} read 7.1 7.2 7.0 7.1`, touchedAt: iso(nine) };
    expect((await post('/api/log/line', body)).status).toBe(200);
    expect((await happened(batch)).at(-1)).toBe(nine);
    // The clock of the page is a little off: what goes at once is of now.
    const now = works.time.nowMs;
    await post('/api/log/line', { ...body, key: works.key(), touchedAt: iso(now - 3000) });
    expect((await happened(batch)).at(-1)).toBe(now);
    await post('/api/log/line', { ...body, key: works.key(), touchedAt: iso(now + HOUR_MS) });
    expect((await happened(batch)).at(-1)).toBe(now);
  });

  it('a time within the line is of the day it was touched', async () => {
    const batch = await works.openRack('B', 4);
    works.later(3);
    const touched = works.time.nowMs;
    const hourBefore = touched - HOUR_MS;
    const clock = new Intl.DateTimeFormat('en-GB', {
      timeZone: 'America/Chicago',
      timeStyle: 'short',
    }).format(hourBefore);
    works.later(24);
    const line = `${batch} read 7.1 7.2 7.0 7.1 at ${clock}`;
    expect((await post('/api/log/line', { key: works.key(), line, touchedAt: iso(touched) })).status).toBe(
      200,
    );
    expect((await happened(batch)).at(-1)).toBe(Math.floor(hourBefore / MINUTE_MS) * MINUTE_MS);
  });

  it('is the same filing whenever it is sent again', async () => {
    const batch = await works.openRack('B', 4);
    const key = works.key();
    const line = `${batch} read 7.1 7.2 7.0 7.1`;
    const at = iso(works.time.nowMs);
    works.later(1);
    expect((await post('/api/log/line', { key, line })).body.repeated).toBe(false);
    expect((await post('/api/log/line', { key, line, touchedAt: at })).body.repeated).toBe(true);
  });

  it('takes back what its person saw last, not what was filed since', async () => {
    const batch = await works.openRack('B', 4);
    await works.said(`${batch} read 9.1 9.2 9.0 9.1`);
    const touchedAt = iso(works.time.nowMs);
    await works.said(`${batch} read 7.1 7.2 7.0 7.1`);
    const body = { key: works.key(), line: `${batch} undo`, touchedAt, seen: { [batch]: 2 } };
    expect((await post('/api/log/line', body)).body.sentence).toMatch(/^Corrected/);
    const { body: told } = (await works.http.get(`/api/batches/${batch}`)) as {
      body: {
        state: { readings: { valuesPct?: number[] }[] };
        entries: { seq: number; takenBack?: boolean }[];
      };
    };
    expect(told.state.readings).toHaveLength(1);
    expect(JSON.stringify(told.state.readings)).toContain('7.1');
  });
});

describe('taking back a filing by its key (12.4)', () => {
  const takeBack = (filing: string, key: string) => post('/api/log/take-back', { filing, key });

  it('happens once, however often it is asked, and of nothing else', async () => {
    const batch = await works.openRack('B', 4);
    const key = works.key();
    await post('/api/log/line', { key, line: `${batch} read 9.1 9.2 9.0 9.1` });
    await works.said(`${batch} read 7.1 7.2 7.0 7.1`);
    const answers = await Promise.all(Array.from({ length: 12 }, () => takeBack(key, `undo-${key}`)));
    expect(answers.map(({ status }) => status)).toEqual(Array(12).fill(200));
    expect(answers.filter(({ body }) => !body.repeated)).toHaveLength(1);
    expect(answers[0]?.body.sentence).toMatch(new RegExp(`^Corrected: ${batch}`));
    expect(await happened(batch)).toHaveLength(4);
    expect((await takeBack(key, works.key())).body.refused).toMatch(/already taken back|was taken back/);
  });

  it('takes back all batches of a line', async () => {
    const [one, other] = [await works.openRack('B', 4), await works.openRack('B', 4)];
    const key = works.key();
    const filed = await post('/api/log/line', { key, line: `${one} ${other} hold dust` });
    expect([filed.status, filed.body]).toMatchObject([200, {}]);
    expect((await takeBack(key, works.key())).body.sentence).toMatch(new RegExp(`${one}.*${other}`));
  });

  it('of what was never filed is refused', async () => {
    expect(await takeBack('nobody-filed-this', works.key())).toMatchObject({
      status: 409,
      body: { refused: 'what is to be taken back was never filed' },
    });
  });
});

describe('what was given up (12.2)', () => {
  it('is noted once, with its touch and why it was refused', async () => {
    const touched = works.time.nowMs - 90 * MINUTE_MS;
    const body = {
      ...{ key: works.key(), words: 'B-1 start', why: 'nothing waits there', touchedAt: iso(touched) },
      request: { line: 'B-1 start' },
    };
    for (let i = 0; i < 3; i += 1) expect((await post('/api/log/given-up', body)).status).toBe(200);
    const { body: all } = (await works.http.get('/api/log/given-up')) as { body: object[] };
    expect(all).toMatchObject([{ by: 'ostrander', words: 'B-1 start', touchedMs: touched }]);
  });
});

describe('a request that is not filed in the log (12.10)', () => {
  it('is answered alike when it is sent again, and nothing more happens', async () => {
    const lot = { material: 'thin lacquer', litres: 20, code: 'TL-90' };
    const key = works.key();
    const first = await post('/api/finish/materials/lots', { key, ...lot });
    expect([first.status, first.body]).toMatchObject([200, {}]);
    const again = await post('/api/finish/materials/lots', { key, ...lot });
    expect(again.status).toBe(200);
    expect(again.body).toEqual(first.body);
    const turned = works.key();
    for (let i = 0; i < 3; i += 1)
      expect((await post('/api/finish/materials/lots/TL-90', { key: turned, to: 'open' })).status).toBe(200);
    expect(
      (await post('/api/finish/materials/lots/TL-90', { key: turned, to: 'finished' })).body.refused,
    ).toMatch(/used before/);
  });

  it.each([
    ['nesting without end', '{"key":'.repeat(2000) + '1' + '}'.repeat(2000)],
    ['a NUL', JSON.stringify({ key: 'some-key-1', by: 'ostrander', line: 'B-1 \u0000' })],
    ['a NUL in a name', '{"a\\u0000b": 1}'],
    [
      'a number beyond all',
      JSON.stringify({
        key: 'some-key-2',
        by: 'ostrander',
        batch: 'B-1',
        entries: [{ type: 'start', count: 1e300 }],
      }),
    ],
    [
      'null where a date is wanted',
      JSON.stringify({
        key: 'some-key-3',
        by: 'ostrander',
        batch: 'B-1',
        happenedAt: null,
        entries: [{ type: 'start' }],
      }),
    ],
    [
      'a week for a date',
      JSON.stringify({
        key: 'some-key-4',
        by: 'ostrander',
        batch: 'B-1',
        happenedAt: '2026-W53-1',
        entries: [{ type: 'start' }],
      }),
    ],
    [
      'a day that does not come',
      JSON.stringify({
        key: 'some-key-5',
        by: 'ostrander',
        kind: 'B',
        model: 'Bowline',
        quantity: 4,
        dueAt: '2027-02-30T12:00:00Z',
      }),
    ],
  ])('%s is refused as what it is', async (_what, body) => {
    for (const path of ['/api/log', '/api/batches', '/api/log/line']) {
      const answer = (await works.http
        .post(path)
        .set('content-type', 'application/json')
        .send(body)) as Answer;
      expect([path, answer.status]).toEqual([path, 400]);
    }
  });

  it('an address that cannot be is refused', async () => {
    for (const path of ['/api/batches/%00', '/api/batches/%E0%A4%A', '/api/lots/W-1%00/sheet'])
      expect([path, (await works.http.get(path)).status]).toEqual([path, 400]);
  });
});
