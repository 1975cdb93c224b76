import { dryFilmUm, filmBuildUm, sandThroughRisk } from './film.ts';

describe('film build', () => {
  it('is wet film times volume solids, less what was sanded off', () => {
    expect(dryFilmUm({ wetUm: 110, solidsPct: 20 })).toBeCloseTo(22, 10);
    const coats = Array.from({ length: 5 }, () => ({ wetUm: 110, solidsPct: 20 }));
    expect(filmBuildUm(coats, [{ removalUm: 12 }, { removalUm: 18 }])).toBeCloseTo(80, 10);
    expect(filmBuildUm([])).toBe(0);
  });

  it('is bare wood where more was sanded off than was on', () => {
    expect(filmBuildUm([{ wetUm: 100, solidsPct: 20 }], [{ removalUm: 30 }])).toBe(0);
  });

  it.each([
    [{ wetUm: 100, solidsPct: 101 }, /solidsPct must be above 0 to 100, got 101/],
    [{ wetUm: 100, solidsPct: 0 }, /solidsPct/],
    [{ wetUm: -5, solidsPct: 20 }, /wetUm must be above 0 to 1000, got -5/],
    [{ wetUm: NaN, solidsPct: 20 }, /wetUm/],
    [{ wetUm: 1001, solidsPct: 20 }, /wetUm/],
  ])('refuses %j', (coat, message) => expect(() => dryFilmUm(coat)).toThrow(message));

  it('refuses a sanding that adds', () =>
    expect(() => filmBuildUm([], [{ removalUm: -1 }])).toThrow(/removalUm must be 0 or more/));
});

describe('the risk of sanding through', () => {
  const film = { buildUm: 98, buildSdUm: 6, removalUm: 30, removalSdUm: 8, minimumUm: 48 };

  it('is the normal share below the minimum: 20 µm of room at a spread of 10 are two standard deviations, 2.3 %', () => {
    const { leftUm, sdUm, share } = sandThroughRisk(film);
    expect([leftUm, sdUm]).toEqual([68, 10]);
    expect(share).toBeCloseTo(0.02275, 4);
  });

  it('is half when what is left is the minimum, and certain or none without any spread', () => {
    expect(sandThroughRisk({ ...film, minimumUm: 68 }).share).toBeCloseTo(0.5, 6);
    const exact = { ...film, buildSdUm: 0, removalSdUm: 0 };
    expect(sandThroughRisk({ ...exact, minimumUm: 69 }).share).toBe(1);
    expect(sandThroughRisk({ ...exact, minimumUm: 68 }).share).toBe(0);
  });

  it('refuses spreads below nothing', () =>
    expect(() => sandThroughRisk({ ...film, removalSdUm: -1 })).toThrow(/removalSdUm must be 0 or more/));
});
