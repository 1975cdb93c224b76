import type { Operation } from './route.ts';

/** Drying time planned for a rack nobody has read yet, hours. Default. */
const UNREAD_DRYING_HOURS = 7 * 24;

/** Hours on the wall a hold is planned to take, from its start, at reference conditions; 0 for work. */
export function plannedHoldHours(operation: Operation): number {
  if (operation.mode !== 'hold') return 0;
  const { rule } = operation;
  switch (rule.rule) {
    case 'elapsed':
    case 'settle':
      return rule.hours;
    case 'cure':
      return rule.referenceHours;
    case 'ageing':
      return rule.cycles * (rule.coldHours + rule.warmHours);
    case 'moisture':
      return UNREAD_DRYING_HOURS;
  }
}
