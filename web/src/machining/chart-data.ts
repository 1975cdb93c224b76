import {
  controlChart,
  dimensionDrift,
  limitsWords,
  processCapability,
  runRuleHits,
  RUN_RULES,
  type Capability,
  type ControlChart,
  type Drift,
  type RunHit,
  type RunRule,
} from '@ample-crane/core';
import type { Chart } from './queries.ts';

export interface ChartRead {
  chart: ControlChart | null;
  hits: RunHit[];
  capability: Capability | null;
  drift: Drift | null;
  /** Looks the chart could use: those with a full sample. */
  looks: Chart['points'];
  /** Looks left out because too few pieces were measured. */
  short: number;
  sentence: string;
  tone: 'good' | 'wait' | 'bad' | 'hold';
}

/** A chart worked out from the looks at a dimension: individuals, or means and ranges of full samples. */
export function readChart(data: Chart, rules: readonly RunRule[]): ChartRead {
  const { check, points, baseline } = data;
  const looks = points.filter((point) => point.values.length >= check.sample);
  const groups = looks.map((point) => point.values.slice(0, check.sample));
  const means = groups.map((values) => values.reduce((sum, value) => sum + value, 0) / values.length);
  const rested = Math.min(baseline, looks.length);
  const enough = looks.length >= 2;
  const chart = !enough
    ? null
    : check.sample === 1
      ? controlChart({ values: means, baseline: rested })
      : controlChart({ subgroups: groups, baseline: rested });
  const hits = chart ? runRuleHits(chart, rules) : [];
  const { lower, upper } = check;
  const capability =
    chart && (lower !== null || upper !== null)
      ? processCapability({ values: groups.flat(), sigma: chart.sigma, lower, upper })
      : null;
  const drift = dimensionDrift({ values: means, lower, upper });
  return {
    chart,
    hits,
    capability,
    drift,
    looks,
    short: points.length - looks.length,
    ...verdict(data, { hits, drift, count: looks.length, values: groups.flat() }),
  };
}

function verdict(
  { check, piecesALook }: Chart,
  found: { hits: readonly RunHit[]; drift: Drift | null; count: number; values: readonly number[] },
): Pick<ChartRead, 'sentence' | 'tone'> {
  const { hits, drift, count, values } = found;
  if (count === 0)
    return { tone: 'hold', sentence: 'Nothing measured yet: measure the first piece of the next load.' };
  const last = hits.filter(({ at }) => at === count - 1);
  const outside = values.filter(
    (value) => (check.lower !== null && value < check.lower) || (check.upper !== null && value > check.upper),
  ).length;
  const out = outside > 0 ? ` ${outside} of ${values.length} values were outside ${limitsWords(check)}.` : '';
  if (drift) {
    const pieces = Math.round(drift.pointsToLimit * piecesALook);
    return {
      tone: 'bad',
      sentence: `Drifting ${drift.slope > 0 ? 'up' : 'down'}: ${check.name.toLowerCase()} will reach its ${drift.toward} limit in about ${pieces} pieces.${out}`,
    };
  }
  if (last[0])
    return {
      tone: 'bad',
      sentence: `Out of control: ${RUN_RULES[last[0].rule].name}, ${last[0].side} the centre.${out}`,
    };
  const earlier =
    hits.length > 0 ? ` ${hits.length} earlier point${hits.length === 1 ? '' : 's'} broke a rule.` : '';
  return { tone: 'good', sentence: `In control: ${count} looks, the last breaks no rule.${earlier}${out}` };
}
