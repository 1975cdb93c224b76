import { DAY_MS, HOUR_MS, randomStream, type ClimateSample } from '@ample-crane/core';
import { ROOMS } from './tarrow-works.ts';

/** A room that drifts just now, for somebody to see it. */
const HUMIDIFIER_STUCK = { room: 'Lumber room', hours: 5, addsPct: 16 };

/** A made-up year of factory air: a daily wave, a slow weather drift of some days, and noise. Hourly, oldest first. */
export function tarrowClimate(fromMs: number, toMs: number, seed: number): Map<string, ClimateSample[]> {
  const firstMs = Math.ceil(fromMs / HOUR_MS) * HOUR_MS;
  return new Map(
    ROOMS.map(({ room, temperatureC, dailySwingC, relativeHumidityPct }, index) => {
      const random = randomStream(seed + index * 7919);
      const samples: ClimateSample[] = [];
      let weather = 0;
      for (let atMs = firstMs; atMs <= toMs; atMs += HOUR_MS) {
        weather = 0.985 * weather + random.normal(0, 0.12);
        // Warmest in the afternoon: 21:00 UTC is 15:00 or 16:00 at Tarrow Works.
        const wave = Math.cos((2 * Math.PI * (atMs - 21 * HOUR_MS)) / DAY_MS);
        const temperature = temperatureC + (dailySwingC / 2) * wave + weather + random.normal(0, 0.1);
        samples.push({
          atMs,
          temperatureC: Math.round(10 * temperature) / 10,
          relativeHumidityPct:
            Math.round(10 * (relativeHumidityPct - 1.5 * wave + 2 * weather + random.normal(0, 0.6))) / 10,
        });
      }
      if (room === HUMIDIFIER_STUCK.room) {
        for (const sample of samples)
          if (sample.atMs > toMs - HUMIDIFIER_STUCK.hours * HOUR_MS)
            sample.relativeHumidityPct += HUMIDIFIER_STUCK.addsPct;
      }
      return [room, samples];
    }),
  );
}
