import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import { StationDaysService } from './station-days.service.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
});
afterEach(() => works.close());

const days = (): StationDaysService => works.app.get(StationDaysService);
/** Work in front of one station at the end of the last so many working days, hours. */
async function hoursOf(station: string, count: number): Promise<number[]> {
  const past = await days().pastDays(works.time.nowMs, count);
  return (await days().loads(past)).filter((row) => row.station === station).map((row) => row.hoursWaiting);
}
const kept = async (): Promise<string[]> =>
  (
    await works.app
      .get(DataSource)
      .query<{ day: string }[]>('SELECT DISTINCT day::text FROM station_day ORDER BY 1')
  ).map(({ day }) => day);
/** Files a line as a tablet does that was without its server since then. */
const touched = (line: string, hoursAgo: number) =>
  works.http.post('/api/log/line').send({
    ...{ key: works.key(), by: 'ostrander', line },
    touchedAt: new Date(works.time.nowMs - hoursAgo * 3_600_000).toISOString(),
  });

it('what is filed late changes the days since, and only those; a correction those that it touches', async () => {
  // Twelve bodies for the mill: its set-up of 30 minutes and two cycles of 75 (Monday 1 June, 08:00).
  const first = await works.openRack('B', 12);
  await works.said(`${first} end because the test begins here`);
  const second = await works.openRack('B', 12);
  works.later(4 * 24);
  expect(await hoursOf('body-mill', 3)).toEqual([3, 3, 3]);
  expect(await kept()).toEqual(['2026-06-02', '2026-06-03', '2026-06-04']);

  // On Friday it is told that the second one was ready on Wednesday at 08:00.
  await touched(`${second} end because it was dry`, 48).expect(200);
  expect(await kept()).toEqual(['2026-06-02']);
  expect(await hoursOf('body-mill', 3)).toEqual([3, 6, 6]);

  // Something that moves no piece touches no day.
  await works.said(`${first} measure 7.2 7.3`).catch(() => undefined);
  expect(await kept()).toHaveLength(3);
  await works.said(`${second} undo`);
  expect(await kept()).toEqual(['2026-06-02']);
  expect(await hoursOf('body-mill', 3)).toEqual([3, 3, 3]);
});

/** The same numbers for the same seed, 0 up to but not including n. */
function drawn(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state * 48271) % 2147483647;
    return state % n;
  };
}

it('random filings, late ones and corrections: what was summed up on the way is what is summed up from nothing (seed 12)', async () => {
  const draw = drawn(12);
  const racks = [
    await works.openRack('N', 9),
    await works.openRack('B', 6),
    await works.openRack('B', 8),
    await works.openRack('N', 6),
  ];
  // So many filings of each still stand; what opened it does not go.
  const standing = racks.map(() => 0);
  const because = 'because it is right';
  const said = [`end ${because}`, `1 start ${because}`, `1 done ${because}`, `done ${because}`];
  said.push('1 scrap because knot', '1 hold dust', `end ${because}`, '1 rework because run', 'undo');
  const filed = { lines: 0, corrections: 0 };
  for (let i = 0; i < 180; i += 1) {
    works.later(draw(5));
    const which = draw(racks.length);
    const words = said[draw(said.length)] ?? '';
    if (words === 'undo' && standing[which] === 0) continue;
    const { status } = await touched(`${racks[which]} ${words}`, draw(3) === 0 ? draw(70) : 0);
    expect([200, 409, 422]).toContain(status);
    if (status === 200) {
      filed[words === 'undo' ? 'corrections' : 'lines'] += 1;
      standing[which] = (standing[which] ?? 0) + (words === 'undo' ? -1 : 1);
    }
    if (draw(4) === 0) await hoursOf('body-mill', 5);
  }
  expect(filed.lines).toBeGreaterThan(30);
  expect(filed.corrections).toBeGreaterThan(5);
  const all = (await days().pastDays(works.time.nowMs, 10)).filter((day) => day > '2026-06-01');
  const onTheWay = await days().loads(all);
  const told: string[] = [];
  const rebuilt = await days().rebuild(works.time.nowMs, (done, of) => told.push(`${done} of ${of}`));
  expect(rebuilt).toBeGreaterThanOrEqual(all.length);
  expect(told.at(-1)).toBe(`${rebuilt} of ${rebuilt}`);
  expect(await days().loads(all)).toEqual(onTheWay);
  expect(new Set(onTheWay.map(({ hoursWaiting }) => hoursWaiting)).size).toBeGreaterThan(5);

  // What the flow page counts from stays is what was filed and not taken back. By station: what happened, as somebody says late,
  // before the piece was there is of the day on which it was.
  const { body } = (await works.http.get('/api/flow?days=20').expect(200)) as unknown as {
    body: { throughput: { station: string; scrapped: number; reworked: number }[] };
  };
  const stations = [...new Set(body.throughput.map(({ station }) => station))].toSorted();
  const lost = stations
    .map((station) => {
      const rows = body.throughput.filter((row) => row.station === station);
      const sum = (of: 'scrapped' | 'reworked'): number => rows.reduce((total, row) => total + row[of], 0);
      return { station, scrapped: sum('scrapped'), reworked: sum('reworked') };
    })
    .filter(({ scrapped, reworked }) => scrapped + reworked > 0);
  expect(lost).toEqual(
    await works.app.get(DataSource).query<object[]>(
      `SELECT station, coalesce(sum(pieces) FILTER (WHERE type = 'scrap'), 0)::int AS scrapped,
              coalesce(sum(pieces) FILTER (WHERE type = 'rework'), 0)::int AS reworked
         FROM log_entry e
        WHERE type IN ('scrap', 'rework')
          AND NOT EXISTS (SELECT 1 FROM voided v WHERE v.batch = e.batch AND v.seq = e.seq)
        GROUP BY 1 ORDER BY 1`,
    ),
  );
  expect(lost.reduce((sum, { scrapped }) => sum + scrapped, 0)).toBeGreaterThan(5);
});
