import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import { ReplayCheckService } from './replay-check.service.ts';

let works: Works;
let batch: string;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());
beforeEach(async () => {
  batch = await works.openRack('B');
  works.later(1);
});

const entriesOf = async (code: string): Promise<{ seq: number; voided: boolean }[]> =>
  ((await works.http.get(`/api/batches/${code}`)).body as { entries: { seq: number; voided: boolean }[] })
    .entries;
const read = { type: 'read', valuesPct: [7.1, 7.2, 7.1] };

describe('a key', () => {
  it('files once, however often it comes', async () => {
    const key = works.key();
    const answers = await Promise.all([1, 2, 3, 4].map(() => works.line(`${batch} read 7.1 7.2 7.1`, key)));
    expect(answers.map((answer) => answer.status)).toEqual([200, 200, 200, 200]);
    expect(answers.filter((answer) => !(answer.body as { repeated: boolean }).repeated)).toHaveLength(1);
    expect(await entriesOf(batch)).toHaveLength(2);
  });

  it('is not taken twice for different things', async () => {
    const key = works.key();
    await works.line(`${batch} read 7.1 7.2 7.1`, key).expect(200);
    const { body } = await works.line(`${batch} end`, key).expect(409);
    expect(body).toMatchObject({ refused: 'this key was used before to file something else' });
  });

  it('is free again after a refusal', async () => {
    const key = works.key();
    await works.line(`${batch} end`, key).expect(409);
    await works.file(batch, read).expect(200);
    await works.line(`${batch} end`, key).expect(200);
  });
});

describe('a filing', () => {
  it('is all or nothing', async () => {
    await works.said(`${batch} read 7.1 7.2 7.1`);
    await works.said(`${batch} end`);
    await works.file(batch, { type: 'start', count: 4, because: 'proved by hand' }).expect(200);
    await works.measureLoads();
    const before = (await entriesOf(batch)).length;
    const { body } = await works.line(`${batch} 3 done 9 scrap tear-out`).expect(409);
    expect(body).toMatchObject({ code: 'not-enough' });
    expect(await entriesOf(batch)).toHaveLength(before);
  });

  it('is refused for the future and for a time before the batch was opened', async () => {
    const at = (hours: number): string => new Date(works.time.nowMs + hours * 3_600_000).toISOString();
    const send = (happenedAt: string) =>
      works.http
        .post('/api/log')
        .send({ key: works.key(), by: 'ostrander', batch, happenedAt, entries: [read] });
    expect((await send(at(2)).expect(409)).body).toMatchObject({ code: 'in-the-future' });
    expect((await send(at(-30)).expect(409)).body).toMatchObject({ code: 'too-early' });
    await send(at(-0.5)).expect(200);
  });

  it('passes a hold against its rule only with a reason, which is kept and shown', async () => {
    await works.line(`${batch} end`).expect(409);
    await works.line(`${batch} end because the fair opens`).expect(200);
    const { body } = await works.http.get(`/api/batches/${batch}`);
    expect((body as { state: { overrides: object[] } }).state.overrides).toMatchObject([
      { reason: 'the fair opens', against: 'Read it: no moisture readings yet, gate 6.0–8.5 %.', pieces: 12 },
    ]);
  });

  it('names unknown batches, stations and people', async () => {
    expect((await works.file('B-9999', read).expect(404)).body).toMatchObject({ code: 'unknown-batch' });
    expect((await works.file(batch, { type: 'start', station: 'attic' }).expect(409)).body).toMatchObject({
      code: 'wrong-station',
    });
    const stranger = { key: works.key(), by: 'nobody', batch, entries: [read] };
    expect((await works.http.post('/api/log').send(stranger).expect(409)).body).toMatchObject({
      refused: "nobody here is called 'nobody'",
    });
  });
});

describe('a correction', () => {
  it('takes a line back as one, both its entries', async () => {
    await works.said(`${batch} read 7.1 7.2 7.1`);
    await works.said(`${batch} end`);
    await works.file(batch, { type: 'start', because: 'proved by hand' }).expect(200);
    await works.measureLoads();
    await works.said(`${batch} 6 done 1 scrap tear-out`);
    expect(await works.said(`${batch} undo`)).toMatch(/taken back/);
    const entries = await entriesOf(batch);
    expect(entries.filter((entry) => entry.voided).map((entry) => entry.seq)).toEqual([9, 8]);
    expect(await works.said(`${batch} 6 done`)).toMatch(/2 in hand and 4 waiting at Body mill/);
  });

  it('is not corrected itself, and says what still needs an entry', async () => {
    await works.said(`${batch} read 7.1 7.2 7.1`);
    await works.said(`${batch} end`);
    const needed = await works.file(batch, { type: 'undo', seq: 2 }).expect(409);
    expect((needed.body as { refused: string }).refused).toMatch(/entry 3 came after and needs it/);
    await works.said(`${batch} undo`);
    const again = await works.file(batch, { type: 'undo', seq: 4 }).expect(409);
    expect((again.body as { refused: string }).refused).toMatch(/entry 4 is itself a correction/);
  });

  it('undoes a join on all three batches, and the join can be made again', async () => {
    await works.measureLoads();
    for (const load of ['L-1', 'L-2'])
      await works.http.post(`/api/loads/${load}/end`).send({ key: works.key(), by: 'dorrit', scrap: [] });
    const [body, neck] = [await works.openRack('B', 2), await works.openRack('N', 2)];
    for (const code of [body, neck]) {
      await works.said(`${code} end because test`);
      await works.mill(code, code === body ? 'body-mill' : 'neck-mill');
      await works.said(`${code} end because test`);
    }
    await works.said(`${neck} read 7 7 7`);
    await works.said(`${neck} wood room done`);
    for (const step of ['slots', 'board']) {
      await works.said(`${neck} start`);
      expect(await works.said(`${neck} done`)).toMatch(/2 done/);
      if (step === 'board') await works.said(`${neck} end because test`);
    }
    for (const _step of ['fret', 'level']) {
      await works.said(`${neck} fret start`);
      await works.measure(neck);
      await works.said(`${neck} done`);
    }
    await works.said(`${neck} join ${body}`);
    const guitar = body.replace('B', 'I');
    await works.said(`${guitar} undo`);
    const { body: undone } = await works.http.get(`/api/batches/${guitar}`).expect(200);
    expect((undone as { state: null }).state).toBeNull();
    expect(await works.said(`${body} join ${neck} 1`)).toMatch(/1 joined/);
    expect(await works.said(`${body} join ${neck}`)).toMatch(/1 joined/);
    const { body: made } = await works.http.get(`/api/batches/${guitar}`);
    expect((made as { state: { quantity: number } }).state.quantity).toBe(2);
  });

  it('leaves a log that cannot be changed behind its back', async () => {
    const source = works.app.get(DataSource);
    await expect(source.query('UPDATE log_entry SET pieces = 0')).rejects.toThrow(/never updated or deleted/);
    await expect(source.query('DELETE FROM log_entry')).rejects.toThrow(/never updated or deleted/);
  });
});

describe('bad requests', () => {
  it('say which word of a line was not understood', async () => {
    const { body } = await works.line(`${batch} drill 6 done`).expect(422);
    expect(body).toMatchObject({
      word: 'drill',
      start: batch.length + 1,
      message: "'drill' is not understood",
    });
    expect((await works.line(`${batch} ${'x'.repeat(10_000)}`).expect(422)).body).toMatchObject({
      message: expect.stringMatching(/at most 500/) as string,
    });
    expect((await works.line(`${batch} start\u0007`).expect(422)).body).toMatchObject({
      message: expect.stringMatching(/control character/) as string,
    });
  });

  it('say what is wrong with the request, and refuse fields nobody knows', async () => {
    const send = (body: object) => works.http.post('/api/log').send(body);
    const good = { key: works.key(), by: 'ostrander', batch, entries: [read] };
    expect((await send({ ...good, entries: [{ ...read, colour: 'red' }] }).expect(400)).body).toMatchObject({
      message: expect.stringMatching(/entries.0 should not have 'colour'/) as string,
    });
    expect((await send({ ...good, key: 'x' }).expect(400)).body).toMatchObject({
      message: expect.stringMatching(/key/) as string,
    });
    await send({ ...good, entries: [{ type: 'scrap' }] }).expect(400);
    await send({ ...good, entries: [{ type: 'explode' }] }).expect(400);
    await send({ ...good, entries: [{ ...read, reason: 'a\u0007b' }] }).expect(400);
    await send({ ...good, happenedAt: 'yesterday' }).expect(400);
    await send(good).expect(200);
  });

  it('answer malformed JSON and an enormous body without falling over', async () => {
    const raw = (body: string) =>
      works.http.post('/api/log').set('content-type', 'application/json').send(body);
    expect((await raw('{"key": ').expect(400)).body).toMatchObject({
      message: expect.stringMatching(/cannot be read/) as string,
    });
    await raw(JSON.stringify({ key: 'x'.repeat(2_000_000) })).expect(413);
    await works.http.get('/api/ready').expect(200);
  });

  it('refuse a batch of nothing, of thousands, due in the past, or without a route', async () => {
    const open = (extra: object) =>
      works.http.post('/api/batches').send({
        key: works.key(),
        by: 'ostrander',
        kind: 'B',
        model: 'Bowline',
        quantity: 12,
        dueAt: '2027-01-01T00:00:00Z',
        ...extra,
      });
    await open({ quantity: 0 }).expect(400);
    await open({ quantity: 5000 }).expect(400);
    await open({ dueAt: '2020-01-01T00:00:00Z' }).expect(409);
    expect((await open({ dueAt: '2027-01-02T14:00:00Z' }).expect(409)).body).toMatchObject({
      refused: 'the works are closed on Sat 2 Jan: Fri 1 Jan or Mon 4 Jan?',
    });
    expect((await open({ kind: 'X' }).expect(409)).body).toMatchObject({
      refused: 'Bowline has no route for kind X',
    });
  });

  it('leave everything in order', async () => {
    expect((await works.app.get(ReplayCheckService).disagreements()).wrong).toEqual([]);
  });
});

describe('states that do not agree with the log (12.13)', () => {
  it('are made anew from it, and from nothing else', async () => {
    const log = works.app.get(ReplayCheckService);
    const source = works.app.get(DataSource);
    await works.said(`${batch} read 7.1 7.2 7.1`);
    await works.said(`${batch} end because dry by the other meter`);
    const [before] = await source.query<{ state: object }[]>('SELECT state FROM batch WHERE code = $1', [
      batch,
    ]);
    // As a version left it that kept less in a state: no readings, and all pieces where they began.
    await source.query(`UPDATE batch SET state = state - 'readings' || '{"quantity": 3}' WHERE code = $1`, [
      batch,
    ]);
    expect((await log.disagreements()).wrong).toEqual([batch]);
    expect(await log.remake()).toEqual({ remade: [batch], hopeless: [] });
    expect(await source.query('SELECT state FROM batch WHERE code = $1', [batch])).toEqual([before]);
    expect((await log.disagreements()).wrong).toEqual([]);
    expect(await log.remake()).toEqual({ remade: [], hopeless: [] });
  });
});

describe('a sheet of readings', () => {
  const sheet = (text: string, goodRowsOnly = false) =>
    works.http
      .post(`/api/batches/${batch}/readings`)
      .send({ key: works.key(), by: 'venn', sheet: text, goodRowsOnly });

  it('files a whole sheet and gives it back as CSV', async () => {
    await sheet('piece,reading\n1,7.1\n2,"7,4"\n3,6.9').expect(200);
    const { text } = await works.http.get(`/api/batches/${batch}/readings.csv`);
    expect(
      text
        .trim()
        .split('\r\n')
        .slice(1)
        .map((row) => row.split(',').slice(1, 3).join(' ')),
    ).toEqual([`${batch}/01 7.1`, `${batch}/02 7.4`, `${batch}/03 6.9`]);
  });

  it('files nothing when a row is bad, and names row and column', async () => {
    const { body } = await sheet('piece,reading\n1,7.1\n2,wet').expect(400);
    expect(body).toMatchObject({
      message: "nothing was filed; row 3, column reading: 'wet' is not a number",
      problems: [{ row: 3, column: 'reading' }],
      goodRows: 1,
    });
    expect(await entriesOf(batch)).toHaveLength(1);
  });

  it('files exactly the good rows when that is chosen', async () => {
    const { body } = await sheet('piece,reading\n1,7.1\n2,wet', true).expect(200);
    expect(body).toMatchObject({
      problems: [{ row: 3 }],
      sentence: expect.stringMatching(/1 reading,/) as string,
    });
    expect(await entriesOf(batch)).toHaveLength(2);
  });
});

describe('climate', () => {
  const send = (reading: object) =>
    works.http.post('/api/climate').send({
      readings: [
        {
          room: 'Booth 1',
          at: new Date(works.time.nowMs).toISOString(),
          temperatureC: 21,
          relativeHumidityPct: 45,
          ...reading,
        },
      ],
    });

  it('is kept once, and refused where it cannot be', async () => {
    expect((await send({}).expect(200)).body).toEqual({ kept: 1 });
    expect((await send({}).expect(200)).body).toEqual({ kept: 0 });
    await send({ relativeHumidityPct: 140 }).expect(400);
    expect((await send({ room: 'Attic' }).expect(400)).body).toMatchObject({
      message: "reading 1: there is no room 'Attic'",
    });
    await send({ at: new Date(works.time.nowMs + 3_600_000).toISOString() }).expect(400);
  });
});
