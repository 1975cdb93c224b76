import { DAY_MS, HOUR_MS, randomStream, type BoothSample } from '@ample-crane/core';
import { BOOTHS } from './tarrow-finish.ts';
import { ROOMS } from './tarrow-works.ts';

/** A room that drifts just now, for somebody to see it. */
const HUMIDIFIER_STUCK = { room: 'Lumber room', hours: 5, addsPct: 16 };
/** A booth that is too damp every evening: from 15:00 at Tarrow Works in winter. */
const DAMP_EVENINGS = { room: 'Booth 3', fromUtc: 21, untilUtc: 26, addsPct: 27 };
/** The cure room's heating failed last night. */
const COLD_NIGHT = { room: 'Cure room', fromHoursAgo: 19, toHoursAgo: 6, byC: -4 };
/** Work comes into a booth a little colder than its air. */
const SURFACE_BELOW_C = 0.9;

/** A made-up year of factory air: a daily wave, a slow weather drift of some days, and noise. Hourly, oldest first. */
export function tarrowClimate(fromMs: number, toMs: number, seed: number): Map<string, BoothSample[]> {
  const firstMs = Math.ceil(fromMs / HOUR_MS) * HOUR_MS;
  return new Map(
    ROOMS.map(({ room, temperatureC, dailySwingC, relativeHumidityPct }, index) => {
      const random = randomStream(seed + index * 7919);
      const hasSurface = BOOTHS.some((booth) => booth.room === room);
      const samples: BoothSample[] = [];
      let weather = 0;
      for (let atMs = firstMs; atMs <= toMs; atMs += HOUR_MS) {
        weather = 0.985 * weather + random.normal(0, 0.12);
        // Warmest in the afternoon: 21:00 UTC is 15:00 or 16:00 at Tarrow Works.
        const wave = Math.cos((2 * Math.PI * (atMs - 21 * HOUR_MS)) / DAY_MS);
        const temperature =
          temperatureC +
          (dailySwingC / 2) * wave +
          weather +
          random.normal(0, 0.1) +
          coldBy(room, toMs - atMs);
        samples.push({
          atMs,
          temperatureC: tenth(temperature),
          relativeHumidityPct: tenth(
            relativeHumidityPct - 1.5 * wave + 2 * weather + random.normal(0, 0.6) + dampBy(room, atMs, toMs),
          ),
          ...(hasSurface ? { surfaceC: tenth(temperature - SURFACE_BELOW_C + random.normal(0, 0.1)) } : {}),
        });
      }
      return [room, samples];
    }),
  );
}

const tenth = (value: number): number => Math.round(10 * value) / 10;

function coldBy(room: string, agoMs: number): number {
  const { fromHoursAgo, toHoursAgo, byC } = COLD_NIGHT;
  return room === COLD_NIGHT.room && agoMs <= fromHoursAgo * HOUR_MS && agoMs >= toHoursAgo * HOUR_MS
    ? byC
    : 0;
}

function dampBy(room: string, atMs: number, nowMs: number): number {
  if (room === HUMIDIFIER_STUCK.room && atMs > nowMs - HUMIDIFIER_STUCK.hours * HOUR_MS)
    return HUMIDIFIER_STUCK.addsPct;
  const hour = Math.floor(atMs / HOUR_MS) % 24;
  const { fromUtc, untilUtc, addsPct } = DAMP_EVENINGS;
  const isEvening = hour >= fromUtc || hour + 24 < untilUtc;
  return room === DAMP_EVENINGS.room && isEvening ? addsPct : 0;
}
