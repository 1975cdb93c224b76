import { DataSource } from 'typeorm';
import { LotsService } from '../wood/lots.service.ts';
import { Works } from '../testing/works.ts';
import type { Passport } from './passport.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
}, 60_000);
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

it('goes on to the parts a piece is made of, and to the wood taken for them', async () => {
  const body = await works.openRack('B', 1);
  const neck = await works.openRack('N', 1);
  works.later(1);
  await works.said(`${body} end because the story is told in a minute`);
  const taken = jest.spyOn(works.app.get(LotsService), 'takenFor').mockImplementation((batch) =>
    Promise.resolve(
      batch === body
        ? [
            {
              ...({ code: 'W-9', species: 'ash', papers: 'P-1' } as Awaited<
                ReturnType<LotsService['takenFor']>
              >[number]),
              blanks: [
                { id: 'W-9/4.1', batch: body },
                { id: 'W-9/4.2', batch: 'B-1' },
              ] as never,
            },
          ]
        : [],
    ),
  );
  // As the join leaves it: an instrument whose piece names its parts.
  await works.app
    .get(DataSource)
    .query(`UPDATE batch SET state = jsonb_set(state, '{pieces,0,parents}', $2::jsonb) WHERE code = $1`, [
      neck,
      JSON.stringify([`${body}/01`]),
    ]);
  const { parts } = (await passport(`${neck}/1`)).body;
  expect(parts.map(({ piece }) => piece)).toEqual([`${neck}/01`, `${body}/01`]);
  expect(parts[1]?.wood).toEqual([{ lot: 'W-9', species: 'ash', papers: 'P-1', blanks: ['W-9/4.1'] }]);
  expect(parts[1]?.lines.at(-1)).toMatchObject({ kind: 'override' });
  taken.mockRestore();
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
