import { sayDay } from '../shared/time.ts';

/** What the charts of the flow have alike: days along, counts up, and what is told of a day. */
export const DAY_AXIS = {
  dataKey: 'day',
  tickFormatter: sayDay,
  stroke: 'var(--umber)',
  tickLine: false,
  minTickGap: 24,
} as const;

export const COUNT_AXIS = {
  allowDecimals: false,
  stroke: 'var(--umber)',
  tickLine: false,
  axisLine: false,
} as const;

export const DAY_TIP = {
  labelFormatter: (day: unknown): string => (typeof day === 'string' ? sayDay(day) : ''),
  contentStyle: { background: 'var(--paper)', border: '1px solid var(--fibre)', borderRadius: 2 },
} as const;
