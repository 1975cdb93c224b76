/** Air of one place at one moment. */
export interface ClimateSample {
  atMs: number;
  /** Valid −1…130 where wood is concerned. */
  temperatureC: number;
  /** 0…100. */
  relativeHumidityPct: number;
}

export type AirNow = Omit<ClimateSample, 'atMs'>;

/** Mean air of a list of samples; undefined for none. */
export function usualAir(samples: readonly ClimateSample[]): AirNow | undefined {
  if (samples.length === 0) return undefined;
  const mean = (of: (sample: ClimateSample) => number): number =>
    samples.reduce((sum, s) => sum + of(s), 0) / samples.length;
  return {
    temperatureC: mean((s) => s.temperatureC),
    relativeHumidityPct: mean((s) => s.relativeHumidityPct),
  };
}

/** The samples after one moment and up to another; they must be in order of time. */
export const samplesWithin = <S extends ClimateSample>(
  samples: readonly S[],
  fromMs: number,
  toMs: number,
): S[] => samples.slice(firstAfter(samples, fromMs), firstAfter(samples, toMs));

/** Index of the first sample after a moment; their number when there is none. */
function firstAfter(samples: readonly ClimateSample[], ms: number): number {
  let low = 0;
  let high = samples.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((samples[middle]?.atMs ?? Infinity) <= ms) low = middle + 1;
    else high = middle;
  }
  return low;
}
