import type { ElapsedRule } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import type { HoldRuleKind } from './rules.ts';

export const elapsed: HoldRuleKind<ElapsedRule> = {
  isOver(rule, { sinceMs, atMs }) {
    const passed = Math.max(0, (atMs - sinceMs) / HOUR_MS);
    const over = passed >= rule.hours;
    const left = spanWords(rule.hours - passed);
    return {
      over,
      progress: rule.hours === 0 ? 1 : Math.min(1, passed / rule.hours),
      sentence: over
        ? `Ready: ${rule.word} of ${spanWords(rule.hours)} is over.`
        : `Wait: ${left} of ${rule.word} left, of ${spanWords(rule.hours)}.`,
    };
  },
  forecastEnd(rule, { sinceMs }) {
    const endMs = sinceMs + rule.hours * HOUR_MS;
    return { endMs, lowMs: endMs, highMs: endMs };
  },
};
