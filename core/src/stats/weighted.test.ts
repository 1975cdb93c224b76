import { quantileOf, quantilesOf } from './weighted.ts';

const even = (...values: number[]) => values.map((value) => ({ value, weight: 1 }));

describe('weighted quantiles', () => {
  it('run straight between the middles of the weights: of 1 2 3 4 the median is 2.5', () => {
    expect(quantileOf(even(4, 1, 3, 2), 0.5)).toBe(2.5);
    // Middles at 1/8, 3/8, 5/8, 7/8: a quarter lies half way from 1 to 2.
    expect(quantileOf(even(1, 2, 3, 4), 0.25)).toBe(1.5);
  });

  it('count a value by its weight and hold at the ends', () => {
    const quantile = quantilesOf([
      { value: 10, weight: 3 },
      { value: 20, weight: 1 },
    ]);
    // Middles at 3/8 and 7/8.
    expect(quantile(0.625)).toBe(15);
    expect(quantile(0)).toBe(10);
    expect(quantile(1)).toBe(20);
  });

  it('keep what never happens at infinity', () => {
    expect(quantileOf(even(1, 2, Infinity), 0.5)).toBe(2);
    expect(quantileOf(even(1, Infinity, Infinity), 0.5)).toBe(Infinity);
  });

  it('refuse nothing and impossible shares', () => {
    expect(() => quantileOf([], 0.5)).toThrow(/at least one/);
    expect(() => quantileOf(even(1), 1.2)).toThrow(/0…1/);
  });
});
