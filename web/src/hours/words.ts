import type { VerdictTone } from '../devices/Verdict.tsx';
import { dayWords } from '../shared/time.ts';
import type { WeekOfWork } from './weeks.ts';

/** What the house works this week and next, and why it is less or more. */
export function hoursSentence(weeks: readonly WeekOfWork[]): { tone: VerdictTone; sentence: string } {
  const [now, next] = weeks;
  if (!now || !next) return { tone: 'good', sentence: '' };
  const because = [...now.days, ...next.days].flatMap(({ day, isClosed, hours, extras }) => {
    if (isClosed) return [hours > 0 ? `overtime only on ${dayWords(day)}` : `closed ${dayWords(day)}`];
    return extras.length > 0 ? [`more on ${dayWords(day)}`] : [];
  });
  const isClosed = [...now.days, ...next.days].some((one) => one.isClosed);
  return {
    tone: isClosed ? 'wait' : 'good',
    sentence: `The house works ${now.hours.toFixed(1)} h this week and ${next.hours.toFixed(1)} h next${because.length > 0 ? `: ${because.join(', ')}` : ''}.`,
  };
}
