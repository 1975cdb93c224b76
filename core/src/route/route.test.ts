import { recipeLength } from '../finishing/recipe-length.ts';
import { SHIPPED_RECIPES } from '../finishing/shipped-recipes.ts';
import { bodyRoute, branchingRoute, hollowRoutes, longRoute, neckRoute } from '../testing/tarrow.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { compareRoutes } from './compare.ts';
import type { SettleRule } from './hold-rule.ts';
import { operationOf, workMinutes, type Operation, type Route } from './route.ts';
import { allWays, validateRoute } from './validate.ts';
import { forks, unknownWays, workedRoute } from './ways.ts';
import { HOUR_RATES, weighWays } from './weigh-ways.ts';

const keysOf = (route: Route): string[] => route.operations.map(({ key }) => key);
const problems = (route: Route, ...world: Parameters<typeof validateRoute>[1][]): string[] =>
  validateRoute(route, world[0]).map(({ problem }) => problem);
/** The branching route with one operation changed. */
const withChange = (key: string, change: Partial<Operation>): Route => ({
  ...branchingRoute,
  operations: branchingRoute.operations.map((operation) =>
    operation.key === key ? ({ ...operation, ...change } as Operation) : operation,
  ),
});

describe('a route', () => {
  it('that can be worked has no problems', () => {
    expect(problems(longRoute)).toEqual([]);
    expect(problems(branchingRoute)).toEqual([]);
  });

  it('knows the work in front of a station: loads by the cycle, people by the piece, holds not at all', () => {
    expect(workMinutes(operationOf(longRoute, 'mill'), 12)).toBe(20 + 2 * 60);
    expect(workMinutes(operationOf(longRoute, 'clear'), 12)).toBe(10 + 12 * 15);
    expect(workMinutes(operationOf(longRoute, 'cure'), 12)).toBe(0);
    expect(workMinutes(operationOf(longRoute, 'mill'), 0)).toBe(0);
  });
});

describe('the ways through a route', () => {
  it('are walked by the usual one, or as chosen', () => {
    expect(keysOf(workedRoute(branchingRoute))).toEqual(['dry', 'mill', 'rest', 'ship']);
    expect(keysOf(workedRoute(branchingRoute, { dry: 'copy' }))).toEqual([
      'dry',
      'copy',
      'true-up',
      'rest',
      'ship',
    ]);
    expect(allWays(branchingRoute).map((way) => way.map(({ key }) => key).join(' '))).toEqual([
      'dry mill rest ship',
      'dry copy true-up rest ship',
    ]);
  });

  it('of a plain list are the list itself, and a worked route has no arrows left', () => {
    expect(workedRoute(longRoute)).toBe(longRoute);
    expect(workedRoute(branchingRoute).operations.every(({ next }) => next === undefined)).toBe(true);
    expect(workedRoute(branchingRoute)).toBe(workedRoute(branchingRoute, {}));
  });

  it('are told apart from ways that are not there', () => {
    expect(forks(branchingRoute).map(({ at, ways }) => [at.key, ...ways.map(({ key }) => key)])).toEqual([
      ['dry', 'mill', 'copy'],
    ]);
    expect(unknownWays(branchingRoute, { dry: 'copy' })).toEqual([]);
    expect(unknownWays(branchingRoute, { dry: 'laser', rest: 'ship' })).toEqual([
      'dry → laser',
      'rest → ship',
    ]);
  });

  it('are weighed side by side: time, cost, skill and risk, worked by hand for 8 pieces', () => {
    const [fork] = weighWays({
      route: branchingRoute,
      pieces: 8,
      atMs: Date.UTC(2026, 10, 23, 6),
      calendar: {
        zone: 'UTC',
        shifts: [{ name: 'A', start: '06:00', end: '16:00', weekdays: [1, 2, 3, 4, 5], breaks: [] }],
        closedDays: [],
        overtime: [],
      },
      rates: HOUR_RATES,
    });
    const [mill, copy] = fork?.ways ?? [];
    // One load: 20 + 60 minutes of a machine at 58 an hour.
    expect(mill).toMatchObject({ way: 'mill', skills: ['cnc'], yieldPct: 100, operations: ['Body mill'] });
    expect([mill?.workHours, mill?.heldDays]).toEqual([0, 0]);
    expect(mill?.machineHours).toBeCloseTo(80 / 60);
    expect(mill?.costPerPiece).toBeCloseTo(((80 / 60) * 58) / 8);
    // 10 + 8 × 15 minutes by hand, twice: 4 h 20, with 1.50 of templates and bits a piece; 98 % of 99 % are good.
    expect(copy?.workHours).toBeCloseTo(260 / 60);
    expect(copy?.machineHours).toBe(0);
    expect(copy?.costPerPiece).toBeCloseTo(((260 / 60) * 34) / 8 + 1.5);
    expect(copy?.yieldPct).toBeCloseTo(97.02);
    expect(copy).toMatchObject({ skills: ['router'], risks: ['hands near the cutter'] });
  });
});

describe('comparisons depend on the weekday (11.7)', () => {
  const calendar: FactoryCalendar = {
    zone: 'UTC',
    shifts: [{ name: 'A', start: '06:00', end: '16:00', weekdays: [1, 2, 3, 4, 5], breaks: [] }],
    closedDays: [],
    overtime: [],
  };
  const ways = (atMs: number) =>
    weighWays({ route: branchingRoute, pieces: 8, atMs, calendar, rates: HOUR_RATES })[0]?.ways ?? [];

  it('no more: asked on a Friday afternoon they are what they are on a Monday morning', () => {
    const [monday, friday] = [Date.UTC(2026, 10, 23, 6), Date.UTC(2026, 10, 27, 15, 30)].map(ways);
    expect(monday?.map(({ elapsedDays }) => elapsedDays)).toHaveLength(2);
    monday?.forEach((way, i) => expect(friday?.[i]?.elapsedDays).toBeCloseTo(way.elapsedDays, 1));
  });

  it('elapsed is the mean over a week: 80 min end within the shift, or over the night, or the weekend', () => {
    const [mill] = ways(Date.UTC(2026, 10, 23, 6));
    // 80 of 600 minutes of each day lie too near its end: four nights of 14 h and a weekend of 62 are waited through.
    const late = ((80 / 600) * (4 * 14 + 62)) / 5 / 24;
    expect(mill?.elapsedDays).toBeCloseTo(80 / 60 / 24 + late, 1);
  });

  it('a recipe’s days are no matter of the day either', () => {
    const satin = SHIPPED_RECIPES.find(({ name }) => name === 'catalysed-satin');
    if (!satin) throw new Error('no satin');
    const days = (temperatureC: number): number =>
      recipeLength({ recipe: satin, climate: { temperatureC, relativeHumidityPct: 50 }, calendar }).days;
    const [now, warmer] = [days(21), days(23)];
    // Two degrees make its cure 13 % shorter; before, a weekend made it 7.1 days and 4.1.
    expect(now - warmer).toBeGreaterThan(0);
    expect(now - warmer).toBeLessThan(1.2);
  });
});

describe('a route that cannot be worked is told why', () => {
  it('a dead end, and something after the end', () => {
    expect(problems({ ...longRoute, operations: longRoute.operations.slice(0, 7) })).toEqual([
      'Set-up is a dead end: only a join, a split or shipping can end a route',
    ]);
    expect(problems(withChange('ship', { next: ['rest'] }))).toContain(
      'Pack & ship is an end: nothing can follow it',
    );
  });

  it('a circle that never ends, named all the way round', () => {
    expect(problems(withChange('rest', { next: ['mill', 'ship'] }))).toEqual([
      'Body mill → Body rest → Body mill never ends: draw the way back as a rework arc instead',
    ]);
  });

  it('what is never reached, stands twice, or goes nowhere', () => {
    expect(problems(withChange('dry', { next: ['mill'] }))).toEqual([
      'Copy-router is never reached: no way leads to it',
      'True up is never reached: no way leads to it',
    ]);
    expect(problems(withChange('rest', { next: ['paint'] }))).toContain(
      "Body rest goes on to 'paint', which is not in the route",
    );
    const [first] = longRoute.operations;
    expect(
      problems({ ...longRoute, operations: [...longRoute.operations.slice(0, 1), ...longRoute.operations] }),
    ).toContain(`${first?.name}: the key 'dry' stands twice`);
    expect(problems({ ...longRoute, operations: [] })).toEqual(['a route needs at least one operation']);
  });

  it('rework that goes ahead, to another way, or nowhere', () => {
    expect(problems(withChange('mill', { reworkTo: 'rest' }))).toEqual([
      'Body mill sends rework ahead to Body rest: rework goes back',
    ]);
    expect(problems(withChange('mill', { reworkTo: 'copy' }))).toEqual([
      'Body mill sends rework to Copy-router, which stands on another way',
    ]);
    expect(problems(withChange('rest', { reworkTo: 'mill' }))).toEqual([
      'Body rest sends rework to Body mill, which stands on another way',
    ]);
    expect(problems(withChange('mill', { reworkTo: 'forge' }))[0]).toMatch(
      /'forge', which is not in the route/,
    );
  });

  it('a hold that something needs and that not every way has', () => {
    expect(problems(withChange('ship', { needs: ['rest'] }))).toEqual([]);
    expect(problems(withChange('ship', { needs: ['glue'] }))).toEqual([
      'Pack & ship needs a hold for glue before it on every way',
    ]);
    // A coat laid after the cure makes that cure worthless.
    const buff = { ...operationOf(longRoute, 'setup'), needs: ['cure' as const] };
    const order = ['dry', 'cure', 'clear'].map((key) => operationOf(longRoute, key));
    const ship = operationOf(longRoute, 'ship');
    expect(problems({ ...longRoute, operations: [...order, { ...buff, reworkTo: null }, ship] })).toContain(
      'Set-up needs a hold for cure before it on every way',
    );
    const right = ['dry', 'clear', 'cure'].map((key) => operationOf(longRoute, key));
    expect(problems({ ...longRoute, operations: [...right, { ...buff, reworkTo: null }, ship] })).toEqual([]);
  });

  it('a station or room the factory does not have', () => {
    const world = {
      stations: ['wood', 'clear', 'setup', 'packing', 'mill-2'],
      rooms: ['booth-3', 'assembly'],
    };
    expect(problems(longRoute, world)).toEqual([
      "Rest & read rests in 'wood-1', which is no room here",
      "Body mill is at station 'body-mill', which this factory does not have",
      "Body rest rests in 'wood-1', which is no room here",
    ]);
  });

  it('a join that is not fed, or makes what has no route', () => {
    expect(problems(bodyRoute, { others: [neckRoute, longRoute] })).toEqual([
      'Neck joint makes kind I, which has no route',
    ]);
    expect(problems(bodyRoute, { others: [{ ...longRoute, kind: 'I' }] })).toEqual([
      'Neck joint is not fed: no route of kind N comes to meet kind B',
    ]);
    for (const route of hollowRoutes)
      expect(problems(route, { others: hollowRoutes.filter((other) => other !== route) })).toEqual([]);
  });

  it('numbers that cannot be', () => {
    const check = {
      key: 'w',
      name: 'Width',
      unit: 'mm',
      nominal: 9,
      lower: 12,
      upper: 10,
      firstPiece: false,
      sample: 11,
    };
    expect(problems(withChange('mill', { yieldPct: 120, places: 0, checks: [check] }))).toEqual([
      'Body mill: the expected yield is above 0 to 100 %',
      'Body mill: a load has at least one place',
      'Body mill: the limits of Width are the wrong way round',
      'Body mill: the nominal of Width lies outside its limits',
      'Body mill: Width samples 1 to 10 pieces',
    ]);
  });

  it('serials nobody could give, and a drift of what is not read again', () => {
    const rule: SettleRule = {
      ...{ rule: 'settle', word: 'settling', hours: 144, driftLimitMm: 0.1, drifts: { relief: 0.06 } },
    };
    const operations = longRoute.operations.map((one): Operation =>
      one.key === 'settle' && one.mode === 'hold' ? { ...one, rule, serial: true } : one,
    );
    expect(problems({ ...longRoute, operations })).toEqual([
      'Settling: nobody gives serials while pieces rest: put it at the work before',
      "Settling: a drift of 'relief' is allowed, which is not measured here",
    ]);
  });
});

describe('two revisions', () => {
  it('are compared operation by operation and field by field', () => {
    const newer = {
      ...longRoute,
      operations: longRoute.operations
        .filter(({ key }) => key !== 'rest')
        .map(
          (operation) =>
            (operation.key === 'mill' ? { ...operation, cycleMinutes: 50 } : operation) as Operation,
        ),
    };
    expect(compareRoutes(longRoute, newer)).toEqual([
      {
        operation: 'mill',
        name: 'Body mill',
        change: 'changed',
        fields: [{ field: 'cycle minutes', from: '60', to: '50' }],
      },
      { operation: 'rest', name: 'Body rest', change: 'taken out', fields: [] },
    ]);
    expect(compareRoutes(longRoute, longRoute)).toEqual([]);
  });

  it('tell what lies within a field by its path, in words', () => {
    const check = { key: 'depth', name: 'Depth', unit: 'mm', nominal: 16, lower: 15.9, upper: 16.1 };
    const withRest = (hours: number, upper: number, caution: string | null): Route => ({
      ...longRoute,
      operations: longRoute.operations.map((operation) =>
        operation.key === 'rest' && operation.mode === 'hold'
          ? { ...operation, rule: { rule: 'elapsed', word: 'rest', hours } }
          : operation.key === 'mill'
            ? {
                ...operation,
                caution,
                checks: [{ ...check, upper, firstPiece: caution === null, sample: 3 }],
              }
            : operation,
      ),
    });
    expect(
      compareRoutes(withRest(24, 16.1, null), withRest(48, 16.2, 'dust')).map(({ fields }) => fields),
    ).toEqual([
      [
        { field: 'caution', from: 'none', to: 'dust' },
        { field: 'checks depth upper', from: '16.1', to: '16.2' },
        { field: 'checks depth first piece', from: 'yes', to: 'no' },
      ],
      [{ field: 'rule hours', from: '24', to: '48' }],
    ]);
    // Another kind of rule is told with what the one had and the other has.
    const cured = withChange('dry', {
      rule: { rule: 'elapsed', word: 'rest', hours: 12 },
    });
    expect(compareRoutes(branchingRoute, cured)[0]?.fields).toEqual(
      expect.arrayContaining([
        { field: 'rule', from: 'moisture', to: 'elapsed' },
        { field: 'rule hours', from: 'none', to: '12' },
      ]),
    );
  });

  it('tell a new arrow as a move', () => {
    const direct = withChange('dry', { next: ['copy', 'mill'] });
    expect(compareRoutes(branchingRoute, direct)).toEqual([
      { operation: 'dry', name: 'Rest & read', change: 'moved', fields: [] },
    ]);
  });
});
