import fc from 'fast-check';
import { slabHours, type SlabCoat, type SlabKinetics } from './slab.ts';

/** Thin lacquer: 92 µm laid at once take 72 hours to sand and 336 to buff. */
const lacquer: SlabKinetics = { referenceUm: 92, hours: { sand: 72, buff: 336 } };

const coats = (number: number, gapHours: number, filmUm: number): SlabCoat[] =>
  Array.from({ length: number }, (_, i) => ({ atHours: i * gapHours, filmUm, onFreed: false }));

/**
 * The plain way: finite volumes of about half a micrometre, implicit in time, no flux at the bottom, nothing held at the top.
 * Gives the hours after the last coat at which less than `share` of what was laid is left.
 */
function byVolumes(laid: readonly SlabCoat[], share: number): number {
  const speed = (4 * 92 ** 2 * Math.log(8 / (0.02 * Math.PI ** 2))) / (Math.PI ** 2 * 336);
  const width = 0.5;
  const step = 0.05;
  const r = (speed * step) / width ** 2;
  let cells: number[] = [];
  let laidUm = 0;
  const dry = (hours: number): void => {
    for (let t = 0; t < Math.round(hours / step); t += 1) cells = implicitStep(cells, r);
  };
  laid.forEach((coat, i) => {
    dry(coat.atHours - (laid[i - 1]?.atHours ?? coat.atHours));
    cells = [...cells, ...Array<number>(Math.round(coat.filmUm / width)).fill(1)];
    laidUm = (coat.onFreed ? 0 : laidUm) + coat.filmUm;
  });
  let hours = 0;
  while (cells.reduce((sum, c) => sum + c * width, 0) > share * laidUm) {
    dry(step);
    hours += step;
  }
  return hours;
}

/** One backward Euler step by the Thomas algorithm; the top face lies half a cell above the last centre, at 0. */
function implicitStep(cells: readonly number[], r: number): number[] {
  const n = cells.length;
  const upper: number[] = [];
  const right: number[] = [];
  for (let i = 0; i < n; i += 1) {
    const diagonal = 1 + (i === 0 ? 0 : r) + (i === n - 1 ? 2 * r : r);
    const below = i === 0 ? 0 : r;
    const pivot = diagonal - below * (upper[i - 1] ?? 0);
    upper[i] = (i === n - 1 ? 0 : r) / pivot;
    right[i] = ((cells[i] ?? 0) + below * (right[i - 1] ?? 0)) / pivot;
  }
  const next = Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i -= 1) next[i] = (right[i] ?? 0) + (upper[i] ?? 0) * (next[i + 1] ?? 0);
  return next;
}

describe('a solvent film as one slab (11.1)', () => {
  it('of the reference thickness laid at once takes the hours of the recipe: 92 µm, 336 h', () => {
    expect(slabHours(coats(1, 0, 92), lacquer)).toEqual({ sand: 72, buff: 336 });
  });

  it('half as thick takes a quarter of them, twice as thick four times as long', () => {
    expect(slabHours(coats(1, 0, 46), lacquer)).toEqual({ sand: 18, buff: 84 });
    expect(slabHours(coats(1, 0, 184), lacquer)).toEqual({ sand: 288, buff: 1344 });
  });

  it('of four coats of 23 µm a day apart is through about 185 h after the last', () => {
    expect(slabHours(coats(4, 24, 23), lacquer).buff).toBeCloseTo(184.5, 0);
  });

  it('of four coats in one go is what it is laid at once', () => {
    expect(slabHours(coats(4, 0, 23), lacquer).buff / 336).toBeCloseTo(1, 2);
  });

  it('is never ready sooner than its last coat alone would be', () => {
    const week = slabHours(coats(4, 168, 23), lacquer);
    expect(week.sand).toBeGreaterThanOrEqual(72 / 16);
    expect(week.buff).toBeGreaterThan(336 / 16);
  });

  it('on a film freed before takes longer than the coat alone: the ground takes solvent up and gives it back', () => {
    const touchedUp = [...coats(4, 24, 23), { atHours: 72 + 400, filmUm: 23, onFreed: true }];
    const { buff } = slabHours(touchedUp, lacquer);
    expect(buff).toBeGreaterThan(slabHours(coats(1, 0, 23), lacquer).buff);
    expect(buff).toBeLessThan(slabHours(coats(1, 0, 115), lacquer).buff);
  });

  it.each([
    ['four coats a day apart', coats(4, 24, 23)],
    ['twelve coats an hour and a half apart', coats(12, 1.5, 8)],
    ['three coats a week apart', coats(3, 168, 30)],
    [
      'ten and twenty, whose modes meet',
      [
        { atHours: 0, filmUm: 10, onFreed: false },
        { atHours: 5, filmUm: 20, onFreed: false },
      ],
    ],
    ['a coat on a freed film', [...coats(2, 24, 40), { atHours: 300, filmUm: 20, onFreed: true }]],
  ])('agrees with finite volumes: %s', (_name, laid) => {
    expect(slabHours(laid, lacquer).buff / byVolumes(laid, 0.02)).toBeCloseTo(1, 2);
  });

  it('takes longer the sooner its coats follow each other, at most what it takes laid at once', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 8 }),
        fc.double({ min: 1, max: 72, noNaN: true }),
        fc.double({ min: 5, max: 40, noNaN: true }),
        (number, gap, film) => {
          const { buff } = slabHours(coats(number, gap, film), lacquer);
          expect(buff).toBeLessThanOrEqual(slabHours(coats(number, gap / 2, film), lacquer).buff * 1.0001);
          expect(buff).toBeLessThanOrEqual(336 * ((number * film) / 92) ** 2 * 1.005);
        },
      ),
      { seed: 11, numRuns: 60 },
    ));
});
