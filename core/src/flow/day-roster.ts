import { operationIndex, workMinutes } from '../route/index.ts';
import { workNow, type RoutedBatch, type WorkAt } from './station-load.ts';

/** Work of a day at a station that takes one skill. */
export interface RosterWork {
  station: string;
  /** Null: anybody can do it. */
  skill: string | null;
  /** Hours of one person. */
  hours: number;
}

/** Somebody who is in. */
export interface RosterPerson {
  code: string;
  skills: readonly string[];
  /** The station at which they usually work; null: at none. */
  home: string | null;
  /** Hours they are there. */
  hours: number;
}

/** Somebody at a station for some hours of the day. */
export interface RosterPlace {
  station: string;
  skill: string | null;
  person: string;
  hours: number;
  /** It is not where they usually work. */
  isLent: boolean;
}

export interface DayRoster {
  places: RosterPlace[];
  /** Work nobody is there for, or that has no place: hours by station and skill, where there is any. */
  left: RosterWork[];
  /** Hours nobody needs, by person. */
  free: { person: string; hours: number }[];
}

/** People are not sent about for less. */
const LEAST_LENT_HOURS = 1;
/** Hours are given out in quarters. */
const PARTS = 4;

const partsOf = (hours: number): number => Math.max(0, Math.round(hours * PARTS));

/**
 * What there is to do before a moment: what waits and is in hand, and what comes off its hold by then, at the usual station of its
 * next operation; hours by station and skill.
 */
export function workBefore(
  racks: readonly (RoutedBatch & {
    holds: readonly { operation: string; positions: readonly number[]; endMs: number | null }[];
  })[],
  untilMs: number,
): RosterWork[] {
  const comes = racks.flatMap(({ route, holds }) =>
    holds.flatMap(({ operation, positions, endMs }): WorkAt[] => {
      const next = route.operations[operationIndex(route, operation) + 1];
      const isWork = endMs !== null && endMs < untilMs && next !== undefined && next.mode !== 'hold';
      return isWork && positions.length > 0 ? [{ route, operation: next.key, pieces: positions.length }] : [];
    }),
  );
  const work = new Map<string, RosterWork>();
  for (const { route, operation: key, pieces } of [...workNow(racks), ...comes]) {
    const operation = route.operations[operationIndex(route, key)];
    const station = operation?.stations[0];
    if (!operation || station === undefined) continue;
    const skill = 'skill' in operation ? operation.skill : null;
    const name = `${station} ${skill}`;
    const hours = (work.get(name)?.hours ?? 0) + workMinutes(operation, pieces) / 60;
    work.set(name, { station, skill, hours });
  }
  return [...work.values()].filter(({ hours }) => hours > 0);
}

/**
 * Who works where, so that as much as can be is covered, of the first station first, then of the next: no station gives up an hour to one
 * behind it. Everybody stays where they usually work as far as that covers as much; nobody is lent for less than an hour. It is a
 * largest flow (L. R. Ford, D. R. Fulkerson, _Maximal flow through a network_, Canadian Journal of Mathematics 8, 1956) from people through
 * what they can do to the places of the stations, one station after the other, with the fewest hours lent.
 * @param options.places at most so many people at once, by station
 * @param options.hours of the day, or of what is left of it
 * @param options.order stations, the one that must not stand still first; those that are not in it come last
 */
export function dayRoster(options: {
  work: readonly RosterWork[];
  people: readonly RosterPerson[];
  places: ReadonlyMap<string, number>;
  hours: number;
  order: readonly string[];
}): DayRoster {
  const { work, places, hours, order } = options;
  // Whoever can do little is given it first: those who can do much stay free for what turns up.
  const people = options.people.toSorted((a, b) => a.skills.length - b.skills.length);
  const rank = (station: string): number => {
    const at = order.indexOf(station);
    return at < 0 ? order.length : at;
  };
  const tasks = work.toSorted((a, b) => rank(a.station) - rank(b.station));
  const stations = [...new Set(tasks.map(({ station }) => station))];
  const flow = new Flow(
    people.map((person) => partsOf(Math.min(person.hours, hours))),
    tasks.map((task) => partsOf(task.hours)),
    tasks.map(({ station }) => stations.indexOf(station)),
    stations.map((station) => partsOf((places.get(station) ?? 1) * hours)),
  );
  const can = ({ skills }: RosterPerson, { skill }: RosterWork): boolean =>
    skill === null ? skills.length > 0 : skills.includes(skill);
  people.forEach((person, p) =>
    tasks.forEach((task, t) => {
      if (can(person, task)) flow.allow(p, t, person.home !== task.station);
    }),
  );
  stations.forEach((_, s) => flow.fill(s));
  flow.giveBack((p, t, parts) => people[p]?.home !== tasks[t]?.station && parts < LEAST_LENT_HOURS * PARTS);
  const left = tasks.map((task, t) => ({ ...task, hours: task.hours - flow.done(t) / PARTS }));
  return {
    places: tasks.flatMap(({ station, skill }, t) =>
      people.flatMap((person, p): RosterPlace[] => {
        const parts = flow.given(p, t);
        const isLent = person.home !== station;
        return parts > 0 ? [{ station, skill, person: person.code, hours: parts / PARTS, isLent }] : [];
      }),
    ),
    left: left.filter((one) => one.hours >= 1 / PARTS),
    free: people.flatMap(({ code, skills }, p) => {
      const parts = flow.spare(p);
      return parts > 0 && skills.length > 0 ? [{ person: code, hours: parts / PARTS }] : [];
    }),
  };
}

/** Parts of hours that go from people to tasks, each task at a station with so much room. */
class Flow {
  private readonly amounts: number[][];
  /** 1 where a person would be lent to a task, 0 where they are at home, null where they cannot do it. */
  private readonly cost: (0 | 1 | null)[][];

  constructor(
    private readonly people: readonly number[],
    private readonly tasks: readonly number[],
    private readonly stationOf: readonly number[],
    private readonly room: readonly number[],
  ) {
    this.amounts = people.map(() => tasks.map(() => 0));
    this.cost = people.map(() => tasks.map(() => null));
  }

  allow(person: number, task: number, isLent: boolean): void {
    const row = this.cost[person];
    if (row) row[task] = isLent ? 1 : 0;
  }

  given(person: number, task: number): number {
    return this.amounts[person]?.[task] ?? 0;
  }

  done(task: number): number {
    return this.amounts.reduce((sum, row) => sum + (row[task] ?? 0), 0);
  }

  spare(person: number): number {
    return (this.people[person] ?? 0) - (this.amounts[person]?.reduce((sum, parts) => sum + parts, 0) ?? 0);
  }

  /** As much as can be goes to the tasks of a station; what other tasks have together stays as it is. */
  fill(station: number): void {
    for (;;) {
      const room = (this.room[station] ?? 0) - this.atStation(station);
      const path = room > 0 ? this.path(station) : undefined;
      if (!path) return;
      const last = path.at(-1);
      const first = path[0];
      if (!last || !first) return;
      const wanted = (this.tasks[last.task] ?? 0) - this.done(last.task);
      // Between: whoever did the task before does the next instead.
      const relieved = path.slice(1).map(({ person }, i) => this.given(person, path[i]?.task ?? -1));
      const parts = Math.min(room, this.spare(first.person), wanted, ...relieved);
      path.forEach(({ person, task }, i) => {
        this.add(person, task, parts);
        const before = path[i - 1];
        if (before) this.add(person, before.task, -parts);
      });
    }
  }

  /** Takes back what a rule says is not worth it. */
  giveBack(isTooLittle: (person: number, task: number, parts: number) => boolean): void {
    this.amounts.forEach((row, person) =>
      row.forEach((parts, task) => {
        if (parts > 0 && isTooLittle(person, task, parts)) row[task] = 0;
      }),
    );
  }

  private atStation(station: number): number {
    return this.stationOf.reduce((sum, at, task) => sum + (at === station ? this.done(task) : 0), 0);
  }

  private add(person: number, task: number, parts: number): void {
    const row = this.amounts[person];
    if (row) row[task] = (row[task] ?? 0) + parts;
  }

  /**
   * The way with the fewest who are lent from somebody with time to a task of the station that wants more: each step a person who takes on
   * a task, whom the next one relieves of it to take on theirs (R. Bellman, _On a routing problem_, Quarterly of Applied Mathematics 16,
   * 1958). What was given out before is given out with the fewest lent, so that no circle of steps has fewer.
   */
  private path(station: number): Step[] | undefined {
    const cameBy = new Map<number, { person: number; from: number | null; lent: number }>();
    const reach = (person: number, from: number | null, lent: number): boolean => {
      let nearer = false;
      this.cost[person]?.forEach((cost, task) => {
        if (cost === null || task === from || lent + cost >= (cameBy.get(task)?.lent ?? Infinity)) return;
        cameBy.set(task, { person, from, lent: lent + cost });
        nearer = true;
      });
      return nearer;
    };
    this.people.forEach((_, person) => {
      if (this.spare(person) > 0) reach(person, null, 0);
    });
    for (let nearer = cameBy.size > 0; nearer;) {
      nearer = false;
      for (const [task, { lent }] of [...cameBy])
        this.people.forEach((_, person) => {
          if (this.given(person, task) === 0) return;
          nearer = reach(person, task, lent - (this.cost[person]?.[task] ?? 0)) || nearer;
        });
    }
    const wants = [...cameBy]
      .filter(([task]) => this.stationOf[task] === station && this.done(task) < (this.tasks[task] ?? 0))
      .toSorted(([, a], [, b]) => a.lent - b.lent)[0];
    return wants && wayTo(wants[0], cameBy);
  }
}

interface Step {
  person: number;
  task: number;
}

function wayTo(wants: number, cameBy: ReadonlyMap<number, { person: number; from: number | null }>): Step[] {
  const way: Step[] = [];
  for (let task: number | null = wants; task !== null;) {
    const step: { person: number; from: number | null } | undefined = cameBy.get(task);
    if (!step) break;
    way.unshift({ person: step.person, task });
    task = step.from;
  }
  return way;
}
