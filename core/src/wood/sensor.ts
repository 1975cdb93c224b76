import { instantFromIso } from '../time/instant.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import type { ClimateSample } from '../units/climate.ts';

/** Why a reading of a climate sensor is kept but not believed. */
export type Doubt = 'jump';

/** Farther than a room's air goes within JUMP_WITHIN_MS. */
const JUMP_C = 4;
const JUMP_RH_PCT = 15;
const JUMP_WITHIN_MS = 30 * MINUTE_MS;
/** A jump is believed once so many readings in a row agree on it: then it was the room. */
const AGREE_TO_BELIEVE = 3;
const AGREE_C = 1;
const AGREE_RH_PCT = 4;
/** A sensor's clock may be off by so much; a message from later is stamped with its arrival. */
export const CLOCK_SLACK_MS = 5 * MINUTE_MS;
/** Finer than any sensor measures; beyond it a number says nothing and a database may not hold it. */
const FINEST = 1000;
/** A gateway that was cut off sends what it kept; older than this it is a wrong clock. */
export const LATEST_MS = 24 * HOUR_MS;
/** Nothing heard for so long: silent. */
export const SILENT_AFTER_MS = 45 * MINUTE_MS;
/** Not one tenth of change in so many hours: stuck. */
export const STUCK_HOURS = 6;

/** What a sensor sent, taken apart: a reading, or what is wrong with it. */
export type SensorMessage =
  | {
      reading: {
        atMs: number | null;
        temperatureC: number;
        relativeHumidityPct: number;
        /** Of the work beside it; absent: it does not measure that. */
        surfaceC?: number;
      };
    }
  | { nonsense: string };

/**
 * Reads one message of a sensor: JSON with `temperatureC`, `relativeHumidityPct` and, if its clock is set, `at`; a booth's
 * sensor may tell the temperature of the work's surface too, `surfaceC`.
 */
export function readSensorMessage(text: string): SensorMessage {
  let message: unknown;
  try {
    message = JSON.parse(text);
  } catch {
    return { nonsense: `no JSON: '${text.slice(0, 40)}'` };
  }
  if (typeof message !== 'object' || message === null) return { nonsense: 'no object' };
  const fields = message as Record<string, unknown>;
  for (const [name, low, high, needed] of [
    ['temperatureC', -40, 80, true],
    ['relativeHumidityPct', 0, 100, true],
    ['surfaceC', -40, 80, false],
  ] as const) {
    const value = fields[name];
    if (!needed && (value === undefined || value === null)) continue;
    if (value === undefined || value === null) return { nonsense: `${name} is missing` };
    if (typeof value !== 'number' || !(value >= low && value <= high))
      return {
        nonsense: `${name} must be ${low}…${high}, got ${typeof value === 'object' ? 'no number' : JSON.stringify(value)}`,
      };
  }
  const told = fields.at ?? null;
  const at = typeof told === 'string' ? instantFromIso(told) : null;
  if (told !== null && at === null)
    return {
      nonsense: `at is no time with its offset: ${typeof told === 'string' ? told.slice(0, 40) : typeof told}`,
    };
  const { temperatureC, relativeHumidityPct, surfaceC } = fields as {
    temperatureC: number;
    relativeHumidityPct: number;
    surfaceC?: number | null;
  };
  const surface = typeof surfaceC === 'number' ? { surfaceC: measurable(surfaceC) } : {};
  return {
    reading: {
      atMs: at,
      temperatureC: measurable(temperatureC),
      relativeHumidityPct: measurable(relativeHumidityPct),
      ...surface,
    },
  };
}

/** To a thousandth: 1e-320 is 0. */
export const measurable = (value: number): number => Math.round(value * FINEST) / FINEST;

/** When a reading was taken: as the sensor says, or on arrival when its clock cannot be right. */
export function sensorInstant(
  atMs: number | null,
  arrivedMs: number,
): { atMs: number; clockOffMs: number | null } {
  if (atMs === null) return { atMs: arrivedMs, clockOffMs: null };
  const off = atMs - arrivedMs;
  return off > CLOCK_SLACK_MS || off < -LATEST_MS
    ? { atMs: arrivedMs, clockOffMs: off }
    : { atMs, clockOffMs: null };
}

const near = (a: ClimateSample, b: ClimateSample, c: number, rh: number): boolean =>
  Math.abs(a.temperatureC - b.temperatureC) <= c &&
  Math.abs(a.relativeHumidityPct - b.relativeHumidityPct) <= rh;

/**
 * Which readings of one sensor jump: farther from the last believed one than air goes in half an hour. A jump that
 * AGREE_TO_BELIEVE readings in a row agree on is believed from there on.
 * @param before the readings just before, in order of time, with what was thought of them.
 */
export function doubtsOf(
  before: readonly (ClimateSample & { doubt: Doubt | null })[],
  readings: readonly ClimateSample[],
): (Doubt | null)[] {
  let trusted: ClimateSample | undefined = before.findLast((reading) => reading.doubt === null);
  const doubted: ClimateSample[] = before.slice(
    trusted ? before.findLastIndex((r) => r.doubt === null) + 1 : 0,
  );
  return readings.map((reading) => {
    const jumps =
      trusted !== undefined &&
      reading.atMs - trusted.atMs <= JUMP_WITHIN_MS &&
      !near(reading, trusted, JUMP_C, JUMP_RH_PCT);
    const agreeing = doubted.slice(-(AGREE_TO_BELIEVE - 1));
    const believed =
      agreeing.length === AGREE_TO_BELIEVE - 1 &&
      agreeing.every((other) => near(other, reading, AGREE_C, AGREE_RH_PCT));
    if (jumps && !believed) {
      doubted.push(reading);
      return 'jump';
    }
    trusted = reading;
    doubted.length = 0;
    return null;
  });
}

export interface SensorHealth {
  state: 'well' | 'silent' | 'stuck' | 'never heard';
  /** In a few words; empty when well. */
  words: string;
}

/** How one room's sensor does, from its hourly extremes of the last STUCK_HOURS hours and more, in order of time. */
export function sensorHealth(options: {
  hours: readonly { atMs: number; lowC: number; highC: number; lowRhPct: number; highRhPct: number }[];
  lastMs: number | null;
  nowMs: number;
}): SensorHealth {
  const { hours, lastMs, nowMs } = options;
  if (lastMs === null) return { state: 'never heard', words: 'no sensor was heard here yet' };
  const quietMs = nowMs - lastMs;
  if (quietMs > Math.max(SILENT_AFTER_MS, 2 * usualGapMs(hours))) {
    const minutes = Math.round(quietMs / MINUTE_MS);
    const words = minutes < 120 ? `${minutes} min` : `${Math.round(minutes / 60)} h`;
    return { state: 'silent', words: `silent for ${words}` };
  }
  const last = hours.filter((hour) => hour.atMs > nowMs - (STUCK_HOURS + 1) * HOUR_MS);
  const lowest = Math.min(...last.map((hour) => hour.lowC));
  const lowestRh = Math.min(...last.map((hour) => hour.lowRhPct));
  const still = last.every((hour) => hour.highC === lowest && hour.highRhPct === lowestRh);
  return still && last.length >= STUCK_HOURS
    ? { state: 'stuck', words: `stuck: not a tenth of change in ${last.length} h` }
    : { state: 'well', words: '' };
}

/** Rooms are logged every minute or every few hours: what is silence follows from that. */
function usualGapMs(hours: readonly { atMs: number }[]): number {
  const gaps = hours.slice(1).map((hour, i) => hour.atMs - (hours[i]?.atMs ?? hour.atMs));
  return gaps.toSorted((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 0;
}
