import {
  factoryDate,
  shiftDate,
  startOfFactoryDay,
  workingMinutesBetween,
  type FactoryCalendar,
} from '../time/calendar.ts';

/** Somebody with what they can do, and the days they are not there. */
export interface SkilledPerson {
  code: string;
  skills: readonly string[];
  /** 'YYYY-MM-DD'. */
  absentOn: readonly string[];
}

export interface AvailableHours {
  /** What its places have: each for all hours that are worked. */
  placeHours: number;
  /** What those who can do its work have, whatever else they could do; null: it needs no skill. */
  peopleHours: number | null;
  /** The smaller of the two, day by day. */
  hours: number;
}

/** A factory day with the hours of one person that are worked on it. */
export interface WorkedDay {
  /** 'YYYY-MM-DD'. */
  day: string;
  hours: number;
}

/** The factory days of a window, those at its ends with what lies within it; closed days have no hours. */
export function workedDays(calendar: FactoryCalendar, fromMs: number, toMs: number): WorkedDay[] {
  const days: WorkedDay[] = [];
  for (
    let day = factoryDate(calendar, fromMs);
    toMs > startOfFactoryDay(calendar, day);
    day = shiftDate(day, 1)
  ) {
    const startMs = Math.max(fromMs, startOfFactoryDay(calendar, day));
    const endMs = Math.min(toMs, startOfFactoryDay(calendar, shiftDate(day, 1)));
    days.push({ day, hours: workingMinutesBetween(calendar, startMs, endMs) / 60 });
  }
  return days;
}

/**
 * Hours a station has in a window: of its places, and of the people who can work there.
 * @param options.skills the skills that its operations need; anybody with one of them counts
 * @param options.worked the days of the window, where many ask about the same one
 */
export function availableHours(options: {
  calendar: FactoryCalendar;
  fromMs: number;
  toMs: number;
  station: { parallel: number };
  skills: readonly string[];
  people: readonly SkilledPerson[];
  worked?: readonly WorkedDay[];
}): AvailableHours {
  const { calendar, fromMs, toMs, station, skills, people } = options;
  const able = people.filter((person) => skills.some((skill) => person.skills.includes(skill)));
  let [placeHours, peopleHours, hours] = [0, 0, 0];
  for (const { day, hours: shift } of options.worked ?? workedDays(calendar, fromMs, toMs)) {
    const there = able.filter(({ absentOn }) => !absentOn.includes(day)).length;
    placeHours += station.parallel * shift;
    peopleHours += there * shift;
    hours += (skills.length === 0 ? station.parallel : Math.min(station.parallel, there)) * shift;
  }
  return { placeHours, peopleHours: skills.length === 0 ? null : peopleHours, hours };
}

/** How well one skill is covered. */
export interface SkillCover {
  skill: string;
  /** Codes of those who can. */
  people: string[];
  /** Hours of it that are wanted a working day, and that there are. */
  hoursADay: number;
  hoursThere: number;
  /** Wanted over there; null: nobody can. */
  share: number | null;
  /** The same while the one of them who is there most is away; null: nobody would be left. */
  shareWithoutOne: number | null;
}

/**
 * Which work hangs on one or two people: for each skill who can do it, how much of it is wanted, and what remains when one of them is
 * away. What hangs on the fewest, and is wanted most, first.
 * @param options.wanted hours of each skill a working day, as `offeredLoad` gives them
 * @param options.shiftHours working hours of one person in a day
 */
export function skillRisk(options: {
  wanted: readonly { skill: string; hoursADay: number }[];
  people: readonly Pick<SkilledPerson, 'code' | 'skills'>[];
  shiftHours: number;
}): SkillCover[] {
  const { wanted, people, shiftHours } = options;
  return wanted
    .map(({ skill, hoursADay }): SkillCover => {
      const able = people.filter(({ skills }) => skills.includes(skill)).map(({ code }) => code);
      const share = (n: number): number | null =>
        n > 0 && shiftHours > 0 ? hoursADay / (n * shiftHours) : null;
      return {
        ...{ skill, people: able, hoursADay, hoursThere: able.length * shiftHours },
        ...{ share: share(able.length), shareWithoutOne: share(able.length - 1) },
      };
    })
    .toSorted(
      (a, b) =>
        a.people.length - b.people.length || b.hoursADay - a.hoursADay || (a.skill < b.skill ? -1 : 1),
    );
}
