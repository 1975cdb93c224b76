import { ReplayCheckService } from '../log/replay-check.service.ts';
import { MONDAY } from '../testing/databases.ts';
import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  process.env.MACHINES = 'off';
  works = await Works.open();
});
afterAll(() => works.close());

interface Answer<T> {
  status: number;
  body: T & { refused?: string; code?: string; message?: string | string[]; sentence?: string };
}
interface Mill {
  tables: {
    code: string;
    program: string | null;
    load: {
      code: string;
      program: string;
      firstPiece: boolean;
      against: string | null;
      parts: { batch: string; pieces: number[] }[];
    } | null;
  }[];
  waiting: { batch: string; program: string | null; pieces: number[] }[];
  cutters: { tool: string; usedMinutes: number }[];
  plan: { loads: { table: string; parts: { batch: string; pieces: number }[]; setUp: boolean }[] };
}

/** A dry rack of bodies that waits for the mill. */
async function waitingRack(quantity = 8, model = 'Halyard', kind = 'B'): Promise<string> {
  const code = await works.openRack(kind, quantity, model);
  works.later(1);
  await works.said(`${code} end because dry by the other meter`);
  return code;
}
const mill = async (station = 'body-mill'): Promise<Mill> =>
  ((await works.http.get(`/api/mill/${station}`)) as Answer<Mill>).body;
const start = (table: string, parts: object[], key = works.key(), because?: string) =>
  works.http.post('/api/loads').send({ key, by: 'dorrit', table, parts, because }) as unknown as Promise<
    Answer<object>
  >;
const end = (load: string, rest: object = {}, key = works.key()) =>
  works.http
    .post(`/api/loads/${load}/end`)
    .send({ key, by: 'dorrit', scrap: [], ...rest }) as unknown as Promise<Answer<object>>;
/** Ends a load that is measured as it must be. */
const endMeasured = async (load: string, rest: object = {}) => {
  await works.measureLoads();
  return end(load, rest);
};
const onTable = async (table: string) => (await mill()).tables.find(({ code }) => code === table)?.load;
const firstPiece = async (batch: string, piece = 1): Promise<void> => {
  const { status, body } = (await works.file(
    batch,
    { type: 'check', check: 'pocket-width', values: [57.25], pieces: [piece] },
    { type: 'check', check: 'pocket-depth', values: [16.02], pieces: [piece] },
  )) as Answer<object>;
  expect([status, body.refused]).toEqual([200, undefined]);
};

describe('a load', () => {
  it('begins with its first piece, which gates the rest before it is cut; batches keep their identities', async () => {
    const [one, other] = [await waitingRack(6), await waitingRack(6)];
    const started = await start('table-b1', [{ batch: one }, { batch: other, count: 2 }]);
    expect([started.status, started.body.refused]).toEqual([200, undefined]);
    const first = await onTable('table-b1');
    expect(first).toMatchObject({ program: 'halyard-b/mill r1', firstPiece: true });
    expect(first?.parts.map(({ batch, pieces }) => [batch, pieces])).toEqual([[one, [1]]]);
    await firstPiece(one, 1);
    expect((await end(first?.code ?? '')).status).toBe(200);
    await start('table-b1', [{ batch: one }, { batch: other, count: 2 }]);
    const load = await onTable('table-b1');
    expect(load?.firstPiece).toBe(false);
    expect(load?.parts.map(({ batch, pieces }) => [batch, pieces.length])).toEqual([
      [one, 5],
      [other, 2],
    ]);
    expect((await end(load?.code ?? '')).body).toMatchObject({
      code: 'checks-missing',
      refused: `${load?.code ?? ''} is not measured yet: pocket width of 0 of 3, pocket depth of 0 of 1, body thickness of 0 of 3`,
    });
    expect((await endMeasured(load?.code ?? '')).status).toBe(200);
    expect(await onTable('table-b1')).toBeNull();
    const { waiting } = await mill();
    expect(waiting.map(({ batch, pieces }) => [batch, pieces.length])).toContainEqual([other, 4]);
  });

  it('is not done before its first piece passed, a failed one asks for another; so does a changed program', async () => {
    const batch = await waitingRack(9);
    await start('table-b2', [{ batch, count: 8 }]);
    const load = (await onTable('table-b2'))?.code ?? '';
    const early = await end(load);
    expect(early).toMatchObject({ status: 409, body: { code: 'first-piece' } });
    expect(early.body.refused).toBe(`the first piece of ${load} is not measured: pocket width`);
    // A failed first piece stands in the way just as well, by whichever door it is ended.
    await works.file(batch, { type: 'check', check: 'pocket-width', values: [57.4], pieces: [1] });
    expect((await end(load)).body.refused).toMatch(
      /does not pass. Pocket width: 57.4 mm, outside 57.17–57.33 mm/,
    );
    expect(((await works.line(`${batch} done`)) as Answer<object>).body.code).toBe('first-piece');
    expect((await end(load, { scrap: [{ batch, pieces: [1], reason: 'too wide' }] })).status).toBe(200);
    await start('table-b2', [{ batch }]);
    expect(await onTable('table-b2')).toMatchObject({ firstPiece: true, parts: [{ pieces: [2] }] });
    await firstPiece(batch, 2);
    expect((await end((await onTable('table-b2'))?.code ?? '')).status).toBe(200);

    await start('table-b2', [{ batch }]);
    const second = await onTable('table-b2');
    expect(second).toMatchObject({ firstPiece: false, parts: [{ pieces: [3, 4, 5, 6, 7, 8, 9] }] });
    expect((await endMeasured(second?.code ?? '')).status).toBe(200);

    const revised = (await works.http.post('/api/programs').send({
      ...{ key: works.key(), by: 'dorrit', model: 'Halyard', kind: 'B', operation: 'mill' },
      ...{ setUpMinutes: 30, loadMinutes: 10, cycleMinutes: 140, note: 'faster horns', from: 1 },
      tools: [{ tool: 'upcut 6', minutes: 40 }],
    })) as Answer<{ revision: number }>;
    expect(revised.body.revision).toBe(2);
    // Sent again, or by somebody who saw the first: one revision, not two.
    const twice = (await works.http.post('/api/programs').send({
      ...{ key: works.key(), by: 'dorrit', model: 'Halyard', kind: 'B', operation: 'mill', tools: [] },
      ...{ setUpMinutes: 30, loadMinutes: 10, cycleMinutes: 140, note: 'faster horns', from: 1 },
    })) as Answer<object>;
    expect(twice.body.refused).toBe('revision 2 was made meanwhile: look at it first');
    const third = await waitingRack(8);
    await start('table-b2', [{ batch: third }]);
    expect(await onTable('table-b2')).toMatchObject({ program: 'halyard-b/mill r2', firstPiece: true });
    await works.said(`${third} undo`);
  });

  it('may be cut before its first piece is measured for a reason, which stays with the batch', async () => {
    const batch = await waitingRack(8);
    expect((await start('table-b2', [{ batch }], works.key(), 'gauge away')).status).toBe(200);
    const load = await onTable('table-b2');
    expect(load).toMatchObject({ firstPiece: false, parts: [{ pieces: [1, 2, 3, 4, 5, 6, 7, 8] }] });
    const lost = { batch, pieces: [8], reason: 'tear-out' };
    expect((await endMeasured(load?.code ?? '', { scrap: [lost] })).status).toBe(200);
    const { body } = (await works.http.get(`/api/batches/${batch}`)) as Answer<{
      state: {
        overrides: { reason: string; pieces: number; against: string }[];
        pieces: { standing: string; bed?: string }[];
      };
    }>;
    expect(body.state.overrides.at(-1)).toMatchObject({
      ...{ reason: 'gauge away', pieces: 8 },
      against: 'halyard-b/mill r2 is new on Body table 2: its first piece is not measured',
    });
    expect(body.state.pieces.at(-1)?.standing).toBe('scrapped');
    expect(body.state.pieces.every((piece) => piece.bed === undefined)).toBe(true);
  });

  it('started by two people at once is one load', async () => {
    const batch = await waitingRack(8);
    const touch = () => start('table-b1', [{ batch }], works.key(), 'proved');
    const [one, other] = await Promise.all([touch(), touch()]);
    expect([one.status, other.status].sort()).toEqual([200, 409]);
    const load = await onTable('table-b1');
    expect(load?.parts).toEqual([{ batch, model: 'Halyard', pieces: [1, 2, 3, 4, 5, 6, 7, 8] }]);
    // Another batch on the same table, by somebody who had not seen it, is told what is there.
    const third = await start('table-b1', [{ batch: await waitingRack(2) }]);
    expect(third.body.refused).toMatch(/has 0 of 8 places free|is cutting/);
    await endMeasured(load?.code ?? '');
  });

  it('sent twice under one key is one load, and taken back as a whole', async () => {
    const [one, other] = [await waitingRack(4), await waitingRack(4)];
    const key = works.key();
    const parts = [{ batch: one }, { batch: other }];
    const first = await start('table-b2', parts, key);
    expect((await onTable('table-b2'))?.parts.map(({ batch, pieces }) => [batch, pieces.length])).toEqual([
      [one, 4],
      [other, 4],
    ]);
    const again = (await start('table-b2', parts, key)) as Answer<{ repeated: boolean }>;
    expect([first.status, again.body.repeated]).toEqual([200, true]);
    await works.said(`${one} undo`);
    expect(await onTable('table-b2')).toBeNull();
    const waiting = (await mill()).waiting.map(({ batch }) => batch);
    expect(waiting).toEqual(expect.arrayContaining([one, other]));
  });

  it('is refused over its places, of two programs, of what does not wait, on what is no table', async () => {
    const [halyard, ratline] = [await waitingRack(9), await waitingRack(4, 'Ratline')];
    const refused = async (table: string, parts: object[]): Promise<string | undefined> =>
      (await start(table, parts)).body.refused;
    expect(await refused('table-b1', [{ batch: halyard }])).toBe(
      'Body table 1 has 8 places, and the load 9 pieces',
    );
    expect(await refused('table-b1', [{ batch: halyard, count: 4 }, { batch: ratline }])).toMatch(
      /one load is one program: halyard-b\/mill r2 and ratline-b\/mill r1/,
    );
    expect(await refused('table-n1', [{ batch: halyard }])).toMatch(/nothing of .* waits for Neck table 1/);
    expect(await refused('table-b1', [{ batch: halyard, count: 12 }])).toMatch(/only 9 of .* wait/);
    expect(await refused('press-1', [{ batch: halyard }])).toBe("there is no table 'press-1'");
    expect(await refused('table-b1', [{ batch: 'B-9' }])).toBe('there is no open batch B-9');
    expect((await end('L-999')).status).toBe(404);
  });

  it('is planned from what waits, and the plan says what FCFS would do', async () => {
    const seen = (await works.http.get('/api/mill/body-mill')) as Answer<
      Mill & { firstCome: { latePieceHours: number }; plan: { latePieceHours: number } }
    >;
    const planned = seen.body.plan.loads.flatMap(({ parts }) => parts);
    for (const { batch, pieces } of seen.body.waiting)
      expect(planned.filter((part) => part.batch === batch).reduce((sum, part) => sum + part.pieces, 0)).toBe(
        pieces.length,
      );
    expect(seen.body.plan.latePieceHours).toBeLessThanOrEqual(seen.body.firstCome.latePieceHours + 0.02);
    expect((await works.http.get('/api/mill/packing')).status).toBe(404);
  });
});

describe('a start on the line ignores the machine (11.3)', () => {
  const line = (text: string) => works.line(text) as unknown as Promise<Answer<object>>;

  it('no more: it makes a load on a free table, with program and places, and its rest waits', async () => {
    const rack = await waitingRack(25, 'Bowline');
    const first = await works.said(`${rack} body mill start`);
    expect(first).toMatch(
      /1 started as L-\d+ on table-b1: the first piece, measure it before the rest is cut/,
    );
    expect((await line(`${rack} body mill 6 start`)).body).toMatchObject({
      code: 'first-piece',
      refused:
        'bowline-b/mill r1 is new on Body table 2: its first piece is not measured: start 1, measure it, then the rest',
    });
    const load = await onTable('table-b1');
    expect(load).toMatchObject({ program: 'bowline-b/mill r1', firstPiece: true });
    for (const [key, value] of [
      ['pocket-width', 56],
      ['pocket-depth', 16],
    ] as const)
      await works.file(rack, { type: 'check', check: key, values: [value], pieces: [1] });
    await works.said(`${rack} done`);
    // Eight places, not sixteen nor twenty-five; the table that is set up goes before the one that is not.
    expect(await works.said(`${rack} body mill start`)).toMatch(
      /8 started as L-\d+ on table-b1, 8 in hand and 16 waiting/,
    );
    const against = await works.file(rack, { type: 'start', because: 'nobody is at the gauge' });
    expect((against as Answer<object>).status).toBe(200);
    expect((await onTable('table-b2'))?.parts).toMatchObject([{ batch: rack, pieces: { length: 8 } }]);
  });

  it('and full tables answer with when the next is free', async () => {
    const rack = await waitingRack(4, 'Bowline');
    // 08:00 and some hours of the tests before; a load of 160 minutes on each table.
    expect((await line(`${rack} body mill start`)).body).toMatchObject({
      code: 'over-places',
      refused: expect.stringMatching(
        /^Body table 1 and Body table 2 are cutting: Body table 1 is free .*\d\d:\d\d, when L-\d+ is off$/,
      ) as string,
    });
    for (const table of ['table-b1', 'table-b2']) await endMeasured((await onTable(table))?.code ?? '');
  });
});

describe('cutters', () => {
  it('wear by the loads started, and begin again when changed; the change stays on record', async () => {
    const before = (await mill()).cutters.find(({ tool }) => tool === 'ball 10')?.usedMinutes ?? 0;
    // Loads of revision 1 use 38 minutes of it, a first piece an eighth of that, revision 2 none.
    expect(before % (38 / 8)).toBe(0);
    expect(before).toBeGreaterThan(0);
    works.later(1);
    const key = works.key();
    const change = () =>
      works.http
        .post('/api/mill/body-mill/cutter-changes')
        .send({ key, by: 'dorrit', tool: 'ball 10', reason: 'burnt edge' }) as unknown as Promise<
        Answer<Mill['cutters']>
      >;
    const { body } = await change();
    expect(body.find(({ tool }) => tool === 'ball 10')?.usedMinutes).toBe(0);
    await change();
    const log = (await works.http.get('/api/mill/body-mill/cutter-changes')) as Answer<
      { usedMinutes: number }[]
    >;
    expect(log.body).toHaveLength(1);
    expect(log.body[0]).toMatchObject({
      tool: 'ball 10',
      usedMinutes: before,
      reason: 'burnt edge',
      person: 'dorrit',
    });
  });

  it('that are not there cannot be changed, nor used by a program', async () => {
    const change = { key: works.key(), by: 'dorrit', tool: 'laser', reason: 'x' };
    expect((await works.http.post('/api/mill/body-mill/cutter-changes').send(change)).status).toBe(404);
    const program = {
      ...{ key: works.key(), by: 'dorrit', model: 'Halyard', kind: 'B', operation: 'mill' },
      ...{
        setUpMinutes: 30,
        loadMinutes: 10,
        cycleMinutes: 140,
        note: '',
        from: 2,
        tools: [{ tool: 'laser', minutes: 4 }],
      },
    };
    const { body } = (await works.http.post('/api/programs').send(program)) as Answer<object>;
    expect(body.refused).toBe("there is no cutter 'laser' at body-mill");
    const stranger = { ...program, operation: 'rest', tools: [], key: works.key() };
    expect(((await works.http.post('/api/programs').send(stranger)) as Answer<object>).body.refused).toMatch(
      /has no load 'rest'/,
    );
  });
});

describe('checks', () => {
  interface Chart {
    points: { batch: string; values: number[]; load: string | null; source: string }[];
    rules: string[];
  }
  const chart = async (): Promise<Chart> =>
    ((await works.http.get('/api/checks/Halyard/B/pocket-width')) as Answer<Chart>).body;

  it('become a chart with their loads; what is taken back leaves it', async () => {
    const count = (await chart()).points.length;
    const batch = await waitingRack(4);
    await works.said(`${batch}/1,2 check pocket-width 57,24 57.26`);
    const after = (await chart()).points;
    expect(after).toHaveLength(count + 1);
    expect(after.at(-1)).toMatchObject({ batch, values: [57.24, 57.26], source: 'typed', load: null });
    await works.said(`${batch} undo`);
    expect((await chart()).points).toHaveLength(count);
  });

  it('refuse letters, inches typed as mm, and checks that are not on the route', async () => {
    const batch = await waitingRack(4);
    const check = async (values: unknown, key = 'pocket-width') =>
      (await works.file(batch, { type: 'check', check: key, values, pieces: [1] })) as Answer<object>;
    expect((await check(['wide'])).status).toBe(400);
    expect((await check([2.254])).body).toMatchObject({
      code: 'implausible',
      refused: '2.254 was read in inches: pocket width is about 57.25 mm, and 2.254 in are 57.2516 mm',
    });
    expect((await check([57.25], 'height')).body.refused).toMatch(
      /has no check 'height': it has pocket-width/,
    );
    expect(((await works.line(`${batch} check pocket-width wide`)) as Answer<object>).status).toBe(422);
    expect((await works.http.get('/api/checks/Halyard/B/height')).status).toBe(404);
  });

  it('call out a dimension that drifts to its limit, in pieces', async () => {
    const batch = await works.openRack('B', 60, 'Keel');
    for (let look = 0; look < 14; look += 1) {
      works.later(0.1);
      const values = [0, 1, 2].map((i) =>
        Number((57.3 - 0.006 * look + 0.002 * (i - 1) + 0.001 * (look % 2)).toFixed(3)),
      );
      await works.file(batch, {
        type: 'check',
        check: 'pocket-width',
        values,
        pieces: [3 * look + 1, 3 * look + 2, 3 * look + 3],
      });
    }
    const { body } = (await works.http.get('/api/checks')) as Answer<
      {
        model: string;
        kind: string;
        check: { key: string };
        view: { piecesAPoint: number; drift: { toward: string; pointsToLimit: number } | null };
      }[]
    >;
    const view = body.find(
      (one) => one.model === 'Keel' && one.kind === 'B' && one.check.key === 'pocket-width',
    )?.view;
    const drift = view?.drift;
    // Nothing of it was cut in a load here: a look stands for the pieces it measures.
    expect(view?.piecesAPoint).toBe(3);
    expect(drift?.toward).toBe('lower');
    // At 57.222 by its trend, 0.006 a look, 57.17 is nine looks away.
    expect(Math.round(drift?.pointsToLimit ?? 0)).toBe(9);
    const board = (await works.http.get('/api/board')) as Answer<{
      calls: { kind: string; title: string }[];
    }>;
    expect(board.body.calls.filter(({ kind }) => kind === 'dimension').map(({ title }) => title)).toEqual([
      'Keel B: pocket width will reach its limit in about 26 pieces (26 to 27)',
    ]);
  });

  it('are judged by the run rules that are switched on, and go out as CSV', async () => {
    const put = (rules: string[]) =>
      works.http.put('/api/checks/rules').send({ key: works.key(), by: 'ostrander', rules });
    expect((await put(['beyond', 'six-steady'])).status).toBe(200);
    expect((await chart()).rules).toEqual(['beyond', 'six-steady']);
    expect((await put(['always'])).status).toBe(400);
    const { text } = (await works.http.get('/api/checks/Keel/B/pocket-width/values.csv')) as {
      text: string;
    };
    expect(text).toMatch(/^measured_at,batch,piece,load,value,unit,source\r\n/);
    expect(text.trim().split('\r\n').length).toBeGreaterThan(40);
  });

  it('without a gauge say so', async () => {
    const { status, body } = (await works.http
      .post('/api/checks/Halyard/B/pocket-width/gauge')
      .send({})) as unknown as Answer<object>;
    expect([status, body.refused]).toEqual([409, 'no gauge is connected: type the value']);
  });
});

it('replays to the tables as they stand after all of this', async () => {
  const { wrong, batches } = await works.app.get(ReplayCheckService).disagreements();
  expect([wrong, batches > 10, works.time.nowMs > MONDAY]).toEqual([[], true, true]);
});
