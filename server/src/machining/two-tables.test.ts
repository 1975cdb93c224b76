import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const answered = async (line: string): Promise<{ status: number; body: { refused?: string } }> =>
  await works.line(line);

it('a rack on two tables is judged load by load (11.3)', async () => {
  const rack = await works.openRack('B', 12);
  works.later(1);
  await works.said(`${rack} end because dry by the other meter`);
  const because = 'because the fixture was proved this morning';
  await works.said(`${rack} body mill start ${because}`);
  await works.said(`${rack} body mill start ${because}`);
  const { body } = (await works.http.get('/api/mill/body-mill').expect(200)) as {
    body: { tables: { load: { code: string; against: string | null } | null }[] };
  };
  const loads = body.tables.flatMap(({ load }) => load ?? []);
  expect(loads).toHaveLength(2);
  for (const { code, against } of loads) expect(against).toMatch(new RegExp(`^${code} is not measured yet`));
  for (const line of ['pocket-width 56 56 56', 'pocket-depth 16', 'body-thickness 44.5 44.5 44.5'])
    await works.said(`${rack} check ${line}`);
  // The first load is measured, the second is not.
  expect((await answered(`${rack} body mill done`)).body.refused).toMatch(
    new RegExp(`^${loads[1]?.code ?? ''} is not measured yet`),
  );
  expect(await works.said(`${rack} body mill 8 done`)).toMatch(/8 done/);
  expect((await answered(`${rack} body mill done`)).status).toBe(409);
});
