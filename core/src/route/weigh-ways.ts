import { addWorkingMinutes, type FactoryCalendar } from '../time/calendar.ts';
import { weekOfStarts } from '../time/week-of-starts.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
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

/** About one every quarter of an hour of a working week: work of an hour must meet the ends of shifts as often as it does. */
const STARTS = 240;

/** One way through a fork, weighed for a batch against the others. */
export interface WeighedWay {
  /** Key of its first operation. */
  way: string;
  name: string;
  /** What it has that the usual way does not; the ways of one fork share the rest of the route. */
  operations: string[];
  /** Work of people, and of machines, for the batch, hours. */
  workHours: number;
  machineHours: number;
  /** In which nobody works: drying, rest, cure; days on the wall. */
  heldDays: number;
  /** From the first of its operations to the last if nothing else waited, days on the wall: the mean over starts through a week. */
  elapsedDays: number;
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

/** The forks of a route with their ways side by side, for a batch of so many pieces, in the week after an instant. */
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
  let [work, machine, held, money, good] = [0, 0, 0, 0, 1];
  for (const operation of operations) {
    const minutes = workMinutes(operation, pieces);
    const isMachine = operation.mode === 'load';
    if (isMachine) machine += minutes;
    else work += minutes;
    held += plannedHoldHours(operation);
    money +=
      (minutes / 60) * (isMachine ? rates.machine : rates.person) + pieces * (operation.costPerPiece ?? 0);
    good *= (operation.yieldPct ?? 100) / 100;
  }
  const elapsed = (startMs: number): number =>
    operations.reduce(
      (ms, operation) =>
        operation.mode === 'hold'
          ? ms + plannedHoldHours(operation) * HOUR_MS
          : addWorkingMinutes(calendar, ms, workMinutes(operation, pieces)),
      startMs,
    ) - startMs;
  const starts = weekOfStarts(calendar, atMs, STARTS);
  const elapsedMs = starts.reduce((sum, startMs) => sum + elapsed(startMs), 0) / starts.length;
  const told = <T>(values: readonly (T | null | undefined)[]): T[] => [
    ...new Set(values.filter((value): value is T => value !== null && value !== undefined)),
  ];
  return {
    way: first.key,
    name: first.name,
    operations: operations.map(({ name }) => name),
    workHours: work / 60,
    machineHours: machine / 60,
    heldDays: held / 24,
    elapsedDays: operations.length === 0 ? 0 : elapsedMs / DAY_MS,
    costPerPiece: pieces > 0 ? money / pieces : 0,
    skills: told(operations.map((operation) => ('skill' in operation ? operation.skill : null))),
    yieldPct: 100 * good,
    risks: told(operations.map(({ risk }) => risk)),
    cautions: told(operations.map(({ caution }) => caution)),
  };
}
