import { shiftDate, factoryDate } from '@ample-crane/core';
import { DateTime } from 'luxon';
import { DataSource } from 'typeorm';
import { SetupService } from '../setup/setup.service.ts';
import { Works } from '../testing/works.ts';
import { StationDaysService } from './station-days.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const put = (part: string, body: object, by = 'ostrander') =>
  works.http.put(`/api/setup/calendar/${part}`).send({ key: works.key(), by, ...body });
const calendar = async () => (await works.app.get(SetupService).factory()).calendar;
const said = async (ms: number): Promise<string> =>
  DateTime.fromMillis(ms, { zone: (await calendar()).zone }).toFormat('ccc HH:mm');

/** When the first load that waits at the body mill would be off, and when the rack could leave, by its page. */
async function ends(batch: string): Promise<string[]> {
  const { body: mill } = (await works.http.get('/api/mill/body-mill').expect(200)) as {
    body: { plan: { loads: { endMs: number }[] } };
  };
  const { body: racks } = (await works.http.get('/api/racks').expect(200)) as {
    body: { batch: string; earliestMs: number }[];
  };
  const rack = racks.find((one) => one.batch === batch);
  return [await said(mill.plan.loads[0]?.endMs ?? 0), factoryDate(await calendar(), rack?.earliestMs ?? 0)];
}

// Monday 1 June 2026; the shift ends at 15:30.
it('a closed day, and an evening of the mill alone, move what is planned there and when the rack can leave', async () => {
  const batch = await works.openRack('B', 8);
  await works.said(`${batch} end because the test begins here`);
  works.later(6);
  // 14:00: set-up 30 minutes, load 10, cycle 150; 90 of them fit into the shift.
  expect(await ends(batch)).toEqual(['Tue 07:40', '2026-06-04']);

  await put('closed', { fromDay: '2026-06-02', toDay: '2026-06-03', closed: true }).expect(200);
  expect(await ends(batch)).toEqual(['Thu 07:40', '2026-06-08']);

  const evening = { date: '2026-06-01', start: '16:00', end: '19:00', stations: ['body-mill'] };
  await put('overtime', { ...evening, worked: true }).expect(200);
  expect((await ends(batch))[0]).toBe('Mon 17:40');

  await put('overtime', { ...evening, worked: false }).expect(200);
  await put('closed', { fromDay: '2026-06-01', toDay: '2026-06-07', closed: false }).expect(200);
  expect(await ends(batch)).toEqual(['Tue 07:40', '2026-06-04']);
});

it('when the mill must be through follows from the days of the house: what comes after it is not worked in its evenings', async () => {
  const batch = await works.openRack('B', 8);
  await works.said(`${batch} end because the test begins here`);
  const needed = async (): Promise<number> => {
    const { body: mill } = (await works.http.get('/api/mill/body-mill').expect(200)) as {
      body: { waiting: { batch: string; neededMs: number }[] };
    };
    return mill.waiting.find((one) => one.batch === batch)?.neededMs ?? NaN;
  };
  const without = await needed();
  expect(without).toBeGreaterThan(works.time.nowMs);
  // What is left to do after it is laid out from the due day on.
  const due = factoryDate(await calendar(), Date.parse(works.dueAt));
  const evenings = [0, 1, 2, 3, 4, 5, 6].map((days) => ({
    ...{ date: shiftDate(due, days), start: '16:00', end: '22:00', stations: ['body-mill'] },
  }));
  for (const evening of evenings) await put('overtime', { ...evening, worked: true }).expect(200);
  expect(await needed()).toBe(without);
  for (const evening of evenings) await put('overtime', { ...evening, worked: false }).expect(200);
  const closed = { fromDay: shiftDate(due, 1), toDay: shiftDate(due, 7) };
  await put('closed', { ...closed, closed: true }).expect(200);
  expect(await needed()).toBeLessThan(without);
  await put('closed', { ...closed, closed: false }).expect(200);
  expect(await needed()).toBe(without);
});

it('other shifts are worked from their day on; who changed what is kept, and nobody overwrites what they have not seen', async () => {
  const [shift] = (await calendar()).shifts;
  const late = { name: 'late', start: '15:30', end: '23:30', weekdays: [1, 2, 3, 4, 5], breaks: [] };
  await put('shifts', { fromDay: '2026-06-08', shifts: [shift, late] }).expect(200);
  expect((await calendar()).shifts).toEqual([shift, { ...late, fromDay: '2026-06-08' }]);
  const { body: kept } = (await works.http.get('/api/setup/changes').expect(200)) as {
    body: { setting: string; name: string; before: object; after: object; id: string }[];
  };
  expect(kept[0]).toMatchObject({
    ...{ setting: 'calendar', name: 'shifts', before: { shifts: [shift] } },
    after: { shifts: [shift, { ...late, fromDay: '2026-06-08' }] },
  });
  const unseen = { fromDay: '2026-06-08', shifts: [shift], lastChange: Number(kept[0]?.id) - 1 };
  const { body } = await put('shifts', unseen, 'venn').expect(409);
  expect((body as { refused: string }).refused).toContain('M. Ostrander changed it meanwhile');
  await put('shifts', { fromDay: '2026-06-08', shifts: [shift] }).expect(200);
});

it('a day that was not worked after all is no working day of the log, and days from it on are summed up anew', async () => {
  works.later(3 * 24);
  const days = works.app.get(StationDaysService);
  const past = await days.pastDays(works.time.nowMs, 3);
  expect(past).toEqual(['2026-06-01', '2026-06-02', '2026-06-03']);
  await days.loads(past);
  const kept = async () =>
    (
      await works.app
        .get(DataSource)
        .query<{ day: string }[]>('SELECT DISTINCT day::text FROM station_day ORDER BY 1')
    ).map(({ day }) => day);
  expect(await kept()).toEqual(past);
  await put('closed', { fromDay: '2026-06-03', toDay: '2026-06-03', closed: true }).expect(200);
  expect(await kept()).toEqual(['2026-06-01', '2026-06-02']);
  expect(await days.pastDays(works.time.nowMs, 2)).toEqual(['2026-06-01', '2026-06-02']);
});

it.each([
  [
    'a break outside its shift',
    'shifts',
    {
      fromDay: '2026-06-08',
      shifts: [
        {
          name: 'A',
          start: '06:00',
          end: '14:00',
          weekdays: [1],
          breaks: [{ start: '15:00', end: '15:30' }],
        },
      ],
    },
    409,
    'is not within shift A',
  ],
  [
    'no shift ever again',
    'shifts',
    { fromDay: '2026-06-08', shifts: [] },
    409,
    'nobody would work for a year',
  ],
  [
    'a time that is none',
    'overtime',
    { date: '2026-06-09', start: '25:00', end: '26:00', worked: true },
    400,
    'time of day',
  ],
  [
    'a station that is none',
    'overtime',
    { date: '2026-06-09', start: '16:00', end: '18:00', stations: ['attic'], worked: true },
    409,
    "no station 'attic'",
  ],
  [
    'days that do not rise',
    'closed',
    { fromDay: '2026-06-09', toDay: '2026-06-08', closed: true },
    400,
    'is before',
  ],
  [
    'long ago',
    'closed',
    { fromDay: '2026-03-01', toDay: '2026-03-01', closed: true },
    409,
    'more than 60 days ago',
  ],
  [
    'a day that is none',
    'closed',
    { fromDay: '2026-02-30', toDay: '2026-03-01', closed: true },
    400,
    'must be a day',
  ],
] as const)('%s is refused, and nothing is changed', async (_, part, body, status, words) => {
  const before = await calendar();
  const answer = await put(part, body).expect(status);
  expect(JSON.stringify(answer.body)).toContain(words);
  expect(await calendar()).toEqual(before);
});
