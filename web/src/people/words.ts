import type { VerdictTone } from '../devices/Verdict.tsx';
import type { Roster, Skills } from '../flow/queries.ts';

type Training = Skills['trainings'][number];

const days = (count: number): string =>
  `${Math.round(count)} working ${Math.round(count) === 1 ? 'day' : 'days'}`;

/** What comes of training somebody, and what it takes. */
export function trainingWords(
  { skill, isLearning, teachers, trainingDays, hoursADay, piecesADay, paysBackDays }: Training,
  nameOf: (code: string) => string,
): string {
  const beside = `${hoursADay.toFixed(1)} h a day beside their own work`;
  const brings = piecesADay === null ? '' : `, about ${piecesADay.toFixed(1)} more pieces a day`;
  const taught =
    teachers.length === 0 ? 'nobody here can teach it' : `${teachers.map(nameOf).join(' or ')} can teach it`;
  const paid =
    paysBackDays === null
      ? ''
      : `; what teaching takes from the constraint is back after ${days(paysBackDays)}`;
  return `${beside} for ${skill}${brings}. ${days(trainingDays)}${isLearning ? ', half of it behind them' : ''}; ${taught}${paid}.`;
}

/** Why somebody is to be trained in it. */
export const WHY_WORDS: Record<Training['why'], string> = {
  paces: 'paces the house',
  'too-few': 'more is wanted than they have hours',
  'one-away': 'stops, or falls short, with one away',
};

/** How many are in, and whether every place that has work has somebody. */
export function rosterSentence({ people, work, empty, hours, isToday, paces }: Roster): {
  tone: VerdictTone;
  sentence: string;
} {
  const inCount = people.filter(({ isAway }) => !isAway).length;
  const who = `${inCount} of ${people.length} are in`;
  if (hours === 0)
    return {
      tone: 'wait',
      sentence: `${who}; ${isToday ? 'nothing is left of the day' : 'nobody works on that day'}.`,
    };
  const time = `${hours.toFixed(1)} h ${isToday ? 'are left of today' : 'each'}`;
  const listed = (some: typeof empty): string =>
    some.map(({ stationName, hours: none }) => `${stationName} ${none.toFixed(1)} h`).join(', ');
  const others = empty.filter(({ station }) => station !== paces);
  const atPace = empty.filter(({ station }) => station === paces);
  const pacing = work.find(({ station }) => station === paces)?.stationName;
  const parts = [
    ...(atPace.length > 0
      ? [`${listed(atPace)}, which paces the house, stands empty with work in front of it`]
      : []),
    ...(atPace.length === 0 && pacing !== undefined
      ? [`${pacing}, which paces the house, is worked all through`]
      : []),
    ...(others.length > 0 ? [`places with work and nobody who can: ${listed(others)}`] : []),
    ...(empty.length === 0 ? ['no place with work stands empty'] : []),
  ];
  return {
    tone: atPace.length > 0 ? 'bad' : others.length > 0 ? 'wait' : 'good',
    sentence: `${who}, ${time}; ${parts.join('; ')}.`,
  };
}
