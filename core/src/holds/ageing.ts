import type { AgeTurn } from '../ledger/index.ts';
import type { AgeingRule } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import type { HoldContext, HoldRuleKind } from './rules.ts';

/** Where pieces are in their turns of cold and warm. */
export interface AgeingView {
  /** Times they came out of the cold. */
  cycles: number;
  /** Where they are now; null: not begun. */
  phase: AgeTurn['to'] | null;
  sinceMs: number;
}

/** The turns of the piece that has had fewest. */
export function ageingView({
  ageing = [],
  positions,
  sinceMs,
  atMs,
}: Pick<HoldContext, 'ageing' | 'positions' | 'sinceMs' | 'atMs'>): AgeingView {
  const seen = positions.map((position) => {
    const turns = ageing.filter(
      (turn) => turn.atMs >= sinceMs && turn.atMs <= atMs && turn.positions.includes(position),
    );
    const last = turns.at(-1);
    return {
      cycles: turns.filter(({ to }) => to === 'warm').length,
      phase: last?.to ?? null,
      sinceMs: last?.atMs ?? sinceMs,
    };
  });
  return seen.reduce(
    (least, one) => (one.cycles < least.cycles ? one : least),
    seen[0] ?? { cycles: 0, phase: null, sinceMs },
  );
}

export const ageing: HoldRuleKind<AgeingRule> = {
  isOver(rule, context) {
    const { cycles, phase, sinceMs } = ageingView(context);
    const passed = (context.atMs - sinceMs) / HOUR_MS;
    const length = phase === 'cold' ? rule.coldHours : rule.warmHours;
    const left = Math.max(0, length - passed);
    const counted = `${cycles} of at most ${rule.cycles} cycles`;
    const share = phase === 'cold' ? 0.5 * Math.min(1, passed / rule.coldHours) : 0;
    const progress = Math.min(1, (cycles + share) / rule.cycles);
    if (phase === null)
      return { over: false, progress: 0, sentence: `Wait: ${counted}, a place in the freezer is wanted.` };
    if (phase === 'cold')
      return {
        over: false,
        progress,
        sentence:
          left > 0
            ? `Wait: ${spanWords(left)} of cold left in cycle ${cycles + 1}.`
            : `Take them out to warm: ${spanWords(rule.coldHours)} of cold are over, ${counted} before.`,
      };
    if (left > 0)
      return { over: false, progress, sentence: `Wait: warming for ${spanWords(left)} more, ${counted}.` };
    return cycles >= rule.cycles
      ? { over: true, progress: 1, sentence: `Ready: ${counted}, no more are wanted.` }
      : {
          over: false,
          progress,
          sentence: `Look at them: ${counted}. Stop when they check as wanted, or chill again.`,
        };
  },
  forecastEnd(rule, context) {
    const { cycles, phase, sinceMs } = ageingView(context);
    const turn = rule.coldHours + rule.warmHours;
    const begun = phase === null ? context.atMs : sinceMs;
    const rest = phase === 'warm' ? rule.warmHours : turn;
    const more = Math.max(0, rule.cycles - cycles - (phase === 'warm' ? 0 : 1));
    const endMs = Math.max(begun + (rest + more * turn) * HOUR_MS, sinceMs);
    const soonest = phase === 'warm' ? begun + rule.warmHours * HOUR_MS : begun + turn * HOUR_MS;
    return { endMs, lowMs: Math.min(soonest, endMs), highMs: endMs };
  },
};
