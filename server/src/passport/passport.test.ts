import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import type { Passport } from './passport.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const passport = async (path: string): Promise<{ status: number; body: Passport & { message?: string } }> =>
  await works.http.get(`/api/passports/${path}`);

it('keeps what rules were passed by, with what the rule said and who decided it', async () => {
  const code = await works.openRack('B', 2);
  works.later(1);
  await works.said(`${code} read 11.2 11.4`);
  await works.said(`${code} end because dry by the other meter`);
  await works.said(`${code} body mill start`);
  const { body } = await passport(`${code}/1`);
  expect(body.parts).toHaveLength(1);
  expect(body.parts[0]).toMatchObject({
    piece: `${code}/01`,
    model: 'Bowline',
    standing: 'in hand at Body mill',
  });
  const [moisture, override] = body.parts[0]?.lines ?? [];
  expect(moisture).toMatchObject({
    kind: 'moisture',
    words: expect.stringMatching(/^1\d\.\d % moisture/) as string,
  });
  expect(override).toMatchObject({
    ...{ kind: 'override', words: 'dry by the other meter' },
    by: expect.stringMatching(/Ostrander/) as string,
    against: expect.stringMatching(/^Wait/) as string,
  });
});

/** A lot of two boards, read, sent to cut, each cut into the matched halves of one body. */
async function twoBodies(): Promise<string> {
  const post = async (path: string, body: object): Promise<{ entries: { batch: string }[] }> =>
    (
      await works.http
        .post(path)
        .send({ key: works.key(), by: 'venn', ...body })
        .expect(200)
    ).body as {
      entries: { batch: string }[];
    };
  const boards = [1, 2].map(() => ({ lengthMm: 2400, widthMm: 200 }));
  const { entries } = await post('/api/lots', {
    ...{ species: 'red alder', thicknessMm: 50, boardFeet: 25, supplier: 'yard 3', papers: 'P-1', boards },
    ...{ endsSealed: true, dryness: 'kiln-dried', room: 'Wood room' },
  });
  const lot = entries[0]?.batch ?? '';
  const file = (entry: object) => post(`/api/lots/${lot}/entries`, { entry });
  await file({
    type: 'lot-read',
    readings: [
      { board: 1, readingPct: 7.1 },
      { board: 2, readingPct: 7.6 },
    ],
  });
  await file({ type: 'to-cut', boards: [1, 2] });
  const half = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45, weightKg: 1.6 };
  for (const board of [1, 2]) await file({ type: 'cut', board, pieces: [half, half], matched: true });
  return lot;
}

it('goes on to the parts a piece is made of, with its own boards and what was read of them (11.10)', async () => {
  const lot = await twoBodies();
  const body = await works.openRack('B', 2, 'Halyard');
  const neck = await works.openRack('N', 1, 'Halyard');
  const take = (blanks: string[]) =>
    works.http.post('/api/stock/take').send({ key: works.key(), by: 'venn', batch: body, blanks });
  await take([`${lot}/2.1`, `${lot}/2.2`, `${lot}/1.1`, `${lot}/1.2`]).expect(200);
  works.later(1);
  await works.said(`${body} end because the story is told in a minute`);
  // As the join leaves it: an instrument whose piece names its parts.
  await works.app
    .get(DataSource)
    .query(`UPDATE batch SET state = jsonb_set(state, '{pieces,0,parents}', $2::jsonb) WHERE code = $1`, [
      neck,
      JSON.stringify([`${body}/01`]),
    ]);
  const { parts } = (await passport(`${neck}/1`)).body;
  expect(parts.map(({ piece }) => piece)).toEqual([`${neck}/01`, `${body}/01`]);
  expect(parts[1]?.wood).toEqual([
    { lot, species: 'red alder', papers: 'P-1', blanks: [`${lot}/2.1`, `${lot}/2.2`], own: true },
  ]);
  expect(parts.map(({ woodMissing }) => woodMissing)).toEqual([true, false]);
  expect(parts[1]?.lines[0]).toMatchObject({
    ...{
      kind: 'moisture',
      at: `Lot ${lot}`,
      words: expect.stringMatching(/^board 2: 7\.\d % moisture/) as string,
    },
  });
  expect(parts[1]?.lines.some(({ words }) => words.startsWith('board 1'))).toBe(false);
  expect(parts[1]?.lines.at(-1)).toMatchObject({ kind: 'override' });
  const [other] = (await passport(`${body}/2`)).body.parts;
  expect(other?.wood[0]?.blanks).toEqual([`${lot}/1.1`, `${lot}/1.2`]);
  // All its pieces have their wood.
  const more = await twoBodies();
  expect((await take([`${more}/1.1`, `${more}/1.2`])).body).toMatchObject({
    message: `${body} wants wood for 0 more of its 2 pieces: these are too many`,
  });
});

it('says so where there is no such piece', async () => {
  const code = await works.openRack('B', 2);
  expect(await passport(`${code}/3`)).toMatchObject({
    status: 404,
    body: { message: `there is no piece ${code}/03: ${code} has ${code}/01 to ${code}/02` },
  });
  expect((await passport('B-1/1')).status).toBe(404);
  expect((await passport(`${code}/two`)).status).toBe(400);
});
