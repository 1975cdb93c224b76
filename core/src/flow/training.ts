import type { SkillCover } from './available-hours.ts';

/** Somebody with what they can do, what they are learning, and what they can teach. */
export interface TaughtPerson {
  code: string;
  /** What they can do, alone. */
  skills: readonly string[];
  /** What they are learning: they cannot do it alone yet. */
  learning: readonly string[];
  /** What of it they can teach. */
  teaches: readonly string[];
}

/** Whom to train in what, and what comes of it. */
export interface Training {
  skill: string;
  /** Code of who would be there for it longest, for the days it takes. */
  person: string;
  isLearning: boolean;
  /** Codes of those who can teach it; none: it has to be learnt elsewhere. */
  teachers: string[];
  /** Working days until they can do it alone. */
  trainingDays: number;
  /** Hours a day they have beside what their own skills are wanted for. */
  hoursADay: number;
  /** It paces the house; more of it is wanted than they have; nobody would be left, or too few, with one of them away. */
  why: 'paces' | 'too-few' | 'one-away';
  /** More pieces a day out of the house, where it paces; null: none, it makes the house safer and not faster. */
  piecesADay: number | null;
  /** Working days after which what teaching took from the constraint has come back; null: nothing comes back, or nothing was taken. */
  paysBackDays: number | null;
}

/** Working days until somebody can do a skill alone, where nobody has said. Default. */
export const USUAL_TRAINING_DAYS = 20;
/** Share of their hours that somebody who teaches gives to it. Default; the house may know better. */
const TEACHING_SHARE = 0.25;
/** Who is learning has this much of it before them. Default. */
const LEARNING_LEFT = 0.5;

const REASONS: readonly Training['why'][] = ['paces', 'too-few', 'one-away'];

/**
 * Whom to train first, one for each skill that needs somebody: what paces the house first, then what has too little, then what hangs on
 * one. Of those who cannot do it yet, who has most hours for it beside their own work for each day of training.
 * @param options.trainingDays working days until somebody can do a skill alone
 * @param options.pace the skill that paces the house, with pieces an hour there and up to how many more a day before another paces;
 * null: a place does, or nobody
 */
export function trainFirst(options: {
  cover: readonly SkillCover[];
  people: readonly TaughtPerson[];
  shiftHours: number;
  trainingDays: (skill: string) => number;
  pace: { skill: string; piecesAnHour: number; upTo: number | null } | null;
}): Training[] {
  const { cover, people, shiftHours, pace } = options;
  const wantedOf = new Map(
    cover.map(({ skill, people: able, hoursADay }) => [skill, hoursADay / Math.max(1, able.length)]),
  );
  const spareHours = ({ skills }: TaughtPerson): number =>
    Math.max(0, shiftHours - skills.reduce((sum, skill) => sum + (wantedOf.get(skill) ?? 0), 0));
  const wanting = cover
    .flatMap((row) => {
      const why = reasonFor(row, pace?.skill === row.skill);
      return why === null ? [] : [{ ...row, why }];
    })
    .toSorted((a, b) => REASONS.indexOf(a.why) - REASONS.indexOf(b.why) || b.hoursADay - a.hoursADay);
  /** Nobody learns two things at once, as long as there are others. */
  const chosen = new Set<string>();
  return wanting.flatMap(({ skill, why }): Training[] => {
    const teachers = people.filter(({ teaches }) => teaches.includes(skill)).map(({ code }) => code);
    const candidates = people
      // Whoever works at no bench is not taken from the office.
      .filter(({ skills, learning }) => !skills.includes(skill) && skills.length + learning.length > 0)
      .map((person) => {
        const isLearning = person.learning.includes(skill);
        const days = Math.max(1, Math.round(options.trainingDays(skill) * (isLearning ? LEARNING_LEFT : 1)));
        return { person: person.code, isLearning, trainingDays: days, hoursADay: spareHours(person) };
      })
      .toSorted(
        (a, b) =>
          b.hoursADay / b.trainingDays - a.hoursADay / a.trainingDays || (a.person < b.person ? -1 : 1),
      );
    const free = candidates.filter(({ hoursADay }) => hoursADay > 0);
    const best = free.find(({ person }) => !chosen.has(person)) ?? free[0];
    if (!best) return [];
    chosen.add(best.person);
    return [{ skill, teachers, why, ...best, ...comesOf(best, pace, shiftHours, teachers.length > 0, why) }];
  });
}

function reasonFor(
  { hoursADay, share, shareWithoutOne }: SkillCover,
  paces: boolean,
): Training['why'] | null {
  if (paces) return 'paces';
  if (hoursADay <= 0) return null;
  if (share === null || share > 1) return 'too-few';
  return shareWithoutOne === null || shareWithoutOne > 1 ? 'one-away' : null;
}

function comesOf(
  { hoursADay, trainingDays }: Pick<Training, 'hoursADay' | 'trainingDays'>,
  pace: { piecesAnHour: number; upTo: number | null } | null,
  shiftHours: number,
  taughtHere: boolean,
  why: Training['why'],
): Pick<Training, 'piecesADay' | 'paysBackDays'> {
  if (why !== 'paces' || !pace) return { piecesADay: null, paysBackDays: null };
  const piecesADay = Math.min(hoursADay * pace.piecesAnHour, pace.upTo ?? Infinity);
  const taken = taughtHere ? trainingDays * TEACHING_SHARE * shiftHours * pace.piecesAnHour : 0;
  return { piecesADay, paysBackDays: piecesADay > 0 && taken > 0 ? taken / piecesADay : null };
}
