import { summarise } from '../stats/descriptive.ts';
import { samplesWithin, type ClimateSample } from '../units/climate.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import {
  airOf,
  layRungs,
  gatheringOf,
  UNTILS,
  type CureClimate,
  type CureSpec,
  type Until,
} from './coat-cure.ts';
import { cureRate } from './cure.ts';

/** The air to come is told from so many days of the air that was. */
export const OUTLOOK_DAYS = 14;
/** 5th and 95th percentile of a standard normal. */
const Z_90 = 1.645;
/**
 * Days of weather in a row go together: the mean of n days wanders as if it rested on n/5 independent ones (an
 * autoregression of 0.67 from day to day; indoor air over some weeks).
 */
const DAYS_THAT_GO_TOGETHER = 5;
/** A forecast farther ahead than this says nothing. */
const LONGEST_DAYS = 400;
const MOST_HOURS = LONGEST_DAYS * 24;

/** How fast cure may go in the hours to come: by the hour of the day, and how the days differ. */
export interface CureOutlook {
  /** Mean rate at each hour of the (UTC) day. */
  byHour: readonly number[];
  mean: number;
  /** Spread of the daily means. */
  dailySd: number;
}

/** What was worked out for a room: many racks ask the same, about now and about yesterday. */
const kept = new WeakMap<readonly ClimateSample[], Map<number, Map<number, CureOutlook>>>();
/** Instants kept for a room; whoever asks about more of them goes on in time and never comes back. */
const MOST_KEPT = 4;

/** The rate of the last days, as that of the days to come; undefined without climate. Samples in order of time. */
export function cureOutlook(
  samples: readonly ClimateSample[],
  nowMs: number,
  q: number,
): CureOutlook | undefined {
  const room = kept.get(samples) ?? new Map<number, Map<number, CureOutlook>>();
  kept.set(samples, room);
  const byQ = room.get(nowMs) ?? new Map<number, CureOutlook>();
  if (!room.has(nowMs) && room.size >= MOST_KEPT) room.clear();
  room.set(nowMs, byQ);
  const known = byQ.get(q);
  if (known) return known;
  const outlook = outlookFrom(samples, nowMs, q);
  if (outlook) byQ.set(q, outlook);
  return outlook;
}

function outlookFrom(samples: readonly ClimateSample[], nowMs: number, q: number): CureOutlook | undefined {
  const recent = samplesWithin(samples, nowMs - OUTLOOK_DAYS * DAY_MS, nowMs);
  const used = recent.length > 0 ? recent : samples;
  if (used.length === 0) return undefined;
  const hours = Array.from({ length: 24 }, () => ({ sum: 0, n: 0 }));
  const days = new Map<number, { sum: number; n: number }>();
  for (const sample of used) {
    const rate = cureRate(sample, { q });
    const hour = hours[Math.floor(sample.atMs / HOUR_MS) % 24];
    const dayOf = Math.floor((nowMs - sample.atMs) / DAY_MS);
    const day = days.get(dayOf) ?? { sum: 0, n: 0 };
    if (hour) addTo(hour, rate);
    addTo(day, rate);
    days.set(dayOf, day);
  }
  const daily = summarise([...days.values()].map(({ sum, n }) => sum / n));
  return {
    byHour: hours.map(({ sum, n }) => (n === 0 ? daily.mean : sum / n)),
    mean: daily.mean,
    dailySd: daily.sd,
  };
}

function addTo(total: { sum: number; n: number }, value: number): void {
  total.sum += value;
  total.n += 1;
}

export interface CureEnd {
  median: number;
  low90: number;
  high90: number;
}

/**
 * When so many reference hours more will have been gathered, ms: in the air of the last days, hour of day by hour of day,
 * with the 90 % range that their weather leaves. Null when that is more than a year ahead.
 */
export function whenGathered(outlook: CureOutlook, leftHours: number, nowMs: number): CureEnd | null {
  const run = (factor: number): number => {
    let left = leftHours;
    for (let i = 0; i < MOST_HOURS; i += 1) {
      const atMs = nowMs + i * HOUR_MS;
      const rate = factor * (outlook.byHour[Math.floor(atMs / HOUR_MS) % 24] ?? outlook.mean);
      if (rate >= left) return atMs + (left / rate) * HOUR_MS;
      left -= rate;
    }
    return Infinity;
  };
  const median = run(1);
  if (median === Infinity) return null;
  const days = Math.max(1, (median - nowMs) / DAY_MS);
  const spread =
    (Z_90 * outlook.dailySd * Math.min(1, Math.sqrt(DAYS_THAT_GO_TOGETHER / days))) / outlook.mean;
  return { median, low90: run(1 + spread), high90: run(Math.max(0.1, 1 - spread)) };
}

/**
 * Hours on the axis of the coats at which a piece may be recoated, sanded and buffed: the clock up to now from the logged
 * air, from there on in the air of the last two weeks by the hour of the day. A moment already past is given exactly, to the
 * minute. Null for what would take more than a year.
 * @throws RangeError as cureState does.
 */
export function forecastCure(options: {
  coats: readonly { atHours: number; filmUm: number }[];
  climate: readonly CureClimate[];
  recipe: CureSpec;
  atHours: number;
}): Record<Until, CureEnd | null> {
  const { coats, climate, recipe, atHours } = options;
  const air = airOf(climate);
  const nowMs = atHours * HOUR_MS;
  const laid = coats.map((coat) => ({ atMs: coat.atHours * HOUR_MS, filmUm: coat.filmUm, spec: recipe }));
  const outlook = cureOutlook(air.samples, nowMs, recipe.q);
  if (!outlook) throw new RangeError('forecastCure: no climate is known');
  const rungs = layRungs(laid, air.hours);
  const inHours = ({ median, low90, high90 }: CureEnd): CureEnd => ({
    median: median / HOUR_MS,
    low90: low90 / HOUR_MS,
    high90: high90 / HOUR_MS,
  });
  const entries = UNTILS.map((until) => {
    const gathering = gatheringOf(rungs, air.hours, nowMs, until);
    if (!gathering) return [until, null] as const;
    const left = gathering.needed - gathering.gathered;
    if (left > 0) {
      const end = whenGathered(outlook, left, nowMs);
      return [until, end && inHours(end)] as const;
    }
    const topMs = laid.at(-1)?.atMs ?? nowMs;
    const reached = reachedMs(
      (ms) => {
        const then = gatheringOf(rungs, air.hours, ms, until);
        return then !== undefined && then.gathered >= then.needed;
      },
      topMs,
      nowMs,
    );
    return [until, inHours({ median: reached, low90: reached, high90: reached })] as const;
  });
  return Object.fromEntries(entries) as Record<Until, CureEnd | null>;
}

/** The first moment at which something that stays true became true, by halving, to the minute. */
export function reachedMs(isTrue: (ms: number) => boolean, fromMs: number, toMs: number): number {
  let low = fromMs;
  let high = toMs;
  while (high - low > 60_000) {
    const middle = (low + high) / 2;
    if (isTrue(middle)) high = middle;
    else low = middle;
  }
  return high;
}
