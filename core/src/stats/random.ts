import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** A repeatable source of chance: the same seed gives the same numbers on every machine. */
export interface RandomStream {
  /** Uniform in [0, 1). */
  next(): number;
  /** Whole number, both ends included. */
  between(low: number, high: number): number;
  /** Normal, by Box and Muller (1958). */
  normal(mean: number, sd: number): number;
  /** Log-normal with the given median; `sigma` is the spread of the logarithm. */
  logNormal(median: number, sigma: number): number;
  pick<T>(items: readonly T[]): T;
  chance(probability: number): boolean;
}

/** A stream of chance that is the same for the same seed (xoroshiro128+; normal by Box–Muller). */
export function randomStream(seed: number): RandomStream {
  const generator = xoroshiro128plus(seed);
  const next = (): number => uniformFloat64(generator);
  const normal = (mean: number, sd: number): number =>
    mean + sd * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  return {
    next,
    between: (low, high) => low + Math.floor(next() * (high - low + 1)),
    normal,
    logNormal: (median, sigma) => median * Math.exp(normal(0, sigma)),
    pick: (items) => {
      const item = items[Math.floor(next() * items.length)];
      if (item === undefined) throw new RangeError('pick: the list is empty');
      return item;
    },
    chance: (probability) => next() < probability,
  };
}
