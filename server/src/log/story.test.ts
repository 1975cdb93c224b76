import { DataSource } from 'typeorm';
import { StoreService } from '../kits/store.service.ts';
import { ReplayCheckService } from './replay-check.service.ts';
import { Works } from '../testing/works.ts';

interface BatchView {
  state: { quantity: number; pieces: { standing: string; operation: string; parents: string[] }[] };
  holds: { over: boolean; endMs: number; sentence: string }[];
}

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const seen = async (code: string): Promise<BatchView> =>
  (await works.http.get(`/api/batches/${code}`)).body as BatchView;
const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused: string }).refused;

/** One set-neck batch of bodies and one of necks, from its opening to the case, by typed lines. */
it('goes from the wood room to the case', async () => {
  const body = await works.openRack('B');
  const neck = await works.openRack('N');
  works.later(24);

  expect(await works.said(`${body} read 9.4 9.1 9.6`)).toMatch(/3 readings, mean 9.37 %/);
  expect(await refused(`${body} end`)).toMatch(/^Wait: 3 read, mean 9.4 %, gate 6.0–8.5 %; 3 over/);
  works.later(6 * 24);
  await works.said(`${body} read 7.1 7.2 7.1`);
  await works.said(`${neck} read 7.1 7.2 7.1`);
  await works.said(`${body} end`);
  await works.said(`${neck} end`);

  works.later(1);
  expect(await works.said(`${body} body mill start`)).toBe(
    `${body}: 1 started as L-1 on table-b1: the first piece, measure it before the rest is cut, 1 in hand and 11 waiting at Body mill`,
  );
  await works.file(body, { type: 'check', check: 'pocket-width', values: [56], pieces: [1] });
  await works.file(body, { type: 'check', check: 'pocket-depth', values: [16.02], pieces: [1] });
  await works.said(`${body} done`);
  expect(await works.said(`${body} body mill start`)).toBe(
    `${body}: 8 started as L-2 on table-b1, 8 in hand and 3 waiting at Body mill`,
  );
  expect(await refused(`${body} body mill 6 done 1 scrap tear-out`)).toBe(
    'L-2 is not measured yet: pocket width of 0 of 3, pocket depth of 0 of 1, body thickness of 0 of 3',
  );
  await works.measure(body);
  expect(await works.said(`${body} body mill 6 done 1 scrap tear-out`)).toBe(
    `${body}: 6 done, 1 scrapped (tear-out), 1 in hand and 3 waiting at Body mill`,
  );
  await works.said(`${body} done`);
  await works.mill(body);
  await works.mill(neck, 'neck-mill');

  works.later(24);
  expect(await refused(`${body} end`)).toMatch(/of rest left/);
  works.later(5 * 24);
  await works.said(`${body} end`);
  await works.said(`${neck} end`);
  expect(await refused(`${neck} done`)).toMatch(/^Read it/);
  await works.said(`${neck} read 7.2 7.3 7.2`);
  await works.said(`${neck} done`);
  for (const station of ['fret', 'board press', 'fret', 'fret']) {
    await works.said(`${neck} ${station} start`);
    await works.measure(neck);
    await works.said(`${neck} done`);
    works.later(2);
    if (station === 'board press') await works.said(`${neck} end`);
  }

  expect(await refused(`${body} join ${neck} 12`)).toBe(`only 11 of ${body} are at Neck joint, 12 wanted`);
  const guitar = body.replace('B', 'I');
  expect(await works.said(`${body} join ${neck}`)).toMatch(`11 joined with ${neck}, making ${guitar}`);
  expect((await seen(guitar)).state.pieces[0]?.parents).toEqual([`${body}/01`, `${neck}/01`]);

  works.later(13);
  await works.said(`${guitar} end`);
  await works.said(`${guitar} fill the grain start`);
  await works.said(`${guitar} done`);
  works.later(20);
  expect(await refused(`${guitar} end`)).toBe('Wait: 4 h of rest left, of 24 h.');
  works.later(4);
  await works.said(`${guitar} end`);
  await works.said(`${guitar} prep start`);
  expect(await refused(`${guitar} done`)).toBe('0 of 1 coat on at Prep & seal');
  await works.said(`${guitar} coat wet 90`);
  await works.said(`${guitar} done`);
  works.later(5);
  await works.air('Cure room', 21, 5);
  await works.said(`${guitar} end`);
  await works.said(`${guitar} colour start by tamsin`);
  for (let coat = 1; coat <= 2; coat += 1) {
    works.later(2);
    await works.said(`${guitar} colour coat by tamsin`);
  }
  await works.said(`${guitar} 10 done`);
  await works.said(`${guitar} colour 1 rework colour off`);
  await works.said(`${guitar}/11 colour start by lund`);
  for (let coat = 1; coat <= 2; coat += 1) {
    works.later(2);
    await works.said(`${guitar}/11 coat by lund`);
  }
  await works.said(`${guitar} colour done`);
  await works.said(`${guitar} scrape the binding start`);
  await works.said(`${guitar} done`);
  await works.said(`${guitar} clear start`);
  for (let coat = 1; coat <= 4; coat += 1) {
    works.later(3);
    await works.said(`${guitar} clear coat wet 105`);
  }
  await works.said(`${guitar} done`);

  works.later(11 * 24);
  await works.air('Cure room', 21, 11 * 24);
  const cool = (await seen(guitar)).holds[0];
  expect(cool?.over).toBe(false);
  expect(await refused(`${guitar} end`)).toMatch(/^Wait to buff: 264 of 2\d\d reference hours/);
  works.later(72);
  await works.air('Cure room', 28, 72);
  const warm = (await seen(guitar)).holds[0];
  expect(warm?.over).toBe(true);
  expect(warm?.endMs).toBeLessThan(cool?.endMs ?? 0);
  await works.said(`${guitar} end`);

  for (const station of ['buff', 'assembly', 'set-up']) {
    if (station === 'assembly') await works.kitted(guitar);
    await works.said(`${guitar} ${station} start`);
    works.later(3);
    if (station === 'assembly') {
      expect(await refused(`${guitar} assembly done`)).toMatch(/no serial yet/);
      expect(await works.said(`${guitar} serial`)).toMatch(/11 serials given, BW26\d{3}01. to BW26\d{3}11./);
    }
    if (station === 'set-up') {
      expect(await works.said(`${guitar}/2 check relief 0.4`)).toMatch(
        /Neck relief at fret 7: 0\.4 mm, outside 0\.15–0\.3 mm: it may not go on without a reason/,
      );
      await works.said(`${guitar} undo`);
      expect(await refused(`${guitar} set-up done`)).toMatch(
        /^Set-up is not measured yet: neck relief at fret 7 of 0 of 11, action at fret 12, bass side of 0 of 11, /,
      );
      await works.measure(guitar);
    }
    await works.said(`${guitar} done`);
  }
  works.later(6 * 24);
  expect(await refused(`${guitar} end`)).toMatch(/^Measure again/);
  for (let place = 1; place <= 11; place += 1) {
    const values = { relief: 0.24, 'action-bass': place === 3 ? 2.28 : 2.18, 'action-treble': 1.97 };
    await works.file(guitar, { type: 'sheet', pieces: [place], values }).expect(200);
  }
  expect(await works.said(`${guitar} end`)).toMatch(/hold of 10 ended/);
  expect(await refused(`${guitar} end`)).toBe(
    'Back to set-up: /3 action at fret 12, bass side moved +0.13 mm, limit 0.10 mm.',
  );
  await works.said(`${guitar}/3 end because the customer likes it high`);
  expect(await refused(`${guitar} set-up done`)).toMatch(
    /^Final inspection is not measured yet: looks of 0 of 11, /,
  );
  await works.measure(guitar);
  await works.said(`${guitar} set-up done`);
  expect(await works.said(`${guitar} ship to dealer 12`)).toBe(
    `${guitar}: 11 shipped to dealer 12, now 11 shipped`,
  );

  const floor = (await works.http.get('/api/floor')).body as { racks: { code: string }[] };
  expect(floor.racks.map(({ code }) => code)).toEqual([neck]);
  expect(await works.app.get(ReplayCheckService).disagreements()).toMatchObject({ batches: 3, wrong: [] });
});

it('counts what left each station, and not what was taken back', async () => {
  const flow = async (): Promise<{ throughput: { station: string; good: number; scrapped: number }[] }> =>
    (await works.http.get('/api/flow?days=60')).body as never;
  const good = async (station: string): Promise<number> =>
    (await flow()).throughput
      .filter((row) => row.station === station)
      .reduce((sum, row) => sum + row.good, 0);
  expect(await good('body-mill')).toBe(11);
  expect(await good('packing')).toBe(11);
  await works.said('I-164 undo');
  expect(await good('packing')).toBe(0);
  await works.said('I-164 ship to dealer 12');
  expect(await good('packing')).toBe(11);
});

it('tells its passports from the log alone: with every state, stay and piece wiped out, they come out the same', async () => {
  const source = works.app.get(DataSource);
  const passports = async (): Promise<unknown[]> => {
    const all: unknown[] = [];
    for (const position of [1, 3, 11])
      all.push((await works.http.get(`/api/passports/I-164/${position}`).expect(200)).body);
    return all;
  };
  const before = await passports();
  // Parents, coats, sheets, overrides: what is compared is not empty.
  expect(JSON.stringify(before)).toMatch(/the customer likes it high/);
  await source.query(`UPDATE batch SET state = '{"code": "nothing is left"}'`);
  await source.query('DELETE FROM stay');
  await source.query('DELETE FROM piece');
  await source.query('DELETE FROM kit_part');
  const { remade, hopeless } = await works.app.get(ReplayCheckService).remake();
  expect([remade.length, hopeless]).toEqual([3, []]);
  const store = works.app.get(StoreService);
  await store.remake(await store.disagreements());
  expect(await passports()).toEqual(before);
  expect(await store.disagreements()).toEqual([]);
});

it('opens a rack under the next number that no joined instrument has', async () => {
  // The instrument took its body's number; the count of its own kind has come to just there.
  await works.app.get(DataSource).query(`UPDATE kind SET next_number = 164 WHERE letter = 'I'`);
  expect(await works.openRack('I', 1, 'Halyard')).toBe('I-165');
  expect(await works.openRack('I', 1, 'Halyard')).toBe('I-166');
});
