import { addWorkingMinutes, type FactoryCalendar } from '../time/calendar.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { plannedHoldHours } from './planned.ts';
import { workMinutes, type Operation, type Route } from './route.ts';
import { forks, workedRoute, type Ways } from './ways.ts';

/** What an hour costs, in the factory's money. */
export interface HourRates {
  person: number;
  machine: number;
}

/** Defaults. */
export const HOUR_RATES: HourRates = { person: 34, machine: 58 };

/** One way through a fork, weighed for a batch against the others. */
export interface WeighedWay {
  /** Key of its first operation. */
  way: string;
  name: string;
  /** What it has that the usual way does not; the ways of one fork share the rest of the route. */
  operations: string[];
  /** Work of people and machines for the batch, hours. */
  touchHours: number;
  /** From the first of its operations to the last if nothing else waited, hours on the wall. */
  wallHours: number;
  costPerPiece: number;
  skills: string[];
  /** Good pieces expected of a hundred. */
  yieldPct: number;
  risks: string[];
  cautions: string[];
}

export interface WeighedFork {
  at: string;
  name: string;
  ways: WeighedWay[];
}

/** The forks of a route with their ways side by side, for a batch of so many pieces that begins at an instant. */
export function weighWays(options: {
  route: Route;
  pieces: number;
  atMs: number;
  calendar: FactoryCalendar;
  rates: HourRates;
  /** Choices at the other forks; the usual ones when left out. */
  ways?: Ways;
}): WeighedFork[] {
  const { route, ways = {} } = options;
  return forks(route).map((fork) => {
    const through = fork.ways.map(
      ({ key }) => workedRoute(route, { ...ways, [fork.at.key]: key }).operations,
    );
    const shared = new Set(
      through[0]
        ?.filter(({ key }) => through.every((way) => way.some((o) => o.key === key)))
        .map((o) => o.key),
    );
    return {
      at: fork.at.key,
      name: fork.at.name,
      ways: fork.ways.map((first, i) =>
        weighed(
          first,
          (through[i] ?? []).filter(({ key }) => !shared.has(key)),
          options,
        ),
      ),
    };
  });
}

function weighed(
  first: Operation,
  operations: readonly Operation[],
  { pieces, atMs, calendar, rates }: Parameters<typeof weighWays>[0],
): WeighedWay {
  let endMs = atMs;
  let [touch, money, good] = [0, 0, 1];
  for (const operation of operations) {
    const minutes = workMinutes(operation, pieces);
    endMs =
      operation.mode === 'hold'
        ? endMs + plannedHoldHours(operation) * HOUR_MS
        : addWorkingMinutes(calendar, endMs, minutes);
    touch += minutes;
    const rate = operation.mode === 'load' ? rates.machine : rates.person;
    money += (minutes / 60) * rate + pieces * (operation.costPerPiece ?? 0);
    good *= (operation.yieldPct ?? 100) / 100;
  }
  const told = <T>(values: readonly (T | null | undefined)[]): T[] => [
    ...new Set(values.filter((value): value is T => value !== null && value !== undefined)),
  ];
  return {
    way: first.key,
    name: first.name,
    operations: operations.map(({ name }) => name),
    touchHours: touch / 60,
    wallHours: (endMs - atMs) / HOUR_MS,
    costPerPiece: pieces > 0 ? money / pieces : 0,
    skills: told(operations.map((operation) => ('skill' in operation ? operation.skill : null))),
    yieldPct: 100 * good,
    risks: told(operations.map(({ risk }) => risk)),
    cautions: told(operations.map(({ caution }) => caution)),
  };
}
