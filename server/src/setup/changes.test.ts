import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';

interface Seen {
  atMs: number;
  by: string;
  setting: string;
  name: string;
  before: object | null;
  after: object | null;
}

let works: Works;
beforeAll(async () => {
  process.env.MACHINE_HOSTS = '127.0.0.1';
  works = await Works.open();
});
afterAll(() => works.close());

const changes = async (): Promise<Seen[]> => {
  const { body } = (await works.http.get('/api/setup/changes').expect(200)) as { body: Seen[] };
  return body;
};
const put = (path: string, body: object, signed: object = {}) =>
  works.http.put(path).send({ key: works.key(), by: 'ostrander', ...signed, ...body });

const PINE = {
  name: 'stone pine',
  basicSpecificGravity: 0.43,
  radialShrinkagePct: 3.4,
  tangentialShrinkagePct: 6.7,
  papersNeeded: false,
};

it('of every setting is kept who changed it, with what stood before and after', async () => {
  expect(await changes()).toEqual([]);
  works.later(1);
  await put('/api/wood/gate', { gate: { school: 'fixed', lowPct: 6.5, highPct: 8 } }).expect(200);
  await put('/api/climate/rooms/Wood%20room', { lowPct: 6.2, highPct: 7.4 }).expect(200);
  await put('/api/checks/rules', { rules: ['beyond'] }).expect(200);
  await put('/api/setup/species', { species: PINE }).expect(200);
  await put('/api/setup/species', { species: { ...PINE, papersNeeded: true } }).expect(200);
  const machine = { code: 'mill-z', station: 'body-mill', name: 'Old mill', url: 'http://127.0.0.1:9' };
  await put('/api/machines', machine).expect(200);
  await put('/api/machines', { ...machine, name: 'New mill' }, { by: 'venn' }).expect(200);

  const kept = await changes();
  expect(kept.map(({ setting, name, by }) => [setting, name, by])).toEqual([
    ['machine', 'mill-z', 'venn'],
    ['machine', 'mill-z', 'ostrander'],
    ['species', 'stone pine', 'ostrander'],
    ['species', 'stone pine', 'ostrander'],
    ['run rules', '', 'ostrander'],
    ['room', 'Wood room', 'ostrander'],
    ['wood gate', '', 'ostrander'],
  ]);
  expect(kept[0]).toMatchObject({ before: { name: 'Old mill' }, after: { name: 'New mill' } });
  expect(kept[1]?.before).toBeNull();
  expect(kept[2]).toMatchObject({ before: PINE, after: { ...PINE, papersNeeded: true } });
  expect(kept[6]).toMatchObject({
    atMs: works.time.nowMs,
    before: { school: 'fixed', lowPct: 6, highPct: 8.5 },
    after: { school: 'fixed', lowPct: 6.5, highPct: 8 },
  });
});

it('the same request twice is one change, and what stays as it was is none', async () => {
  const before = await changes();
  const again = { key: works.key() };
  const band = { lowPct: 6.1, highPct: 7.3 };
  await put('/api/climate/rooms/Wood%20room', band, again).expect(200);
  await put('/api/climate/rooms/Wood%20room', { lowPct: 5.5, highPct: 7.5 }).expect(200);
  // Its answer was lost, so it comes again: it must not undo what was set meanwhile.
  await put('/api/climate/rooms/Wood%20room', band, again).expect(200);
  await put('/api/climate/rooms/Wood%20room', { lowPct: 5.5, highPct: 7.5 }).expect(200);
  const kept = await changes();
  expect(kept).toHaveLength(before.length + 2);
  expect(kept[0]?.after).toEqual({ lowPct: 5.5, highPct: 7.5 });
});

it('nothing is changed for nobody, without a key, or by what is refused', async () => {
  const before = await changes();
  const gate = { school: 'fixed', lowPct: 5, highPct: 9 };
  await put('/api/wood/gate', { gate }, { by: 'nobody' }).expect(409);
  await put('/api/wood/gate', { gate }, { key: undefined }).expect(400);
  await put('/api/climate/rooms/attic', { lowPct: 5, highPct: 7 }).expect(404);
  await put('/api/setup/species', { species: { ...PINE, basicSpecificGravity: 9 } }).expect(400);
  expect(await changes()).toEqual(before);
  const { body } = (await works.http.get('/api/wood/gate').expect(200)) as { body: { gate: object } };
  expect(body.gate).toMatchObject({ lowPct: 6.5 });
});

it('of two who change the same thing at once both are kept, each with what stood before it', async () => {
  const bands = [6, 6.5, 7, 7.5].map((lowPct) => ({ lowPct, highPct: 9 }));
  await Promise.all(
    bands.map((band) => put('/api/climate/rooms/Wood%20room', band).then(({ status }) => status)),
  );
  const [last, ...earlier] = (await changes()).slice(0, bands.length);
  for (const [i, { after }] of earlier.entries()) expect([last, ...earlier][i]?.before).toEqual(after);
});

it('of two who fill in the same thing one after the other the second is told what the first did, and nothing is lost', async () => {
  const numbers = async (): Promise<number> => {
    const [last] = (await works.http.get('/api/setup/changes')).body as { id: string }[];
    return Number(last?.id ?? 0);
  };
  const band = (lowPct: number) => ({ lowPct, highPct: 9.5 });
  const seenByBoth = await numbers();
  works.later(0.5);
  // What was changed elsewhere is nobody's trouble here.
  await put('/api/wood/gate', {
    gate: { school: 'fixed', lowPct: 6.2, highPct: 8.1 },
    lastChange: seenByBoth,
  }).expect(200);
  const first = await put(
    '/api/climate/rooms/Wood%20room',
    { ...band(5), lastChange: seenByBoth },
    { by: 'venn' },
  );
  expect(first.status).toBe(200);
  const before = await changes();
  const second = await put('/api/climate/rooms/Wood%20room', { ...band(6), lastChange: seenByBoth }).expect(
    409,
  );
  expect(second.body).toMatchObject({
    code: 'taken',
    refused: expect.stringMatching(
      /^\S+ Venn changed it meanwhile, \w{3} \d\d:\d\d: look at what it is now, and file again if yours is to stand$/,
    ) as string,
  });
  expect(await changes()).toEqual(before);
  await put('/api/climate/rooms/Wood%20room', { ...band(6), lastChange: await numbers() }).expect(200);
  const known = (await numbers()) - 1;
  expect((await changes())[0]).toMatchObject({ before: band(5), after: band(6), by: 'ostrander' });
  // Pressed again before the page has heard of it: their own change stands in nobody's way.
  await put('/api/climate/rooms/Wood%20room', { ...band(6.5), lastChange: known }).expect(200);
  await put('/api/checks/rules', { rules: ['beyond'], lastChange: -1 }).expect(400);
});

it('is never updated or deleted', async () => {
  const source = works.app.get(DataSource);
  await expect(source.query(`UPDATE change SET person = 'x'`)).rejects.toThrow(/never updated/);
  await expect(source.query('DELETE FROM change')).rejects.toThrow(/never updated/);
});
