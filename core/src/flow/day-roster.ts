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

export interface WorkBefore extends RosterWork {
  /** Of its hours, those of pieces that are on a hold now, which is over before the day is. */
  comingHours: number;
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
  /** Hours in which a station has work and a place, and nobody is there who can; less than one is not told. */
  empty: { station: string; hours: number }[];
  /** Hours nobody needs, by person. */
  free: { person: string; hours: number }[];
}

/** People are not sent about for less. */
const LEAST_LENT_HOURS = 1;
/** Hours are given out in quarters. */
const PARTS = 4;

/** Quarters that somebody, or a place, has whole; and those that work begins. */
const wholeParts = (hours: number): number => Math.max(0, Math.floor(hours * PARTS + 1e-6));
const begunParts = (hours: number): number => Math.max(0, Math.ceil(hours * PARTS - 1e-6));

/**
 * What there is to do before a moment: what waits and is in hand, and what comes off its hold by then, at the usual station of its
 * next operation; hours by station and skill.
 */
export function workBefore(
  racks: readonly (RoutedBatch & {
    holds: readonly { operation: string; positions: readonly number[]; endMs: number | null }[];
  })[],
  untilMs: number,
): WorkBefore[] {
  const comes = racks.flatMap(({ route, holds }) =>
    holds.flatMap(({ operation, positions, endMs }): WorkAt[] => {
      const next = route.operations[operationIndex(route, operation) + 1];
      const isWork = endMs !== null && endMs < untilMs && next !== undefined && next.mode !== 'hold';
      return isWork && positions.length > 0 ? [{ route, operation: next.key, pieces: positions.length }] : [];
    }),
  );
  const work = new Map<string, WorkBefore>();
  const add = ({ route, operation: key, pieces }: WorkAt, isComing: boolean): void => {
    const operation = route.operations[operationIndex(route, key)];
    const station = operation?.stations[0];
    if (!operation || station === undefined) return;
    const skill = 'skill' in operation ? operation.skill : null;
    const name = `${station} ${skill}`;
    const { hours, comingHours } = work.get(name) ?? { hours: 0, comingHours: 0 };
    const more = workMinutes(operation, pieces) / 60;
    work.set(name, { station, skill, hours: hours + more, comingHours: comingHours + (isComing ? more : 0) });
  };
  for (const one of workNow(racks)) add(one, false);
  for (const one of comes) add(one, true);
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
    people.map((person) => wholeParts(Math.min(person.hours, hours))),
    tasks.map((task) => begunParts(task.hours)),
    tasks.map(({ station }) => stations.indexOf(station)),
    stations.map((station) => wholeParts((places.get(station) ?? 1) * hours)),
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
  const left = tasks.map((task, t) => ({ ...task, hours: Math.max(0, task.hours - flow.done(t) / PARTS) }));
  return {
    places: tasks.flatMap(({ station, skill }, t) =>
      people.flatMap((person, p): RosterPlace[] => {
        const parts = flow.given(p, t);
        const isLent = person.home !== station;
        return parts > 0 ? [{ station, skill, person: person.code, hours: parts / PARTS, isLent }] : [];
      }),
    ),
    empty: stations.flatMap((station, s) => {
      const parts = flow.emptyAt(s);
      return parts >= LEAST_LENT_HOURS * PARTS ? [{ station, hours: parts / PARTS }] : [];
    }),
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

  /** What a station's places and its tasks would take, and nobody gives. */
  emptyAt(station: number): number {
    const wanted = this.tasks.reduce(
      (sum, parts, task) => sum + (this.stationOf[task] === station ? parts : 0),
      0,
    );
    return Math.min(this.room[station] ?? 0, wanted) - this.atStation(station);
  }

  /** As much as can be goes to the tasks of a station; what other stations have stays as it is. */
  fill(station: number): void {
    for (;;) {
      const room = (this.room[station] ?? 0) - this.atStation(station);
      const way = room > 0 ? this.way(station) : [];
      const [first] = way;
      const last = way.at(-1);
      if (!first || !last) return;
      const parts = Math.min(
        ...[room, this.spare(first.person), this.wanted(last.task)],
        ...way.map(({ person, leaves }) => (leaves === null ? Infinity : this.given(person, leaves))),
        // Where a task of the same station is left instead, the one before grows.
        ...way.map(({ leaves }, i) => {
          const before = way[i - 1]?.task;
          return before === undefined || before === leaves ? Infinity : this.wanted(before);
        }),
      );
      for (const { person, task, leaves } of way) {
        this.add(person, task, parts);
        if (leaves !== null) this.add(person, leaves, -parts);
      }
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

  private wanted(task: number): number {
    return (this.tasks[task] ?? 0) - this.done(task);
  }

  /**
   * The way with the fewest who are lent from somebody with time to a task of the station that wants more: each step somebody who takes on
   * a task and leaves another, the one that was taken on before them or, if that one wants more, one of the same station
   * (R. Bellman, _On a routing problem_, Quarterly of Applied Mathematics 16, 1958). What was given out before is given out with the
   * fewest lent, so that no circle of steps has fewer. None: an empty list.
   */
  private way(station: number): Step[] {
    const cameBy = new Map<number, Reached>();
    const reach = (person: number, leaves: number | null, before: number | null, lent: number): boolean => {
      let nearer = false;
      this.cost[person]?.forEach((cost, task) => {
        if (cost === null || task === leaves || lent + cost >= (cameBy.get(task)?.lent ?? Infinity)) return;
        cameBy.set(task, { step: { person, task, leaves }, before, lent: lent + cost });
        nearer = true;
      });
      return nearer;
    };
    this.people.forEach((_, person) => {
      if (this.spare(person) > 0) reach(person, null, null, 0);
    });
    for (let nearer = cameBy.size > 0; nearer;) {
      nearer = false;
      for (const [task, { lent }] of [...cameBy])
        for (const leaves of this.leftFor(task))
          this.people.forEach((_, person) => {
            if (this.given(person, leaves) === 0) return;
            nearer = reach(person, leaves, task, lent - (this.cost[person]?.[leaves] ?? 0)) || nearer;
          });
    }
    const [nearest] = [...cameBy.values()]
      .filter(({ step: { task } }) => this.stationOf[task] === station && this.wanted(task) > 0)
      .toSorted((a, b) => a.lent - b.lent);
    const way: Step[] = [];
    for (let at = nearest; at; at = at.before === null ? undefined : cameBy.get(at.before))
      way.unshift(at.step);
    return way;
  }

  /** Tasks that can lose what a task gains: itself; all of its station, if it wants more. */
  private leftFor(task: number): number[] {
    if (this.wanted(task) <= 0) return [task];
    return this.stationOf.flatMap((station, one) => (station === this.stationOf[task] ? [one] : []));
  }
}

/** Somebody who takes on a task and leaves another; null: they had time. */
interface Step {
  person: number;
  task: number;
  leaves: number | null;
}

interface Reached {
  step: Step;
  /** The task that was taken on before; null: it is the first step. */
  before: number | null;
  /** People lent on the way to it, those who come home taken off. */
  lent: number;
}
