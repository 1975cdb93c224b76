import { normalCdf, normalQuantile } from './normal.ts';
import { randomStream } from './random.ts';
import { summarise } from './descriptive.ts';
import { toleranceFactor } from './tolerance.ts';

describe('tolerance factors', () => {
  // Natrella (NBS Handbook 91), table A-7, one-sided, 95 % confidence: n, coverage, k.
  it.each([
    [5, 0.95, 4.203],
    [10, 0.95, 2.911],
    [20, 0.95, 2.396],
    [50, 0.95, 2.065],
    [5, 0.9, 3.407],
    [10, 0.9, 2.355],
    [20, 0.9, 1.926],
    [50, 0.9, 1.646],
  ])('for %d readings and coverage %d is within 0.5 %% of the published %d', (n, coverage, published) => {
    const k = toleranceFactor({ n, confidence: 0.95, coverage });
    expect(Math.abs(k / published - 1)).toBeLessThan(0.005);
  });

  it('hold what they promise: 95 of 100 samples of 8 cover 95 % of the population (seed 11)', () => {
    const random = randomStream(11);
    const k = toleranceFactor({ n: 8, confidence: 0.95, coverage: 0.95 });
    let covered = 0;
    const samples = 4000;
    for (let i = 0; i < samples; i += 1) {
      const { mean, sd } = summarise(Array.from({ length: 8 }, () => random.normal(0, 1)));
      if (mean + k * sd >= 1.6449) covered += 1;
    }
    expect(covered / samples).toBeGreaterThan(0.938);
    expect(covered / samples).toBeLessThan(0.962);
  });

  it('refuses one reading and impossible shares', () => {
    expect(() => toleranceFactor({ n: 1, confidence: 0.95, coverage: 0.95 })).toThrow(/2 or more/);
    expect(() => toleranceFactor({ n: 5, confidence: 1, coverage: 0.95 })).toThrow(/confidence/);
  });
});

describe('the normal distribution', () => {
  it('has the quantiles of every table, and its own inverse', () => {
    expect(normalQuantile(0.95)).toBeCloseTo(1.644854, 5);
    expect(normalQuantile(0.975)).toBeCloseTo(1.959964, 5);
    expect(normalQuantile(0.5)).toBeCloseTo(0, 6);
    expect(normalCdf(normalQuantile(0.013))).toBeCloseTo(0.013, 6);
    expect(() => normalQuantile(1)).toThrow(/ends excluded/);
  });
});
