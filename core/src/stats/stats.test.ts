import { quantile, summarise } from './descriptive.ts';
import { groupedBy } from './grouped.ts';
import { randomStream } from './random.ts';

describe('summarise', () => {
  it('matches a case done by hand: 7.1 7.4 6.9', () => {
    const summary = summarise([7.1, 7.4, 6.9]);
    expect(summary.mean).toBeCloseTo(7.1333, 4);
    expect(summary.sd).toBeCloseTo(Math.sqrt((0.0333 ** 2 + 0.2667 ** 2 + 0.2333 ** 2) / 2), 3);
    expect([summary.min, summary.max, summary.count]).toEqual([6.9, 7.4, 3]);
  });

  it('keeps its digits far from zero, where the naive sum of squares loses them', () => {
    expect(summarise([1e9 + 1, 1e9 + 2, 1e9 + 3]).sd).toBeCloseTo(1, 9);
  });

  it('refuses nothing and nonsense', () => {
    expect(() => summarise([])).toThrow(/at least one/);
    expect(() => summarise([7, NaN])).toThrow(/value 2/);
  });
});

describe('quantile', () => {
  it('averages at a step: the median of four is between the middle two', () => {
    expect(quantile([4, 1, 3, 2], 0.5)).toBe(2.5);
    expect(() => quantile([1], 1.5)).toThrow(/0…1/);
  });
});

describe('random stream, seed 7', () => {
  it('repeats itself', () => {
    const draw = (): number[] => {
      const stream = randomStream(7);
      return [stream.next(), stream.between(1, 6), stream.normal(0, 1)];
    };
    expect(draw()).toEqual(draw());
  });

  it('draws a normal with the mean and spread asked for', () => {
    const stream = randomStream(7);
    const summary = summarise(Array.from({ length: 20_000 }, () => stream.normal(7, 0.3)));
    expect(summary.mean).toBeCloseTo(7, 1);
    expect(summary.sd).toBeCloseTo(0.3, 1);
  });

  it('stays within its bounds', () => {
    const stream = randomStream(7);
    const rolls = new Set(Array.from({ length: 500 }, () => stream.between(1, 6)));
    expect([...rolls].toSorted()).toEqual([1, 2, 3, 4, 5, 6]);
  });
});

it('groups things by what they have in common, each group in their order, the groups in that of their first', () => {
  const groups = groupedBy(['oak', 'ash', 'elm', 'alder', 'oar'], (word) => word.charAt(0));
  expect([...groups]).toEqual([
    ['o', ['oak', 'oar']],
    ['a', ['ash', 'alder']],
    ['e', ['elm']],
  ]);
  expect(groupedBy([], String).size).toBe(0);
});
