import { factoryDate, LEAD_PARTS, operationOf, startOfFactoryDay, type Route } from '@ample-crane/core';
import { FACTORY } from '../demo/tarrow-works.ts';
import { Works } from '../testing/works.ts';
import type { ConstraintView } from './constraint.service.ts';
import type { CumulativeView, LeadTimesView, LeadTimeView } from './lead-times.service.ts';
import type { LogWholeView } from './log-whole.service.ts';
import type { RosterView } from './roster.service.ts';
import type { SkillsView } from './skills.service.ts';
import type { WorkView } from './work-log.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const get = async <T>(path: string): Promise<T> =>
  (await works.http.get(`/api/flow/${path}`).expect(200)).body as T;

describe('a house in which hardly anything was logged', () => {
  it('names no constraint, has no lead times, and says so without an error', async () => {
    const pace = await get<ConstraintView>('constraint?days=10');
    expect(pace).toMatchObject({ verdict: { code: null, sureness: 0 }, hourWorth: null, sinceMs: null });
    const times = await get<LeadTimesView>('lead-times?days=10');
    expect(times).toMatchObject({ cycle: null, lines: [], models: [] });
    expect((await get<LogWholeView>('log-whole')).forgotten).toEqual([]);
    expect((await get<SkillsView>('skills')).cover).toEqual([]);
  });

  it('refuses a window that is none, and an instrument that is none', async () => {
    for (const days of ['0', '61', 'x', '1.5'])
      await works.http.get(`/api/flow/constraint?days=${days}`).expect(400);
    await works.http.get('/api/flow/lead-times/I-99999/1').expect(404);
    await works.http.get('/api/flow/lead-times/I-1/one').expect(400);
  });
});

describe('the lead time that is wanted', () => {
  const put = (days: unknown, more: object = {}) =>
    works.http.put('/api/setup/lead-time').send({ by: 'brandt', key: works.key(), days, ...more });
  const wanted = async () => (await get<CumulativeView>('cumulative?days=10')).wantedDays;

  it('is set and taken back, and kept with who did; what is no time is refused and changes nothing', async () => {
    await put(38.5).expect(200);
    expect(await wanted()).toBe(38.5);
    for (const days of [0, -3, 731, 'long', undefined]) await put(days).expect(400);
    await put(40, { by: 'nobody' }).expect(409);
    expect(await wanted()).toBe(38.5);
    const { body: changes } = (await works.http.get('/api/setup/changes').expect(200)) as {
      body: { id: string; setting: string; by: string; before: object; after: object }[];
    };
    expect(changes[0]).toMatchObject({ setting: 'lead time', by: 'brandt', after: { days: 38.5 } });
    await put(50, { by: 'venn', lastChange: Number(changes[0]?.id) - 1 }).expect(409);
    await put(null).expect(200);
    expect(await wanted()).toBeNull();
  });
});

describe('what was logged', () => {
  it('tells of each stay what it was, by hand: rested, waited, in hand over a night', async () => {
    const rack = await works.openRack('B', 2, 'Halyard');
    works.later(2);
    await works.said(`${rack} end because dry by the other meter`);
    works.later(3);
    await works.said(`${rack} body mill start`);
    works.later(24);
    const view = await get<LeadTimeView>(`lead-times/${rack}/1`);
    expect(view.stretches.map(({ operationName, stage }) => [operationName, stage])).toEqual([
      ['Rest & read', 'wood'],
      ['Body mill', 'machining'],
      ['Body mill', 'machining'],
    ]);
    const hours = view.stretches.map(({ parts }) =>
      LEAD_PARTS.map((part) => Math.round(parts[part] * 240) / 10),
    );
    const [rested = [], waited = [], milled = []] = hours;
    // queue, touch, hold, partner, send-back, closed.
    expect(rested).toEqual([0, 0, 2, 0, 0, 0]);
    expect(waited[0]).toBeGreaterThan(2);
    expect((waited[0] ?? 0) + (waited[5] ?? 0)).toBeCloseTo(3, 1);
    // A whole day: the shift’s hours in hand, the rest closed.
    const shift = (await get<SkillsView>('skills')).shiftHours;
    expect(milled[1]).toBeCloseTo(shift, 1);
    expect(milled[5]).toBeCloseTo(24 - shift, 1);
    expect(view.days * 24).toBeCloseTo(29, 6);
  });

  it('offers the mill its work, the skill that needs it too, and finds the rack that has not moved since', async () => {
    const rack = await works.openRack('B', 8, 'Halyard');
    await works.said(`${rack} end because dry by the other meter`);
    const before = await get<ConstraintView>('constraint?days=10');
    works.later(12 * 24);
    const pace = await get<ConstraintView>('constraint?days=10');
    const of = ({ rows }: ConstraintView) =>
      rows.find(({ by, code }) => by === 'station' && code === 'body-mill');
    expect(of(before)?.hoursOfferedADay).toBeGreaterThan(0);
    expect(of(pace)?.oldestDays).toBeGreaterThan(7);
    expect(of(pace)?.queue.at(-1)).toBeGreaterThan(0);
    const { forgotten } = await get<LogWholeView>('log-whole?days=10');
    expect(forgotten.find(({ batch }) => batch === rack)).toMatchObject({
      ...{ operationName: 'Body mill', status: 'waiting', pieces: 8 },
    });
    const { cover } = await get<SkillsView>('skills?days=20');
    expect(cover.map(({ skill }) => skill)).toContain('cnc');
  });
});

describe('what work takes', () => {
  /** Eight in the morning of a day that is worked: two hours of it lie before the first break. */
  const toMorning = (): void => {
    const day = factoryDate(FACTORY.calendar, Date.parse(works.dueAt));
    works.time.nowMs = startOfFactoryDay(FACTORY.calendar, day) + 8 * 3_600_000;
  };

  it('is told beside the route, by hand: loads of 70 and 90 minutes; what was scrapped was no good first pass', async () => {
    for (const [minutes, scrap] of [
      [70, []],
      [90, [2]],
    ] as const) {
      toMorning();
      const rack = await works.openRack('B', 2, 'Halyard');
      await works.said(`${rack} end because dry by the other meter`);
      await works.said(`${rack} body mill start`);
      const { body } = await works.http.get(`/api/batches/${rack}`);
      const { route } = body as { route: Route };
      const mill = operationOf(route, 'mill');
      works.later(((mill.mode === 'load' ? mill.setUpMinutes : NaN) + minutes) / 60);
      const load = (await works.measureLoads()).find(({ parts }) =>
        parts.some(({ batch }) => batch === rack),
      );
      const ended = {
        key: works.key(),
        by: 'dorrit',
        scrap: scrap.map((piece) => ({ batch: rack, pieces: [piece], reason: 'tear-out' })),
      };
      await works.http
        .post(`/api/loads/${load?.code ?? ''}/end`)
        .send(ended)
        .expect(200);
    }
    const { operations, used, yields } = await get<WorkView>('work?days=60');
    const at = operations.find(
      ({ model, kind, operation }) => `${model} ${kind} ${operation}` === 'Halyard B mill',
    );
    expect(at?.time).toMatchObject({ samples: 2, per: 'load', flashes: false, routeMinutes: 150 });
    expect([at?.time?.low, at?.time?.median, at?.time?.high].map((one) => Math.round(one ?? 0))).toEqual([
      75, 80, 85,
    ]);
    // One of the first rack, since a piece of the tests before still lies on the table; two of the second, one of them scrapped.
    expect(at?.first).toEqual({ pieces: 3, good: 2, sentBack: 0, scrapped: 1 });
    expect(yields.find(({ model, kind }) => model === 'Halyard' && kind === 'B')).toMatchObject({
      ...{ rolledPct: expect.closeTo(200 / 3, 6) as number, worst: 'Body mill' },
    });
    // Both loads, with their set-ups; the racks of the other tests lie in hand besides.
    const mill = used.find(({ code }) => code === 'body-mill');
    expect(mill?.hoursBusy).toBeGreaterThan((70 + 90) / 60);
    expect(mill?.setUpHours).toBeGreaterThan(0);
  });
});

describe('who can do what, and who is away', () => {
  const put = (path: string, body: object) =>
    works.http.put(path).send({ key: works.key(), by: 'ostrander', ...body });
  const cover = async (skill: string) =>
    (await get<SkillsView>('skills?days=20')).cover.find((one) => one.skill === skill);

  it('is changed with who did, and counts at once: one more who can, and one who is away', async () => {
    const before = await cover('cnc');
    await put('/api/setup/people/brandt/skill', { skill: 'cnc', degree: 'can' }).expect(200);
    // Told twice is told once.
    await put('/api/setup/people/brandt/skill', { skill: 'cnc', degree: 'can' }).expect(200);
    const after = await cover('cnc');
    expect(after?.people).toEqual([...(before?.people ?? []), 'brandt'].toSorted(byName(await people())));
    expect(after?.hoursThere).toBeGreaterThan(before?.hoursThere ?? Infinity);
    const today = new Date(works.time.nowMs).toISOString().slice(0, 10);
    const later = new Date(works.time.nowMs + 3 * 24 * 3_600_000).toISOString().slice(0, 10);
    const told = await put('/api/setup/people/brandt/absences', {
      fromDay: today,
      toDay: later,
      away: true,
    }).expect(200);
    expect(told.body).toHaveLength(4);
    // Overlapping absences are one.
    await put('/api/setup/people/brandt/absences', { fromDay: later, toDay: later, away: true }).expect(200);
    const { away, people: shown } = await get<SkillsView>('skills?days=20');
    expect(away.filter(({ person }) => person === 'brandt')).toHaveLength(4);
    expect(shown.find(({ code }) => code === 'brandt')?.isAway).toBe(true);
    const { body: floor } = await works.http.get('/api/floor');
    const all = (floor as { peopleIn: number; peopleAll: number }).peopleAll;
    expect((floor as { peopleIn: number }).peopleIn).toBe(all - 1);
    await put('/api/setup/people/brandt/absences', { fromDay: today, toDay: today, away: false }).expect(200);
    expect((await get<SkillsView>('skills')).away.filter(({ person }) => person === 'brandt')).toHaveLength(
      3,
    );
    const { body: changes } = await works.http.get('/api/setup/changes');
    expect(
      (changes as { setting: string; name: string }[])
        .slice(0, 3)
        .map(({ setting, name }) => [setting, name]),
    ).toEqual([
      ['absence', 'brandt'],
      ['absence', 'brandt'],
      ['skills', 'brandt'],
    ]);
  });

  it('has degrees: who learns cannot yet, who teaches can; how long it takes tells whom to train first', async () => {
    const degree = (skill: string, one: string) =>
      put('/api/setup/people/hask/skill', { skill, degree: one }).expect(200);
    const before = await cover('cnc');
    expect((await degree('cnc', 'learning')).body).toMatchObject({ skills: ['wood'], learning: ['cnc'] });
    expect(await cover('cnc')).toEqual(before);
    expect((await degree('cnc', 'teaches')).body).toMatchObject({ learning: [], teaches: ['cnc'] });
    expect((await cover('cnc'))?.people).toContain('hask');
    await degree('cnc', 'none');
    expect(await cover('cnc')).toEqual(before);

    // All but one who can cut are taken off it: it stops without them. Ten days, half of them behind whoever learns it already.
    const able = before?.people ?? [];
    for (const code of able.slice(1))
      await put(`/api/setup/people/${code}/skill`, { skill: 'cnc', degree: 'none' }).expect(200);
    await degree('cnc', 'learning');
    await put('/api/setup/skills', { skill: 'cnc', trainingDays: 10 }).expect(200);
    const { trainings, training } = await get<SkillsView>('skills?days=20');
    expect(training.find(({ skill }) => skill === 'cnc')).toEqual({ skill: 'cnc', days: 10, isUsual: false });
    expect(trainings.find(({ skill }) => skill === 'cnc')).toMatchObject({
      ...{ person: 'hask', isLearning: true, trainingDays: 5, piecesADay: null },
    });
    for (const code of able.slice(1))
      await put(`/api/setup/people/${code}/skill`, { skill: 'cnc', degree: 'can' }).expect(200);
  });

  it('the roster has for the mill who can cut, as long as they are in; what nobody can is said', async () => {
    const mill = async () => {
      const roster = await get<RosterView>('roster');
      return {
        roster,
        work: roster.work.find(({ station, skill }) => station === 'body-mill' && skill === 'cnc'),
      };
    };
    const { roster, work } = await mill();
    expect(work?.people.map(({ code }) => code)).toHaveLength(1);
    // One table at a time: what one person has of the day, in quarters; of the rest is said that it waits.
    const given = work?.people.reduce((sum, { hours }) => sum + hours, 0) ?? 0;
    expect(given).toBe(Math.floor(roster.hours * 4) / 4);
    expect(work?.leftHours).toBeCloseTo((work?.wantedHours ?? 0) - given, 6);
    expect(roster.empty.map(({ station }) => station)).not.toContain('body-mill');

    const today = new Date(works.time.nowMs).toISOString().slice(0, 10);
    const able = (await cover('cnc'))?.people ?? [];
    for (const code of able)
      await put(`/api/setup/people/${code}/absences`, { fromDay: today, toDay: today, away: true });
    const without = await mill();
    expect(without.work?.people).toEqual([]);
    expect(without.roster.empty).toContainEqual({
      ...{ station: 'body-mill', stationName: 'Body mill', hours: given },
    });
    expect(without.roster.people.filter(({ isAway }) => isAway).map(({ code }) => code)).toEqual(
      expect.arrayContaining(able),
    );
    for (const day of ['2026-02-30', '2020-01-01', '2099-01-01'])
      await works.http.get(`/api/flow/roster?day=${day}`).expect(400);
  });

  it('refuses days that are none, a year too long, a skill that is no word, and somebody who is not here', async () => {
    const day = (fromDay: string, toDay: string) =>
      put('/api/setup/people/brandt/absences', { fromDay, toDay, away: true });
    for (const none of ['2027-02-30', '2026-W53-1', '2026-12-1', '1026-12-01', ''])
      await day(none, '2027-03-01').expect(400);
    await day('2027-03-02', '2027-03-01').expect(400);
    await day('2027-03-02', '2029-03-01').expect(400);
    const burst = { skill: 'burst', degree: 'can' };
    await put('/api/setup/people/brandt/skill', { ...burst, skill: 'Burst!' }).expect(400);
    await put('/api/setup/people/brandt/skill', { ...burst, degree: 'a bit' }).expect(400);
    await put('/api/setup/people/nobody/skill', burst).expect(404);
    await put('/api/setup/people/brandt/skill', { ...burst, by: 'nobody' }).expect(409);
    for (const trainingDays of [0, 2.5, 1001, '20'])
      await put('/api/setup/skills', { skill: 'burst', trainingDays }).expect(400);
  });
});

interface Named {
  code: string;
  name: string;
}
const people = async (): Promise<Named[]> =>
  ((await works.http.get('/api/setup')).body as { people: Named[] }).people;
/** In the order in which the house names its people. */
const byName = (all: readonly Named[]) => (a: string, b: string) =>
  all.findIndex(({ code }) => code === a) - all.findIndex(({ code }) => code === b);
