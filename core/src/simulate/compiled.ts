import type { DispatchRule, FactoryModel, SimPerson } from './factory-model.ts';

interface WorkStep {
  mode: 'work';
  stations: Int32Array;
  /** −1: nobody is needed. */
  skill: number;
  family: number;
  setUp: number;
  each: number;
  cv: number;
  /** 0: piece by piece. */
  places: number;
  scrap: number;
  rework: number;
  /** Index within its route. */
  reworkTo: number;
}
interface HoldStep {
  mode: 'hold';
  each: number;
  cv: number;
}
interface JoinStep {
  mode: 'join';
  join: number;
  /** Route of what is made; −1 for the side that is taken in. */
  makes: number;
}

/** A model with numbers for its codes: what runs is only indexes. */
export interface Compiled {
  stations: {
    code: string;
    servers: number;
    rule: DispatchRule;
    neverCloses: boolean;
    firstServer: number;
    /** The skill that all its work needs; −1: none, or several. */
    skill: number;
  }[];
  /** Station of each server. */
  servers: Int32Array;
  routes: string[];
  /** Steps of all routes one after the other; where those of each route begin, and the last end. */
  steps: (WorkStep | HoldStep | JoinStep)[];
  first: Int32Array;
  sources: { route: number; everyHours: number; cv: number; pieces: number; dueHours: number }[];
  people: { away: NonNullable<SimPerson['away']>; stations: number[] }[];
  /** By skill: who can, those who can do the least else first. */
  able: Int32Array[];
  joins: string[];
  routeOf: (code: string) => number;
  /** Index among all steps. */
  stepOf: (route: number, key: string) => number;
}

/** Puts numbers in the place of codes. @throws RangeError for what a model names and does not have, and numbers that cannot be */
export function compiled(model: FactoryModel): Compiled {
  const wrong = (words: string): never => {
    throw new RangeError(`simulate: ${words}`);
  };
  const indexIn = (all: readonly string[], noun: string) => (code: string) => {
    const at = all.indexOf(code);
    return at >= 0 ? at : wrong(`there is no ${noun} ${code}`);
  };
  const { people = [] } = model;
  const stationOf = indexIn(
    model.stations.map(({ code }) => code),
    'station',
  );
  const routes = model.routes.map(({ code }) => code);
  const routeOf = indexIn(routes, 'route');
  const skills = [...new Set(people.flatMap((person) => person.skills))];
  const families: string[] = [];
  const familyOf = (name: string): number => {
    if (!families.includes(name)) families.push(name);
    return families.indexOf(name);
  };
  const joins = [
    ...new Set(
      model.routes.flatMap(({ steps }) => steps.flatMap((step) => (step.mode === 'join' ? [step.at] : []))),
    ),
  ];
  const first = new Int32Array(routes.length + 1);
  const steps: Compiled['steps'] = [];
  const usedBy = skills.map(() => new Set<number>());
  for (const [i, route] of model.routes.entries()) {
    first[i] = steps.length;
    const keyOf = indexIn(
      route.steps.map(({ key }) => key),
      `step of ${route.code}`,
    );
    for (const step of route.steps) {
      if (step.mode === 'join') {
        const makes = step.makes === undefined ? -1 : routeOf(step.makes);
        steps.push({ mode: 'join', join: joins.indexOf(step.at), makes });
        continue;
      }
      const { each, cv } = step.hours;
      if (!(each >= 0 && cv >= 0 && Number.isFinite(each) && Number.isFinite(cv)))
        wrong(`${step.key} of ${route.code} takes ${each} h, cv ${cv}`);
      if (step.mode === 'hold') {
        steps.push({ mode: 'hold', each, cv });
        continue;
      }
      const stations = Int32Array.from(step.stations, stationOf);
      if (stations.length === 0) wrong(`${step.key} of ${route.code} has no station`);
      const skill = step.skill === undefined ? -1 : skills.indexOf(step.skill);
      if (step.skill !== undefined && skill < 0) wrong(`nobody can ${step.skill}`);
      if (skill >= 0) for (const station of stations) usedBy[skill]?.add(station);
      const { scrap = 0, rework, places = 0, setUpHours: setUp = 0 } = step;
      if (!(scrap >= 0 && (rework?.share ?? 0) >= 0 && scrap + (rework?.share ?? 0) <= 1))
        wrong(`of ${step.key} of ${route.code} more goes away than comes`);
      steps.push({
        ...{ mode: 'work', stations, skill, each, cv, places, setUp, scrap, rework: rework?.share ?? 0 },
        family: familyOf(step.family ?? `${route.code} ${step.key}`),
        reworkTo: rework ? keyOf(rework.to) : 0,
      });
    }
  }
  first[routes.length] = steps.length;
  let servers = 0;
  const stations = model.stations.map(({ code, servers: own, rule = 'first come', neverCloses = false }) => {
    if (!(Number.isInteger(own) && own > 0)) wrong(`${code} has ${own} places`);
    const firstServer = servers;
    servers += own;
    return { code, servers: own, rule, neverCloses, firstServer, skill: onlySkill(steps, stationOf(code)) };
  });
  return {
    ...{ stations, routes, steps, first, joins, routeOf },
    servers: Int32Array.from(stations.flatMap(({ servers: own }, i) => Array.from({ length: own }, () => i))),
    sources: model.arrivals.map(({ route, everyHours, cv, pieces, dueHours = 0 }) => {
      if (!(everyHours > 0 && cv >= 0 && Number.isInteger(pieces) && pieces > 0))
        wrong(`racks of ${pieces} begin ${route} every ${everyHours} h`);
      return { route: routeOf(route), everyHours, cv, pieces, dueHours };
    }),
    people: people.map((person) => ({
      away: person.away ?? [],
      stations: [...new Set(person.skills.flatMap((skill) => [...(usedBy[skills.indexOf(skill)] ?? [])]))],
    })),
    able: skills.map((skill) =>
      Int32Array.from(
        people
          .map((person, i) => ({ i, person }))
          .filter(({ person }) => person.skills.includes(skill))
          .toSorted((a, b) => a.person.skills.length - b.person.skills.length)
          .map(({ i }) => i),
      ),
    ),
    stepOf: (route, key) => {
      const own = model.routes[route];
      const at = own?.steps.findIndex((step) => step.key === key) ?? -1;
      if (at < 0) throw new RangeError(`simulate: there is no step ${key} of ${routes[route]}`);
      return (first[route] as number) + at;
    },
  };
}

/** The one skill of all work at a station; −1: it needs none, or several. */
function onlySkill(steps: Compiled['steps'], station: number): number {
  const skills = new Set(
    steps.flatMap((step) => (step.mode === 'work' && step.stations.includes(station) ? [step.skill] : [])),
  );
  const [skill = -1] = skills;
  return skills.size === 1 ? skill : -1;
}
