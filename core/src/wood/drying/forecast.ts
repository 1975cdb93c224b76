import { normalQuantile } from '../../stats/normal.ts';
import { quantileOf, quantilesOf } from '../../stats/weighted.ts';
import { loggedAirEmcPct, type Air } from '../emc.ts';
import { passThrough, pullsOf, stepsBetween, type DryingClimate, type Pull } from './air.ts';
import type { DryingFit } from './fit.ts';
import { dryingRateFactor } from './prior.ts';

/** What the wood must reach. */
export interface DryingGate {
  lowPct: number;
  highPct: number;
  /**
   * How far the boards that come last lie from the lot's mean now, % moisture: the forecast is for them. They follow the
   * same law, so the distance shrinks as the lot dries. Default 0: the mean.
   */
  marginPct?: number;
}

export interface DryingOutlook {
  median: number;
  low90: number;
  /** Infinity: one time in twenty or more it does not get there within five years. */
  high90: number;
}

export interface DryingQuestion {
  /** The air from `fromHours` on: one that lasts, or a plan on the readings' axis of hours, the last lasting. */
  climate: Air | readonly DryingClimate[];
  /** The moment the forecast is made, on the readings' axis; not before the last reading. */
  fromHours: number;
}

/** Futures looked at: each a time constant, a moisture now and a course of the room's air. */
const FUTURES = 400;
const STEP_HOURS = 12;
const HORIZON_HOURS = 5 * 365 * 24;
const HOURS_A_DAY = 24;
/** A history of fewer days says little about how a room wanders: then these are assumed. */
const FEWEST_DAYS = 6;
const USUAL_WANDER = { sdPct: 0.4, fromDayToDay: 0.7 };
/** A room whose every day is like the one before never shows what else it does: no more than this is believed. */
const MOST_ALIKE = 0.85;
/** However alike its days, a history is worth more than one of them. */
const FEWEST_WORTH = 2;
/** Sequences that fill the unit square evenly (Roberts 2018: powers of the plastic number): no chance is needed. */
const PLASTIC = 1.324717957244746;

interface Future {
  tauHours: number;
  nowPct: number;
  /** What is added to the EMC, step by step, from now on; repeats. */
  wanders: Float64Array;
  shiftPct: number;
  startsAt: number;
}

/**
 * When the lot meets the gate, in hours after `fromHours`: median and 90 % interval from what the readings leave open
 * about the time constant, the moisture now and the way the room's air will wander (its own logged wandering, played
 * again from every starting point). 0: it is there. 'never': not in this room, since the assumed air would not take it
 * there, or most futures do not get there within five years.
 * @throws RangeError for a gate that does not rise or a `fromHours` before the last reading.
 */
export function forecastDrying(
  fit: DryingFit,
  options: DryingQuestion & { gate: DryingGate },
): DryingOutlook | 'never' {
  const { gate } = options;
  const margin = gate.marginPct ?? 0;
  if (!(gate.lowPct < gate.highPct && margin >= 0))
    throw new RangeError(
      `forecastDrying: gate must rise, got ${gate.lowPct}–${gate.highPct} %, margin ${margin} %`,
    );
  const ahead = airAhead(options);
  const futures = futuresOf(fit, options.fromHours);
  const middlePct = medianOf(futures.map((future) => future.nowPct));
  const wetting = middlePct < gate.lowPct;
  const limit = wetting ? gate.lowPct : gate.highPct;
  const last = (pct: number): number => (wetting ? pct - margin : pct + margin);
  const there = (pct: number): boolean => (wetting ? pct >= limit : pct <= limit);
  const lasting = ahead.at(-1)?.emcPct ?? NaN;
  if (!there(last(middlePct)) && !(wetting ? lasting > limit : lasting < limit)) return 'never';
  const hours = futures.map((future) => ({
    value: crossing({ ...future, nowPct: last(future.nowPct) }, ahead, options.fromHours, there),
    weight: 1,
  }));
  const quantile = quantilesOf(hours);
  const median = quantile(0.5);
  if (!Number.isFinite(median)) return 'never';
  return { median, low90: quantile(0.05), high90: quantile(0.95) };
}

export interface FanPoint extends DryingOutlook {
  hours: number;
}

/** The lot's mean moisture ahead, % with its 90 % band, at `points` + 1 moments from `fromHours` to `untilHours`. */
export function dryingFan(
  fit: DryingFit,
  options: DryingQuestion & { untilHours: number; points?: number },
): FanPoint[] {
  const { fromHours, untilHours, points = 40 } = options;
  const ahead = airAhead(options);
  const futures = futuresOf(fit, fromHours);
  const now = futures.map((future) => future.nowPct);
  return Array.from({ length: points + 1 }, (_, i) => {
    const hours = fromHours + ((untilHours - fromHours) * i) / points;
    if (i > 0) {
      const from = fromHours + ((untilHours - fromHours) * (i - 1)) / points;
      futures.forEach((future, j) => (now[j] = walk(future, ahead, fromHours, from, hours, now[j] ?? NaN)));
    }
    const quantile = quantilesOf(now.map((value) => ({ value, weight: 1 })));
    return { hours, median: quantile(0.5), low90: quantile(0.05), high90: quantile(0.95) };
  });
}

/** The fitted curve through the readings: moisture at evenly spaced moments from the first reading to `untilHours`. */
export function fittedCurve(
  fit: DryingFit,
  options: { untilHours: number; points?: number },
): { hours: number; mcPct: number }[] {
  const { untilHours, points = 60 } = options;
  const span = Math.max(0, untilHours - fit.firstHours);
  return Array.from({ length: points + 1 }, (_, i) => {
    const hours = fit.firstHours + (span * i) / points;
    return { hours, mcPct: meanAt(fit, hours) };
  });
}

function meanAt(fit: DryingFit, hours: number): number {
  return fit.nodes.reduce((sum, { tauHours, weight, lastPct }) => {
    if (hours >= fit.lastHours) {
      const { gain, offset } = passThrough(stepsBetween(fit.pulls, fit.lastHours, hours), tauHours);
      return sum + weight * (gain * lastPct + offset);
    }
    const { gain, offset } = passThrough(stepsBetween(fit.pulls, hours, fit.lastHours), tauHours);
    return sum + (weight * (lastPct - offset)) / gain;
  }, 0);
}

function airAhead({ climate, fromHours }: DryingQuestion): Pull[] {
  if (!('temperatureC' in climate)) {
    if (climate.length === 0) throw new RangeError('forecastDrying: the planned climate is empty');
    return pullsOf(climate);
  }
  return [
    {
      hours: fromHours,
      emcPct: loggedAirEmcPct(climate),
      rate: dryingRateFactor(climate.temperatureC),
    },
  ];
}

/** Evenly spread futures, each as likely as the others: no chance, so the same question has the same answer. */
function futuresOf(fit: DryingFit, fromHours: number): Future[] {
  if (!(fromHours >= fit.lastHours))
    throw new RangeError(`forecastDrying: fromHours must be ${fit.lastHours} or later, got ${fromHours}`);
  const { wanders, shiftSdPct } = wanderingOf(fit);
  const known = stepsBetween(fit.pulls, fit.lastHours, fromHours);
  const tauAt = quantilesOf(fit.nodes.map(({ tauHours, weight }) => ({ value: Math.log(tauHours), weight })));
  return draws().map(({ share, last, shift, start }) => {
    const logTau = tauAt(share);
    const tauHours = Math.exp(logTau);
    const { lastPct, lastSdPct } = nodeAt(fit, logTau);
    const { gain, offset } = passThrough(known, tauHours);
    return {
      tauHours,
      nowPct: gain * (lastPct + lastSdPct * last) + offset,
      wanders,
      shiftPct: shiftSdPct * shift,
      startsAt: Math.floor(start * wanders.length),
    };
  });
}

/** What one future is made of: a share of the time constants, two standard normal numbers, a share of the history. */
interface Draw {
  share: number;
  last: number;
  shift: number;
  start: number;
}

let drawn: readonly Draw[] | undefined;

/** The same even draws for every forecast, made when first asked for. */
function draws(): readonly Draw[] {
  const even = (i: number, power: number): number => (0.5 + i / PLASTIC ** power) % 1;
  const normal = (p: number): number => normalQuantile(Math.min(0.999, Math.max(0.001, p)));
  drawn ??= Array.from({ length: FUTURES }, (_, i) => ({
    share: (i + 0.5) / FUTURES,
    last: normal(even(i, 1)),
    shift: normal(even(i, 2)),
    start: even(i, 3),
  }));
  return drawn;
}

/** Moisture at the last reading for a time constant between two nodes. */
function nodeAt(fit: DryingFit, logTau: number): { lastPct: number; lastSdPct: number } {
  const { nodes } = fit;
  const next = nodes.findIndex((node) => Math.log(node.tauHours) >= logTau);
  const b = nodes[next < 0 ? nodes.length - 1 : next];
  const a = nodes[Math.max(0, (next < 0 ? nodes.length : next) - 1)];
  if (!a || !b) throw new Error('nodeAt: a fit has nodes');
  const [from, to] = [Math.log(a.tauHours), Math.log(b.tauHours)];
  const share = to > from ? Math.min(1, Math.max(0, (logTau - from) / (to - from))) : 0;
  return {
    lastPct: a.lastPct + share * (b.lastPct - a.lastPct),
    lastSdPct: a.lastSdPct + share * (b.lastSdPct - a.lastSdPct),
  };
}

/**
 * How the room's EMC has wandered about its mean, in steps of STEP_HOURS, and how far its mean over the days logged may
 * lie from its mean in the days to come (standard error of a mean of days that resemble their neighbours).
 */
function wanderingOf(fit: DryingFit): { wanders: Float64Array; shiftSdPct: number } {
  const first = fit.pulls[0]?.hours ?? 0;
  const last = fit.pulls.at(-1)?.hours ?? 0;
  const count = Math.floor((last - first) / STEP_HOURS);
  const perDay = HOURS_A_DAY / STEP_HOURS;
  const levels = levelsOf(fit.pulls, first, count);
  const mean = levels.reduce((sum, level) => sum + level, 0) / Math.max(1, count);
  const wanders = Float64Array.from(levels, (level) => level - mean);
  const days = Array.from(
    { length: Math.floor(count / perDay) },
    (_, i) => (wanders[i * perDay] ?? 0) / 2 + (wanders[i * perDay + 1] ?? 0) / 2,
  );
  if (days.length < FEWEST_DAYS)
    return {
      wanders: new Float64Array(1),
      shiftSdPct: shiftOf(USUAL_WANDER.sdPct ** 2, USUAL_WANDER.fromDayToDay, 1),
    };
  const variance = days.reduce((sum, day) => sum + day * day, 0) / (days.length - 1);
  if (variance === 0) return { wanders, shiftSdPct: 0 };
  const alike =
    days.reduce((sum, day, i) => sum + day * (days[i + 1] ?? 0), 0) / (days.length - 1) / variance;
  // In a short series the days look less alike than they are, by (1 + 4ρ) / n (Kendall 1954).
  const rho = Math.min(MOST_ALIKE, Math.max(0, alike + (1 + 4 * alike) / days.length));
  return { wanders, shiftSdPct: shiftOf(variance, rho, days.length) };
}

/** Standard error of the mean of so many days, each like the one before; the variance about that mean is put right too. */
function shiftOf(variance: number, rho: number, days: number): number {
  const worth = Math.max(FEWEST_WORTH, (days * (1 - rho)) / (1 + rho));
  return Math.sqrt(variance / (1 - 1 / worth) / worth);
}

/** Mean EMC of each step. */
function levelsOf(pulls: readonly Pull[], first: number, count: number): number[] {
  const sums = new Float64Array(count);
  // From step to step, not from hour to hour: an hour that is rounded down to the step before it would be come to for ever.
  const stepOf = (hours: number): number => Math.floor((hours - first) / STEP_HOURS);
  pulls.forEach((pull, i) => {
    const until = pulls[i + 1]?.hours ?? pull.hours;
    const last = Math.min(stepOf(until), count - 1);
    for (let step = stepOf(pull.hours); step <= last; step += 1) {
      const from = Math.max(pull.hours, first + step * STEP_HOURS);
      const end = Math.min(until, first + (step + 1) * STEP_HOURS);
      if (end > from) sums[step] = (sums[step] ?? 0) + pull.emcPct * (end - from);
    }
  });
  return Array.from(sums, (sum) => sum / STEP_HOURS);
}

const medianOf = (values: readonly number[]): number =>
  quantileOf(
    values.map((value) => ({ value, weight: 1 })),
    0.5,
  );

/** Air of one step of a future: the plan, moved by how the room wanders. */
function pullAt(
  future: Future,
  ahead: readonly Pull[],
  hours: number,
  step: number,
): { emcPct: number; rate: number } {
  let plan = ahead[0];
  for (const pull of ahead) {
    if (pull.hours > hours) break;
    plan = pull;
  }
  const wander = future.wanders[(future.startsAt + step) % future.wanders.length] ?? 0;
  return { emcPct: (plan?.emcPct ?? NaN) + wander + future.shiftPct, rate: plan?.rate ?? NaN };
}

/** Hours until a future is there; Infinity when it is not within the horizon. */
function crossing(
  future: Future,
  ahead: readonly Pull[],
  fromHours: number,
  there: (pct: number) => boolean,
): number {
  let pct = future.nowPct;
  if (there(pct)) return 0;
  let [rateOf, stays] = [NaN, NaN];
  for (let step = 0; step * STEP_HOURS < HORIZON_HOURS; step += 1) {
    const { emcPct, rate } = pullAt(future, ahead, fromHours + step * STEP_HOURS, step);
    if (rate !== rateOf) [rateOf, stays] = [rate, Math.exp((-rate * STEP_HOURS) / future.tauHours)];
    const next = emcPct + (pct - emcPct) * stays;
    if (there(next)) return step * STEP_HOURS + within({ pct, next, there });
    pct = next;
  }
  return Infinity;
}

/** Where in a step the limit is passed: moisture changes nearly evenly within half a day, so a straight line is searched. */
function within({
  pct,
  next,
  there,
}: {
  pct: number;
  next: number;
  there: (pct: number) => boolean;
}): number {
  let low = 0;
  let high = 1;
  for (let i = 0; i < 10; i += 1) {
    const middle = (low + high) / 2;
    if (there(pct + middle * (next - pct))) high = middle;
    else low = middle;
  }
  return STEP_HOURS * high;
}

/** One future's moisture carried from one hour to a later one. */
function walk(
  future: Future,
  ahead: readonly Pull[],
  fromHours: number,
  start: number,
  end: number,
  pct: number,
): number {
  let value = pct;
  for (let at = start; at < end - 1e-9;) {
    const step = Math.floor((at - fromHours) / STEP_HOURS + 1e-9);
    const until = Math.min(end, fromHours + (step + 1) * STEP_HOURS);
    const { emcPct, rate } = pullAt(future, ahead, at, step);
    value = emcPct + (value - emcPct) * Math.exp((-rate * (until - at)) / future.tauHours);
    at = until;
  }
  return value;
}
