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
    expect((await takeBack(key, works.key())).body.sentence).toMatch(
      // The last first: it may have needed the other.
      new RegExp(`${other}.*${one}`),
    );
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

  it('has a key under which nothing else is filed', async () => {
    const key = works.key();
    const lot = { material: 'thin lacquer', litres: 20, code: 'TL-91' };
    expect((await post('/api/finish/materials/lots', { key, ...lot })).status).toBe(200);
    const rack = await works.openRack('B', 4);
    expect((await works.line(`${rack} read 7.1 7.2`, key)).body).toMatchObject({ code: 'key-used' });
    expect((await works.file(rack, { type: 'read', valuesPct: [7.1] })).status).toBe(200);
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

describe('by every door a kept filing is of its touch (12.2)', () => {
  const MINUTES = 40;
  /** The moment of a touch, forty minutes before it comes. */
  const kept = (): { atMs: number; touchedAt: string } => {
    const atMs = works.time.nowMs;
    works.later(MINUTES / 60);
    return { atMs, touchedAt: iso(atMs) };
  };
  const state = async <T>(batch: string): Promise<T> =>
    ((await works.http.get(`/api/batches/${batch}`)) as { body: { state: T } }).body.state;

  it('a coat typed at nine and sent at twenty to ten has cured for forty minutes', async () => {
    await post('/api/finish/materials/lots', {
      key: works.key(),
      code: 'SL-1',
      material: 'sealer',
      litres: 20,
    });
    await post('/api/finish/materials/lots/SL-1', { key: works.key(), to: 'open' });
    const batch = await works.openRack('B', 2, 'Halyard');
    works.later(0.2);
    await works.said(`${batch} end because dry by the other meter`);
    await works.mill(batch);
    await works.said(`${batch} end because rested elsewhere`);
    await works.said(`${batch} neck fit start`);
    await works.measure(batch);
    await works.said(`${batch} done`);
    await works.said(`${batch} prep start`);
    const { atMs, touchedAt } = kept();
    const coat = await post('/api/log/line', { key: works.key(), line: `${batch} coat wet 95`, touchedAt });
    expect([coat.status, coat.body]).toMatchObject([200, {}]);
    expect((await state<{ coats: { atMs: number }[] }>(batch)).coats.map((one) => one.atMs)).toEqual([atMs]);
    // The page of the rack reckons from there too.
    const { body } = (await works.http.get(`/api/finish/racks/${batch}`)) as { body: { rack: object } };
    expect(JSON.stringify(body)).toContain(`"atMs":${atMs}`);
  });

  it('a load laid at nine has lain for forty minutes', async () => {
    const batch = await works.openRack('B', 8, 'Halyard');
    works.later(0.2);
    await works.said(`${batch} end because dry by the other meter`);
    const { atMs, touchedAt } = kept();
    const table = { table: 'table-b1', parts: [{ batch }], because: 'the fixture was proved this morning' };
    const started = await post('/api/loads', { key: works.key(), ...table, touchedAt });
    expect([started.status, started.body]).toMatchObject([200, {}]);
    expect((await happened(batch)).at(-1)).toBe(atMs);
    const { body } = (await works.http.get('/api/mill/body-mill')) as {
      body: { tables: { load: { startedMs: number } | null }[] };
    };
    expect(body.tables.flatMap(({ load }) => load?.startedMs ?? [])).toContain(atMs);
  });

  it('a lot read at nine was read at nine, and a sheet of a rack too', async () => {
    const lot = (
      (await post('/api/lots', {
        key: works.key(),
        ...{ species: 'sapele', thicknessMm: 50, boardFeet: 10, supplier: 'A-1', endsSealed: true },
        ...{ dryness: 'kiln-dried', room: 'Wood room' },
        boards: [{ lengthMm: 1200, widthMm: 200 }],
      })) as unknown as { body: { entries: { batch: string }[] } }
    ).body.entries[0]?.batch;
    const batch = await works.openRack('B', 2);
    const { atMs, touchedAt } = kept();
    const entry = { type: 'lot-read', readings: [{ board: 1, readingPct: 8.1 }] };
    const read = await post(`/api/lots/${lot}/entries`, { key: works.key(), entry, touchedAt });
    expect([read.status, read.body]).toMatchObject([200, {}]);
    expect((await happened(lot ?? '')).at(-1)).toBe(atMs);
    const sheet = { key: works.key(), sheet: 'piece,reading\n1,7.1\n2,7.2', goodRowsOnly: false, touchedAt };
    expect((await post(`/api/batches/${batch}/readings`, sheet)).status).toBe(200);
    expect((await happened(batch)).at(-1)).toBe(atMs);
  });

  it('a can opened at nine has been open for forty minutes', async () => {
    await post('/api/finish/materials/lots', {
      key: works.key(),
      code: 'SL-7',
      material: 'sealer',
      litres: 20,
    });
    const { atMs, touchedAt } = kept();
    await post('/api/finish/materials/lots/SL-7', { key: works.key(), to: 'open', touchedAt });
    const [row] = await works.app
      .get(DataSource)
      .query<{ opened_at: Date }[]>("SELECT opened_at FROM material_lot WHERE code = 'SL-7'");
    expect(row?.opened_at.getTime()).toBe(atMs);
  });

  it('a correction of what was seen, without a moment, still takes back nothing later', async () => {
    const batch = await works.openRack('B', 4);
    await works.said(`${batch} read 9.1 9.2 9.0 9.1`);
    await works.said(`${batch} read 7.1 7.2 7.0 7.1`);
    const undo = { key: works.key(), line: `${batch} undo`, seen: { [batch]: 2 } };
    expect((await post('/api/log/line', undo)).body.sentence).toMatch(/entry 2 taken back/);
  });
});
