import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';

/** Spans of time by chance, from one stream: the same seed and stream give the same spans on every machine. */
export interface Spans {
  /** Uniform in [0, 1). */
  next(): number;
  /** A span of a mean and a coefficient of variation: fixed at 0, exponential at 1, gamma (Marsaglia & Tsang 2000) between and beyond. */
  span(mean: number, cv: number): number;
}

const SCRAMBLE = 0x9e3779b1;

/**
 * A stream of its own for each purpose: what one station draws does not shift what another does, so that two runs that differ in one
 * thing are compared with the same chance everywhere else.
 */
export function spansOf(seed: number, stream: number): Spans {
  const generator = xoroshiro128plus(
    Math.imul(seed ^ 0x5bd1e995, SCRAMBLE) ^ Math.imul(stream + 1, 0x85ebca6b),
  );
  const next = (): number => uniformFloat64(generator);
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
  const gamma = (shape: number): number => {
    if (shape < 1) return gamma(shape + 1) * next() ** (1 / shape);
    const d = shape - 1 / 3;
    const c = 1 / Math.sqrt(9 * d);
    for (;;) {
      const x = normal();
      const v = (1 + c * x) ** 3;
      if (v > 0 && Math.log(1 - next()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
    }
  };
  return {
    next,
    span: (mean, cv) => {
      if (cv === 0 || mean === 0) return mean;
      if (cv === 1) return -mean * Math.log(1 - next());
      const shape = 1 / (cv * cv);
      return (mean * gamma(shape)) / shape;
    },
  };
}
