import { Works } from '../testing/works.ts';
import type { HandOffsView } from './hand-offs.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const view = async (days = 28): Promise<HandOffsView> =>
  (await works.http.get(`/api/hand-offs?days=${days}`)).body as HandOffsView;
const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused?: string }).refused ?? 'nothing was refused';

it('what comes to another department is accepted or sent back, and counted where it was caused', async () => {
  const batch = await works.openRack('I', 3, 'Halyard');
  expect((await view()).arriving).toMatchObject([
    {
      batch,
      operationName: 'Assembly',
      positions: [1, 2, 3],
      pieces: [`${batch}/01`, `${batch}/02`, `${batch}/03`],
    },
  ]);
  expect(await refused(`${batch} assembly start`)).toMatch(/was not accepted at Assembly, and 2 more/);
  await works.said(`${batch}/1-2 accept`);
  expect((await view()).arriving).toMatchObject([{ batch, positions: [3] }]);
  const { origins, behind } = (await view()).arriving[0] ?? {};
  // A bolted instrument begins here: what is wrong is put right here, wherever it was caused.
  expect(behind).toEqual([{ key: 'assemble', name: 'Assembly' }]);
  expect(origins).toContainEqual({ place: 'B/colour', name: 'Colour (B)' });

  const back = { type: 'rework', operation: 'assemble', pieces: [3], reason: 'haze', origin: 'B/colour' };
  await works.file(batch, back).expect(200);
  await works.file(batch, { type: 'scrap', pieces: [2], reason: 'split', origin: 'B/colour' }).expect(200);
  await works.file(batch, { ...back, pieces: [1], origin: undefined }).expect(200);
  const { counted } = await view();
  expect(counted).toEqual([
    {
      ...{
        found: 'I/assemble',
        foundName: 'Assembly (I)',
        caused: 'B/colour',
        causedName: 'Colour (B)',
      },
      ...{ sentBack: 1, scrapped: 1 },
      reasons: [
        { reason: 'haze', pieces: 1 },
        { reason: 'split', pieces: 1 },
      ],
    },
    {
      ...{ found: 'I/assemble', foundName: 'Assembly (I)', caused: null, causedName: null },
      ...{ sentBack: 1, scrapped: 0, reasons: [{ reason: 'haze', pieces: 1 }] },
    },
  ]);
  // What is taken back was no fault.
  await works.said(`${batch} undo`);
  expect((await view()).counted).toHaveLength(1);
  works.later(8 * 24);
  expect((await view(7)).counted).toEqual([]);
});

it.each([
  [{ type: 'scrap', reason: 'x', origin: 'colour' }, 400],
  [{ type: 'scrap', reason: 'x', origin: 'I/nowhere' }, 409],
])('refuses %j', async (entry, status) => {
  const batch = await works.openRack('I', 1, 'Halyard');
  await works.file(batch, entry).expect(status);
});
