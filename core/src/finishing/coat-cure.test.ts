import fc from 'fast-check';
import { cureState, type CureClimate, type CureSpec } from './coat-cure.ts';
import { forecastCure } from './forecast-cure.ts';

/** Speeds up 2 times in 10 °C; 1.5 h to recoat, 72 to sand, 336 to buff for 100 µm. */
const recipe: CureSpec = { q: 2, hours: { recoat: 1.5, sand: 72, buff: 336 }, referenceUm: 100 };

const steady = (temperatureC: number, hours = 600, relativeHumidityPct = 50): CureClimate[] =>
  Array.from({ length: hours }, (_, i) => ({ hours: i, temperatureC, relativeHumidityPct }));

describe('the clock of one coat', () => {
  it('runs hour for hour at 21 °C and its reference film', () => {
    const state = cureState({
      coats: [{ atHours: 0, filmUm: 100 }],
      climate: steady(21),
      recipe,
      atHours: 36,
    });
    expect(state.progress.sand).toBeCloseTo(0.5, 10);
    expect([state.leftHours.recoat, state.leftHours.sand, state.leftHours.buff].map(Math.round)).toEqual([
      0, 36, 300,
    ]);
  });

  it('loses what a cold night takes: 12 h at 21 °C and 12 h at 11 °C are 18 reference hours', () => {
    const climate = steady(21).map((air) => (air.hours % 24 < 12 ? air : { ...air, temperatureC: 11 }));
    const state = cureState({ coats: [{ atHours: 0, filmUm: 100 }], climate, recipe, atHours: 24 });
    expect(state.rungs[0]?.gathered).toBeCloseTo(18, 10);
    expect(state.progress.sand).toBeCloseTo(18 / 72, 10);
  });

  it('takes four times as long for a film twice as thick, but no credit for a thin one in recoating', () => {
    const needs = (filmUm: number) =>
      cureState({ coats: [{ atHours: 0, filmUm }], climate: steady(21), recipe, atHours: 1 }).rungs[0]?.needs;
    expect(needs(200)).toEqual({ recoat: 6, sand: 288, buff: 1344 });
    expect(needs(50)).toEqual({ recoat: 1.5, sand: 18, buff: 84 });
  });
});

describe('a coat on another', () => {
  const four = [0, 24, 48, 72].map((atHours) => ({ atHours, filmUm: 23 }));
  const lacquer: CureSpec = { ...recipe, referenceUm: 92 };

  it('makes one slab with it: four coats of 23 µm a day apart are through 185 h after the last, not 21', () => {
    const buff = (atHours: number): number =>
      cureState({ coats: four, climate: steady(21), recipe: lacquer, atHours }).progress.buff;
    expect(buff(72 + 21)).toBeLessThan(0.12);
    expect(buff(72 + 184)).toBeLessThan(1);
    expect(buff(72 + 185)).toBe(1);
    const ends = forecastCure({ coats: four, climate: steady(21), recipe: lacquer, atHours: 80 });
    expect(ends.buff?.median).toBeCloseTo(72 + 184.5, 0);
  });

  it('keeps the coats under it wet: every rung of a slab is as far as the slab', () => {
    const coats = [0, 2, 4, 6].map((atHours) => ({ atHours, filmUm: 23 }));
    const { rungs } = cureState({ coats, climate: steady(21), recipe: lacquer, atHours: 40 });
    expect(new Set(rungs.map(({ progress }) => progress.buff)).size).toBe(1);
    expect(rungs.map(({ slabUm }) => slabUm)).toEqual([92, 92, 92, 92]);
    expect(rungs[0]?.progress.buff).toBeLessThan(0.2);
  });

  it('that reacts has a clock of its own, whatever its film: the least cured coat decides', () => {
    const satin: CureSpec = { ...recipe, by: 'reaction' };
    const state = cureState({ coats: four, climate: steady(21), recipe: satin, atHours: 72 + 300 });
    expect(state.rungs.map(({ gathered }) => gathered)).toEqual([372, 348, 324, 300]);
    expect(state.rungs[3]?.needs).toEqual(recipe.hours);
    expect(state.leftHours.buff).toBeCloseTo(36, 8);
  });

  it('of oil takes longer in proportion above its reference film, and no less below it', () => {
    const oil: CureSpec = { ...recipe, by: 'oxidation' };
    const needs = (filmUm: number) =>
      cureState({ coats: [{ atHours: 0, filmUm }], climate: steady(21), recipe: oil, atHours: 0 }).rungs[0]
        ?.needs.buff;
    expect([needs(50), needs(100), needs(150)]).toEqual([336, 336, 504]);
  });

  it('sets the clock back to the top coat for recoating', () => {
    const coats = [
      { atHours: 0, filmUm: 25 },
      { atHours: 2, filmUm: 25 },
    ];
    const state = cureState({ coats, climate: steady(21), recipe, atHours: 2.75 });
    expect(state.progress.recoat).toBeCloseTo(0.5, 10);
    expect(state.progress.buff).toBe(Math.min(...state.rungs.map(({ progress }) => progress.buff)));
  });
});

describe('what cannot be', () => {
  const coats = [{ atHours: 5, filmUm: 25 }];

  it.each([
    [[...coats, { atHours: 3, filmUm: 25 }], steady(21), undefined, /coat 2 was laid before coat 1/],
    [[{ atHours: 0, filmUm: -3 }], steady(21), undefined, /film of coat 1 must be above 0 µm, got -3/],
    [coats, [], undefined, /no climate is known/],
    [
      coats,
      steady(21).map((air) => ({ ...air, room: 'Booth 1' })),
      'Cure room',
      /climate is of 'Booth 1', the rack stands in 'Cure room'/,
    ],
  ])('is refused, case %#', (laid, climate, room, message) =>
    expect(() => cureState({ coats: laid, climate, recipe, atHours: 10, ...(room ? { room } : {}) })).toThrow(
      message,
    ),
  );
});

describe('the clock through time', () => {
  const samples = fc.array(
    fc.record({
      gap: fc.double({ min: 0.05, max: 30, noNaN: true }),
      temperatureC: fc.double({ min: 5, max: 35, noNaN: true }),
      relativeHumidityPct: fc.double({ min: 10, max: 99, noNaN: true }),
    }),
    { minLength: 1, maxLength: 30 },
  );
  const climateOf = (gaps: { gap: number; temperatureC: number; relativeHumidityPct: number }[]) => {
    let hours = 0;
    return gaps.map(({ gap, ...air }) => ({ hours: (hours += gap), ...air }));
  };
  const coats = [
    { atHours: 1, filmUm: 30 },
    { atHours: 9, filmUm: 20 },
  ];

  it('never runs backwards', () =>
    fc.assert(
      fc.property(
        samples,
        fc.double({ min: 9, max: 300, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (gaps, atHours, later) => {
          const climate = climateOf(gaps);
          const [now, then] = [atHours, atHours + later].map((at) =>
            cureState({ coats, climate, recipe, atHours: at }),
          );
          for (const until of ['recoat', 'sand', 'buff'] as const)
            expect(then?.progress[until]).toBeGreaterThanOrEqual((now?.progress[until] ?? 0) - 1e-12);
        },
      ),
      { seed: 5, numRuns: 200 },
    ));

  it('does not change what it has counted when a new reading arrives after it', () =>
    fc.assert(
      fc.property(samples, (gaps) => {
        const climate = climateOf(gaps);
        const atHours = Math.max(9, climate.at(-1)?.hours ?? 9);
        const later = [...climate, { hours: atHours + 0.5, temperatureC: 35, relativeHumidityPct: 20 }];
        const before = cureState({ coats, climate, recipe, atHours });
        const after = cureState({ coats, climate: later, recipe, atHours });
        for (const until of ['recoat', 'sand', 'buff'] as const)
          expect(after.progress[until]).toBeCloseTo(before.progress[until], 12);
      }),
      { seed: 6, numRuns: 100 },
    ));

  it('computes anew when a gap is filled late, without ever falling behind the coat itself', () => {
    const gap = steady(21).filter(({ hours }) => hours <= 10 || hours >= 30);
    const filled = steady(21).map((air) =>
      air.hours > 10 && air.hours < 30 ? { ...air, temperatureC: 11 } : air,
    );
    const laid = [{ atHours: 0, filmUm: 100 }];
    const bridged = cureState({ coats: laid, climate: gap, recipe, atHours: 40 });
    expect(bridged.bridgedHours).toBeCloseTo(14, 8);
    expect(bridged.rungs[0]?.gathered).toBeCloseTo(40, 8);
    // From 11 to 30 it was 11 °C: 19 hours at half speed.
    const anew = cureState({ coats: laid, climate: filled, recipe, atHours: 40 });
    expect(anew.rungs[0]?.gathered).toBeCloseTo(40 - 19 / 2, 8);
    expect(anew.bridgedHours).toBe(0);
  });
});

describe('the forecast of cure', () => {
  it('ends where the hand-worked clock does: 336 reference hours at 31 °C are 168 on the wall', () => {
    const coats = [{ atHours: 0, filmUm: 100 }];
    const ends = forecastCure({ coats, climate: steady(31, 48), recipe, atHours: 40 });
    expect(ends.buff?.median).toBeCloseTo(168, 1);
    expect(ends.sand?.median).toBeCloseTo(36, 1);
    expect(ends.sand?.low90).toBe(ends.sand?.high90);
  });

  it('is wider the more the days differ, and never lies outside its range', () => {
    const wandering = (by: number): CureClimate[] =>
      steady(21, 336).map((air) => ({
        ...air,
        temperatureC: 21 + by * Math.sin(Math.floor(air.hours / 24)),
      }));
    const width = (by: number): number => {
      const end = forecastCure({
        coats: [{ atHours: 300, filmUm: 100 }],
        climate: wandering(by),
        recipe,
        atHours: 335,
      }).buff;
      if (!end) throw new Error('no end');
      expect(end.low90).toBeLessThanOrEqual(end.median);
      expect(end.high90).toBeGreaterThanOrEqual(end.median);
      return end.high90 - end.low90;
    };
    expect(width(4)).toBeGreaterThan(width(1));
    expect(width(1)).toBeGreaterThan(1);
  });
});
