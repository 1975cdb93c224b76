import { PASSPORT_SCHEMA, type BatchState } from '@ample-crane/core';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv } from 'ajv';
import { DataSource } from 'typeorm';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { Works } from '../testing/works.ts';
import type { BenchView, SheetView } from './bench.service.ts';
import type { Found } from './finding.service.ts';
import type { LeavingLine, LedgerView } from './shipping.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused?: string }).refused ?? 'nothing was refused';
const state = async (batch: string): Promise<BatchState> =>
  ((await works.http.get(`/api/batches/${batch}`)).body as { state: BatchState }).state;
const serialsOf = async (batch: string): Promise<(string | undefined)[]> =>
  (await state(batch)).pieces.map(({ serial }) => serial);

/** Halyards that are on the assembly bench, as if they had come so far: what came before is other tests' story. */
const onBench = (quantity: number): Promise<string> => works.openRack('I', quantity, 'Halyard');

const SET_UP = {
  ...{
    relief: 0.22,
    'action-bass': 2.45,
    'action-treble': 2.25,
    nut: 0.45,
    weight: 3.4,
    switches: 1,
    taps: 1,
  },
  ...{ 'intonation-1': 0.5, 'intonation-2': -1, 'intonation-3': 0, 'intonation-4': 2 },
};
const SETTLED = { relief: 0.24, 'action-bass': 2.49, 'action-treble': 2.27 };
const LOOKED = { looks: 1, plays: 1, works: 1, options: 1, serial: 1 };
const sheets = (pieces: number, values: object): object[] =>
  Array.from({ length: pieces }, (_, i) => ({ type: 'sheet', pieces: [i + 1], values }));

/** From the assembly bench to the packing table. */
async function toShipping(batch: string, quantity: number): Promise<void> {
  await works.kitted(batch);
  await works.said(`${batch} assembly start`);
  await works.said(`${batch} serial`);
  await works.said(`${batch} assembly done`);
  await works.said(`${batch} set-up start`);
  await works.file(batch, ...sheets(quantity, SET_UP)).expect(200);
  await works.said(`${batch} set-up done`);
  works.later(6 * 24 + 1);
  await works.file(batch, ...sheets(quantity, SETTLED)).expect(200);
  await works.said(`${batch} end`);
  await works.file(batch, ...sheets(quantity, LOOKED)).expect(200);
  await works.said(`${batch} set-up done`);
}

it('sets up, settles, inspects and ships: every number is one and the same on bench, passport and ledger', async () => {
  const batch = await onBench(2);
  await works.kitted(batch);
  await works.said(`${batch} assembly start`);
  expect(await refused(`${batch} assembly done`)).toMatch(/no serial yet/);
  expect(await works.said(`${batch} serial`)).toMatch(/2 serials given/);
  const [first = '', second = ''] = await serialsOf(batch);
  expect(first).toMatch(/^HY26\d{3}01[A-Z0-9]$/);
  await works.said(`${batch} assembly done`);
  await works.said(`${batch} set-up start`);
  await works.file(batch, { type: 'sheet', pieces: [1], values: { ...SET_UP, relief: 0.36 } }).expect(200);
  const bench = async (): Promise<string[]> =>
    ((await works.http.get('/api/bench')).body as BenchView).lines
      .filter((line) => line.batch === batch)
      .map(({ piece, verdict }) => `${piece} ${verdict}`);
  expect(await bench()).toEqual([`${batch}/01 adjust`, `${batch}/02 measure`]);
  const open = (await works.http.get(`/api/bench/${batch}/1`)).body as SheetView;
  expect(open).toMatchObject({ serial: first, operationName: 'Set-up', practice: { scaleMm: 762 } });
  await works.file(batch, ...sheets(2, SET_UP)).expect(200);
  await works.said(`${batch} set-up done`);
  expect(await bench()).toEqual([`${batch}/01 wait`, `${batch}/02 wait`]);
  works.later(6 * 24 + 1);
  expect(await bench()).toEqual([`${batch}/01 measure`, `${batch}/02 measure`]);
  await works.file(batch, { type: 'sheet', pieces: [1], values: SETTLED }).expect(200);
  await works
    .file(batch, { type: 'sheet', pieces: [2], values: { ...SETTLED, 'action-treble': 2.1 } })
    .expect(200);
  expect(await bench()).toEqual([`${batch}/02 back`, `${batch}/01 pass`]);
  // 2.10 after 2.25.
  expect(await refused(`${batch}/2 end`)).toMatch(/treble side moved −0\.15 mm, limit 0\.10 mm/);
  await works.said(`${batch}/1 end`);
  await works.file(batch, { type: 'sheet', pieces: [1], values: LOOKED }).expect(200);
  await works.said(`${batch}/1 set-up done`);
  expect((await works.http.get(`/api/bench/${batch}/1`)).body).toMatchObject({
    message: `${batch}/01 stands at no bench now`,
  });

  const leaving = (await works.http.get('/api/leaving')).body as LeavingLine[];
  expect(leaving).toMatchObject([{ piece: `${batch}/01`, serial: first, against: null }]);
  const key = works.key();
  const ship = {
    key,
    by: 'dray',
    pieces: [`${batch}/01`],
    to: 'Harbour Strings',
    order: 'P-7',
    carrier: 'Tern 1',
  };
  expect((await works.http.post('/api/shipments').send(ship)).body).toMatchObject({
    sentence: expect.stringMatching(/1 shipped to Harbour Strings, order P-7/) as string,
  });
  // Pressed again it is the same; said anew it is refused.
  expect((await works.http.post('/api/shipments').send(ship)).body).toMatchObject({ repeated: true });
  expect((await works.http.post('/api/shipments').send({ ...ship, key: works.key() })).body).toMatchObject({
    refused: expect.stringMatching(/\/01 is shipped/) as string,
  });
  const ledger = (await works.http.get('/api/shipments?days=1')).body as LedgerView;
  expect(ledger.lines).toMatchObject([
    { piece: `${batch}/01`, serial: first, to: 'Harbour Strings', order: 'P-7', filing: key, because: null },
  ]);

  const passport = (await works.http.get(`/api/passports/${batch}/1/passport.json`)).body as {
    parts: object[];
  };
  const fits = new Ajv({ allErrors: true, formats: { 'date-time': true } }).compile(PASSPORT_SCHEMA);
  fits(passport);
  expect(fits.errors ?? []).toEqual([]);
  expect(passport).toMatchObject({ serial: first, format: 'ample-crane-passport' });
  expect(passport.parts[0]).toMatchObject({
    setUp: expect.arrayContaining([
      { key: 'relief', name: 'Neck relief at fret 7', unit: 'mm', atSetUp: 0.22, settled: 0.24 },
      { key: 'weight', name: 'Weight, strung', unit: 'kg', atSetUp: 3.4, settled: null },
    ]) as object[],
  });

  const found = (await works.http.get(`/api/find?said=${first.slice(0, 6).toLowerCase()}`)).body as Found;
  expect(found.instruments.map(({ serial, standing }) => [serial, standing])).toEqual([
    [first, 'shipped'],
    [second, 'onHold'],
  ]);
  const customer = (await works.http.get('/api/find?said=harbour')).body as Found;
  expect(customer.shipments).toMatchObject([{ to: 'Harbour Strings', order: 'P-7', pieces: 1 }]);
  expect(await works.app.get(ReplayCheckService).disagreements()).toMatchObject({ wrong: [] });
});

describe('serials', () => {
  it('are never given again: not after they were taken back, not those of scrapped pieces', async () => {
    const batch = await onBench(3);
    await works.kitted(batch);
    await works.said(`${batch} assembly start`);
    await works.said(`${batch}/3 serial`);
    await works.said(`${batch}/3 scrap split at a screw`);
    await works.said(`${batch} serial`);
    const before = await serialsOf(batch);
    await works.said(`${batch} undo`);
    expect((await serialsOf(batch)).slice(0, 2)).toEqual([undefined, undefined]);
    await works.said(`${batch} serial`);
    const after = await serialsOf(batch);
    expect(after[2]).toBe(before[2]);
    const all = new Set([...before, ...after.slice(0, 2)]);
    expect(all.size).toBe(5);
    // Nobody can change what was given, not even by hand.
    await expect(works.app.get(DataSource).query('DELETE FROM serial')).rejects.toThrow(/never changed/);
    expect(await works.app.get(ReplayCheckService).disagreements()).toMatchObject({ wrong: [] });
  });

  it('come in order, none lost and none twice, from eight clients at once', async () => {
    const batches: string[] = [];
    for (let i = 0; i < 8; i += 1) batches.push(await onBench(60));
    for (const batch of batches) {
      await works.kitted(batch);
      await works.said(`${batch} assembly start`);
    }
    await works.http
      .put('/api/serials')
      .send({
        key: works.key(),
        by: 'rusk',
        pattern: 'X{all:6}',
        letters: [],
        onPaper: [{ from: 'X000100', to: 'X000149' }],
      })
      .expect(200);
    // Twelve filings of five each, from every client, all at once.
    const answers = await Promise.all(
      batches.flatMap((batch) =>
        Array.from({ length: 12 }, async (_, i) => {
          const pieces = Array.from({ length: 5 }, (__, p) => 5 * i + p + 1);
          return (await works.file(batch, { type: 'serial', pieces })).status;
        }),
      ),
    );
    expect(answers.filter((status) => status !== 200)).toEqual([]);
    const given = (await Promise.all(batches.map(serialsOf))).flat();
    const numbers = given.map((serial) => Number(serial?.slice(1))).toSorted((a, b) => a - b);
    // 480 in a row, but for the fifty that paper had used.
    const wanted = Array.from({ length: 530 }, (_, i) => i + 1).filter((n) => n < 100 || n > 149);
    expect(numbers).toEqual(wanted);
  });

  it('are refused a pattern that would repeat, letters two models share, a range that is none', async () => {
    const put = (change: object) =>
      works.http.put('/api/serials').send({
        key: works.key(),
        by: 'rusk',
        pattern: '{model}{all:5}',
        letters: [],
        onPaper: [],
        ...change,
      });
    expect((await put({ pattern: 'TW{yy}' })).body).toMatchObject({
      refused: expect.stringMatching(/would repeat/) as string,
      at: 'pattern',
    });
    const both = ['Bowline', 'Halyard'].map((model) => ({ model, letters: 'BW' }));
    expect((await put({ letters: both })).body).toMatchObject({
      refused: 'Bowline and Halyard have the same letters, BW',
    });
    expect((await put({ onPaper: [{ from: 'X5', to: 'X1' }] })).body).toMatchObject({
      refused: expect.stringMatching(/is no range/) as string,
    });
    expect((await put({ letters: [{ model: 'Bowline', letters: 'bw' }] })).status).toBe(400);
    expect((await put({ by: 'nobody' })).body).toMatchObject({
      refused: expect.stringMatching(/nobody/) as string,
    });
    await put({ letters: [{ model: 'Bowline', letters: 'BW' }] }).expect(200);
    const next = (await works.http.get('/api/serials')).body as {
      next: { model: string; problem: string | null }[];
    };
    expect(next.next.find(({ model }) => model === 'Halyard')?.problem).toMatch(/no letters/);
  });
});

describe('what leaves', () => {
  const HOSTILE = `שלום ${'רב'.repeat(3)} 🎸 <b>& "Sons"</b> ${'long '.repeat(30)}`.trim().slice(0, 190);

  it('prints on paper whatever its customer is called, and says nothing of people or racks to the owner', async () => {
    await works.http
      .put('/api/serials')
      .send({ key: works.key(), by: 'rusk', pattern: 'Y{all:6}', letters: [], onPaper: [] })
      .expect(200);
    const batch = await onBench(2);
    await toShipping(batch, 2);
    const key = works.key();
    await works.http
      .post('/api/shipments')
      .send({ key, by: 'dray', pieces: [`${batch}/01`, `${batch}/02`], to: HOSTILE, contents: '🎁 case' })
      .expect(200);
    const list = await works.http.get(`/api/shipments/${key}/packing-list.pdf`).buffer();
    expect(list.headers['content-type']).toBe('application/pdf');
    expect((list.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    expect((await works.http.get('/api/shipments/no-such-key/packing-list.pdf')).status).toBe(404);

    const made = await works.http
      .post(`/api/passports/${batch}/1/owner`)
      .send({ key: works.key(), by: 'dray' })
      .expect(200);
    const again = await works.http
      .post(`/api/passports/${batch}/1/owner`)
      .send({ key: works.key(), by: 'pike' });
    const { token } = made.body as { token: string };
    expect(token).toMatch(/^[\w-]{22}$/);
    expect(again.body).toEqual({ token });
    const view = await works.http.get(`/api/owners/${token}`);
    expect(view.body).toMatchObject({ model: 'Halyard', serial: expect.stringMatching(/^Y/) as string });
    expect(JSON.stringify(view.body)).not.toMatch(/Drayle|Ostrander|שלום|I-\d/);
    for (const wrong of [`${token.slice(0, 21)}A`.replace(token, 'B'.repeat(22)), 'x', '../batches'])
      expect((await works.http.get(`/api/owners/${encodeURIComponent(wrong)}`)).status).toBe(404);
    const paper = await works.http.get(`/api/passports/${batch}/1/passport.pdf`).buffer();
    expect((paper.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('needs a reason where a rule speaks against it, and names what is no piece', async () => {
    const batch = await onBench(1);
    await toShipping(batch, 1);
    await works.file(batch, {
      type: 'check',
      check: 'relief',
      pieces: [1],
      values: [0.5],
      operation: 'setup',
    });
    const ship = (change: object) =>
      works.http
        .post('/api/shipments')
        .send({ key: works.key(), by: 'dray', pieces: [`${batch}/01`], to: 'Fiddler', ...change });
    expect((await ship({})).body).toMatchObject({
      code: 'outside-limits',
      refused: expect.stringMatching(/neck relief at fret 7 of I-\d+\/01 is 0\.5 mm/) as string,
    });
    expect((await ship({ pieces: ['I-7'] })).body).toMatchObject({
      refused: expect.stringMatching(/is no piece/) as string,
    });
    expect((await ship({ pieces: ['I-99999/01'] })).body).toMatchObject({ code: 'unknown-batch' });
    expect((await ship({ pieces: [] })).status).toBe(400);
    expect((await ship({ to: '' })).status).toBe(400);
    await ship({ because: 'the customer wants it so' }).expect(200);
    const { lines } = (await works.http.get('/api/shipments?days=1')).body as LedgerView;
    expect(lines[0]).toMatchObject({ because: 'the customer wants it so' });
  });

  it('takes the papers of its protected wood along, and does not leave without them', async () => {
    const post = async (path: string, body: object): Promise<string> => {
      const answer = await works.http.post(path).send({ key: works.key(), by: 'venn', ...body });
      expect(answer.body).not.toHaveProperty('refused');
      return (answer.body as { entries: { batch: string }[] }).entries[0]?.batch ?? '';
    };
    const { body: known } = await works.http.get('/api/setup');
    const alder = (known as { species: { name: string }[] }).species.find(({ name }) => name === 'red alder');
    await works.http
      .put('/api/setup/species')
      .send({ key: works.key(), by: 'venn', species: { ...alder, papersNeeded: true } })
      .expect(200);
    const lot = await post('/api/lots', {
      ...{ species: 'red alder', thicknessMm: 50, boardFeet: 13, supplier: 'yard 3' },
      ...{ endsSealed: true, dryness: 'kiln-dried', room: 'Wood room' },
      boards: [{ lengthMm: 2400, widthMm: 200 }],
    });
    const file = (entry: object): Promise<string> => post(`/api/lots/${lot}/entries`, { entry });
    await file({ type: 'to-cut', boards: [1], because: 'its papers follow' });
    const half = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45, weightKg: 1.6 };
    await file({ type: 'cut', board: 1, pieces: [half, half], matched: true });
    const part = await works.openRack('B', 1, 'Halyard');
    await post('/api/stock/take', { batch: part, blanks: [`${lot}/1.1`, `${lot}/1.2`] });
    const batch = await onBench(2);
    await toShipping(batch, 2);
    // As the join leaves it: the first is made of that body, the other of wood nobody guards.
    await works.app
      .get(DataSource)
      .query(`UPDATE batch SET state = jsonb_set(state, '{pieces,0,parents}', $2::jsonb) WHERE code = $1`, [
        batch,
        JSON.stringify([`${part}/01`]),
      ]);
    const leaving = async (): Promise<LeavingLine[]> =>
      ((await works.http.get('/api/leaving')).body as LeavingLine[]).filter((line) => line.batch === batch);
    const refusal = `red alder of ${batch}/01 needs papers and none are noted with ${lot}: note them there`;
    expect((await leaving()).map(({ against, papers }) => [against, papers])).toEqual([
      [refusal, null],
      [null, null],
    ]);
    // By the line as by the page; the one of other wood may go.
    expect(await refused(`${batch}/1 ship to Fiddler`)).toBe(refusal);
    await works.said(`${batch}/2 ship to Fiddler`);
    await file({ type: 'papers', reference: 'permit 77' });
    expect((await leaving())[0]).toMatchObject({ against: null, papers: 'permit 77 (red alder)' });
    await works.said(`${batch}/1 ship to Fiddler`);
    const { lines } = (await works.http.get('/api/shipments?days=1')).body as LedgerView;
    const mine = lines.filter((line) => line.batch === batch);
    expect(mine.map(({ position, papers }) => [position, papers])).toEqual([
      [1, 'permit 77 (red alder)'],
      [2, null],
    ]);
  });
});

it('prints a tag for each piece of a rack that has not left', async () => {
  const batch = await onBench(3);
  await works.kitted(batch);
  await works.said(`${batch} assembly start`);
  await works.said(`${batch}/2 scrap split at a screw`);
  const tags = await works.http.get(`/api/tags/${batch}/tags.pdf`).buffer();
  // Two pages, of the three pieces one is scrapped; 105 × 148 mm.
  const paper = (tags.body as Buffer).toString('latin1');
  expect(paper.match(/\/Type \/Page\b/g)).toHaveLength(2);
  expect(paper).toMatch(/\/MediaBox \[0 0 297\.64 419\.53\]/);
  expect((await works.http.get('/api/tags/I-9999/tags.pdf')).status).toBe(404);
});

it('publishes the form of a passport, which is the one that is used', () => {
  const published = readFileSync(join(__dirname, '../../../docs/formats/passport.schema.json'), 'utf8');
  expect(JSON.parse(published)).toEqual(PASSPORT_SCHEMA);
});
