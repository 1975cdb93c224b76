import { FinishRack } from '../testing/finish-rack.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import {
  finishPlan,
  plannedFilm,
  recipeMisfits,
  validateRecipe,
  type CoatStep,
  type Recipe,
} from './recipe.ts';
import { recipeLength } from './recipe-length.ts';
import { SHIPPED_RECIPES } from './shipped-recipes.ts';

const shipped = (name: string): Recipe => {
  const found = SHIPPED_RECIPES.find((recipe) => recipe.name === name);
  if (!found) throw new Error(`no recipe ${name}`);
  return found;
};
const lacquer = shipped('thin-lacquer-gloss');
const withCoat = (change: Partial<CoatStep>, specChange: Partial<CoatStep['spec']> = {}): Recipe => ({
  ...lacquer,
  steps: lacquer.steps.map((step) =>
    step.kind === 'coat' && step.key === 'clear'
      ? { ...step, ...change, spec: { ...step.spec, ...specChange } }
      : step,
  ),
});
const problems = (recipe: Recipe): string[] => validateRecipe(recipe).map(({ problem }) => problem);

describe('the recipes that ship', () => {
  it('are the nine finishes, each fit to be used', () => {
    expect(SHIPPED_RECIPES.map(({ name }) => name)).toEqual([
      'thin-lacquer-gloss',
      'thin-lacquer-worn-neck',
      'acrylic-gloss',
      'catalysed-satin',
      'uv-gloss',
      'oil',
      'burst-over-sealer',
      'metallic',
      'thin-lacquer-aged',
    ]);
    for (const recipe of SHIPPED_RECIPES) expect(problems(recipe)).toEqual([]);
  });

  it('leave about the film they aim for', () => {
    for (const recipe of SHIPPED_RECIPES) {
      const { buildUm } = plannedFilm(recipe);
      expect(Math.abs(buildUm / recipe.targetUm - 1)).toBeLessThan(0.25);
    }
  });
});

describe('a recipe that cannot be', () => {
  it.each([
    [withCoat({}, { solidsPct: 120 }), 'Clear: 120 % volume solids cannot be: above 0 to 100'],
    [withCoat({}, { wetUm: -5 }), 'Clear: a wet film of -5 µm cannot be: above 0 to 1000 µm'],
    [withCoat({ coats: 0 }), 'Clear: 1 to 60 coats, not 0'],
    [
      withCoat({}, { hours: { recoat: 3, sand: 2, buff: 9 } }),
      'Clear: hours to recoat, sand and buff must rise: 3, 2, 9',
    ],
    [withCoat({}, { maxRecoatHours: 1 }), 'Clear: its recoat window closes before it opens'],
    [withCoat({ transferPct: 0 }), 'Clear: a transfer of 0 % cannot be'],
    [
      withCoat({ mix: { parts: [{ name: 'base', parts: 1 }], potLifeHours: 4 } }),
      'Clear: a mix needs two parts above 0 and a pot life',
    ],
    [{ ...lacquer, steps: [] }, 'a recipe needs at least one step'],
    [{ ...lacquer, targetUm: 50 }, 'the target of 50 µm is thinner than the minimum of 60 µm'],
    [withCoat({ coats: 1 }), 'as planned it leaves 16 µm, thinner than its minimum of 60 µm'],
    [{ ...lacquer, steps: lacquer.steps.toReversed() }, 'Cure: nothing is on yet that could cure'],
    [
      {
        ...lacquer,
        steps: [...lacquer.steps, { ...(lacquer.steps[0] ?? lacquer.steps[1]), key: 'again' } as never],
      },
      "Fill the grain: comes back to 'fill' after 'buff': steps out of order",
    ],
  ])('says why, case %#', (recipe, problem) => expect(problems(recipe)).toContain(problem));
});

describe('a recipe on a route', () => {
  const route = ['fill', 'prep', 'sealer', 'colour', 'scrape', 'clear', 'cure', 'buff'].map((key) => ({
    key,
    name: key,
    mode: key === 'sealer' || key === 'cure' ? 'hold' : 'attended',
  }));

  it('fits where every step has its operation, in order', () => {
    expect(recipeMisfits(lacquer, route)).toEqual([]);
    expect(recipeMisfits(lacquer, route.toReversed())[0]?.problem).toMatch(/steps out of order/);
  });

  it('does not where one is missing or waits for something else', () => {
    expect(recipeMisfits(shipped('thin-lacquer-aged'), route).map(({ problem }) => problem)).toEqual([
      "Cold and warm by turns: this route has no operation 'age'",
      "Knocks and wear by hand: this route has no operation 'wear'",
    ]);
    const sanded = route.map((one) => (one.key === 'cure' ? { ...one, until: 'sand' as const } : one));
    expect(recipeMisfits(lacquer, sanded)[0]?.problem).toBe('Cure: cure waits until it may sand, not buff');
  });
});

describe('each sanding has a minimum of its own (11.9)', () => {
  const sandings = finishPlan(lacquer).sandings;

  it('the sealer’s is half of what is on as planned, the last one’s that of the whole finish', () => {
    // Sealer 95 µm at 22 % is 20.9 µm.
    expect(sandings.map(({ step, leavesUm }) => [step, leavesUm])).toEqual([
      ['denib', 10.5],
      ['level', lacquer.minimumUm],
    ]);
  });

  it('or what the recipe says', () => {
    const steps = lacquer.steps.map((step) =>
      step.kind === 'sand' && step.key === 'denib' ? { ...step, leavesUm: 12 } : step,
    );
    expect(finishPlan({ ...lacquer, steps }).sandings[0]?.leavesUm).toBe(12);
    const wrong = lacquer.steps.map((step) => (step.kind === 'sand' ? { ...step, leavesUm: -1 } : step));
    expect(validateRecipe({ ...lacquer, steps: wrong })[0]?.problem).toMatch(
      /cannot leave less than nothing/,
    );
  });

  it('so that a sealed rack is not called thin by what is wanted of the whole finish', () => {
    const rack = new FinishRack(finishPlan(shipped('thin-lacquer-aged')));
    rack.must(0, { type: 'start' }, { type: 'coat' }, { type: 'done' });
    const sanding = rack.views(1)[0]?.sanding;
    expect(sanding).toMatchObject({ name: 'Sand the sealer', minimumUm: 10.5 });
    expect(sanding?.thinShare).toBeLessThan(0.05);
  });
});

describe('how long a recipe takes', () => {
  const calendar: FactoryCalendar = {
    zone: 'UTC',
    shifts: [{ name: 'A', start: '06:00', end: '14:00', weekdays: [1, 2, 3, 4, 5, 6, 7], breaks: [] }],
    closedDays: [],
    overtime: [],
  };
  const climate = (temperatureC: number) => ({ temperatureC, relativeHumidityPct: 50 });
  const days = (recipe: Recipe, temperatureC: number, pieces = 1): number =>
    recipeLength({ recipe, climate: climate(temperatureC), calendar, pieces }).days;

  it('counts a hand-worked one: 60 min of coat from 06:00, then 96 h at 21 °C whatever the film, for it reacts', () => {
    const [step] = shipped('catalysed-satin')
      .steps.filter((one): one is CoatStep => one.kind === 'coat')
      .slice(1);
    if (!step) throw new Error('no coat');
    const one: Recipe = {
      ...lacquer,
      steps: [
        {
          ...step,
          coats: 1,
          touchMinutes: 60,
          spec: { ...step.spec, wetUm: 100, solidsPct: 100 },
        },
        {
          kind: 'cure',
          key: 'done',
          name: 'Cure',
          at: 'cure',
          touchMinutes: 0,
          boothMinutes: 0,
          defects: [],
          until: 'buff',
        },
      ],
    };
    const fromSix = (temperatureC: number): number =>
      recipeLength({
        ...{ recipe: one, climate: climate(temperatureC), calendar, pieces: 1 },
        startMs: Date.UTC(2026, 0, 5, 6),
      }).days;
    expect(fromSix(21)).toBeCloseTo((1 + 96) / 24, 6);
    expect(fromSix(31)).toBeCloseTo((1 + 48) / 24, 6);
  });

  it('is weeks for long-cured lacquer, days for catalysed, and shorter two degrees warmer', () => {
    expect(days(lacquer, 21)).toBeGreaterThan(13);
    expect(days(shipped('catalysed-satin'), 21)).toBeLessThan(days(lacquer, 21) / 2);
    expect(days(shipped('uv-gloss'), 21)).toBeLessThan(days(shipped('catalysed-satin'), 21));
    expect(days(lacquer, 23)).toBeLessThan(days(lacquer, 21) - 0.5);
  });

  it('adds up touch and booth minutes, and tells the steps one after the other', () => {
    const length = recipeLength({
      recipe: lacquer,
      climate: { temperatureC: 21, relativeHumidityPct: 50 },
      calendar,
    });
    expect(length.touchMinutes).toBe(lacquer.steps.reduce((sum, step) => sum + step.touchMinutes, 0));
    expect(length.steps).toHaveLength(lacquer.steps.length);
    length.steps.forEach((span, i) => {
      expect(span.endMs).toBeGreaterThanOrEqual(span.startMs);
      expect(span.startMs).toBe(length.steps[i - 1]?.endMs ?? span.startMs);
    });
  });

  it('works by the factory’s clock and cures by the hours that pass, also in the night the clocks change', () => {
    const chicago = { ...calendar, zone: 'America/Chicago' };
    const [seal, dry] = ['seal', 'sealer-done'].map((key) => lacquer.steps.find((step) => step.key === key));
    if (!seal || !dry) throw new Error('no sealer');
    // Sprayed to 14:00 on the Saturday; the night to Sunday 1 November 2026 has 25 hours.
    const steps = [
      { ...seal, touchMinutes: 120 },
      dry,
      {
        kind: 'treat' as const,
        key: 'next',
        name: 'Next',
        at: 'colour',
        touchMinutes: 60,
        boothMinutes: 0,
        waitHours: 0,
        defects: [],
      },
    ];
    const at = (iso: string) => Date.parse(iso);
    const { steps: spans } = recipeLength({
      recipe: { steps },
      climate: { temperatureC: 1, relativeHumidityPct: 50 },
      calendar: chicago,
      startMs: at('2026-10-31T12:00:00-05:00'),
      pieces: 1,
    });
    const hours = 4 * (20.9 / 25) ** 2 * 1.6 ** 2;
    expect((spans[1]?.endMs ?? 0) - at('2026-10-31T14:00:00-05:00')).toBeCloseTo(hours * 3_600_000, -3);
    expect(spans[2]?.endMs).toBe(at('2026-11-01T07:00:00-06:00'));
  });

  it('does not pretend in a room too cold and damp to cure in', () =>
    expect(() =>
      recipeLength({ recipe: lacquer, climate: { temperatureC: -80, relativeHumidityPct: 95 }, calendar }),
    ).toThrow(/more than 400 days/));
});
