import type { ClimateSample } from '../units/climate.ts';
import { HOUR_MS } from '../units/quantities.ts';

/** How fast a finish cures away from its reference conditions (21 °C, up to 65 % RH). DOMAIN §5. */
export interface CureKinetics {
  /** Factor by which cure speeds up for every 10 °C more. Default 2.0 catalysed, 1.6 lacquers. */
  q: number;
}

export const REFERENCE_TEMPERATURE_C = 21;
/** Humidity up to which cure is not slowed, and the one at which it runs at half speed. DOMAIN §5. */
const RH_FREE_PCT = 65;
const RH_HALF_PCT = 85;
/** A sample stands for the air until the next one, but no longer than this: then the room's usual air is assumed. */
export const SAMPLE_HOLDS_HOURS = 6;

/** Reference hours gained per hour on the wall in this air. */
export function cureRate(
  air: { temperatureC: number; relativeHumidityPct: number },
  { q }: CureKinetics,
): number {
  const warmth = q ** ((air.temperatureC - REFERENCE_TEMPERATURE_C) / 10);
  const damp = (air.relativeHumidityPct - RH_FREE_PCT) / (RH_HALF_PCT - RH_FREE_PCT);
  return warmth * (1 - 0.5 * Math.min(1, Math.max(0, damp)));
}

/** Mean air of a list of samples; undefined for none. */
export function usualAir(samples: readonly ClimateSample[]): Omit<ClimateSample, 'atMs'> | undefined {
  if (samples.length === 0) return undefined;
  const mean = (of: (sample: ClimateSample) => number): number =>
    samples.reduce((sum, s) => sum + of(s), 0) / samples.length;
  return {
    temperatureC: mean((s) => s.temperatureC),
    relativeHumidityPct: mean((s) => s.relativeHumidityPct),
  };
}

/**
 * Reference hours gathered between two instants: ∫ r(T)·w(RH) dt over the logged air, each sample standing until
 * the next one. Gaps longer than SAMPLE_HOLDS_HOURS, and the time before the first sample, take the usual air.
 * Never negative; 0 when the end is not after the start. Samples must be in order of time.
 * @returns undefined when there is no climate at all to go by.
 */
export function curedHours(options: {
  climate: readonly ClimateSample[];
  fromMs: number;
  toMs: number;
  kinetics: CureKinetics;
}): number | undefined {
  const { climate, fromMs, toMs, kinetics } = options;
  const usual = usualAir(climate);
  if (!usual) return undefined;
  const usualRate = cureRate(usual, kinetics);
  let hours = 0;
  let atMs = fromMs;
  climate.forEach((sample, index) => {
    const next = climate[index + 1]?.atMs ?? Infinity;
    const untilMs = Math.min(next, sample.atMs + SAMPLE_HOLDS_HOURS * HOUR_MS, toMs);
    if (untilMs <= atMs) return;
    if (sample.atMs > atMs) {
      hours += (usualRate * (Math.min(sample.atMs, toMs) - atMs)) / HOUR_MS;
      atMs = Math.min(sample.atMs, toMs);
    }
    if (untilMs > atMs) {
      hours += (cureRate(sample, kinetics) * (untilMs - atMs)) / HOUR_MS;
      atMs = untilMs;
    }
  });
  if (toMs > atMs) hours += (usualRate * (toMs - atMs)) / HOUR_MS;
  return hours;
}
