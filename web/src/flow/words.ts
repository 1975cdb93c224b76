import { count, LITTLE_LIMIT } from '@ample-crane/core';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type { Constraint, Cumulative, LeadTimes, LogWhole, Resource, Skills } from './queries.ts';

/** '97 %'. */
export const shareWords = (share: number): string => `${Math.round(100 * share)} %`;

const named = ({ rows }: Constraint, code: string | null, by?: string | null): Resource | undefined =>
  rows.find((row) => row.code === code && (by === undefined || by === null || row.by === by));

const capital = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;

/** Which one paces the house, since when, how sure, and whether the signs agree. */
export function paceSentence(
  data: Constraint,
  since: string | null,
): { tone: VerdictTone; sentence: string } {
  const { verdict } = data;
  const row = named(data, verdict.code, verdict.by);
  if (!row) {
    const leaders = [
      ...new Set(Object.values(verdict.leaders).flatMap((code) => named(data, code)?.name ?? [])),
    ];
    if (leaders.length === 0)
      return { tone: 'good', sentence: 'Nothing paces the house: no work waits for hours it has not.' };
    return {
      tone: 'wait',
      sentence: `Not sure: the signs name ${leaders.join(' and ')}.`,
    };
  }
  const when = since === null ? 'for all of the window' : `since ${since}`;
  const agree =
    verdict.agree.length === 3 ? 'all three signs agree' : `${verdict.agree.length} of three signs name it`;
  const turns = named(data, verdict.shiftingWith);
  const and = turns ? `, by turns with ${turns.name}` : '';
  return {
    tone: 'bad',
    sentence: `${capital(row.name)} ${row.by === 'skill' ? 'have' : 'has'} paced the house ${when}${and}; ${agree} (${shareWords(Math.min(verdict.sureness, 0.99))} sure).`,
  };
}

/** Whether it is the people or the place, by what the other is asked for. */
export function peopleOrPlace(data: Constraint): string {
  const { verdict, rows } = data;
  const row = named(data, verdict.code, verdict.by);
  if (!row) return 'Look again when more has been logged, or over a longer window.';
  const others = rows.filter((one) => one.by !== row.by && row.goesWith.includes(one.code));
  const offered = `${row.hoursOfferedADay.toFixed(1)} h a day of work come, there are ${row.hoursADay.toFixed(1)} h`;
  if (others.length === 0) return `${capital(offered)}.`;
  const free = others.map(({ name, loadShare }) => `of ${name} ${shareWords(loadShare)}`).join(', ');
  const rather = row.by === 'station' ? 'the place, not the people' : 'people, not the place';
  return `It is ${rather}: ${offered}; of their hours are asked for ${free}.`;
}

/** What one hour more a day there would bring, and who would pace then. */
export function worthWords(data: Constraint): string {
  const { hourWorth, verdict } = data;
  const row = named(data, verdict.code, verdict.by);
  if (!hourWorth || !row) return 'Where nobody paces, an hour more anywhere brings nothing that can be told.';
  const { pieces, upTo, next } = hourWorth;
  const first = `One more hour a day at ${row.name}: ${pieces.toFixed(1)} more pieces a day`;
  if (upTo === null || next === null) return `${first}.`;
  return upTo < 0.05
    ? `${first}, but ${next} has no hours left for them.`
    : `${first}, up to ${upTo.toFixed(1)} more, before ${next} would pace.`;
}

/** 'Colour, 98 % sure', 'nobody for sure'. */
export const weekWords = ({ name, sureness }: Constraint['weeks'][number]): string =>
  name === null ? 'nobody for sure' : `${name}, ${shareWords(Math.min(sureness, 0.99))} sure`;

/** Where the racks behind a station stand; a skill has the grid. */
export const resourceHref = ({ stage }: Resource): string =>
  stage === null ? '/flow/people' : `/stage/${stage}`;

/** How long what left was on its way, and what most of it was. */
export function leadSentence({ cycle, parts, leftADay }: LeadTimes): { tone: VerdictTone; sentence: string } {
  if (!cycle) return { tone: 'hold', sentence: 'Nothing left in that time.' };
  const all = Object.values(parts).reduce((sum, days) => sum + days, 0);
  const share = all > 0 ? parts.touch / all : 0;
  return {
    tone: 'hold',
    sentence: `Half of ${cycle.count} instruments took ${cycle.medianDays.toFixed(0)} days or less, 85 of a hundred ${cycle.p85Days.toFixed(0)}; they were worked on for ${shareWords(share)} of it. ${leftADay.toFixed(1)} left a working day.`,
  };
}

/** What is in the house against what the wanted lead time allows, and how long things take as they are. */
export function wipSentence({ wip, wantedDays }: Pick<Cumulative, 'wip' | 'wantedDays'>): {
  tone: VerdictTone;
  sentence: string;
} {
  const { inHouse, leftADay, leadDays, cap } = wip;
  const there = `${count(inHouse, 'instrument')} in the house`;
  if (leadDays === null)
    return {
      tone: 'hold',
      sentence: `${there}. Nothing left in that time: how long one takes cannot be told.`,
    };
  const takes = `${leftADay.toFixed(1)} leave a day, so one that begins now leaves in about ${leadDays.toFixed(0)} days`;
  if (cap === null || wantedDays === null) return { tone: 'hold', sentence: `${there}; ${takes}.` };
  return inHouse > cap
    ? {
        tone: 'bad',
        sentence: `${there}, ${inHouse - cap} more than the ${cap} that ${wantedDays} days allow: ${takes}. Begin fewer than leave until then.`,
      }
    : {
        tone: 'good',
        sentence: `${there} of the ${cap} that ${wantedDays} days allow: ${takes}. ${cap - inHouse} more may be begun.`,
      };
}

/** '3.2 days late', '1.0 days early'. */
export const lateWords = (days: number): string =>
  days > 0 ? `${days.toFixed(1)} days late` : `${(-days).toFixed(1)} days early`;

/** How many left by the day they were due, and how late the others. */
export function inTimeSentence({
  inTime,
  count,
  medianDays,
  p85Days,
}: NonNullable<LeadTimes['late']>): string {
  return `${inTime} of ${count} left by the day their rack was due: half of them ${lateWords(medianDays)} or better, 85 of a hundred ${lateWords(p85Days)} or better.`;
}

/** Whether the log can be believed, in one sentence. */
export function wholeSentence(data: LogWhole): { tone: VerdictTone; sentence: string } {
  const { little, missingStarts, tooFast, forgotten, habits } = data;
  const off = little.filter(({ fits }) => !fits).length;
  const found = missingStarts.length + tooFast.length + forgotten.length + habits.length;
  if (off + found === 0)
    return { tone: 'good', sentence: 'The log fits together: what is counted there is what its times say.' };
  const stages =
    off > 0 ? `${off} of ${little.length} stages do not fit Little’s law` : 'every stage fits Little’s law';
  const things = found > 0 ? `, ${found} ${found === 1 ? 'thing looks' : 'things look'} odd` : '';
  return { tone: off > 0 ? 'wait' : 'hold', sentence: `${capital(stages)}${things}.` };
}

/** What a stage's mismatch says. */
export const littleWords = ({ wip, expected, mismatch, fits }: LogWhole['little'][number]): string =>
  mismatch === null
    ? 'nothing was there'
    : fits
      ? `${wip.toFixed(0)} counted, ${expected.toFixed(0)} by its times`
      : `${wip.toFixed(0)} counted, ${expected.toFixed(0)} by its times: ${shareWords(Math.abs(mismatch))} ${mismatch > 0 ? 'more' : 'fewer'}, over ${shareWords(LITTLE_LIMIT)}. Either it is filling or emptying, or entries are missing`;

/** Which skills hang on whom, in one sentence. */
export function coverSentence({ cover }: Skills): { tone: VerdictTone; sentence: string } {
  const none = cover.filter(({ people }) => people.length === 0);
  const one = cover.filter(({ people }) => people.length === 1);
  if (none.length > 0)
    return { tone: 'bad', sentence: `Nobody can ${none.map(({ skill }) => skill).join(', ')}.` };
  if (one.length === 0)
    return { tone: 'good', sentence: 'Every skill that is wanted has two people or more.' };
  const [skill] = one;
  const which = one.map((each) => each.skill).join(', ');
  return {
    tone: 'wait',
    sentence: `${one.length} ${one.length === 1 ? 'skill hangs' : 'skills hang'} on one person: ${which}. ${capital(skill?.skill ?? '')} is wanted ${(skill?.hoursADay ?? 0).toFixed(1)} h a day.`,
  };
}
