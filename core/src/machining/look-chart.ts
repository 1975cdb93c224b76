import { processCapability, type Capability } from './capability.ts';
import { judgeCheck, limitsWords, valueWords, type Check } from './check.ts';
import { controlChart, type ControlChart } from './control-chart.ts';
import { dimensionDrift, type Drift } from './drift.ts';
import { runRuleHits, RUN_RULES, type RunHit, type RunRule } from './run-rules.ts';

/** A range beyond its limits: the pieces of one look differ too much, or too little to be true. */
export interface RangeHit {
  at: number;
  side: 'above' | 'below';
}

/** What the looks at one dimension say. Every value is in it, also of a look with fewer pieces than usual. */
export interface LooksRead {
  /** Null: fewer than two looks. */
  chart: ControlChart | null;
  hits: RunHit[];
  rangeHits: RangeHit[];
  capability: Capability | null;
  drift: Drift | null;
  /** Looks with values outside the spec, by index. */
  outside: { at: number; values: number[] }[];
  /** Values in all. */
  count: number;
}

/** The chart of one dimension, whoever asks: `looks` in order of time, limits from the first `baseline` of them. */
export function readLooks(options: {
  check: Check;
  looks: readonly (readonly number[])[];
  rules: readonly RunRule[];
  baseline: number;
}): LooksRead {
  const { check, looks, rules, baseline } = options;
  const { lower, upper } = check;
  const chart =
    looks.length < 2 ? null : controlChart({ subgroups: looks, baseline: Math.min(baseline, looks.length) });
  const outside = looks.flatMap((values, at) => {
    const wrong = values.filter((value) => !judgeCheck(check, [value]).pass);
    return wrong.length > 0 ? [{ at, values: wrong }] : [];
  });
  return {
    chart,
    hits: chart ? runRuleHits(chart, rules) : [],
    rangeHits: chart ? rangeHits(chart) : [],
    capability:
      chart && (lower !== null || upper !== null)
        ? processCapability({ values: looks.flat(), sigma: chart.sigma, lower, upper })
        : null,
    drift: chart ? dimensionDrift({ values: chart.points, lower, upper }) : null,
    outside,
    count: looks.reduce((sum, values) => sum + values.length, 0),
  };
}

const rangeHits = ({ ranges, rangeLimitsOf }: ControlChart): RangeHit[] =>
  ranges.flatMap((range, at): RangeHit[] => {
    const limits = rangeLimitsOf[at];
    if (range === null || !limits) return [];
    if (range > limits.upper) return [{ at, side: 'above' }];
    return range < limits.lower ? [{ at, side: 'below' }] : [];
  });

/** The strongest of the rules that a point completes: in the order of their list, a point beyond the limits first. */
export const strongestHit = (hits: readonly RunHit[], at: number): RunHit | null => {
  const order = Object.keys(RUN_RULES);
  return (
    hits.filter((hit) => hit.at === at).sort((a, b) => order.indexOf(a.rule) - order.indexOf(b.rule))[0] ??
    null
  );
};

const times = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;

/** '1 in 800'; by chance never counts as certain. */
const oddsWords = (byChance: number): string =>
  byChance < 1e-6 ? 'less than 1 in a million' : `1 in ${Math.round(1 / byChance)}`;

/** Pieces until a drift meets its limit, with its range: 'about 70 pieces (40 to 160)'. */
export function driftPieces(drift: Drift, piecesALook: number): { about: number; words: string } {
  const about = Math.round(drift.pointsToLimit * piecesALook);
  const [low, high] = [drift.lowPoints, drift.highPoints].map((points) => Math.round(points * piecesALook));
  const range = Number.isFinite(drift.highPoints) ? `${low} to ${high}` : `${low} or more`;
  return { about, words: `about ${times(about, 'piece')} (${range})` };
}

/** What matters most about a dimension, in one sentence: outside its spec, drifting, out of control, or in control. */
export function looksVerdict(
  check: Check,
  read: LooksRead,
  looks: number,
  piecesALook: number,
): { tone: 'good' | 'bad' | 'hold'; sentence: string } {
  if (looks === 0)
    return { tone: 'hold', sentence: 'Nothing measured yet: measure the first piece of the next load.' };
  const last = looks - 1;
  const { drift, hits, rangeHits: ranges, outside, count } = read;
  const all = outside.reduce((sum, { values }) => sum + values.length, 0);
  const out = all > 0 ? ` ${all} of ${count} values were outside ${limitsWords(check)}.` : '';
  const now = outside.find(({ at }) => at === last);
  if (now)
    return {
      tone: 'bad',
      sentence: `Outside its limits: the last look has ${now.values.map((value) => valueWords(check, value)).join(', ')}, limits ${limitsWords(check)}.${out}`,
    };
  if (drift)
    return {
      tone: 'bad',
      sentence: `Drifting ${drift.slope > 0 ? 'up' : 'down'}: ${check.name.toLowerCase()} will reach its ${drift.toward} limit in ${driftPieces(drift, piecesALook).words}; such a slope comes ${oddsWords(drift.byChance)} by chance.${out}`,
    };
  const hit = strongestHit(hits, last);
  if (hit)
    return {
      tone: 'bad',
      sentence: `Out of control: ${RUN_RULES[hit.rule].name}, ${hit.side} the centre.${out}`,
    };
  const range = ranges.find(({ at }) => at === last);
  if (range)
    return {
      tone: 'bad',
      sentence: `Out of control: the pieces of the last look differ too ${range.side === 'above' ? 'much' : 'little'}.${out}`,
    };
  const broke = new Set([...hits, ...ranges].map(({ at }) => at)).size;
  const earlier = broke > 0 ? ` ${times(broke, 'earlier point')} broke a rule.` : '';
  return { tone: 'good', sentence: `In control: ${looks} looks, the last breaks no rule.${earlier}${out}` };
}
