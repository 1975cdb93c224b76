import { cure } from './cure.ts';
import { elapsed } from './elapsed.ts';
import { moisture } from './moisture.ts';
import { settle } from './settle.ts';
import type { HoldContext, HoldForecast, HoldJudgement, HoldRule } from './rules.ts';

/** Is the hold over, by its own rule? Says why in one sentence either way. */
export function isOver(rule: HoldRule, context: HoldContext): HoldJudgement {
  switch (rule.rule) {
    case 'elapsed':
      return elapsed.isOver(rule, context);
    case 'moisture':
      return moisture.isOver(rule, context);
    case 'cure':
      return cure.isOver(rule, context);
    case 'settle':
      return settle.isOver(rule, context);
  }
}

/** When the hold will be over if things go on as they did lately. */
export function forecastEnd(rule: HoldRule, context: HoldContext): HoldForecast {
  switch (rule.rule) {
    case 'elapsed':
      return elapsed.forecastEnd(rule, context);
    case 'moisture':
      return moisture.forecastEnd(rule, context);
    case 'cure':
      return cure.forecastEnd(rule, context);
    case 'settle':
      return settle.forecastEnd(rule, context);
  }
}
