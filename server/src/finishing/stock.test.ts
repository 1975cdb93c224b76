import type { Supply } from '@ample-crane/core';
import { Works } from '../testing/works.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
});
afterEach(() => works.close());

interface Materials {
  materials: { material: string; supply: Supply; lots: { code: string; leftLitres: number }[] }[];
}
const get = async <T>(path: string): Promise<T> => ((await works.http.get(path)) as { body: T }).body;
const post = async <T = { refused?: string }>(
  path: string,
  body: object,
): Promise<{ status: number; body: T }> =>
  await works.http.post(path).send({ key: works.key(), by: 'lund', ...body });
const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused: string }).refused;

/** Halyard bodies that wait at Prep & seal. */
async function atPrep(quantity: number): Promise<string> {
  const code = await works.openRack('B', quantity, 'Halyard');
  works.later(0.2);
  await works.said(`${code} end because dry by the other meter`);
  await works.mill(code);
  await works.said(`${code} end because rested elsewhere`);
  await works.said(`${code} neck fit start`);
  await works.measure(code);
  await works.said(`${code} done`);
  return code;
}

it('refuses a coat out of an empty lot, or of none that is open, without another lot or a reason (11.12)', async () => {
  await post('/api/finish/materials/lots', { code: 'SL-1', material: 'sealer', litres: 0.3 });
  const code = await atPrep(2);
  await works.said(`${code} prep start`);
  expect(await refused(`${code} coat wet 95`)).toBe('no lot of sealer is open');
  await post('/api/finish/materials/lots/SL-1', { to: 'open' });
  // 2 bodies of 0.48 m² under 95 µm, 55 % of it landing: 0.166 l.
  await works.said(`${code} coat wet 95`);
  const other = await atPrep(2);
  await works.said(`${other} prep start`);
  expect(await refused(`${other} coat wet 120`)).toBe('lot SL-1 has 0.1 of 0.3 l left, this coat takes 0.2');
  await works.said(`${other} coat wet 120 because the can was not quite full`);
  const third = await atPrep(2);
  await works.said(`${third} prep start`);
  expect(await refused(`${third} coat`)).toBe('lot SL-1 is empty: 0.0 of 0.3 l are left');
  await post('/api/finish/materials/lots', { code: 'SL-2', material: 'sealer', litres: 20 });
  expect(await works.said(`${third} coat lot SL-2`)).toMatch(/a coat on 2/);
});

it('draws hardener and thinner out of their own lots, as the mix says (11.12)', async () => {
  const lots = { 'CS-1': 'catalysed satin', 'HD-1': 'hardener', 'TH-1': 'thinner' };
  for (const [lot, material] of Object.entries(lots)) {
    await post('/api/finish/materials/lots', { code: lot, material, litres: lot === 'HD-1' ? 0.2 : 10 });
    if (lot !== 'HD-1') await post(`/api/finish/materials/lots/${lot}`, { to: 'open' });
  }
  const mix = (litres: number, extra: object = {}) =>
    post<Materials & { refused: string }>('/api/finish/materials/mixes', {
      ...{ material: 'catalysed satin', litres },
      ...extra,
    });
  expect((await mix(1.3)).body.refused).toBe('no lot of hardener is open: open another lot, or say why');
  await post('/api/finish/materials/lots/HD-1', { to: 'open' });
  const { body } = await mix(1.3);
  const left = (code: string) =>
    body.materials.flatMap((one) => one.lots).find((lot) => (lot as { code?: string }).code === code)
      ?.leftLitres;
  expect([left('CS-1'), left('HD-1'), left('TH-1')]).toEqual(
    [9, 0.1, 9.8].map((n) => expect.closeTo(n, 4) as number),
  );
  expect((await mix(2.6)).body.refused).toBe(
    'lot HD-1 has 0.1 of 0.2 l left, this mix takes 0.2: open another lot, or say why',
  );
  expect((await mix(2.6, { because: 'the can holds more than it says' })).status).toBe(200);
});

it('says which rack ahead the stock does not reach, by the recipes (11.12)', async () => {
  const before = await get<Materials>('/api/finish/materials');
  expect(before.materials.every(({ supply }) => supply.plannedLitres === 0)).toBe(true);
  await post('/api/finish/materials/lots', { code: 'SL-1', material: 'sealer', litres: 0.6 });
  const one = await works.openRack('B', 6, 'Halyard');
  const other = await works.openRack('B', 6, 'Halyard');
  const seen = await get<Materials>('/api/finish/materials');
  // 6 bodies of 0.48 m² under the recipe's 95 µm, 55 % of it landing, twice.
  const sealer = seen.materials.find(({ material }) => material === 'sealer');
  expect(sealer?.supply).toMatchObject({
    plannedLitres: expect.closeTo((2 * 6 * 0.48 * 95) / 1000 / 0.55, 3) as number,
    runsOut: { batch: other },
  });
  expect(sealer?.supply.runsOut?.batch).not.toBe(one);
  // Acrylic it has none of: the first rack that comes finds nothing.
  const acrylic = seen.materials.find(({ material }) => material === 'acrylic lacquer');
  expect(acrylic?.supply).toMatchObject({ litres: 0, runsOut: { batch: one } });
});
