import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused: string }).refused;
const read = (batch: string, values: number[], extra: object = {}) =>
  works.file(batch, { type: 'read', pieces: values.map((_, i) => i + 1), valuesPct: values, ...extra });

describe('the moisture gate passes on three anonymous numbers (11.2)', () => {
  it('no more, on a rack read wet piece by piece, nor on a fall its room could not cause', async () => {
    const rack = await works.openRack('B', 4);
    works.later(24);
    await works.air('Wood room', 21, 200);
    await read(rack, [9.1, 9.4, 9.8, 9.2]);
    works.later(1);
    await works.said(`${rack} read 7.2 7.3 7.1`);
    expect(await refused(`${rack} end`)).toBe(
      'Wait: 4 read, mean 9.4 %, gate 6.0–8.5 %; 4 over. 3 readings name no piece and replace none.',
    );
    await read(rack, [7.2, 7.3, 7.1, 7.2]);
    expect(await refused(`${rack} end`)).toMatch(
      /^Wait: 4 read, mean 9\.4 %.*Read again: 7\.2 % on 1 fell faster than its room dries \(8\.2 % at the lowest\).*; and 2 more\./,
    );
    expect(
      (await read(rack, [7.2, 7.3, 7.1, 7.2], { because: 'read with the other meter, tested today' })).status,
    ).toBe(200);
    expect(await works.said(`${rack} end`)).toMatch(/hold of 4 ended/);
  });

  it('sets aside what the meter cannot show, until it is read again', async () => {
    const rack = await works.openRack('B', 3);
    works.later(2);
    await read(rack, [7.1, 7.2, 33]);
    expect(await works.said(`${rack} end`)).toMatch(/hold of 2 ended/);
    expect(await refused(`${rack} end`)).toMatch(
      /Read again: 33\.0 % on 3 is outside what the meter resolves/,
    );
    works.later(1);
    await works.file(rack, { type: 'read', pieces: [3], valuesPct: [7.3] });
    expect(await works.said(`${rack} end`)).toMatch(/hold of 1 ended/);
  });
});
