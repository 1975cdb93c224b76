import { settlingDriftMm } from '../../assembly/settling.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import { elapsed } from './elapsed.ts';
import { spanWords } from './words.ts';
import type { HoldRuleKind, SettleRule } from './rules.ts';

export const settle: HoldRuleKind<SettleRule> = {
  isOver(rule, context) {
    const { sinceMs, atMs, measures } = context;
    const endMs = sinceMs + rule.hours * HOUR_MS;
    const progress = Math.min(1, Math.max(0, (atMs - sinceMs) / (rule.hours * HOUR_MS)));
    if (atMs < endMs) {
      const left = spanWords((endMs - atMs) / HOUR_MS);
      return {
        over: false,
        progress,
        sentence: `Wait: ${left} of settling left, of ${spanWords(rule.hours)}.`,
      };
    }
    const before = measures.filter((set) => set.atMs <= sinceMs).at(-1);
    const after = measures.filter((set) => set.atMs >= endMs && set.atMs <= atMs).at(-1);
    if (!after) {
      return {
        over: false,
        progress,
        sentence: `Measure again: ${spanWords(rule.hours)} of settling are over, the action is not yet checked.`,
      };
    }
    if (!before)
      return {
        over: true,
        progress,
        sentence: 'Release: settled and measured; no earlier measure to compare with.',
      };
    const drift = settlingDriftMm(before.valuesMm, after.valuesMm);
    const numbers = `action moved ${drift >= 0 ? '+' : '−'}${Math.abs(drift).toFixed(2)} mm, limit ${rule.driftLimitMm.toFixed(2)}`;
    const over = Math.abs(drift) <= rule.driftLimitMm;
    return {
      over,
      progress,
      sentence: over ? `Release: settled, ${numbers}.` : `Back to set-up: ${numbers}.`,
    };
  },
  forecastEnd(rule, context) {
    return elapsed.forecastEnd({ rule: 'elapsed', word: 'rest', hours: rule.hours }, context);
  },
};
