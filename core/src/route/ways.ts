import type { Operation, Route } from './route.ts';

/** Key of a fork → key of the first operation of the way taken. */
export type Ways = Readonly<Record<string, string>>;

/** More operations than this on one way is a slip of the hand. */
export const MOST_OPERATIONS = 200;

/** Keys of what follows an operation in the route as it is drawn: none at its end, several at a fork. */
export function followers(route: Route, operation: Operation): string[] {
  if (operation.next) return operation.next;
  const after = route.operations[route.operations.indexOf(operation) + 1];
  return after ? [after.key] : [];
}

export interface Fork {
  /** Operation after which the ways part. */
  at: Operation;
  /** First operation of each way; the first is the usual one. */
  ways: Operation[];
}

/** Where a route leaves a choice, in order of its operations. */
export function forks(route: Route): Fork[] {
  return route.operations.flatMap((at) => {
    const keys = followers(route, at);
    if (keys.length < 2) return [];
    const ways = keys.flatMap((key) => route.operations.find((operation) => operation.key === key) ?? []);
    return [{ at, ways }];
  });
}

const worked = new WeakMap<Route, Map<string, Route>>();

/**
 * The route as a batch works it: the operations one after the other, by the ways it has chosen (the usual one where none
 * is). Kept for each route, since a route never changes.
 * @throws RangeError when the ways lead round in a circle or to an operation that is not there (see validateRoute).
 */
export function workedRoute(route: Route, ways: Ways = {}): Route {
  if (route.operations.every(({ next }) => next === undefined)) return route;
  const id = JSON.stringify(Object.entries(ways).toSorted(([a], [b]) => (a < b ? -1 : 1)));
  let known = worked.get(route);
  if (!known) worked.set(route, (known = new Map<string, Route>()));
  let found = known.get(id);
  if (!found) known.set(id, (found = { ...route, operations: walk(route, ways) }));
  return found;
}

/** Operations along one way, without the arrows that led there. */
function walk(route: Route, ways: Ways): Operation[] {
  const path: Operation[] = [];
  let here = route.operations[0];
  while (here) {
    if (path.length > MOST_OPERATIONS || path.some(({ key }) => key === here?.key))
      throw new RangeError(`workedRoute: ${route.id} leads round in a circle at '${here.key}'`);
    const { next: _next, ...operation } = here;
    path.push(operation);
    const keys = followers(route, here);
    const wanted = ways[here.key];
    const key: string | undefined = wanted !== undefined && keys.includes(wanted) ? wanted : keys[0];
    const next = route.operations.find((candidate) => candidate.key === key);
    if (key !== undefined && !next)
      throw new RangeError(`workedRoute: ${route.id} goes on to '${key}', which it does not have`);
    here = next;
  }
  return path;
}

/** The choices a set of ways names that the route does not leave; empty when all make sense. */
export function unknownWays(route: Route, ways: Ways): string[] {
  const choices = forks(route);
  return Object.entries(ways).flatMap(([at, way]) => {
    const fork = choices.find((candidate) => candidate.at.key === at);
    return fork?.ways.some(({ key }) => key === way) ? [] : [`${at} → ${way}`];
  });
}
