import { endsRoute, type Operation, type Route } from './route.ts';
import { followers, MOST_OPERATIONS } from './ways.ts';

export type RouteProblemCode =
  | 'empty'
  | 'too-long'
  | 'twice'
  | 'dead-end'
  | 'after-the-end'
  | 'unknown-operation'
  | 'unreachable'
  | 'never-ends'
  | 'rework'
  | 'no-station'
  | 'unknown-station'
  | 'unknown-room'
  | 'not-fed'
  | 'needs-hold'
  | 'bad-value'
  | 'check';

/** Something that keeps a route from being worked. */
export interface RouteProblem {
  code: RouteProblemCode;
  /** Key of the operation it is about; null: the whole route. */
  operation: string | null;
  /** For people: what is wrong, by the names they see. */
  problem: string;
}

/** What the factory has, for a route to be held against. */
export interface RouteWorld {
  /** Codes; left out: not looked at. */
  stations?: readonly string[];
  rooms?: readonly string[];
  /** Newest routes of the same model, itself left out: what its joins meet. Left out: not looked at. */
  others?: readonly Route[];
}

/** Ways through a route looked at for missing holds; more forks than that are checked by their usual ways. */
const MOST_WAYS = 4096;

/**
 * What is wrong with a route, in words; empty when it can be worked. Every operation must be reached, every way must end in
 * a join, a split or shipping, none may lead round in a circle (a way back is a rework arc), rework goes back along
 * every way, what needs a hold has it before, and every join is fed from the other side.
 */
export function validateRoute(route: Route, world: RouteWorld = {}): RouteProblem[] {
  const { operations } = route;
  if (operations.length === 0) return [problem('empty', null, 'a route needs at least one operation')];
  if (operations.length > MOST_OPERATIONS)
    return [problem('too-long', null, `a route has at most ${MOST_OPERATIONS} operations`)];
  const drawn = [...twice(route), ...arrows(route)];
  // Ways can only be walked where every arrow leads somewhere and none leads round.
  const walkable = drawn.length > 0 ? [] : [...rework(route), ...neededHolds(route)];
  return [
    ...drawn,
    ...walkable,
    ...operations.flatMap((operation) => [...places(operation, world), ...numbers(operation)]),
    ...(world.others ? feeding(route, world.others) : []),
  ];
}

const problem = (code: RouteProblemCode, operation: string | null, words: string): RouteProblem => ({
  code,
  operation,
  problem: words,
});

const named = (route: Route, key: string): Operation | undefined =>
  route.operations.find((operation) => operation.key === key);

function twice({ operations }: Route): RouteProblem[] {
  return operations.flatMap(({ key, name }, i) =>
    operations.findIndex((other) => other.key === key) < i
      ? [problem('twice', key, `${name}: the key '${key}' stands twice`)]
      : [],
  );
}

function arrows(route: Route): RouteProblem[] {
  const found: RouteProblem[] = [];
  const add = (code: RouteProblemCode, { key, name }: Operation, words: string): void => {
    found.push(problem(code, key, `${name} ${words}`));
  };
  for (const operation of route.operations) {
    const keys = followers(route, operation);
    const ends = endsRoute(route, operation);
    for (const key of keys)
      if (!named(route, key))
        add('unknown-operation', operation, `goes on to '${key}', which is not in the route`);
    if (new Set(keys).size < keys.length) add('twice', operation, 'has the same way out twice');
    if (ends && keys.length > 0) add('after-the-end', operation, 'is an end: nothing can follow it');
    if (!ends && keys.length === 0)
      add('dead-end', operation, 'is a dead end: only a join, a split or shipping can end a route');
  }
  if (found.length > 0) return found;
  const round = circle(route);
  if (round) {
    const names = round.map((key) => named(route, key)?.name ?? key).join(' → ');
    return [
      problem(
        'never-ends',
        round[0] ?? null,
        `${names} never ends: draw the way back as a rework arc instead`,
      ),
    ];
  }
  const reached = reachable(route);
  for (const operation of route.operations)
    if (!reached.has(operation.key)) add('unreachable', operation, 'is never reached: no way leads to it');
  return found;
}

function reachable(route: Route): Set<string> {
  const seen = new Set<string>();
  const open = route.operations.slice(0, 1);
  for (let here = open.pop(); here; here = open.pop()) {
    if (seen.has(here.key)) continue;
    seen.add(here.key);
    open.push(...followers(route, here).flatMap((key) => named(route, key) ?? []));
  }
  return seen;
}

/** Keys along a circle of arrows, closed; undefined when there is none. Depth first from every operation. */
function circle(route: Route): string[] | undefined {
  const done = new Set<string>();
  const walk = (key: string, path: string[]): string[] | undefined => {
    if (path.includes(key)) return [...path.slice(path.indexOf(key)), key];
    const operation = named(route, key);
    if (!operation || done.has(key)) return undefined;
    for (const next of followers(route, operation)) {
      const found = walk(next, [...path, key]);
      if (found) return found;
    }
    done.add(key);
    return undefined;
  };
  for (const { key } of route.operations) {
    const found = walk(key, []);
    if (found) return found;
  }
  return undefined;
}

/** Every way from the first operation to an end, as lists of operations; at most MOST_WAYS of them. */
export function allWays(route: Route): Operation[][] {
  const ways: Operation[][] = [];
  const walk = (operation: Operation, path: Operation[]): void => {
    if (ways.length >= MOST_WAYS) return;
    const here = [...path, operation];
    const next = followers(route, operation).flatMap((key) => named(route, key) ?? []);
    if (next.length === 0) ways.push(here);
    for (const follower of next) walk(follower, here);
  };
  const first = route.operations[0];
  if (first) walk(first, []);
  return ways;
}

function rework(route: Route): RouteProblem[] {
  const ways = allWays(route);
  return route.operations.flatMap((operation) => {
    const { reworkTo, key, name } = operation;
    if (reworkTo === null) return [];
    const target = named(route, reworkTo);
    if (!target)
      return [problem('rework', key, `${name} sends rework to '${reworkTo}', which is not in the route`)];
    const wrong = ways.find((way) => {
      const here = way.findIndex((candidate) => candidate.key === key);
      const back = way.findIndex((candidate) => candidate.key === reworkTo);
      return here >= 0 && (back < 0 || back > here);
    });
    if (!wrong) return [];
    return wrong.includes(target)
      ? [problem('rework', key, `${name} sends rework ahead to ${target.name}: rework goes back`)]
      : [problem('rework', key, `${name} sends rework to ${target.name}, which stands on another way`)];
  });
}

/** What an operation needs must lie on every way to it; a coat laid since makes an earlier cure worthless. */
function neededHolds(route: Route): RouteProblem[] {
  const missing = new Map<string, RouteProblem>();
  for (const way of allWays(route)) {
    let held = new Set<string>();
    for (const operation of way) {
      for (const need of operation.needs ?? []) {
        if (held.has(need)) continue;
        const words = `${operation.name} needs a hold for ${need} before it on every way`;
        missing.set(`${operation.key} ${need}`, problem('needs-hold', operation.key, words));
      }
      if (operation.mode === 'hold') held.add(operation.rule.word);
      if (operation.mode === 'attended' && operation.coats)
        held = new Set([...held].filter((word) => word !== 'cure' && word !== 'recoat'));
      if (operation.mode === 'join') held = new Set([...held].filter((word) => word !== 'glue'));
    }
  }
  return [...missing.values()];
}

function places(operation: Operation, { stations, rooms }: RouteWorld): RouteProblem[] {
  const { key, name } = operation;
  const found: RouteProblem[] = [];
  if (operation.stations.length === 0) found.push(problem('no-station', key, `${name} has no station`));
  for (const code of operation.stations)
    if (stations && !stations.includes(code))
      found.push(
        problem('unknown-station', key, `${name} is at station '${code}', which this factory does not have`),
      );
  if (operation.mode === 'hold' && rooms && !rooms.includes(operation.room))
    found.push(problem('unknown-room', key, `${name} rests in '${operation.room}', which is no room here`));
  return found;
}

function numbers(operation: Operation): RouteProblem[] {
  const { key, name } = operation;
  const found: RouteProblem[] = [];
  const must = (right: boolean, words: string): void => {
    if (!right) found.push(problem('bad-value', key, `${name}: ${words}`));
  };
  const { yieldPct, costPerPiece } = operation;
  must(yieldPct === undefined || (yieldPct > 0 && yieldPct <= 100), 'the expected yield is above 0 to 100 %');
  must(costPerPiece === undefined || costPerPiece >= 0, 'a cost is not below 0');
  if (operation.mode === 'load') {
    must(Number.isInteger(operation.places) && operation.places > 0, 'a load has at least one place');
    must(operation.setUpMinutes >= 0 && operation.cycleMinutes > 0, 'a cycle takes time');
  } else if (operation.mode !== 'hold') {
    must(operation.setUpMinutes >= 0 && operation.pieceMinutes >= 0, 'minutes are not below 0');
  } else if ('hours' in operation.rule) {
    must(operation.rule.hours >= 0, 'hours of rest are not below 0');
  }
  must(
    !operation.serial || operation.mode !== 'hold',
    'nobody gives serials while pieces rest: put it at the work before',
  );
  must(
    !operation.kit || operation.mode === 'attended',
    'a kit is picked before work at a bench: there is none here',
  );
  must(
    !operation.accepts || ['attended', 'load', 'gate'].includes(operation.mode),
    'what comes is accepted before work on it begins: there is none here',
  );
  if (operation.mode === 'hold' && operation.rule.rule === 'settle')
    for (const drifting of Object.keys(operation.rule.drifts ?? {}))
      must(
        (operation.checks ?? []).some((check) => check.key === drifting),
        `a drift of '${drifting}' is allowed, which is not measured here`,
      );
  for (const check of operation.checks ?? []) {
    const { lower, upper, nominal, sample } = check;
    must(lower !== null || upper !== null, `${check.name} has no limit`);
    must(
      lower === null || upper === null || lower < upper,
      `the limits of ${check.name} are the wrong way round`,
    );
    must(
      (lower === null || nominal >= lower) && (upper === null || nominal <= upper),
      `the nominal of ${check.name} lies outside its limits`,
    );
    must(Number.isInteger(sample) && sample >= 1 && sample <= 10, `${check.name} samples 1 to 10 pieces`);
  }
  return found;
}

/** A join needs a route on the other side that comes to it, and one for what it makes. */
function feeding(route: Route, others: readonly Route[]): RouteProblem[] {
  return route.operations.flatMap((operation) => {
    const { key, name } = operation;
    if (operation.mode === 'split') {
      return operation.makesKinds.flatMap((kind) =>
        others.some((other) => other.kind === kind)
          ? []
          : [problem('not-fed', key, `${name} makes kind ${kind}, which has no route`)],
      );
    }
    if (operation.mode !== 'join') return [];
    const { partnerKind, makesKind, role } = operation;
    const partner = others.find((other) => other.kind === partnerKind);
    const meets = partner?.operations.some(
      (other) => other.mode === 'join' && other.role !== role && other.partnerKind === route.kind,
    );
    const hostKind = role === 'host' ? route.kind : partnerKind;
    const made = makesKind === hostKind || others.some((other) => other.kind === makesKind);
    return [
      ...(meets
        ? []
        : [
            problem(
              'not-fed',
              key,
              `${name} is not fed: no route of kind ${partnerKind} comes to meet kind ${route.kind}`,
            ),
          ]),
      ...(made ? [] : [problem('not-fed', key, `${name} makes kind ${makesKind}, which has no route`)]),
    ];
  });
}
