import { DataSource } from 'typeorm';
import { BatchRow } from '../log/rows.ts';
import { Works } from '../testing/works.ts';
import { RacksService } from './racks.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const open = () => works.app.get(RacksService).open();
/** The same read straight from the table. */
const table = async () =>
  (
    await works.app
      .get(DataSource)
      .getRepository(BatchRow)
      .find({ where: { closed: false }, order: { code: 'ASC' } })
  ).flatMap(({ seq, state }) => (state ? [{ seq, state }] : []));
const agrees = async (): Promise<number> => {
  const racks = await open();
  expect(racks.map(({ seq, state }) => ({ seq, state }))).toEqual(await table());
  return racks.length;
};

describe('the open racks', () => {
  it('are read again when something was filed on them, and only then', async () => {
    const [one, two] = [await works.openRack('B', 2), await works.openRack('N', 2)];
    expect(await agrees()).toBe(2);
    const before = await open();
    await works.said(`${one} end because it is dry`);
    const after = await open();
    const of = (racks: typeof before, code: string) => racks.find(({ state }) => state.code === code)?.state;
    expect(of(after, two)).toBe(of(before, two));
    expect(of(after, one)).not.toBe(of(before, one));
    expect(await agrees()).toBe(2);
  });

  it('leave when they are closed, and come back with a correction', async () => {
    const code = await works.openRack('B', 1);
    const count = await agrees();
    await works.said(`${code} 1 scrap crack`);
    expect(await agrees()).toBe(count - 1);
    await works.said(`${code} undo`);
    expect(await agrees()).toBe(count);
  });

  it('are as a second server wrote them, and as somebody wrote them by hand', async () => {
    const code = await works.openRack('B', 3);
    await agrees();
    const other = await Works.open(works.databaseUrl);
    try {
      const { status } = await other.line(`${code} end because it is dry`, works.key());
      expect(status).toBe(200);
      await agrees();
    } finally {
      await other.close();
    }
    await works.app
      .get(DataSource)
      .query(`UPDATE batch SET state = jsonb_set(state, '{dueMs}', '5') WHERE code = $1`, [code]);
    expect((await open()).find(({ state }) => state.code === code)?.state.dueMs).toBe(5);
  });

  it('are right for every request when many are asked while many are filed', async () => {
    const codes = await Promise.all(Array.from({ length: 6 }, () => works.openRack('B', 4)));
    await Promise.all(codes.flatMap((code) => [open(), works.said(`${code} end because it is dry`), open()]));
    await agrees();
  });
});
