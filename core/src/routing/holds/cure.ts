import { cureRate, curedHours, usualAir } from '../../finishing/cure.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import { spanWords } from './words.ts';
import type { CureRule, HoldContext, HoldRuleKind } from './rules.ts';

/** How far back the air is taken to tell the air to come. */
const OUTLOOK_HOURS = 7 * 24;

/** The clock starts at the last coat laid before the hold; without one, when the rack came onto hold. */
export function cureStartMs({
  coats,
  sinceMs,
  positions,
}: Pick<HoldContext, 'coats' | 'sinceMs' | 'positions'>): number {
  const laid = coats
    .filter((c) => c.atMs <= sinceMs && c.positions.some((p) => positions.includes(p)))
    .map((c) => c.atMs);
  return laid.length > 0 ? Math.max(...laid) : sinceMs;
}

/** Reference hours reached; undefined when no climate is known. */
export function cureProgressHours(rule: CureRule, context: HoldContext): number | undefined {
  if (context.curedHours !== undefined) return context.curedHours;
  return curedHours({
    climate: context.climate,
    fromMs: cureStartMs(context),
    toMs: context.atMs,
    kinetics: rule,
  });
}

export const cure: HoldRuleKind<CureRule> = {
  isOver(rule, context) {
    const hours = cureProgressHours(rule, context);
    if (hours === undefined) {
      return {
        over: false,
        progress: 0,
        sentence: 'Wait: no climate is logged for this room, so the cure clock cannot run.',
      };
    }
    const over = hours >= rule.referenceHours;
    const reached = `${Math.floor(hours)} of ${rule.referenceHours} reference hours`;
    return {
      over,
      progress: Math.min(1, hours / rule.referenceHours),
      sentence: over
        ? `Release to ${rule.until}: ${reached} reached.`
        : `Wait to ${rule.until}: ${reached}, ${spanWords(rule.referenceHours - hours)} at 21 °C to go.`,
    };
  },
  forecastEnd(rule, context) {
    const recent = context.climate.filter(
      (s) => s.atMs <= context.atMs && s.atMs > context.atMs - OUTLOOK_HOURS * HOUR_MS,
    );
    const air = usualAir(recent.length > 0 ? recent : context.climate);
    const done = cureProgressHours(rule, context);
    if (!air || done === undefined) return { endMs: null, lowMs: null, highMs: null };
    const left = rule.referenceHours - done;
    if (left <= 0) return whenReached(rule, context);
    const end = (rate: number): number => context.atMs + (left / rate) * HOUR_MS;
    const daily = dailyRates(recent, rule);
    const usual = cureRate(air, rule);
    return {
      endMs: end(usual),
      lowMs: end(Math.max(usual, ...daily)),
      highMs: end(Math.min(usual, ...daily)),
    };
  },
};

/** The moment the hours were reached, found by halving (the clock never runs backwards). */
function whenReached(rule: CureRule, context: HoldContext): { endMs: number; lowMs: number; highMs: number } {
  let low = cureStartMs(context);
  let high = context.atMs;
  if (context.curedHours === undefined) {
    while (high - low > 60_000) {
      const middle = (low + high) / 2;
      const hours = cureProgressHours(rule, { ...context, atMs: middle }) ?? 0;
      if (hours >= rule.referenceHours) high = middle;
      else low = middle;
    }
  }
  return { endMs: high, lowMs: high, highMs: high };
}

/** Mean rate of each of the last days: the spread the coming ones may have. */
function dailyRates(
  samples: readonly { atMs: number; temperatureC: number; relativeHumidityPct: number }[],
  rule: CureRule,
): number[] {
  const days = new Map<number, number[]>();
  for (const sample of samples) {
    const day = Math.floor(sample.atMs / (24 * HOUR_MS));
    days.set(day, [...(days.get(day) ?? []), cureRate(sample, rule)]);
  }
  return [...days.values()].map((rates) => rates.reduce((sum, rate) => sum + rate, 0) / rates.length);
}
