import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import { ReplayCheckService } from './replay-check.service.ts';
import { STANDS } from './stands.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const asked = <Row>(sql: string, ...given: unknown[]): Promise<Row[]> =>
  works.app.get(DataSource).query<Row[]>(sql, given);
const staysOf = (batch: string) =>
  asked<Record<string, unknown>>(
    `SELECT positions, operation, status, rule, person, ended, reason, round(extract(epoch FROM to_at - from_at) / 3600)::int AS hours
       FROM stay WHERE batch = $1 ORDER BY seq, positions`,
    batch,
  );
const disagreements = async (): Promise<string[]> =>
  (await works.app.get(ReplayCheckService).disagreements()).wrong;

it('a filing writes what it ended, by whom and how long it took, and where each piece is', async () => {
  const batch = await works.openRack('B', 4);
  works.later(30);
  await works.said(`${batch} read 7.1 7.2 7.1 7.0`);
  await works.said(`${batch} end because dry by the other meter`);
  works.later(2);
  await works.said(`${batch} 1 start body mill`);
  works.later(1);
  await works.said(`${batch} 1 scrap because knot`);
  expect(await staysOf(batch)).toMatchObject([
    { positions: [1, 2, 3, 4], status: 'onHold', rule: 'moisture', ended: 'passed', hours: 30, person: null },
    { positions: [1], status: 'waiting', ended: 'started', hours: 2 },
    { positions: [1], status: 'inHand', ended: 'scrapped', reason: 'knot', hours: 1, person: 'ostrander' },
  ]);
  expect(
    await asked(
      'SELECT standing, count(*)::int AS n FROM piece WHERE batch = $1 GROUP BY 1 ORDER BY 1',
      batch,
    ),
  ).toEqual([
    { standing: 'scrapped', n: 1 },
    { standing: 'waiting', n: 3 },
  ]);
});

it('a correction tells all of its batch anew, and marks what it took back', async () => {
  const batch = await works.openRack('N', 3);
  works.later(40);
  await works.said(`${batch} end because dry by the other meter`);
  const before = await staysOf(batch);
  await works.said(`${batch} 2 scrap because knot`);
  expect(await staysOf(batch)).toHaveLength(before.length + 1);
  await works.said(`${batch} undo`);
  expect(await staysOf(batch)).toEqual(before);
  const standing = await asked<{ type: string }>(
    `SELECT type FROM log_entry e WHERE batch = $1 AND ${STANDS} ORDER BY seq`,
    batch,
  );
  expect(standing.map(({ type }) => type)).toEqual(['open', 'end', 'undo']);
  // An opening that is taken back leaves nothing.
  await works.said(`${batch} undo`);
  await works.said(`${batch} undo`);
  expect(await asked('SELECT * FROM piece WHERE batch = $1', batch)).toEqual([]);
  expect(await staysOf(batch)).toEqual([]);
});

it('what the rows say and the log does not is found, and made anew from the log', async () => {
  expect(await disagreements()).toEqual([]);
  const [one, other, third] = [
    await works.openRack('B', 2),
    await works.openRack('B', 2),
    await works.openRack('B', 2),
  ];
  for (const batch of [one, other, third]) await works.said(`${batch} end because dry by the other meter`);
  await asked('DELETE FROM stay WHERE batch = $1', one);
  await asked(`UPDATE piece SET standing = 'shipped' WHERE batch = $1 AND position = 2`, other);
  await asked(`UPDATE stay SET person = 'nobody' WHERE batch = $1`, third);
  const fourth = await works.openRack('B', 2);
  await works.said(`${fourth} 1 scrap because knot`);
  await works.said(`${fourth} undo`);
  await asked('DELETE FROM voided WHERE batch = $1', fourth);
  expect(await disagreements()).toEqual([one, other, third, fourth]);
  expect((await works.app.get(ReplayCheckService).remake()).remade).toEqual([one, other, third, fourth]);
  expect(await disagreements()).toEqual([]);
});
