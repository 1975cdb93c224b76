import fc from 'fast-check';
import { randomStream } from '../stats/random.ts';
import { chooseBlanks, lightestFirst, type BlankDemand, type StockBlank } from './choose-blanks.ts';
import { learnKeepFraction } from './keep-fraction.ts';

const blank = (id: string, weightKg: number, extra: Partial<StockBlank> = {}): StockBlank => ({
  id,
  species: 'red alder',
  weightKg,
  grade: 'plain',
  moisturePct: 7.2,
  ...extra,
});
/** Half of a blank stays; neck and kit weigh 1.5 kg: a blank of 4 kg makes an instrument of 3.5 kg. */
const demand = (extra: Partial<BlankDemand> = {}): BlankDemand => ({
  batch: 'B-1',
  pieces: [1],
  species: 'red alder',
  finishedKg: { low: 3.3, high: 3.7 },
  othersKg: 1.5,
  keepFraction: 0.5,
  chamberKg: 0,
  grade: 'plain',
  ...extra,
});
const picks = (options: Parameters<typeof chooseBlanks>[0]): string =>
  chooseBlanks(options)
    .chosen.map((choice) => `${choice.batch}:${choice.blank}`)
    .join(' ');

describe('choosing blanks', () => {
  it('matches the colour the finish lets show, and takes what nobody sorted only when it must (11.10)', () => {
    const light = demand({ colour: 'light' });
    const blanks = [
      blank('dark', 4, { colour: 'dark' }),
      blank('unsorted', 4),
      blank('light', 4.02, { colour: 'light' }),
    ];
    expect(chooseBlanks({ demands: [light], blanks }).chosen.map((one) => one.blank)).toEqual(['light']);
    const two = chooseBlanks({ demands: [{ ...light, pieces: [1, 2, 3] }], blanks });
    expect(two.chosen.map((one) => one.blank).sort()).toEqual(['light', 'unsorted']);
    expect(two.missing).toEqual([{ batch: light.batch, pieces: [3] }]);
  });

  it('takes the blank whose instrument weighs nearest the middle of its window', () => {
    const result = chooseBlanks({
      demands: [demand()],
      blanks: [blank('a', 3.7), blank('b', 4.1), blank('c', 4.4)],
    });
    expect(result.chosen).toEqual([
      {
        batch: 'B-1',
        piece: 1,
        blank: 'b',
        finishedKg: 3.55,
        chamberKg: 0,
        deviationKg: expect.closeTo(0.05, 9) as number,
      },
    ]);
  });

  it('leaves the light blank to the batch that needs it: any would do for B-1, only a light one for B-2', () => {
    const demands = [
      demand({ finishedKg: { low: 3, high: 4 } }),
      demand({ batch: 'B-2', finishedKg: { low: 3.2, high: 3.4 } }),
    ];
    const blanks = [blank('light', 3.6), blank('heavy', 4.6)];
    expect(picks({ demands, blanks })).toBe('B-1:heavy B-2:light');
    expect(lightestFirst({ demands, blanks }).missing).toEqual([{ batch: 'B-2', pieces: [1] }]);
  });

  it('keeps the figure for the finish that shows it', () => {
    const demands = [demand(), demand({ batch: 'B-2', grade: 'figured' })];
    const blanks = [blank('flame', 4, { grade: 'figured' }), blank('plain', 4)];
    expect(picks({ demands, blanks })).toBe('B-1:plain B-2:flame');
  });

  it('chambers a heavy piece by what is over, and only where the model allows it', () => {
    const heavy = [blank('heavy', 4.8)];
    expect(chooseBlanks({ demands: [demand()], blanks: heavy }).missing).toEqual([
      { batch: 'B-1', pieces: [1] },
    ]);
    const [chosen] = chooseBlanks({ demands: [demand({ chamberKg: 0.4 })], blanks: heavy }).chosen;
    expect(chosen?.chamberKg).toBeCloseTo(0.2, 9);
    expect(chosen?.finishedKg).toBeCloseTo(3.7, 9);
  });

  it('passes over wet, unread and foreign wood, and says how many are missing', () => {
    const blanks = [
      blank('wet', 4, { moisturePct: 9.4 }),
      blank('unread', 4, { moisturePct: null }),
      blank('ash', 4, { species: 'white ash' }),
    ];
    const result = chooseBlanks({
      demands: [demand({ pieces: [1, 2], moisture: { lowPct: 6, highPct: 8.5 } })],
      blanks,
    });
    expect(result.chosen).toEqual([]);
    expect(result.missing).toEqual([{ batch: 'B-1', pieces: [1, 2] }]);
  });

  it('fills the demand that stands first when the stock is short', () => {
    const demands = [demand({ pieces: [1, 2] }), demand({ batch: 'B-2', pieces: [1, 2] })];
    const blanks = [blank('a', 4), blank('b', 4.1), blank('c', 3.9)];
    expect(chooseBlanks({ demands, blanks }).missing).toEqual([{ batch: 'B-2', pieces: [2] }]);
    expect(chooseBlanks({ demands: demands.toReversed(), blanks }).missing).toEqual([
      { batch: 'B-1', pieces: [2] },
    ]);
  });

  it('is never worse than any other way to fill the places (seed 8)', () => {
    const weight = fc.double({ min: 3.2, max: 5, noNaN: true });
    let compared = 0;
    fc.assert(
      fc.property(fc.array(weight, { minLength: 3, maxLength: 6 }), (weights) => {
        const blanks = weights.map((kg, i) => blank(`b${i}`, kg));
        const wide = { low: 2, high: 5 };
        const demands = [
          demand({ finishedKg: wide }),
          demand({ batch: 'B-2', finishedKg: { low: 2.4, high: 4.2 } }),
          demand({ batch: 'B-3', finishedKg: { low: 3, high: 5 } }),
        ];
        const best = chooseBlanks({ demands, blanks }).totalDeviationKg;
        let least = Infinity;
        for (const a of blanks)
          for (const b of blanks)
            for (const c of blanks) {
              if (a === b || b === c || a === c) continue;
              const total = demands.reduce((sum, d, i) => {
                const kg = ([a, b, c][i]?.weightKg ?? NaN) * 0.5 + 1.5;
                const out = kg < d.finishedKg.low || kg > d.finishedKg.high;
                return out ? Infinity : sum + Math.abs(kg - (d.finishedKg.low + d.finishedKg.high) / 2);
              }, 0);
              least = Math.min(least, total);
            }
        compared += 1;
        return Math.abs(best - least) < 1e-9;
      }),
      { seed: 8, numRuns: 40 },
    );
    expect(compared).toBe(40);
  });

  it('beats the lightest-first rule on 60 places from 600 blanks (seed 6)', () => {
    const random = randomStream(6);
    const blanks = Array.from({ length: 600 }, (_, i) => blank(`b${i}`, random.normal(4.2, 0.45)));
    const demands = [3.3, 3.5, 3.6, 3.7, 3.9].map((kg, i) =>
      demand({
        batch: `B-${i}`,
        pieces: Array.from({ length: 12 }, (_, place) => place + 1),
        finishedKg: { low: kg - 0.2, high: kg + 0.2 },
      }),
    );
    const [planned, thumb] = [chooseBlanks({ demands, blanks }), lightestFirst({ demands, blanks })];
    expect(planned.chosen).toHaveLength(60);
    expect(new Set(planned.chosen.map((choice) => choice.blank)).size).toBe(60);
    expect(planned.totalDeviationKg).toBeLessThan(0.2 * thumb.totalDeviationKg);
  });

  it('gives a piece that should be lighter than the rest of its rack a light blank, and says which it is', () => {
    const demands = [
      demand({ pieces: [1, 3] }),
      demand({ pieces: [2], finishedKg: { low: 3.2, high: 3.4 }, othersKg: 1.4 }),
    ];
    const blanks = [blank('light', 3.8), blank('middle', 4), blank('heavy', 4.2)];
    const { chosen } = chooseBlanks({ demands, blanks });
    // Alone, all three would do for the rack: 3.4, 3.5 and 3.6 kg. With a lighter neck the light one makes 3.3 kg.
    expect(chosen.map(({ piece, blank: id }) => `${piece} ${id}`)).toEqual([
      '1 middle',
      '2 light',
      '3 heavy',
    ]);
    expect(chosen[1]?.finishedKg).toBeCloseTo(3.3, 9);
    expect(chooseBlanks({ demands, blanks: blanks.slice(1) }).missing).toEqual([
      { batch: 'B-1', pieces: [2] },
    ]);
  });

  it('refuses numbers that cannot be', () => {
    expect(() => chooseBlanks({ demands: [demand(), demand()], blanks: [] })).toThrow(
      /B-1\/1 is listed twice/,
    );
    expect(() => chooseBlanks({ demands: [demand({ pieces: [0] })], blanks: [] })).toThrow(/no piece 0/);
    expect(() => chooseBlanks({ demands: [demand({ keepFraction: 1.4 })], blanks: [] })).toThrow(/keep 1.4/);
    expect(() => chooseBlanks({ demands: [], blanks: [blank('a', 0)] })).toThrow(/weighs 0/);
    expect(() => chooseBlanks({ demands: [], blanks: [blank('a', 1), blank('a', 2)] })).toThrow(/twice/);
  });
});

describe('the keep fraction', () => {
  const belief = { mean: 0.5, sd: 0.03 };

  it('starts at the belief and moves to what is weighed back', () => {
    expect(learnKeepFraction(belief, [])).toEqual({ ...belief, count: 0 });
    const weighed = Array.from({ length: 12 }, () => ({ blankKg: 4, finishedKg: 2.4 }));
    // (4 · 0.5 + 12 · 0.6) / 16.
    expect(learnKeepFraction(belief, weighed)).toMatchObject({
      mean: expect.closeTo(0.575, 9) as number,
      count: 12,
    });
    expect(learnKeepFraction(belief, weighed).sd).toBeLessThan(belief.sd);
  });

  it('refuses a piece that got heavier', () => {
    expect(() => learnKeepFraction(belief, [{ blankKg: 4, finishedKg: 4.2 }])).toThrow(/4.2 kg/);
  });
});
