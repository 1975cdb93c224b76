import type { HoldOperation } from '../route/index.ts';
import { ageing } from './ageing.ts';
import { cureIn } from './cure.ts';
import { elapsed } from './elapsed.ts';
import { moisture } from './moisture.ts';
import type { HoldContext, HoldForecast, HoldJudgement } from './rules.ts';
import { settle } from './settle.ts';

/** A hold as it is judged: its rule, the room it rests in, and what is measured there. */
export type RestingPlace = Pick<HoldOperation, 'rule' | 'room'> &
  Partial<Pick<HoldOperation, 'key' | 'checks'>>;

/** Is the hold over, by its own rule? Says why in one sentence either way. */
export function isOver({ rule, room, key, checks }: RestingPlace, context: HoldContext): HoldJudgement {
  switch (rule.rule) {
    case 'elapsed':
      return elapsed.isOver(rule, context);
    case 'moisture':
      return moisture.isOver(rule, context);
    case 'cure':
      return cureIn(room).isOver(rule, context);
    case 'settle':
      return settle.isOver(rule, key && checks ? { ...context, shelf: { key, checks } } : context);
    case 'ageing':
      return ageing.isOver(rule, context);
  }
}

/** When the hold will be over if things go on as they did lately. */
export function forecastEnd({ rule, room }: RestingPlace, context: HoldContext): HoldForecast {
  switch (rule.rule) {
    case 'elapsed':
      return elapsed.forecastEnd(rule, context);
    case 'moisture':
      return moisture.forecastEnd(rule, context);
    case 'cure':
      return cureIn(room).forecastEnd(rule, context);
    case 'settle':
      return settle.forecastEnd(rule, context);
    case 'ageing':
      return ageing.forecastEnd(rule, context);
  }
}
