import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { HOUR_MS, RECIPE_SCHEMA, SHIPPED_RECIPES, type FinishView } from '@ample-crane/core';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { Works } from '../testing/works.ts';
import { ClimateService } from '../wood/climate.service.ts';
import type { BoothPageView } from './booths.service.ts';
import { FinishCallsService } from './finish-calls.service.ts';

let works: Works;
beforeAll(async () => {
  process.env.MACHINES = 'off';
  works = await Works.open();
});
afterAll(() => works.close());

interface Answer<T> {
  status: number;
  body: T & { refused?: string; code?: string; message?: string; sentence?: string };
}
interface Rack {
  batch: string;
  recipe: string | null;
  views: FinishView[];
}
interface Materials {
  materials: {
    material: string;
    supply: { litres: number; days: number | null };
    lots: { code: string; leftLitres: number; openedMs: number | null }[];
  }[];
  mixes: { code: string; leftLitres: number; endsMs: number }[];
}

const get = async <T>(path: string): Promise<T> => ((await works.http.get(path)) as Answer<T>).body;
const post = async <T>(path: string, body: object): Promise<Answer<T>> =>
  await works.http.post(path).send({ key: works.key(), by: 'lund', ...body });
const rackOf = async (code: string): Promise<Rack> =>
  (await get<{ rack: Rack }>(`/api/finish/racks/${code}`)).rack;
const refused = async (line: string): Promise<string> =>
  ((await works.line(line)).body as { refused: string }).refused;
const coat = (code: string, extra: object = {}) => works.file(code, { type: 'coat', ...extra });
const air = async (hours: number, temperatureC = 21): Promise<void> => {
  for (const room of ['Booth 1', 'Booth 2', 'Booth 3', 'Cure room'])
    await works.air(room, temperatureC, hours);
};

/** A rack of Halyard bodies that waits at Prep & seal: night blue acrylic by its usual recipe. */
async function atPrep(quantity = 6): Promise<string> {
  const code = await works.openRack('B', quantity, 'Halyard');
  works.later(1);
  await works.said(`${code} end because dry by the other meter`);
  await works.mill(code);
  works.later(49);
  for (const line of ['end', 'neck fit start']) await works.said(`${code} ${line}`);
  await works.measure(code);
  await works.said(`${code} done`);
  return code;
}

/** The same, sealed, coloured and in hand at Clear coats. */
async function atClear(quantity = 6): Promise<string> {
  const code = await atPrep(quantity);
  for (const line of ['prep start', 'coat wet 95', 'done']) await works.said(`${code} ${line}`);
  works.later(6);
  await air(6);
  await works.said(`${code} end`);
  await works.said(`${code} colour start by tamsin`);
  await works.said(`${code} coat by tamsin`);
  works.later(2);
  await works.said(`${code} coat by tamsin`);
  await works.said(`${code} done`);
  await works.said(`${code} clear start`);
  works.later(3);
  await air(11);
  return code;
}

describe('a coat', () => {
  it('takes booth, room, lot and litres from what the floor knows, and stands on the ladder', async () => {
    await post('/api/finish/materials/lots', { code: 'SL-1', material: 'sealer', litres: 20 });
    await post('/api/finish/materials/lots/SL-1', { to: 'open' });
    const code = await atPrep();
    await air(3);
    await works.said(`${code} prep start`);
    expect((await coat(code, { wetUm: 95, number: 1 })).status).toBe(200);
    const [view] = (await rackOf(code)).views;
    expect(view?.rungs).toMatchObject([{ name: 'Sealer', booth: 'booth-1', lot: 'SL-1', filmUm: 20.9 }]);
    // 6 bodies of 0.48 m² under 95 µm, 55 % of it landing: 0.497 l.
    const sealer = (await get<Materials>('/api/finish/materials')).materials.find(
      (m) => m.material === 'sealer',
    );
    expect(sealer?.lots[0]?.leftLitres).toBeCloseTo(20 - (6 * 0.48 * 95) / 1000 / 0.55, 4);
    await works.said(`${code} undo`);
    const again = (await get<Materials>('/api/finish/materials')).materials.find(
      (m) => m.material === 'sealer',
    );
    expect(again?.lots[0]?.leftLitres).toBe(20);
  });

  it('logged twice from two tablets is one coat', async () => {
    const code = await atPrep();
    await works.said(`${code} prep start`);
    const [one, other] = await Promise.all([coat(code, { number: 1 }), coat(code, { number: 1 })]);
    expect([one.status, other.status].sort()).toEqual([200, 409]);
    const answers = [one, other].map(({ body }) => (body as { refused?: string }).refused).filter(Boolean);
    expect(answers[0]).toBe(`coat 1 is on ${code}/01 already: coat 2 is next at Prep & seal`);
    expect((await rackOf(code)).views[0]?.rungs).toHaveLength(1);
  });

  it('too early wants a reason, which stays; one more than the recipe asks for too', async () => {
    const code = await atClear();
    expect((await coat(code, { number: 1 })).status).toBe(200);
    works.later(0.25);
    await air(1);
    const early = (await coat(code, { number: 2 })) as Answer<object>;
    expect(early.body.refused).toMatch(/may be recoated in .* at 21 °C, not yet/);
    expect((await coat(code, { number: 2, because: 'tack coat' })).status).toBe(200);
    for (const number of [3, 4]) {
      works.later(4);
      await air(5);
      expect((await coat(code, { number })).status).toBe(200);
    }
    works.later(4);
    await air(5);
    expect(((await coat(code)) as Answer<object>).body.refused).toBe(
      '4 coats of Acrylic lacquer, night blue are on at Clear coats: another one wants a reason',
    );
    expect((await coat(code, { because: 'dry spray at the edge' })).status).toBe(200);
    const page = await get<{ rack: Rack; state: { overrides: { reason: string }[] } }>(
      `/api/finish/racks/${code}`,
    );
    expect(page.rack.views[0]?.rungs.at(-1)?.extra).toBe('dry spray at the edge');
    expect(page.state.overrides.map(({ reason }) => reason)).toContain('tack coat');
  });

  it('in damp air would blush: it is refused with the numbers, and goes on for a reason', async () => {
    const code = await atPrep();
    await works.said(`${code} prep start`);
    const damp = { room: 'Booth 1', temperatureC: 22.4, relativeHumidityPct: 76, surfaceC: 19.6 };
    await works.app
      .get(ClimateService)
      .keep([0, 10, 20].map((minutes) => ({ ...damp, atMs: works.time.nowMs - minutes * 60_000 })));
    const outcome = (await coat(code)) as Answer<object>;
    expect(outcome.body.refused).toMatch(
      /^Booth 1 would blush it: the work is 1\.\d °C above the dew point, 3 °C above it wanted; 7\d % RH, at most 70$/,
    );
    expect(await works.said(`${code} coat because retarder in it`)).toMatch(/a coat on 6 \(retarder in it\)/);
    works.later(3);
    await air(2);
  });

  it('wants a booth, a lot and a person that are there, and a material that fits', async () => {
    const code = await atPrep();
    await works.said(`${code} prep start`);
    expect(await refused(`${code} coat booth 9`)).toBe("there is no booth 'booth-9'");
    expect(await refused(`${code} coat lot XX-1`)).toBe("there is no lot or mix 'XX-1'");
    await post('/api/finish/materials/lots', { code: 'TL-1', material: 'thin lacquer', litres: 5 });
    expect(await refused(`${code} coat lot TL-1`)).toBe('TL-1 is thin lacquer: Sealer takes sealer');
    expect(await refused(`${code} coat by nobody`)).toBe("nobody here is called 'nobody'");
    expect(((await coat(code, { wetUm: -5 })) as Answer<object>).body.refused).toMatch(/-5 µm cannot be/);
    expect((await coat(code, { wetUms: [90, 'thick'] })).status).toBe(400);
  });
});

describe('colour', () => {
  it('takes somebody able to do it, and says who is', async () => {
    const code = await atPrep(3);
    for (const line of ['prep start', 'coat', 'done']) await works.said(`${code} ${line}`);
    works.later(6);
    await air(7);
    await works.said(`${code} end`);
    expect(await refused(`${code} colour start`)).toBe(
      'say who does it: Colour takes somebody able to burst: E. Lundy (lund), V. Tamsel (tamsin)',
    );
    expect(await refused(`${code} colour start by greave`)).toMatch(/^O\. Greave is not able to burst/);
    expect(await works.said(`${code} colour start by tamsin`)).toMatch(/3 started by tamsin/);
    const lab = { l: 22, a: 4, b: -31 };
    expect(
      (await works.file(code, { type: 'colour', pieces: [1, 2], labs: [lab, { ...lab, b: -28 }] })).status,
    ).toBe(200);
    expect(
      (await works.file(code, { type: 'colour', pieces: [1], labs: [{ l: 140, a: 0, b: 0 }] })).status,
    ).toBe(400);
  });
});

describe('what is mixed', () => {
  it('is noted first, is drawn from its lot, and is spoken against past its pot life', async () => {
    const code = await atPrep(2);
    expect(
      (await post(`/api/finish/racks/${code}/recipe`, { recipe: 'catalysed-satin', reason: 'for the show' }))
        .status,
    ).toBe(200);
    for (const line of ['prep start', 'coat', 'done']) await works.said(`${code} ${line}`);
    works.later(6);
    await air(7);
    for (const line of ['end', 'colour start by lund', 'done', 'clear start'])
      await works.said(`${code} ${line}`);
    expect(await refused(`${code} coat`)).toBe(
      'no mix of catalysed satin is open: note what was mixed first',
    );
    await post('/api/finish/materials/lots', { code: 'CS-1', material: 'catalysed satin', litres: 10 });
    await post('/api/finish/materials/lots/CS-1', { to: 'open' });
    const key = works.key();
    await post('/api/finish/materials/mixes', { key, material: 'catalysed satin', litres: 2.2 });
    const mixed = await post<Materials>('/api/finish/materials/mixes', {
      key,
      material: 'catalysed satin',
      litres: 2.2,
    });
    expect(mixed.body.mixes).toHaveLength(1);
    expect(mixed.body.mixes[0]).toMatchObject({ leftLitres: expect.closeTo(2.2, 4) as number });
    const satin = mixed.body.materials.find(({ material }) => material === 'catalysed satin');
    // Ten parts of the base in thirteen.
    expect(satin?.lots[0]?.leftLitres).toBeCloseTo(10 - (2.2 * 10) / 13, 4);
    expect((await coat(code)).status).toBe(200);
    expect((await rackOf(code)).views[0]?.rungs.at(-1)?.lot).toBe(mixed.body.mixes[0]?.code);
    works.later(5.5);
    await air(6);
    expect((await works.app.get(FinishCallsService).calls()).map(({ kind }) => kind)).toContain('material');
    works.later(1);
    await air(2);
    expect(await refused(`${code} coat`)).toMatch(/past its pot life of 6 h/);
    expect((await post('/api/finish/materials/mixes', { material: 'sealer', litres: 1 })).body.refused).toBe(
      'sealer is used as it comes, not mixed',
    );
  });
});

describe('the end of a cure', () => {
  it('keeps its evidence; a panel that cannot tell, or of another rack, is not believed', async () => {
    const other = await atPrep(1);
    const code = await atClear();
    for (const number of [1, 2, 3, 4]) {
      if (number > 1) {
        works.later(3);
        await air(4);
      }
      expect((await coat(code, { number })).status).toBe(200);
    }
    await works.said(`${code} done`);
    const sprayed = await post<{ code: string; notEnough: string | null }>('/api/finish/panels', {
      batch: code,
      step: 'clear',
      grams: 190,
    });
    const panel = sprayed.body.code;
    expect(sprayed.body.notEnough).toBe('1 of at least 4 weighings');
    expect(await refused(`${code} end panel ${panel}`)).toBe(
      `test panel ${panel} cannot tell yet: 1 of at least 4 weighings`,
    );
    // A time constant of 15 h: cured after 59 h, long before the clock.
    let elapsed = 0;
    for (const hours of [6, 14, 26, 45]) {
      works.later(hours - elapsed);
      elapsed = hours;
      const grams = 184 + 6 * Math.exp(-hours / 15);
      expect((await post(`/api/finish/panels/${panel}/weighings`, { grams })).status).toBe(200);
    }
    await air(60);
    works.later(0.5);
    expect((await post(`/api/finish/panels/${panel}/weighings`, { grams: 199 })).body.refused).toMatch(
      /199 g is more than .* solvent leaves, it does not come/,
    );
    works.later(20);
    await air(21);
    expect(await refused(`${code} end`)).toMatch(/^Wait to buff: \d+ of \d+ reference hours/);
    expect(await refused(`${other} end panel ${panel}`)).toMatch(new RegExp(`was sprayed with ${code}`));
    expect(await refused(`${code} end panel ${panel}`)).toMatch(/is cured, but the clock is later and holds/);
    expect(await works.said(`${code} end panel ${panel} because panels were right all year`)).toMatch(
      `hold of 6 ended, rule passed by (panels were right all year) on ${panel}`,
    );
    const { state } = await get<{ state: { freed: { on: string; words: string }[] } }>(
      `/api/finish/racks/${code}`,
    );
    expect(state.freed.at(-1)).toMatchObject({
      on: 'panel',
      words: expect.stringMatching(/lost 9\d\.\d % of its solvent/) as string,
    });
    const { offers } = await get<{
      offers: { recipe: string; offered: { hours: number; panels: number } }[];
    }>('/api/finish/panels');
    expect(offers).toMatchObject([{ recipe: 'acrylic-gloss', offered: { panels: 1 } }]);
  });

  it('counts anew when readings come late, bridges the gap until then, and says both', async () => {
    const code = await atPrep(1);
    for (const line of ['prep start', 'coat', 'done']) await works.said(`${code} ${line}`);
    works.later(2);
    const before = works.time.nowMs;
    works.later(1.9);
    const view = async () => (await rackOf(code)).views[0];
    const bridged = await view();
    const climate = works.app.get(ClimateService);
    const reading = (atMs: number) => ({
      room: 'Cure room',
      atMs,
      temperatureC: 30,
      relativeHumidityPct: 45,
    });
    // What the sensor kept while it was cut off comes in: it was nine degrees warmer.
    await climate.keep(Array.from({ length: 12 }, (_, i) => reading(before - HOUR_MS + i * 15 * 60_000)));
    const anew = await view();
    expect(anew?.recomputed).toMatch(
      /^Readings of Cure room, .* came late at .*: computed anew, \d+\.\d reference hours more\.$/,
    );
    expect(anew?.rungs[0]?.gathered).toBeGreaterThan(bridged?.rungs[0]?.gathered ?? Infinity);
  });
});

describe('pieces that go back', () => {
  it('cost what both choices cost; the rack waits for them, and all of it can be taken back', async () => {
    const code = await atClear();
    const page = await works.http.get(`/api/finish/racks/${code}/send-back?from=clear&to=colour&pieces=2,3`);
    expect(page.body).toMatchObject({ rest: 4, goesOn: { setUpMinutes: expect.any(Number) as number } });
    const { waits, goesOn } = page.body as { waits: { rackEndMs: number }; goesOn: { rackEndMs: number } };
    expect(goesOn.rackEndMs).toBeLessThan(waits.rackEndMs);
    expect(
      (await works.http.get(`/api/finish/racks/${code}/send-back?from=colour&to=colour&pieces=2`)).status,
    ).toBe(400);
    const slip = {
      type: 'rework',
      pieces: [2, 3],
      reason: 'scrape slip',
      cause: 'dull blade',
      rest: 'waits',
    };
    expect((await works.file(code, slip)).status).toBe(200);
    const state = async () =>
      (
        await get<{ state: { pieces: { called: { reason: string } | null }[]; slips?: object[] } }>(
          `/api/finish/racks/${code}`,
        )
      ).state;
    expect((await state()).pieces.filter(({ called }) => called).length).toBe(4);
    expect((await state()).slips).toMatchObject([{ cause: 'dull blade', to: 'colour' }]);
    await works.said(`${code} undo`);
    expect((await state()).pieces.filter(({ called }) => called).length).toBe(0);
    expect((await state()).slips ?? []).toEqual([]);
  });
});

describe('recipes', () => {
  const gloss = SHIPPED_RECIPES.find(({ name }) => name === 'acrylic-gloss');
  if (!gloss) throw new Error('no recipe');
  const { id: _id, revision: _revision, ...rest } = gloss;
  const file = { format: 'ample-crane-recipe-1', ...rest };
  const revise = (recipe: object, from: number, note = 'thicker') =>
    post<{ id: string }>('/api/finish/recipes', { recipe, note, from });

  it('get revisions: racks under way keep theirs until they are moved with a reason', async () => {
    const before = await atPrep(1);
    expect((await revise({ ...file, targetUm: 90 }, 1)).body.id).toBe('acrylic-gloss-2');
    expect((await revise({ ...file, targetUm: 95 }, 1)).body.refused).toBe(
      'revision 2 was made meanwhile: compare with it first',
    );
    const after = await atPrep(1);
    expect((await rackOf(before)).recipe).toBe('acrylic-gloss-1');
    expect((await rackOf(after)).recipe).toBe('acrylic-gloss-2');
    const path = `/api/finish/racks/${before}/recipe`;
    expect((await post(path, { recipe: 'acrylic-gloss', reason: 'as the newer ones' })).status).toBe(200);
    expect((await rackOf(before)).recipe).toBe('acrylic-gloss-2');
    expect((await post(path, { recipe: 'thin-lacquer-aged', reason: 'x' })).body.refused).toMatch(
      /^Thin lacquer, artificially aged does not fit .*: .* has no operation 'fill'/,
    );
    expect((await post(path, { recipe: 'gold-leaf', reason: 'x' })).body.refused).toBe(
      "there is no recipe 'gold-leaf'",
    );
  });

  it('are chosen when a rack is opened, where they fit its route', async () => {
    const { dueAt } = works;
    const rack = { kind: 'B', model: 'Halyard', quantity: 2, dueAt };
    const made = await post<{ entries: { batch: string }[] }>('/api/batches', {
      ...rack,
      recipe: 'metallic',
    });
    expect((await rackOf(made.body.entries[0]?.batch ?? '')).recipe).toBe('metallic-1');
    expect((await post('/api/batches', { ...rack, recipe: 'oil' })).body.refused).toMatch(
      /^Oil does not fit Halyard B/,
    );
    expect((await post('/api/batches', { ...rack, recipe: 'gold' })).body.refused).toBe(
      "there is no recipe 'gold'",
    );
  });

  it('have a published schema, which is the one that is used', () => {
    const published = readFileSync(join(__dirname, '../../../docs/formats/recipe.schema.json'), 'utf8');
    expect(JSON.parse(published)).toEqual(RECIPE_SCHEMA);
  });

  it('that cannot be are refused with what is wrong', async () => {
    const spoilt = (change: (step: Record<string, unknown>) => object) => ({
      ...file,
      steps: file.steps.map((step) => (step.key === 'clear' ? change(step as never) : step)),
    });
    const spec = (gloss.steps.find(({ key }) => key === 'clear') as { spec: object }).spec;
    const solids = await revise(
      spoilt((step) => ({ ...step, spec: { ...spec, solidsPct: 120 } })),
      2,
    );
    expect(solids.body.message).toMatch(/^it is no recipe file: \/steps\/\d\/spec\/solidsPct must be <= 100/);
    const film = await revise(
      spoilt((step) => ({ ...step, spec: { ...spec, wetUm: -3 } })),
      2,
    );
    expect(film.status).toBe(400);
    const thin = await revise(
      spoilt((step) => ({ ...step, coats: 1 })),
      2,
    );
    expect(thin.body.refused).toMatch(/thinner than its minimum of 60 µm/);
    expect((await revise({ ...file, steps: [...file.steps].reverse() }, 2)).body.refused).toMatch(
      /nothing is on yet/,
    );
    expect((await revise({ hello: 'there' }, 0)).body.message).toMatch(/^it is no recipe file/);
    expect((await revise(file, 2, ' ')).body.refused).toBe('say what changed: a revision needs a note');
    const out = await get<object>('/api/finish/recipes/acrylic-gloss-1/file');
    expect(out).toEqual(file);
  });
});

describe('booths and materials', () => {
  it('count filters by the spraying, and begin again when they are changed', async () => {
    const code = await atPrep(6);
    await air(3);
    await works.said(`${code} prep start`);
    const hours = async (): Promise<number> =>
      (await get<{ booths: { code: string; filterHours: number }[] }>('/api/finish/booths')).booths.find(
        (booth) => booth.code === 'booth-1',
      )?.filterHours ?? NaN;
    const before = await hours();
    await works.said(`${code} coat`);
    // Five booth minutes a piece.
    expect((await hours()) - before).toBeCloseTo(0.5, 6);
    works.later(0.1);
    expect((await post('/api/finish/booths/booth-1/filters', {})).status).toBe(200);
    expect(await hours()).toBe(0);
    expect((await post('/api/finish/booths/booth-7/filters', {})).status).toBe(404);
  });

  it('forecast the hours to come, and say what stands against them', async () => {
    const { booths } = await get<{
      booths: { code: string; now: { judged: { verdict: string } } | null; ahead: object[] }[];
    }>('/api/finish/booths');
    expect(booths).toHaveLength(3);
    const first = booths.find(({ code }) => code === 'booth-1');
    expect(first?.now?.judged.verdict).toBe('spray');
    expect(first?.ahead).toHaveLength(30);
  });

  it('say the same of one coat on every page, and as it is filed: too long before the damp hours, part of it not', async () => {
    const code = await atClear(6);
    const damp = { room: 'Booth 3', temperatureC: 22, relativeHumidityPct: 78 };
    // Twelve minutes before a full hour; the three after it were damp on each day of two weeks.
    works.later(1 - ((works.time.nowMs + 12 * 60_000) % HOUR_MS) / HOUR_MS);
    const shutMs = works.time.nowMs + 12 * 60_000;
    const days = Array.from({ length: 14 }, (_, day) => shutMs - (day + 1) * 24 * HOUR_MS);
    await works.app.get(ClimateService).keep(
      days.flatMap((dayMs) =>
        Array.from({ length: 24 }, (_, hour) => ({
          ...damp,
          relativeHumidityPct: hour < 3 ? 78 : 50,
          atMs: dayMs + hour * HOUR_MS,
        })),
      ),
    );
    await air(2);
    const last = ({ positions }: FinishView): boolean => positions.includes(6);
    const pages = async () => {
      const [booths, list, rack, board] = await Promise.all([
        get<{ booths: BoothPageView[] }>('/api/finish/booths'),
        get<{ racks: Rack[] }>('/api/finish/racks'),
        rackOf(code),
        get<{ calls: { id: string; detail: string }[] }>('/api/board'),
      ]);
      return {
        booth: booths.booths.find((one) => one.code === 'booth-3'),
        listed: list.racks.find(({ batch }) => batch === code)?.views.find(last),
        own: rack.views.find(last),
        call: board.calls.find(({ id }) => id === 'booth:booth-3'),
      };
    };
    const { booth, listed, own, call } = await pages();
    expect(booth?.closesMs).toBe(shutMs);
    // 22 min a piece for four coats: 33 for one on six pieces; 12 are left, for two pieces.
    const ahead = booth?.racks.find(({ batch }) => batch === code);
    expect(ahead).toMatchObject({ number: 1, pieces: 6, minutes: 33, allMinutes: 132 });
    expect(listed).toMatchObject({ ready: false, fromMs: shutMs + 3 * HOUR_MS, coat: { minutes: 33 } });
    expect(listed?.detail).toMatch(
      /Its 33 min do not fit before Booth 3 closes .*; 2 of its 6 pieces would\.$/,
    );
    expect([own?.title, own?.detail]).toEqual([listed?.title, listed?.detail]);
    // A rack of two that another test left in hand is due sooner: 7.3 min a piece.
    expect(booth?.first).toMatchObject({ batch: booth?.racks[0]?.batch, pieces: 2, fit: 1 });
    expect(call?.detail).toMatch(
      `Coat 2 of ${booth?.first?.batch ?? ''} takes 15 min: 1 of its 2 pieces fit before that.`,
    );
    // Two of the six do fit: they are coated, the other four are held.
    expect((await coat(code, { pieces: [1, 2] })).status).toBe(200);
    const rest = (await pages()).booth?.racks.find(({ batch, pieces }) => batch === code && pieces === 4);
    expect(rest).toMatchObject({ number: 1, minutes: 22 });
    // In the damp hours it may not be filed either.
    works.later(0.5);
    const minutes = [0, 5, 10, 15];
    await works.app
      .get(ClimateService)
      .keep(minutes.map((ago) => ({ ...damp, atMs: works.time.nowMs - ago * 60_000 })));
    const shut = await pages();
    expect(shut.booth?.now?.judged.verdict).toBe('blush');
    expect(shut.listed?.title).toMatch(/^Hold the coat/);
    expect(((await coat(code, { pieces: [3, 4, 5, 6] })) as Answer<object>).body.refused).toMatch(
      /^Booth 3 would blush it/,
    );
  });

  it('refuse lots that cannot be', async () => {
    const lot = { code: 'OL-9', material: 'oil', litres: 5 };
    expect((await post('/api/finish/materials/lots', lot)).status).toBe(200);
    expect((await post('/api/finish/materials/lots', lot)).body.refused).toBe('there is a lot OL-9 already');
    expect(
      (await post('/api/finish/materials/lots', { ...lot, code: 'OL-10', material: 'varnish' })).body.refused,
    ).toBe("no recipe uses a material 'varnish'");
    const gone = { ...lot, code: 'OL-11', expiresAt: new Date(works.time.nowMs - 1000).toISOString() };
    expect((await post('/api/finish/materials/lots', gone)).body.refused).toMatch(/past its date already/);
    expect((await post('/api/finish/materials/lots', { ...lot, code: 'OL-12', litres: -1 })).status).toBe(
      400,
    );
    await post('/api/finish/materials/lots/OL-9', { to: 'open' });
    expect((await post('/api/finish/materials/lots/OL-9', { to: 'open' })).body.refused).toBe(
      'lot OL-9 is open already',
    );
    expect((await post('/api/finish/materials/lots/NO-1', { to: 'open' })).status).toBe(404);
  });
});

it('replays to the tables as they stand after all of this', async () => {
  const { batches, wrong } = await works.app.get(ReplayCheckService).disagreements();
  expect(batches).toBeGreaterThan(10);
  expect(wrong).toEqual([]);
});
