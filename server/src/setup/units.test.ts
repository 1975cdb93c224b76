import { Works } from '../testing/works.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
});
afterEach(() => works.close());

const unitsOf = async (code: string): Promise<unknown> => {
  const { people } = (await works.http.get('/api/setup').expect(200)).body as {
    people: { code: string; units: object }[];
  };
  return people.find((person) => person.code === code)?.units;
};
const choose = (code: string, units: object) => works.http.put(`/api/setup/people/${code}/units`).send(units);

describe('the units somebody reads and types in', () => {
  it('are metric until others are chosen, and are that person’s alone', async () => {
    expect(await unitsOf('venn')).toEqual({ length: 'mm', temperature: 'C' });
    await choose('venn', { length: 'in', temperature: 'F' }).expect(200);
    expect(await unitsOf('venn')).toEqual({ length: 'in', temperature: 'F' });
    expect(await unitsOf('ostrander')).toEqual({ length: 'mm', temperature: 'C' });
  });

  it('make a number without a sign a question, on whichever line they type, and are kept as metric', async () => {
    await choose('ostrander', { length: 'in', temperature: 'F' }).expect(200);
    const batch = await works.openRack('B', 2);
    const { body, status } = await works.line(`${batch} read 7.1 7.2 temp 68`);
    expect([status, body]).toMatchObject([
      422,
      { choices: [{ line: `${batch} read 7.1 7.2 temp 68°F` }, { line: `${batch} read 7.1 7.2 temp 68°C` }] },
    ]);
    await works.said(`${batch} read 7.1 7.2 temp 68°F`);
    const { body: rack } = await works.http.get(`/api/batches/${batch}`);
    expect(rack).toMatchObject({ state: { readings: [{ woodTemperatureC: 20 }] } });
  });

  it('are refused where they are none, and of nobody', async () => {
    await choose('venn', { length: 'ell', temperature: 'F' }).expect(400);
    await choose('venn', { length: 'in' }).expect(400);
    await choose('venn', { length: 'in', temperature: 'F', weight: 'lb' }).expect(400);
    await choose('nobody', { length: 'in', temperature: 'F' }).expect(404);
    expect(await unitsOf('venn')).toEqual({ length: 'mm', temperature: 'C' });
  });
});
