import { correctMeterReadingPct, METER_TEMPERATURE_C, UNCORRECTED, type MeterLine } from '@ample-crane/core';
import type { Meter } from './queries.ts';

/** The line of a meter for a wood, with how it came about in words. */
export function lineWords(
  meters: readonly Meter[],
  meter: string,
  species: string | null,
): { line: MeterLine; words: string; warn: boolean } {
  const found = meters.find(({ code }) => code === meter);
  const own = found?.calibrations.find((c) => c.species === species);
  const kind = found?.kind === 'pinless' ? { ignoresTemperature: true } : {};
  if (!own?.line) {
    return {
      line: { ...UNCORRECTED, ...kind },
      words: `${meter} was never tested against oven-dry ${species ?? 'wood'}: readings are taken as they are`,
      warn: true,
    };
  }
  const { a, b, samples, residualSdPct } = own.line;
  const sign = a < 0 ? '−' : '+';
  const words = `${species}: ${b.toFixed(2)} × reading ${sign} ${Math.abs(a).toFixed(2)}, from ${samples} oven-dry samples, ± ${residualSdPct.toFixed(2)} %`;
  return {
    line: own.line,
    words: own.stale ? `${words}; older than a year, test it again` : words,
    warn: own.stale,
  };
}

/** What a reading means, step by step. */
export function correctionOf(
  readingPct: number,
  woodTemperatureC: number | null,
  line: MeterLine,
): { correctedPct: number; temperaturePct: number; linePct: number } {
  const temperature = woodTemperatureC ?? METER_TEMPERATURE_C;
  const atReference = correctMeterReadingPct({
    readingPct,
    woodTemperatureC: temperature,
    line: { ...line, a: 0, b: 1 },
  });
  const correctedPct = correctMeterReadingPct({ readingPct, woodTemperatureC: temperature, line });
  return { correctedPct, temperaturePct: atReference - readingPct, linePct: correctedPct - atReference };
}
