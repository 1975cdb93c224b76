import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { OPTIONS_ASKED, type BatchState, type OptionRule, type PlannedRack } from '@ample-crane/core';
import { Ajv } from 'ajv';
import { DataSource } from 'typeorm';
import { OPTION_BOOKS } from '../demo/tarrow-orders.ts';
import { Works } from '../testing/works.ts';
import { OptionBookRow } from './rows.ts';
import type { OrderSummary, OrderView } from './order-views.service.ts';
import type { LineMoves } from './order-moves.service.ts';
import { OrdersService } from './orders.service.ts';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { whereIs } from './order-status.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
  await works.app.get(DataSource).manager.insert(
    OptionBookRow,
    OPTION_BOOKS.map((book) => ({ ...book, person: 'brandt', madeAt: new Date(works.time.nowMs) })),
  );
});
afterAll(() => works.close());

interface Answer {
  status: number;
  body: { refused?: string; at?: string; sentence?: string; message?: string; entries?: { batch: string }[] };
}
const post = async (path: string, body: object, key = works.key()): Promise<Answer> =>
  works.http.post(path).send({ key, by: 'brandt', ...body });
const order = async (code: string): Promise<OrderView> =>
  (await works.http.get(`/api/orders/${code}`)).body as OrderView;
const state = async (batch: string): Promise<BatchState> =>
  ((await works.http.get(`/api/batches/${batch}`)).body as { state: BatchState }).state;
const halyard = (quantity: number, choices = {}, rest = {}): object => ({
  model: 'Halyard',
  quantity,
  choices,
  ...rest,
});

/** Places an order that must be taken, and gives its code. */
async function placed(lines: object[], rest = {}): Promise<string> {
  const answer = await post('/api/orders', { customer: 'Odile Farrow', dueAt: works.dueAt, lines, ...rest });
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  return answer.body.entries?.[0]?.batch ?? '';
}
const change = (code: string, entry: object): Promise<Answer> =>
  post(`/api/orders/${code}/entries`, { entry });
const planned = async (largest = 12): Promise<PlannedRack[]> =>
  (await works.http.get(`/api/orders/racks?largest=${largest}&withinDays=14`)).body as PlannedRack[];
const ofOrder = (racks: PlannedRack[], code: string): PlannedRack[] =>
  racks.filter(({ lines }) => lines.some(({ line }) => line.startsWith(`${code}/`)));

/** Opens what an order wants, and gives its racks by kind. */
async function opened(code: string): Promise<Record<string, string>> {
  const racks = ofOrder(await planned(), code).map((rack) => {
    const lines = rack.lines.filter(({ line }) => line.startsWith(`${code}/`));
    return { ...rack, lines, quantity: lines.reduce((sum, { count }) => sum + count, 0) };
  });
  const { status, body } = await post('/api/orders/racks', { racks });
  if (status !== 200) throw new Error(JSON.stringify(body));
  const { lines } = await order(code);
  return Object.fromEntries(lines.flatMap(({ places }) => places.map(({ kind, batch }) => [kind, batch])));
}

describe('an order', () => {
  it('is placed by what is sold, numbered, and told with what nothing is chosen for', async () => {
    const code = await placed([halyard(2), halyard(1, { frets: 'jumbo' }, { label: 'Odile' })], {
      reference: 'H77',
    });
    const seen = await order(code);
    expect(seen).toMatchObject({ customer: 'Odile Farrow', reference: 'H77' });
    expect(seen.lines[1]?.options.find(({ option }) => option === 'frets')).toEqual({
      ...{ option: 'frets', name: 'Frets', value: 'jumbo', valueName: 'jumbo' },
    });
    expect(seen.lines[0]?.unbegun).toEqual([
      { kind: 'B', count: 2 },
      { kind: 'N', count: 2 },
    ]);
    const list = (await works.http.get('/api/orders')).body as OrderSummary[];
    expect(list.find((one) => one.code === code)).toMatchObject({ pieces: 3, unbegun: 3, shipped: 0 });
  });

  it('is refused with the two options that disagree, and for what nobody sells', async () => {
    const wrong = async (line: object): Promise<string | undefined> =>
      (await post('/api/orders', { dueAt: works.dueAt, lines: [line] })).body.refused;
    expect(await wrong(halyard(1, { hand: 'left', bridge: 'sway' }))).toBe(
      'Hand left-handed does not go with Bridge sway tail: Bridge is sway tail',
    );
    expect(await wrong(halyard(1, { frets: 'gold' }))).toBe(
      "Frets 'gold' is not sold: it is medium, jumbo or narrow",
    );
    expect(await wrong({ model: 'Dinghy', quantity: 1 })).toBe("there is no route for a model 'Dinghy'");
  });

  it('answers bad requests by what is wrong with them', async () => {
    const bad = async (body: object): Promise<Answer> => post('/api/orders', { dueAt: works.dueAt, ...body });
    expect((await bad({ lines: [] })).status).toBe(400);
    expect((await bad({ lines: [halyard(0)] })).status).toBe(400);
    expect((await bad({ lines: [halyard(501)] })).status).toBe(400);
    expect((await bad({ lines: [{ ...halyard(1), pedal: 1 }] })).status).toBe(400);
    expect((await bad({ lines: [halyard(1)], customer: 'a\u0000b' })).status).toBe(400);
    expect((await works.http.get('/api/orders/O-99999')).status).toBe(404);
    expect((await works.http.get('/api/orders/racks?largest=0&withinDays=14')).status).toBe(400);
  });

  it('filed twice under one key is one order', async () => {
    const key = works.key();
    const body = { customer: 'Bram', dueAt: works.dueAt, lines: [halyard(1)] };
    const first = await post('/api/orders', body, key);
    const again = await post('/api/orders', body, key);
    expect(again.body.entries).toEqual(first.body.entries);
  });
});

describe('racks out of orders', () => {
  it('are opened with their partners, each piece with its tag, and the orders want nothing more', async () => {
    const code = await placed([halyard(3), halyard(1, { frets: 'jumbo', colour: 'pewter' })]);
    const racks = await opened(code);
    const [body, neck] = [racks.B ?? '', racks.N ?? ''];
    expect((await order(code)).lines.map(({ unbegun }) => unbegun)).toEqual([[], []]);
    // Pewter and night blue do not share a rack: two of each kind were opened.
    const { lines } = await order(code);
    expect(new Set(lines.flatMap(({ places }) => places.map(({ batch }) => batch))).size).toBe(4);
    const [pewter, necks] = [await state(body), await state(neck)];
    expect(pewter.meets).toBe(neck);
    expect(necks.meets).toBe(body);
    expect(pewter.finish?.title).toMatch(/metallic/i);
    expect(pewter.pieces.map(({ line }) => line)).toEqual([`${code}/2`]);
    expect(ofOrder(await planned(), code)).toEqual([]);
  });

  it('are opened once, all or none: what is not wanted any more is refused', async () => {
    const code = await placed([halyard(2)]);
    const racks = ofOrder(await planned(), code);
    const mine = racks.map((rack) => ({
      ...rack,
      quantity: 2,
      lines: rack.lines.filter(({ line }) => line.startsWith(code)),
    }));
    const key = works.key();
    expect((await post('/api/orders/racks', { racks: mine }, key)).status).toBe(200);
    const again = await post('/api/orders/racks', { racks: mine }, key);
    expect(again.status).toBe(200);
    const before = (await order(code)).lines[0]?.places.length;
    const other = await post('/api/orders/racks', { racks: mine });
    expect(other.body.refused).toBe(`${code}/1 wants 2, and has 2 already`);
    expect((await order(code)).lines[0]?.places.length).toBe(before);
    // Pressed by mistake: one touch takes all of it back, and the order wants its racks again.
    expect((await post('/api/log/take-back', { filing: key })).body.sentence).toContain('Corrected');
    expect((await order(code)).lines[0]).toMatchObject({
      places: [],
      unbegun: [{ kind: 'B' }, { kind: 'N' }],
    });
  });

  it('opened by eight at once are opened once', async () => {
    const code = await placed([halyard(4)]);
    const racks = ofOrder(await planned(), code).map((rack) => ({
      ...{ ...rack, quantity: 4, lines: rack.lines.filter(({ line }) => line.startsWith(code)) },
    }));
    const answers = await Promise.all(Array.from({ length: 8 }, () => post('/api/orders/racks', { racks })));
    expect(answers.map(({ status }) => status).toSorted()).toEqual([
      200,
      ...Array.from({ length: 7 }, () => 409),
    ]);
    expect((await order(code)).lines[0]?.places.map(({ positions }) => positions.length)).toEqual([4, 4]);
  });
});

describe('a change of spec', () => {
  it('reaches the racks while nothing is built in, and the tag there asks for the new', async () => {
    const code = await placed([halyard(2)]);
    const { N: necks = '' } = await opened(code);
    const key = works.key();
    const entry = { type: 'order-change', line: 1, choices: { frets: 'jumbo' }, because: 'they rang' };
    const answer = await post(`/api/orders/${code}/entries`, { entry }, key);
    expect(answer.body.sentence).toContain('line 1 changed because they rang');
    const { allotted } = await state(necks);
    expect(allotted?.[0]?.spec.lines.find(({ option }) => option === 'frets')?.value).toBe('jumbo');
    expect((await order(code)).changes).toMatchObject([
      { what: 'Frets jumbo (was medium)', because: 'they rang' },
    ]);
    // Taken back by its key, as the log bar does: the racks go back with it.
    const taken = await post('/api/log/take-back', { filing: key });
    expect(taken.body.sentence).toContain('Corrected');
    const back = await state(necks);
    expect(back.allotted?.[0]?.spec.lines.find(({ option }) => option === 'frets')?.value).toBe('medium');
  });

  it('of a cancelled line sends its pieces back to stock, and others can have them', async () => {
    const code = await placed([halyard(2)]);
    const { B: bodies = '', N: necks = '' } = await opened(code);
    await change(code, { type: 'order-cancel', line: 1, because: 'cancelled by phone' });
    expect((await state(bodies)).pieces.map(({ line }) => line)).toEqual([undefined, undefined]);
    const other = await placed([halyard(1)]);
    await works.file(necks, { type: 'allot', pieces: [2], line: `${other}/1` }).expect(200);
    expect((await order(other)).lines[0]?.unbegun).toEqual([{ kind: 'B', count: 1 }]);
    const tooMany = await works.file(necks, { type: 'allot', pieces: [1], line: `${other}/1` });
    expect((tooMany.body as { refused: string }).refused).toBe(`${other}/1 wants 1, and has 1 already`);
    const strange = await works.file(necks, { type: 'allot', pieces: [1], line: 'O-99999/1' });
    expect((strange.body as { refused: string }).refused).toBe(
      'there is no line O-99999/1 that is to be built',
    );
    const others = await works.openRack('N', 1, 'Bowline');
    const wrong = await works.file(others, { type: 'allot', pieces: [1], line: `${other}/1` });
    expect((wrong.body as { refused: string }).refused).toBe(
      `${other}/1 is a Halyard, ${others} holds Bowline`,
    );
    // Taken back: what nobody else was given since is its own again.
    const back = await change(code, { type: 'undo' });
    expect(back.status).toBe(200);
    const mine = `${code}/1`;
    expect((await state(bodies)).pieces.map(({ line }) => line)).toEqual([mine, mine]);
    expect((await state(necks)).pieces.map(({ line }) => line)).toEqual([mine, `${other}/1`]);
    expect((await order(code)).lines[0]).toMatchObject({
      cancelled: null,
      unbegun: [{ kind: 'N', count: 1 }],
    });
  });

  it('tells why its earliest day moved: the moves add up, and waiting for a rack is one of them', async () => {
    const code = await placed([halyard(2)]);
    works.later(30 * 24);
    const moved = async (): Promise<LineMoves> => {
      const [line] = (await works.http.get(`/api/orders/${code}/moves`)).body as LineMoves[];
      if (!line) throw new Error('no line of it is to be built');
      return line;
    };
    const fresh = await moved();
    expect(fresh.moves).toMatchObject([
      { cause: 'not begun', batch: null, movedMs: fresh.endMs - fresh.startMs },
    ]);
    expect(fresh.endMs - fresh.startMs).toBeGreaterThan(25 * 24 * 3_600_000);
    const { B: bodies = '', N: necks = '' } = await opened(code);
    works.later(5 * 24);
    const begun = await moved();
    expect(begun.endMs).toBe((await order(code)).lines[0]?.earliestMs);
    // A line that is added today is wanted since today, whenever its order was placed.
    expect((await change(code, { type: 'order-add', line: halyard(1) })).status).toBe(200);
    const lines = (await works.http.get(`/api/orders/${code}/moves`)).body as LineMoves[];
    expect(lines.map(({ fromMs }) => fromMs)).toEqual([fresh.fromMs, works.time.nowMs]);
    expect(lines[1]?.startMs).toBeGreaterThan(fresh.startMs);
    const sum = begun.moves.reduce((ms, { movedMs }) => ms + movedMs, 0);
    expect(sum).toBeCloseTo(begun.endMs - begun.startMs, 0);
    expect([bodies, necks]).toContain(begun.piece?.split('/')[0]);
    expect(begun.moves[0]).toMatchObject({ cause: 'not begun' });
    await works.http.get('/api/orders/O-99999/moves').expect(404);
  });
});

describe('the tag', () => {
  it('is held against what is about to be built in: the wrong one is caught, and nothing is through unconfirmed', async () => {
    const code = await placed([halyard(1), halyard(1, { pickups: 'twin' })]);
    const rack = await works.openRack('I', 2, 'Halyard');
    await works
      .file(
        rack,
        { type: 'allot', pieces: [1], line: `${code}/1`, because: 'from stock' },
        { type: 'allot', pieces: [2], line: `${code}/2`, because: 'from stock' },
      )
      .expect(200);
    await works.kitted(rack);
    await works.said(`${rack} assembly start`);
    await works.said(`${rack} serial`);
    const done = (await works.line(`${rack} assembly done`)).body as { refused: string };
    expect(done.refused).toMatch(/is not confirmed against its tag at Assembly/);
    expect(await works.said(`${rack} confirm pickups single`)).toContain(
      'stop: single is not the pickups on the tag of place 2',
    );
    expect(await works.said(`${rack}/2 confirm pickups twin`)).toContain('pickups twin confirmed on 1 tag');
    for (const [option, value] of [
      ['bridge', 'fixed'],
      ['metal', 'nickel'],
    ])
      await works.said(`${rack} confirm ${option} ${value}`);
    expect(await works.said(`${rack} assembly done`)).toContain('2 done');
    // It is built in now: who wants it otherwise is told what that touches, and must know it.
    const touches = await works.http.get(`/api/orders/${code}/touches?line=1&option=pickups&value=soap`);
    // 15 minutes of setting up and 48 of work, again for one.
    expect(touches.body).toMatchObject([
      {
        batch: rack,
        option: 'Pickups',
        operations: ['Assembly'],
        done: [`${rack}/01`],
        open: [],
        minutesAgain: 63,
      },
    ]);
    const unsold = await works.http.get(`/api/orders/${code}/touches?line=1&option=pickups&value=gold`);
    expect([unsold.status, (unsold.body as { code: string }).code]).toEqual([409, 'bad-value']);
    expect(
      (await works.http.get(`/api/orders/${code}/touches?line=9&option=pickups&value=soap`)).status,
    ).toBe(404);
    const wanted = { type: 'order-change', line: 1, choices: { pickups: 'soap' }, because: 'they rang' };
    expect((await change(code, wanted)).body).toMatchObject({
      refused: `Pickups is behind ${rack}/01 already, 63 min of work again: say that it is to be changed all the same`,
      at: 'knowing',
    });
    expect((await change(code, { ...wanted, knowing: true })).status).toBe(200);
    expect(
      (await state(rack)).allotted?.[0]?.spec.lines.find(({ option }) => option === 'pickups')?.value,
    ).toBe('soap');
  });

  it('is on paper with its spec', async () => {
    const code = await placed([halyard(1, { board: 'ebony' }, { label: 'דנה 🎸' })]);
    const { N: necks = '' } = await opened(code);
    const tags = await works.http.get(`/api/tags/${necks}/tags.pdf`);
    expect(tags.status).toBe(200);
    expect(tags.body).toBeInstanceOf(Buffer);
  });
});

describe('what is sold', () => {
  it('has the published form', () => {
    const published = readFileSync(join(__dirname, '../../../docs/formats/options.schema.json'), 'utf8');
    expect(JSON.parse(published)).toMatchObject(OPTIONS_ASKED);
    const fits = new Ajv().compile(OPTIONS_ASKED);
    for (const { options, rules } of OPTION_BOOKS) expect(fits({ options, rules })).toBe(true);
    expect(fits({ options: [{ key: 'A' }], rules: [] })).toBe(false);
  });

  it('is revised by whoever knows the newest, and held against itself', async () => {
    const books = (await works.http.get('/api/options')).body as {
      model: string;
      revision: number;
      options: object[];
      rules: OptionRule[];
    }[];
    const book = books.find(({ model }) => model === 'Ratline');
    if (!book) throw new Error('Ratline is sold');
    const put = (body: object) =>
      works.http.put('/api/options/Ratline').send({ key: works.key(), by: 'brandt', ...body });
    const { revision, options, rules } = book;
    const never: OptionRule[] = ['plain', 'some', 'figured'].map((value) => ({
      ...{ kind: 'excludes', option: 'colour', value: 'gloss', other: 'figure', values: [value] },
    }));
    const orphan = await put({ revision, options, rules: [...rules, ...never] });
    expect((orphan.body as { refused: string }).refused).toMatch(/^Colour gloss can never be chosen/);
    expect((await put({ revision, options: [{ key: 'A b' }], rules })).status).toBe(400);
    expect((await put({ revision, options, rules: rules.slice(1) })).status).toBe(200);
    const late = await put({ revision, options, rules });
    expect((late.body as { refused: string }).refused).toMatch(/^revision 2 was made meanwhile/);
    expect(
      (
        await works.http
          .put('/api/options/Dinghy')
          .send({ key: works.key(), by: 'brandt', revision: 0, options: [], rules: [] })
      ).status,
    ).toBe(404);
  });
});

describe('where an order is', () => {
  it('is told to the customer in words of their own, every instrument once', () => {
    const place = (part: boolean, standing: string, stage: string | null, pieces: number) =>
      ({ part, standing, stage, positions: Array.from({ length: pieces }, (_, i) => i + 1) }) as never;
    const told = whereIs({
      quantity: 7,
      places: [
        place(false, 'shipped', null, 1),
        place(false, 'onHold', 'assembly', 2),
        place(true, 'waiting', 'machining', 3),
        place(true, 'waiting', 'wood', 3),
        place(true, 'scrapped', 'wood', 1),
      ],
      unbegun: [{ kind: 'B', count: 1 }],
    });
    expect(told).toEqual([
      ['on its way to you', 1],
      ['being strung and set up', 2],
      ['being cut', 3],
      ['waiting to be begun', 1],
    ]);
  });

  it('is on paper, for names of any script', async () => {
    const code = await placed([halyard(1, {}, { label: 'דנה' })], { customer: `דנה ${'x'.repeat(80)} 🎸` });
    const status = await works.http.get(`/api/orders/${code}/status.pdf`);
    expect(status.status).toBe(200);
    expect((status.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
  });
});

it('what was filed replays to what stands', async () => {
  expect(await works.app.get(OrdersService).disagreements()).toMatchObject({ wrong: [] });
  expect((await works.app.get(ReplayCheckService).disagreements()).wrong).toEqual([]);
});
