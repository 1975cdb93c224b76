import { workMinutes, type Route } from '../route/index.ts';

/** Pieces that begin a route. */
export interface RouteFlow {
  /** Id of the route. */
  route: string;
  /** Pieces a working day that begin it. */
  piecesADay: number;
  /** Pieces that go together: a set-up is shared by so many. */
  rackSize: number;
}

/** Share of what is done at an operation that is scrapped there, 0…1. */
export interface ScrapAt {
  route: string;
  operation: string;
  share: number;
}

/** Share of what is done at an operation that goes back from there, 0…1. */
export interface ReworkArc extends ScrapAt {
  /** Key of the operation it goes back to. */
  to: string;
}

export interface OfferedLoad {
  /** How often each operation is done in a working day, repeats included. */
  visits: { route: string; operation: string; piecesADay: number }[];
  /** Hours of work a working day, at the usual station of each operation; greatest first. */
  stations: { station: string; hoursADay: number }[];
  /** The same by the skill that is needed; operations without one are left out. */
  skills: { skill: string; hoursADay: number }[];
}

/** Nearer than this to what it was, in pieces a day, a flow has settled. */
const SETTLED = 1e-12;
const MOST_ROUNDS = 100_000;

/**
 * The work that a flow of pieces offers to every station and skill, with what is scrapped on the way and what goes back. The
 * visits solve the traffic equations λⱼ = γⱼ + Σᵢ λᵢ pᵢⱼ (J. R. Jackson, "Networks of waiting lines", Operations Research 5, 1957),
 * found by following the pieces round until nothing changes.
 * @param options.minutes minutes of work for so many pieces at an operation; the route's own where it is left out.
 * @throws RangeError for a route nobody knows, shares that are none, or an operation that everything comes back to for ever.
 */
export function offeredLoad(options: {
  flows: readonly RouteFlow[];
  routes: readonly Route[];
  yields: readonly ScrapAt[];
  rework: readonly ReworkArc[];
  minutes?: (route: Route, operation: string, pieces: number) => number | undefined;
}): OfferedLoad {
  const { flows, routes, yields, rework, minutes } = options;
  const visits: OfferedLoad['visits'] = [];
  const stations = new Map<string, number>();
  const skills = new Map<string, number>();
  for (const flow of flows) {
    const route = routes.find(({ id }) => id === flow.route);
    if (!route) throw new RangeError(`offeredLoad: there is no route ${flow.route}`);
    if (!(flow.piecesADay >= 0 && flow.rackSize >= 1))
      throw new RangeError(`offeredLoad: ${flow.piecesADay} pieces a day in racks of ${flow.rackSize}`);
    const rates = traffic(route, flow.piecesADay, {
      yields: yields.filter((one) => one.route === route.id),
      rework: rework.filter((one) => one.route === route.id),
    });
    for (const [i, operation] of route.operations.entries()) {
      const piecesADay = rates[i] ?? 0;
      visits.push({ route: route.id, operation: operation.key, piecesADay });
      if (operation.mode === 'hold') continue;
      const forRack = minutes?.(route, operation.key, flow.rackSize) ?? workMinutes(operation, flow.rackSize);
      const hours = (piecesADay * forRack) / flow.rackSize / 60;
      const [station] = operation.stations;
      if (station !== undefined) stations.set(station, (stations.get(station) ?? 0) + hours);
      const skill = 'skill' in operation ? operation.skill : null;
      if (skill !== null) skills.set(skill, (skills.get(skill) ?? 0) + hours);
    }
  }
  const greatest = (a: { hoursADay: number }, b: { hoursADay: number }): number => b.hoursADay - a.hoursADay;
  return {
    visits,
    stations: [...stations].map(([station, hoursADay]) => ({ station, hoursADay })).toSorted(greatest),
    skills: [...skills].map(([skill, hoursADay]) => ({ skill, hoursADay })).toSorted(greatest),
  };
}

/** Visits a day of each operation of a route, in its order. */
function traffic(
  route: Route,
  entering: number,
  { yields, rework }: { yields: readonly ScrapAt[]; rework: readonly ReworkArc[] },
): number[] {
  const indexOf = new Map(route.operations.map(({ key }, i) => [key, i]));
  const arcs = route.operations.map(({ key }, i) => {
    const back = rework.flatMap(({ operation, to, share }) => {
      const target = indexOf.get(to);
      if (operation !== key || target === undefined) return [];
      return [{ target, share }];
    });
    const lost = yields.reduce((sum, { operation, share }) => sum + (operation === key ? share : 0), 0);
    const on = 1 - lost - back.reduce((sum, { share }) => sum + share, 0);
    if (lost < 0 || back.some(({ share }) => share < 0) || on < -1e-9)
      throw new RangeError(`offeredLoad: of ${key} of ${route.id} more goes away than comes`);
    return [...back, { target: i + 1, share: Math.max(0, on) }];
  });
  const rates = route.operations.map(() => 0);
  // What is new at each operation goes on, round by round; what comes back is less each time.
  let fresh = route.operations.map((_, i) => (i === 0 ? entering : 0));
  for (let round = 0; fresh.some((rate) => rate > SETTLED); round += 1) {
    if (round > MOST_ROUNDS) throw new RangeError(`offeredLoad: of ${route.id} nothing ever leaves`);
    const next = route.operations.map(() => 0);
    for (const [i, rate] of fresh.entries()) {
      rates[i] = (rates[i] ?? 0) + rate;
      for (const { target, share } of arcs[i] ?? [])
        if (target < next.length) next[target] = (next[target] ?? 0) + rate * share;
    }
    fresh = next;
  }
  return rates;
}
