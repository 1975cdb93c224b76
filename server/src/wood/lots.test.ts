import type { BatchState, LotState } from '@ample-crane/core';
import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import { LotsService } from './lots.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
}, 30_000);
afterAll(() => works.close());

interface Answer {
  status: number;
  body: {
    refused?: string;
    message?: string;
    sentence?: string;
    repeated?: boolean;
    details?: string[];
    entries?: { batch: string }[];
  };
}

const board = { lengthMm: 2400, widthMm: 200 };

async function receive(extra: object = {}): Promise<string> {
  const { body, status } = (await works.http.post('/api/lots').send({
    ...{
      key: works.key(),
      by: 'venn',
      species: 'hard maple',
      thicknessMm: 27,
      boardFeet: 60,
      supplier: 'yard, 7',
    },
    ...{ endsSealed: true, dryness: 'kiln-dried', room: 'Wood room', boards: [board, board, board, board] },
    ...extra,
  })) as Answer;
  if (status !== 200) throw new Error(`receive was answered ${status}: ${JSON.stringify(body)}`);
  return body.entries?.[0]?.batch ?? '';
}

const file = async (lot: string, entry: object): Promise<Answer> =>
  works.http.post(`/api/lots/${lot}/entries`).send({ key: works.key(), by: 'venn', entry });

/** Files what must be accepted, and gives its sentence. */
async function filed(lot: string, entry: object): Promise<string> {
  const { status, body } = await file(lot, entry);
  if (status !== 200)
    throw new Error(`${JSON.stringify(entry)} was answered ${status}: ${JSON.stringify(body)}`);
  return body.sentence ?? '';
}

const read = (readings: [number, number][], extra: object = {}) => ({
  type: 'lot-read',
  readings: readings.map(([number, readingPct]) => ({ board: number, readingPct })),
  ...extra,
});
const all = (pct: number): [number, number][] => [1, 2, 3, 4].map((number) => [number, pct]);
interface Lot {
  state: LotState;
  sentence: string;
  judged: { readings: { readingPct: number; correctedPct: number }[] };
}
const lotOf = async (code: string): Promise<Lot> =>
  (await works.http.get(`/api/lots/${code}`).expect(200)).body as Lot;

describe('a lot from the lorry to the rack', () => {
  it('is received, read, sent to cut, cut into matched halves and taken for a rack', async () => {
    await works.air('Wood room', 21, 48);
    const lot = await receive({ species: 'red alder', thicknessMm: 50 });
    works.later(1);
    expect(await filed(lot, read(all(7.2)))).toMatch(/4 readings at the shell, mean 7.20 % as shown/);
    await filed(lot, { type: 'to-cut', boards: [1, 2] });
    const half = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45, weightKg: 1.6 };
    await filed(lot, { type: 'cut', board: 1, pieces: [half, half], matched: true });
    const rack = await works.openRack('B', 2, 'Halyard');
    const take = (blanks: string[], because?: string) =>
      works.http.post('/api/stock/take').send({ key: works.key(), by: 'venn', batch: rack, blanks, because });
    const parted = (await take([`${lot}/1.1`])) as Answer;
    expect(parted.status).toBe(409);
    expect(parted.body.refused).toMatch(/book-matched pair/);
    await take([`${lot}/1.1`, `${lot}/1.2`]).expect(200);
    const seen = await lotOf(lot);
    expect(seen.state.blanks.map((blank) => blank.batch)).toEqual([rack, rack]);
    expect(seen.sentence).toMatch(/Pass|Read/);
  });

  it('is cut by a list, board by board in one go: all of it, or nothing and the board that is wrong (11.11)', async () => {
    const lot = await receive({ species: 'red alder', thicknessMm: 50 });
    works.later(1);
    await filed(lot, read(all(7.2)));
    await filed(lot, { type: 'to-cut', boards: [1, 2, 3] });
    const half = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45, weightKg: 1.6 };
    const cut = (board: number, n: number, weightKg = 1.6) => ({
      ...{ board, matched: n === 2 },
      pieces: Array.from({ length: n }, () => ({ ...half, weightKg })),
    });
    const list = (cuts: object[]) =>
      works.http.post(`/api/lots/${lot}/cut-list`).send({ key: works.key(), by: 'venn', cuts });
    const wrong = (await list([cut(1, 2), cut(2, 2, 40)])) as Answer;
    expect(wrong.body.refused).toMatch(/40 kg for a blank of 520 × 180 × 45 mm is heavier than any wood/);
    expect((await lotOf(lot)).state.blanks).toEqual([]);
    const { body } = await list([cut(1, 2), cut(2, 3), cut(3, 2)]).expect(200);
    expect((body as { entries: object[] }).entries).toHaveLength(3);
    const { blanks } = (await lotOf(lot)).state;
    expect(blanks.map(({ id, matchedWith }) => [id.split('/')[1], matchedWith !== null])).toEqual([
      ['1.1', true],
      ['1.2', true],
      ['2.1', false],
      ['2.2', false],
      ['2.3', false],
      ['3.1', true],
      ['3.2', true],
    ]);
  });

  it('keeps boards back that do not pass, lets them go for a reason that stays, and takes nothing once it is used up', async () => {
    const lot = await receive();
    await filed(
      lot,
      read([
        [1, 7],
        [2, 9.4],
        [3, 7.2],
        [4, 7.1],
      ]),
    );
    const refused = await file(lot, { type: 'to-cut', boards: [1, 2] });
    expect(refused.status).toBe(409);
    expect(refused.body.refused).toMatch(/^2 do not pass the gate. Sort: 4 read/);
    await filed(lot, { type: 'to-cut', boards: [2], because: 'for jigs' });
    expect((await lotOf(lot)).state.overrides[0]).toMatchObject({ by: 'venn', because: 'for jigs' });
    await filed(lot, { type: 'lot-scrap', boards: [1, 2, 3, 4], reason: 'beetle' });
    const late = await file(lot, read([[1, 7]]));
    expect(late.body.refused).toMatch(/used up/);
    const { body } = await works.http.get('/api/lots');
    expect((body as { code: string }[]).map(({ code }) => code)).not.toContain(lot);
  });

  it('holds protected wood until its papers are noted', async () => {
    const lot = await receive({ species: 'Indian rosewood', thicknessMm: 12 });
    await filed(lot, read(all(7)));
    expect((await file(lot, { type: 'to-cut', boards: [1] })).body.refused).toMatch(/needs papers/);
    await filed(lot, { type: 'papers', reference: 'licence 12' });
    await filed(lot, { type: 'to-cut', boards: [1] });
  });

  it('is asked as each kind of entry is: what is missing, does not belong to it or cannot be is named', async () => {
    const lot = await receive();
    const piece = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 25, weightKg: 1.6 };
    const cases: [object, RegExp][] = [
      [
        { type: 'burn' },
        /entry\.type must be one of the following values: papers, lot-read, move, sort, to-cut/,
      ],
      [
        { type: 'move', boards: [1] },
        /entry must have required property 'room'.*entry should not have 'boards'/,
      ],
      [{ type: 'sort', sorted: [{ board: 0 }] }, /entry\.sorted\.0\.board must be >= 1/],
      [
        { type: 'sort', sorted: [{ board: 1, grade: 'superb' }] },
        /entry\.sorted\.0\.grade must be one of plain, some/,
      ],
      [
        { type: 'cut', board: 1, pieces: [{ ...piece, kind: 'body' }] },
        /entry\.pieces\.0\.kind must match pattern/,
      ],
      [
        { type: 'cut', board: 1, pieces: [{ ...piece, weightKg: 1600 }] },
        /entry\.pieces\.0\.weightKg must be <= 100/,
      ],
      [
        { type: 'lot-scrap', boards: [1], reason: 'beetle\u0007' },
        /entry\.reason must not hold control characters/,
      ],
    ];
    for (const [entry, why] of cases) {
      const { status, body } = await file(lot, entry);
      expect([status, (body as { details?: string[] }).details?.join('; ')]).toEqual([
        400,
        expect.stringMatching(why),
      ]);
    }
    // Nothing was filed; a reading of no board in particular, with nothing else said, is one.
    expect(await filed(lot, { type: 'lot-read', readings: [{ readingPct: 7.4 }] })).toMatch(
      /1 reading at the shell/,
    );
  });

  it('refuses what cannot be, and loses nothing', async () => {
    const lot = await receive();
    expect((await file(lot, read([[1, 140]]))).body.refused).toMatch(/140 % is no moisture/);
    expect((await file(lot, read([[9, 7]]))).body.refused).toMatch(/no board 9/);
    expect((await file(lot, { ...read([[1, 7]]), meter: 'nobody' })).body.refused).toMatch(
      /no meter 'nobody'/,
    );
    expect((await file(lot, { type: 'move', room: 'attic' })).body.refused).toMatch(/no room 'attic'/);
    expect((await file(lot, { type: 'cut' })).status).toBe(400);
    expect((await file('W-9999', read([[1, 7]]))).status).toBe(404);
    expect((await lotOf(lot)).state.looks).toEqual([]);
  });
});

describe('the log bar and lots', () => {
  it('reads a lot by a typed line and takes it back', async () => {
    const lot = await receive();
    expect(await works.said(`${lot} read 7.9 8.2 8.0`)).toMatch(/3 readings/);
    expect(await works.said('undo')).toMatch(/^Corrected/);
    expect((await lotOf(lot)).state.looks).toEqual([]);
    const { body } = (await works.line(`${lot} 2 done`)) as Answer;
    expect(body.refused).toMatch(/is a lot of lumber/);
  });

  it('has a log that replays to the same lots', async () => {
    const { lots, wrong } = await works.app.get(LotsService).disagreements();
    expect(lots).toBeGreaterThan(3);
    expect(wrong).toEqual([]);
  });

  it('has marks of what was taken back, which are put right from the log when somebody took them out', async () => {
    const lots = works.app.get(LotsService);
    const lot = await receive();
    await filed(lot, read(all(7)));
    await filed(lot, { type: 'undo' });
    await works.app.get(DataSource).query('DELETE FROM voided WHERE batch = $1', [lot]);
    expect((await lots.disagreements()).wrong).toEqual([lot]);
    expect((await lots.remake()).remade).toEqual([lot]);
    expect((await lots.disagreements()).wrong).toEqual([]);
  });

  it('says what came after and needs what is taken back', async () => {
    const lot = await receive();
    await filed(lot, read(all(7)));
    await filed(lot, { type: 'to-cut', boards: [1] });
    await filed(lot, {
      type: 'cut',
      board: 1,
      pieces: [{ kind: 'N', lengthMm: 700, widthMm: 75, thicknessMm: 24, weightKg: 0.8 }],
      matched: false,
    });
    expect((await file(lot, { type: 'undo', seq: 3 })).body.refused).toMatch(
      /entry 4 came after and needs it/,
    );
    await filed(lot, { type: 'undo' });
    expect((await lotOf(lot)).state.blanks).toEqual([]);
  });
});

describe('meters', () => {
  const sample = (readingPct: number, wetG: number, { meter = 'pin-2', species = 'sapele' } = {}) =>
    works.http
      .post(`/api/meters/${meter}/samples`)
      .send({
        ...{ key: works.key(), by: 'venn', species, readingPct },
        ...{ woodTemperatureC: 21, wetG, dryG: 100 },
      })
      .expect(200);

  it('need three samples for a line; readings stay as shown and are corrected anew, old ones too', async () => {
    const lot = await receive({ species: 'sapele' });
    await filed(lot, read([[1, 8]], { meter: 'pin-2', woodTemperatureC: 31 }));
    const values = async () => (await lotOf(lot)).judged.readings[0];
    // Temperature alone: 8 − 0.0055 · 8 · 10.
    expect(await values()).toMatchObject({ readingPct: 8, correctedPct: expect.closeTo(7.56, 6) });
    await sample(6, 106.5);
    await sample(10, 110.5);
    const use = () =>
      works.http.post('/api/meters/pin-2/line').send({ key: works.key(), by: 'venn', species: 'sapele' });
    const early = (await use()) as Answer;
    expect(early.status).toBe(409);
    expect(early.body.message).toMatch(/at least three/);
    await sample(8, 108.5);
    const { body: line } = await use().expect(200);
    expect(line).toMatchObject({ a: expect.closeTo(0.5, 6), b: expect.closeTo(1, 6), count: 3 });
    expect(await values()).toMatchObject({ readingPct: 8, correctedPct: expect.closeTo(8.06, 6) });
    const { text } = await works.http.get(`/api/lots/${lot}/readings.csv`).expect(200);
    expect(text.split('\r\n')[1]).toMatch(/,8,8\.06$/);
  });

  it('without pins do not read differently in warm wood', async () => {
    const lot = await receive({ species: 'sapele' });
    await filed(lot, read([[1, 8]], { meter: 'flat-1', woodTemperatureC: 31 }));
    expect((await lotOf(lot)).judged.readings[0]?.correctedPct).toBe(8);
  });

  it('warn when the line is over a year old', async () => {
    works.later(366 * 24);
    const { body } = await works.http.get('/api/meters').expect(200);
    const meter = (body as { code: string; calibrations: { species: string; stale: boolean }[] }[]).find(
      ({ code }) => code === 'pin-2',
    );
    expect(meter?.calibrations).toMatchObject([{ species: 'sapele', stale: true }]);
  });

  it('refuse dry wood heavier than wet, unknown wood and a code used twice', async () => {
    const bad = (extra: object) =>
      works.http.post('/api/meters/pin-2/samples').send({
        ...{
          key: works.key(),
          by: 'venn',
          species: 'sapele',
          readingPct: 8,
          woodTemperatureC: 21,
          wetG: 100,
          dryG: 101,
        },
        ...extra,
      });
    await bad({}).expect(400);
    await bad({ dryG: 90, species: 'tin' }).expect(404);
    await works.http.post('/api/meters').send({ code: 'pin-2', name: 'twice', kind: 'pin' }).expect(409);
  });

  it('correct the readings of a rack as its line stood when they were filed', async () => {
    const rack = await works.openRack('N', 3, 'Bowline');
    await works
      .file(rack, { type: 'read', valuesPct: [9, 9.1, 9.2], meter: 'pin-1', woodTemperatureC: 31 })
      .expect(200);
    const { body } = await works.http.get(`/api/batches/${rack}`).expect(200);
    const [set] = (body as { state: BatchState }).state.readings;
    expect(set).toMatchObject({ valuesPct: [9, 9.1, 9.2], meter: 'pin-1' });
    // No line for hard maple here: the temperature alone, 9 − 0.0055 · 9 · 10.
    expect(set?.correctedPct?.[0]).toBeCloseTo(8.505, 6);
    await works.air('Wood room', 21, 24);
    const drying = await works.http.get(`/api/batches/${rack}/drying`).expect(200);
    expect(drying.body).toMatchObject({ subject: rack, species: 'hard maple', tauDays: 7, never: false });
    const { outlook } = drying.body as { outlook: { median: number } };
    expect(outlook.median).toBeGreaterThanOrEqual(0);

    // A line drawn later changes nothing of it, on whatever page it is asked; what is read from then on goes by it.
    const maple = { meter: 'pin-1', species: 'hard maple' };
    for (const [readingPct, wetG] of [
      [6, 107],
      [8, 109],
      [10, 111],
    ] as const)
      await sample(readingPct, wetG, maple);
    await works.http
      .post('/api/meters/pin-1/line')
      .send({ key: works.key(), by: 'venn', species: maple.species })
      .expect(200);
    interface Page {
      nowMs: number;
      holds: { endMs: number }[];
    }
    const page = (await works.http.get(`/api/batches/${rack}`).expect(200)).body as Page;
    const later = (await works.http.get(`/api/batches/${rack}/drying`).expect(200)).body as {
      readings: { readingPct: number; correctedPct: number }[];
      outlook: { median: number };
    };
    expect(later.readings.map(({ correctedPct }) => correctedPct)).toEqual(set?.correctedPct);
    expect(later.outlook).toEqual(outlook);
    expect(page.holds[0]?.endMs).toBe(page.nowMs + later.outlook.median * 3_600_000);
    await works.file(rack, { type: 'read', valuesPct: [9, 9, 9], meter: 'pin-1' }).expect(200);
    const after = (await works.http.get(`/api/batches/${rack}`)).body as { state: BatchState };
    expect(after.state.readings.at(-1)?.correctedPct?.[0]).toBeCloseTo(10, 6);
    await works.http.get('/api/batches/B-1/drying').expect(404);
  });
});

describe('a sheet of readings', () => {
  const send = (lot: string, sheet: string, extra: object = {}) =>
    works.http.post(`/api/lots/${lot}/sheet`).send({ by: 'hask', sheet, ...extra });

  it('in another locale is read, and the same file twice is filed once', async () => {
    const lot = await receive();
    const sheet = 'board;moisture\n1;7,4\n2;7,1';
    const first = (await send(lot, sheet)) as Answer;
    expect(first.body.repeated).toBe(false);
    const again = (await send(lot, `${sheet}\n`)) as Answer;
    expect(again.body).toMatchObject({
      repeated: true,
      sentence: expect.stringMatching(/filed before, nothing was added/),
    });
    expect((await lotOf(lot)).state.looks).toHaveLength(1);
  });

  it('may be filed again once it was taken back, and says so when only the meter differs', async () => {
    const lot = await receive();
    const sheet = 'board,reading\n1,7.4\n2,7.1';
    await send(lot, sheet, { meter: 'pin-1' }).expect(200);
    const other = (await send(lot, sheet, { meter: 'flat-1' })) as Answer;
    expect(other.status).toBe(400);
    expect(other.body.message).toMatch(/with another meter/);
    await filed(lot, { type: 'undo' });
    const again = (await send(lot, sheet, { meter: 'flat-1' })) as Answer;
    expect(again.body.repeated).toBe(false);
    expect((await lotOf(lot)).state.looks).toMatchObject([{ meter: 'flat-1' }]);
  });

  it('remembers which column is which', async () => {
    const lot = await receive();
    const sheet = 'Stk;A;B\n1;18;7,4\n2;19;7,1';
    const headings = ['Stk', 'A', 'B'];
    expect(((await send(lot, sheet)) as Answer).body.message).toMatch(/no column of readings/);
    const columns = { reading: 'B', position: 'Stk', temperature: null };
    await send(lot, sheet, { columns }).expect(200);
    const { body } = await works.http.post('/api/sheet-columns').send({ headings }).expect(200);
    expect(body).toEqual({ columns });
    const { body: unknown } = await works.http
      .post('/api/sheet-columns')
      .send({ headings: ['x'] })
      .expect(200);
    expect(unknown).toEqual({ columns: null });
  });
});

describe('the forecast of a lot', () => {
  const drying = async (lot: string) =>
    (
      (await works.http.get(`/api/lots/${lot}`).expect(200)).body as {
        drying: {
          climate: { atMs: number; temperatureC: number }[];
          outlook: object | null;
          never: boolean;
          room: string;
          oldRuleMs: number | null;
        };
      }
    ).drying;

  it('goes by the air of each room the lot was in, and has no date before anything is read', async () => {
    await works.air('Lumber shed', 12, 48);
    await works.air('Lumber room', 24, 48);
    works.later(-48);
    const lot = await receive({ room: 'Lumber shed', dryness: 'green' });
    const { outlook, never, oldRuleMs } = await drying(lot);
    expect([outlook, never]).toEqual([null, false]);
    // A year for 25.4 mm: 27 mm take 388 days.
    expect(((oldRuleMs ?? 0) - works.time.nowMs) / 86_400_000).toBeCloseTo((365 * 27) / 25.4, 3);
    works.later(24);
    await filed(lot, { type: 'move', room: 'Lumber room' });
    works.later(24);
    await filed(lot, read(all(9)));
    const seen = await drying(lot);
    expect(seen.room).toBe('Lumber room');
    const moveMs = works.time.nowMs - 24 * 3_600_000;
    const degrees = (before: boolean) =>
      new Set(
        seen.climate.filter(({ atMs }) => atMs < moveMs === before).map(({ temperatureC }) => temperatureC),
      );
    expect([...degrees(true)]).toEqual([12]);
    expect([...degrees(false)]).toEqual([24]);
    // 45 % RH at 24 °C would take it to 8.4 %: above nothing, under the gate.
    expect(seen.outlook).not.toBeNull();
  });
});

describe('the gate of the wood room', () => {
  it('follows either school and refuses what cannot be', async () => {
    const put = (gate: object) =>
      works.http.put('/api/wood/gate').send({ key: works.key(), by: 'venn', gate });
    const air = { temperatureC: 21, relativeHumidityPct: 42 };
    const { body } = await put({ school: 'destination', air, tolerancePct: 1 }).expect(200);
    const { window } = body as { window: { lowPct: number; highPct: number } };
    expect(window.highPct - window.lowPct).toBeCloseTo(2, 6);
    await put({ school: 'fixed', lowPct: 8, highPct: 6 }).expect(400);
    await put({ school: 'fixed', lowPct: 'six', highPct: 8 }).expect(400);
    await put({ school: 'guess' }).expect(400);
    await put({ school: 'fixed', lowPct: 6, highPct: 8.5 }).expect(200);
  });
});

it('never lets an entry of a lot be changed', async () => {
  const source = works.app.get(DataSource);
  await expect(source.query("UPDATE log_entry SET person = 'x' WHERE batch LIKE 'W-%'")).rejects.toThrow(
    /never updated/,
  );
});
