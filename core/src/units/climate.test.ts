import fc from 'fast-check';
import { samplesWithin, type ClimateSample } from './climate.ts';

const at = (atMs: number): ClimateSample => ({ atMs, temperatureC: 21, relativeHumidityPct: 50 });

describe('the samples of a span', () => {
  it('are those after its start, and up to and with its end', () => {
    const samples = [1, 2, 3, 4].map(at);
    expect(samplesWithin(samples, 1, 3).map(({ atMs }) => atMs)).toEqual([2, 3]);
    expect(samplesWithin(samples, -Infinity, 2).map(({ atMs }) => atMs)).toEqual([1, 2]);
    expect(samplesWithin(samples, 4, 9)).toEqual([]);
    expect(samplesWithin([], 0, 9)).toEqual([]);
  });

  it('are what a plain filter finds, whatever the span', () => {
    const times = fc.array(fc.integer({ min: 0, max: 60 }), { maxLength: 40 });
    const moment = fc.integer({ min: -5, max: 65 });
    fc.assert(
      fc.property(times, moment, moment, (list, fromMs, toMs) => {
        const samples = list.toSorted((a, b) => a - b).map(at);
        expect(samplesWithin(samples, fromMs, toMs)).toEqual(
          samples.filter(({ atMs }) => atMs > fromMs && atMs <= toMs),
        );
      }),
      { seed: 20261125, numRuns: 400 },
    );
  });
});
