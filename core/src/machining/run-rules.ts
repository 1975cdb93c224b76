import type { ControlChart } from './control-chart.ts';

/**
 * Run rules a factory can switch on: the four of Western Electric, Statistical Quality Control Handbook (1956), and a
 * steady trend of six (Nelson 1984), which worn cutters show first.
 */
export const RUN_RULES = {
  beyond: { name: 'one point beyond 3 σ', of: 1, wanted: 1, sigmas: 3 },
  'two-of-three': { name: 'two of three beyond 2 σ on one side', of: 3, wanted: 2, sigmas: 2 },
  'four-of-five': { name: 'four of five beyond 1 σ on one side', of: 5, wanted: 4, sigmas: 1 },
  'eight-on-one-side': { name: 'eight in a row on one side of the centre', of: 8, wanted: 8, sigmas: 0 },
  'six-steady': { name: 'six in a row steadily up or down', of: 6, wanted: 6, sigmas: 0 },
} as const;

export type RunRule = keyof typeof RUN_RULES;

export interface RunHit {
  rule: RunRule;
  /** Index of the point that completes it, and of the first point it looks at. */
  at: number;
  from: number;
  side: 'above' | 'below';
}

/**
 * Every point of a chart that completes one of the chosen rules, in order of time, then of the rules' list. A point
 * exactly on a limit is not beyond it.
 */
export function runRuleHits(
  chart: Pick<ControlChart, 'points' | 'limits'> & Partial<Pick<ControlChart, 'pointLimits'>>,
  rules: readonly RunRule[],
): RunHit[] {
  // Points that rest on more values spread less: all are judged in σ of their own.
  const points = chart.points.map((point, i) => {
    const { centre, upper } = chart.pointLimits?.[i] ?? chart.limits;
    return upper > centre
      ? (3 * (point - centre)) / (upper - centre)
      : Math.sign(point - centre) * Infinity || 0;
  });
  const wanted = (Object.keys(RUN_RULES) as RunRule[]).filter((rule) => rules.includes(rule));
  return points.flatMap((_, at) =>
    wanted.flatMap((rule) => {
      const from = at - RUN_RULES[rule].of + 1;
      if (from < 0) return [];
      const seen = points.slice(from, at + 1);
      const side = rule === 'six-steady' ? steady(seen) : onOneSide(rule, seen);
      return side ? [{ rule, at, from, side }] : [];
    }),
  );
}

/** The last point must be one of those beyond: a rule is completed by it, not merely still true. */
function onOneSide(rule: RunRule, seen: readonly number[]): RunHit['side'] | null {
  const { wanted, sigmas } = RUN_RULES[rule];
  const last = seen[seen.length - 1] ?? 0;
  const above = (value: number): boolean => value > sigmas;
  const below = (value: number): boolean => value < -sigmas;
  if (above(last) && seen.filter(above).length >= wanted) return 'above';
  if (below(last) && seen.filter(below).length >= wanted) return 'below';
  return null;
}

function steady(seen: readonly number[]): RunHit['side'] | null {
  const steps = seen.slice(1).map((value, i) => value - (seen[i] ?? value));
  if (steps.every((step) => step > 0)) return 'above';
  return steps.every((step) => step < 0) ? 'below' : null;
}
