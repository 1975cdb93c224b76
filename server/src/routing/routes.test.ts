import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { measuredOf, ROUTE_SCHEMA, type BatchState, type Operation } from '@ample-crane/core';
import { Ajv } from 'ajv';
import type { SheetView } from '../assembly/bench.service.ts';
import { ROUTES } from '../demo/tarrow-routes.ts';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  process.env.MACHINES = 'off';
  works = await Works.open();
});
afterAll(() => works.close());

interface Answer<T> {
  status: number;
  body: T & { refused?: string; code?: string; message?: string };
}
interface RouteFile {
  format: string;
  model: string;
  kind: string;
  revision: number;
  operations: Operation[];
}
interface Batch {
  state: {
    routeId: string;
    ways?: Record<string, string>;
    moves?: { reason: string; to: string }[];
    pieces: { operation: string }[];
  };
  route: { operations: Operation[]; revision: number };
}

const fileOf = async (id: string): Promise<RouteFile> =>
  ((await works.http.get(`/api/routes/${id}/route.json`)) as Answer<RouteFile>).body;
const revise = (operations: unknown[], rest: object = {}) =>
  works.http.post('/api/routes').send({
    ...{
      key: works.key(),
      by: 'brandt',
      model: 'Ratline',
      kind: 'B',
      from: 1,
      note: 'shorter rest',
      operations,
    },
    ...rest,
  }) as unknown as Promise<Answer<{ id: string; revision: number }>>;
const batch = async (code: string): Promise<Batch> =>
  ((await works.http.get(`/api/batches/${code}`)) as Answer<Batch>).body;
const move = (code: string, routeId: string, ways: object, reason = 'mill is down') =>
  works.http
    .post(`/api/batches/${code}/route`)
    .send({ key: works.key(), by: 'brandt', routeId, ways, reason }) as unknown as Promise<Answer<object>>;

describe('a route as a file', () => {
  it('has a published schema, which is the one that is used', () => {
    const published = readFileSync(join(__dirname, '../../../docs/formats/route.schema.json'), 'utf8');
    expect(JSON.parse(published)).toEqual(ROUTE_SCHEMA);
  });

  it('of every shipped route fits the schema', () => {
    const fits = new Ajv({ allErrors: true, discriminator: true, allowUnionTypes: true }).compile(
      ROUTE_SCHEMA,
    );
    for (const { model, kind, revision, operations } of ROUTES) {
      const file = JSON.parse(
        JSON.stringify({ format: 'ample-crane-route', version: 1, model, kind, revision, operations }),
      ) as unknown;
      expect([model, kind, fits(file), fits.errors]).toEqual([model, kind, true, null]);
    }
    expect(ROUTES.length).toBeGreaterThan(15);
  });

  it('goes out and comes in again as it was', async () => {
    const { operations, format } = await fileOf('ratline-b-1');
    expect(format).toBe('ample-crane-route');
    const { status, body } = await revise(operations, { kind: 'I', from: 7 });
    expect([status, body.refused]).toEqual([409, 'revision 1 was made meanwhile: compare with it first']);
    expect((await works.http.get('/api/routes/nowhere/route.json')).status).toBe(404);
  });

  it('that is none is told where it goes wrong', async () => {
    const { operations } = await fileOf('ratline-b-1');
    const first = operations[0];
    const wrong = async (change: object): Promise<string | undefined> =>
      (await revise([{ ...first, ...change }, ...operations.slice(1)])).body.message;
    expect(await wrong({ stations: [] })).toMatch(
      /no route file: \/operations\/0\/stations must NOT have fewer/,
    );
    expect(await wrong({ colour: 'red' })).toMatch(
      /no route file: \/operations\/0 must NOT have additional properties 'colour'$/,
    );
    expect(await wrong({ rule: { rule: 'elapsed', word: 'rest', hours: 'long' } })).toMatch(/must be number/);
    expect((await revise([])).status).toBe(400);
  });
});

describe('a new revision', () => {
  it('holds for batches opened from now on; those under way keep theirs', async () => {
    const before = await works.openRack('B', 4, 'Ratline');
    const { operations } = await fileOf('ratline-b-1');
    const shorter = operations.map((operation) =>
      operation.key === 'rest'
        ? { ...operation, rule: { rule: 'elapsed', word: 'rest', hours: 24 } }
        : operation,
    );
    const made = await revise(shorter);
    expect(made.body).toMatchObject({ id: 'ratline-b-2', revision: 2 });
    const after = await works.openRack('B', 4, 'Ratline');
    expect((await batch(before)).route.revision).toBe(1);
    expect((await batch(after)).route.revision).toBe(2);
    const { body } = (await works.http.get('/api/routes')) as unknown as {
      body: { id: string; batches: string[]; newest: boolean }[];
    };
    expect(body.find(({ id }) => id === 'ratline-b-1')).toMatchObject({ batches: [before], newest: false });

    expect((await move(before, 'ratline-b-2', {}, 'the room holds its air')).status).toBe(200);
    const moved = await batch(before);
    expect(moved.route.revision).toBe(2);
    expect(moved.state.moves).toMatchObject([{ to: 'ratline-b-2', reason: 'the room holds its air' }]);
    await works.said(`${before} undo`);
    expect((await batch(before)).route.revision).toBe(1);
  });

  it('that cannot be worked is refused with the reason: a circle, a dead end, a station that is not there', async () => {
    const { operations } = await fileOf('ratline-b-2');
    const withNext = (key: string, change: object) =>
      operations.map((one) => (one.key === key ? { ...one, ...change } : one));
    const refused = async (changed: object[]): Promise<string | undefined> =>
      (await revise(changed, { from: 2 })).body.refused;
    expect(await refused(withNext('rest', { next: ['mill', 'join'] }))).toMatch(
      /Body mill → Body rest → Body mill never ends: draw the way back as a rework arc/,
    );
    expect(await refused(withNext('rest', { next: [] }))).toMatch(/Body rest is a dead end/);
    expect(await refused(withNext('rest', { stations: ['attic'] }))).toMatch(
      /at station 'attic', which this factory does not have/,
    );
    expect(await refused(withNext('join', { partnerKind: 'T' }))).toMatch(/is not fed: no route of kind T/);
    expect((await revise(operations, { from: 2, note: ' ' })).body.refused).toMatch(/needs a note/);
    expect((await revise(operations, { from: 2, model: 'Nobody' })).body.refused).toBe(
      "there is no model 'Nobody'",
    );
  });

  it('made by two at once is one; the second is told to compare', async () => {
    const { operations } = await fileOf('halyard-b-1');
    const asked = { model: 'Halyard', from: 1 };
    const [one, other] = await Promise.all([revise(operations, asked), revise(operations, asked)]);
    expect([one.status, other.status].sort()).toEqual([200, 409]);
  });
});

describe('the ways of a batch', () => {
  it('are chosen when it is opened, and worked', async () => {
    const { dueAt } = works;
    const open = (ways: object) =>
      works.http.post('/api/batches').send({
        ...{ key: works.key(), by: 'ostrander', kind: 'B', model: 'Bowline', quantity: 2, dueAt, ways },
      }) as unknown as Promise<Answer<{ entries: { batch: string }[] }>>;
    const { body } = await open({ dry: 'copy' });
    const code = body.entries[0]?.batch ?? '';
    expect((await batch(code)).route.operations.map(({ key }) => key)).toEqual([
      'dry',
      'copy',
      'rest',
      'join',
    ]);
    works.later(1);
    await works.said(`${code} end because dry`);
    await works.said(`${code} start`);
    expect((await batch(code)).state.pieces[0]?.operation).toBe('copy');
    expect((await open({ dry: 'laser' })).body.refused).toBe(
      "the route of Bowline B leaves no choice 'dry → laser'",
    );
  });

  it('are changed with a reason while nothing stands where the new way does not lead', async () => {
    const code = await works.openRack('B', 2);
    expect((await move(code, 'bowline-b-1', { dry: 'copy' }, '')).status).toBe(400);
    expect((await move(code, 'bowline-b-1', { dry: 'copy' })).status).toBe(200);
    expect((await batch(code)).state.ways).toEqual({ dry: 'copy' });
    works.later(1);
    await works.said(`${code} end because dry`);
    expect((await move(code, 'bowline-b-1', {})).body.refused).toMatch(
      /stands at 'copy', which revision 1 by these ways/,
    );
    expect((await move(code, 'halyard-n-1', {})).body.refused).toMatch(/is no route for Bowline B/);
    expect((await move(code, 'nowhere', {})).body.refused).toBe('there is no route nowhere');
  });
});

describe('a hollow body', () => {
  it('is made of a wedge parted into top and back, which the sides take in; its parents stay with it', async () => {
    const panels = await works.openRack('P', 2, 'Gaff');
    const sides = await works.openRack('S', 2, 'Gaff');
    for (const code of [panels, sides]) {
      works.later(0.1);
      await works.said(`${code} end because dry`);
    }
    await works.said(`${panels} split`);
    const [tops, backs] = ['T', 'K'].map((kind) => panels.replace('P', kind));
    expect((await batch(tops ?? '')).state.pieces).toHaveLength(2);
    const through = async (code: string, words: string[]): Promise<void> => {
      for (const word of words) {
        works.later(1);
        if (word === 'done') await works.measure(code);
        await works.said(`${code} ${word}`);
      }
    };
    const plate = ['start', 'done', 'end', 'start', 'done', 'start', 'done', 'end'];
    await through(tops ?? '', plate);
    await through(backs ?? '', plate);
    await through(sides, ['start', 'done', 'end because sprung right', 'start', 'done', 'end']);
    await works.said(`${sides} join ${backs}`);
    works.later(1);
    await works.said(`${sides} end`);
    await works.said(`${sides} join ${tops}`);
    const { body } = (await works.http.get(`/api/batches/${sides}`)) as Answer<{
      state: { pieces: { operation: string; parents: string[] }[] };
    }>;
    expect(body.state.pieces.map(({ operation, parents }) => [operation, parents])).toEqual([
      ['close-dry', [`${backs}/01`, `${tops}/01`]],
      ['close-dry', [`${backs}/02`, `${tops}/02`]],
    ]);
    await works.said(`${tops} undo`);
    expect((await batch(sides)).state.pieces[0]?.operation).toBe('close');
    await works.said(`${sides} join ${tops}`);
    await through(sides, ['end', 'start', 'done', 'start', 'done', 'end']);
    await works.file(sides, { type: 'sheet', pieces: [1], values: { tone: 181, top: 2.66 } }).expect(200);
    // On the sheet of the box: what its plates were when they were thinned. On that of the instrument: tone and top as well.
    const { parts } = (await works.http.get(`/api/bench/${sides}/1`)).body as SheetView;
    expect(parts).toMatchObject([
      { piece: `${backs}/01`, read: [{ operation: 'thin', name: 'Back thickness', unit: 'mm' }] },
      { piece: `${tops}/01`, read: [{ operation: 'thin', name: 'Top thickness', unit: 'mm' }] },
    ]);
    const state = (await batch(sides)).state as unknown as BatchState;
    expect(
      measuredOf(state, await works.app.get(SetupService).routeOf(state), 1).map(({ name, value, unit }) => [
        name,
        `${value} ${unit}`,
      ]),
    ).toEqual([
      ['Main tone', '181 Hz'],
      ['Top thickness', '2.66 mm'],
    ]);
  });
});

it('what is made gets a number of its own where another batch has it already', async () => {
  const { dueAt } = works;
  const { DataSource } = await import('typeorm');
  const query = (sql: string) => works.app.get(DataSource).query(sql);
  // A top and a back that were opened by hand carry the number the next panel pair will have.
  await query(`UPDATE kind SET next_number = 900 WHERE letter IN ('T', 'P')`);
  const opened = (await works.http.post('/api/batches').send({
    ...{ key: works.key(), by: 'ostrander', kind: 'T', model: 'Gaff', quantity: 3, dueAt },
  })) as unknown as Answer<{ entries: { batch: string }[] }>;
  expect(opened.body.entries[0]?.batch).toBe('T-900');
  const panels = await works.openRack('P', 2, 'Gaff');
  expect(panels).toBe('P-900');
  works.later(0.1);
  await works.said(`${panels} end because dry`);
  expect(await works.said(`${panels} 1 split`)).toMatch(/1 parted, making T-901 and K-900/);
  // The rest of the pair goes where the first went.
  expect(await works.said(`${panels} split`)).toMatch(/1 parted, making T-901 and K-900/);
  expect((await batch('T-900')).state.pieces).toHaveLength(3);
  expect((await batch('T-901')).state.pieces).toHaveLength(2);
});

describe('a station', () => {
  it('that is in use stays; one that is not may go', async () => {
    const remove = async (code: string): Promise<Answer<{ removed: string }>> =>
      await works.http.delete(`/api/stations/${code}`).query({ key: works.key(), by: 'ostrander' });
    const used = await remove('body-mill');
    expect([used.status, used.body.code]).toEqual([409, 'in-use']);
    expect(used.body.refused).toMatch(
      /^Body mill is in use: Body mill of .* and \d+ more; draw these routes without it first$/,
    );
    expect((await remove('attic')).status).toBe(404);
    const { DataSource } = await import('typeorm');
    await works.app
      .get(DataSource)
      .query(`INSERT INTO station VALUES ('attic', 'Attic', 'wood', 99, 1, 'Wood room', '')`);
    const { SetupService } = await import('../setup/setup.service.ts');
    works.app.get(SetupService).forget();
    const gone = await remove('attic');
    expect([gone.status, gone.body.removed]).toEqual([200, 'attic']);
  });
});

it('replays to the tables as they stand after all of this', async () => {
  const { wrong, batches } = await works.app.get(ReplayCheckService).disagreements();
  expect([wrong, batches > 5]).toEqual([[], true]);
});
