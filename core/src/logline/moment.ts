import { refuse, type Refusal } from '../ledger/index.ts';
import { factoryDate, shiftDate, type FactoryCalendar } from '../time/calendar.ts';
import { instantsShowing } from '../time/instant.ts';
import { MINUTE_MS } from '../units/quantities.ts';

/** When the line says it happened: a time of today or yesterday, or so long ago. */
export type Moment = { clock: string; daysAgo: number } | { minutesAgo: number };

/** The instant a line speaks of; undefined: now. Refused: a time that did not come that day, or came twice. */
export function instantOf(
  moment: Moment | null,
  calendar: Pick<FactoryCalendar, 'zone'>,
  nowMs: number,
): number | Refusal | undefined {
  if (!moment) return undefined;
  if ('minutesAgo' in moment) return nowMs - moment.minutesAgo * MINUTE_MS;
  const date = shiftDate(factoryDate(calendar, nowMs), -moment.daysAgo);
  const [year = NaN, month = NaN, day = NaN] = date.split('-').map(Number);
  const [hour = NaN, minute = NaN] = moment.clock.split(':').map(Number);
  const [first, second] = instantsShowing({ year, month, day, hour, minute }, calendar.zone);
  const instead = `say how long ago it was, as in '90 min ago'`;
  if (first === undefined)
    return refuse(
      'bad-value',
      `the clocks did not show ${moment.clock} on ${date}, they were put forward: ${instead}`,
    );
  if (second !== undefined)
    return refuse(
      'bad-value',
      `the clocks showed ${moment.clock} twice on ${date}, they were put back: ${instead}`,
    );
  return first;
}

/** '9:40', '13:05', '1pm', '1:30pm' as 'HH:mm'; undefined: no time of day at all; null: one that cannot be. */
export function clockOf(word: string, half?: string): string | null | undefined {
  const match = /^(\d{1,2})(?::(\d{2}))?(am|pm)?$/i.exec(word);
  if (!match) return undefined;
  const [, hours = '', minutes, own] = match;
  const said = (own ?? half)?.toLowerCase();
  if (minutes === undefined && said === undefined) return undefined;
  let hour = Number(hours);
  if (said !== undefined && (hour < 1 || hour > 12)) return null;
  if (said === 'pm' && hour < 12) hour += 12;
  if (said === 'am' && hour === 12) hour = 0;
  const minute = Number(minutes ?? 0);
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}
