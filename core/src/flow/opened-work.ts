import { workedRoute, workMinutes, type Operation, type Route, type Ways } from '../route/index.ts';
import type { StationLoad } from './station-load.ts';

/** So many pieces of one part of a model that are to be opened, and the ways they are to go; left out: the usual ones. */
export interface OpenedPart {
  kind: string;
  ways: Ways;
  pieces: number;
}

/** What racks that are opened bring to one station. */
export interface OpenedAt {
  station: string;
  /** Hours of one person or machine, by the times of the routes. */
  addedHours: number;
  /** Working days of work in front of it now, and with them as if all of their work stood there already. */
  daysNow: number;
  daysWith: number;
}

/** Work at one station. */
interface Work {
  station: string;
  hours: number;
}

/**
 * The work parts of a model bring to each station, from their first operation to the last of what they become: a join is counted where it
 * is filed, on the host's side, and what it makes goes on by its own route, as do the kinds a split makes. Alternatives count for their
 * usual station, holds for nothing, and nothing is taken off for pieces that will be lost.
 * @param routes newest routes of the model
 * @param loads every station's work now; stations come out in this order, those that get nothing left out
 */
export function openedWork(options: {
  parts: readonly OpenedPart[];
  routes: readonly Route[];
  loads: readonly StationLoad[];
}): OpenedAt[] {
  const { parts, routes, loads } = options;
  const hours = new Map<string, number>();
  for (const { station, hours: more } of parts.flatMap((part) => workOf(part, routes, [])))
    hours.set(station, (hours.get(station) ?? 0) + more);
  return loads.flatMap(({ station, days, hoursADay }) => {
    const addedHours = hours.get(station) ?? 0;
    if (addedHours === 0) return [];
    return [
      { station, addedHours, daysNow: days, daysWith: hoursADay > 0 ? days + addedHours / hoursADay : days },
    ];
  });
}

/**
 * The work of one part, and of what it becomes.
 * @param before kinds on the way that led here: a part never becomes what it was
 */
function workOf(
  { kind, ways, pieces }: OpenedPart,
  routes: readonly Route[],
  before: readonly string[],
): Work[] {
  const route = routes.find((one) => one.kind === kind);
  if (!route || before.includes(kind)) return [];
  const { operations } = workedRoute(route, ways);
  const own = operations.flatMap((operation): Work[] => {
    const [station] = operation.stations;
    const isGuest = operation.mode === 'join' && operation.role === 'guest';
    return station === undefined || isGuest ? [] : [{ station, hours: workMinutes(operation, pieces) / 60 }];
  });
  const later = operations
    .flatMap((operation) => becomes(operation, kind))
    .flatMap((made) => workOf({ kind: made, ways: {}, pieces }, routes, [...before, kind]));
  return [...own, ...later];
}

/** Kinds that come out of an operation besides the one that goes in. */
function becomes(operation: Operation, kind: string): string[] {
  if (operation.mode === 'split') return operation.makesKinds;
  return operation.mode === 'join' && operation.role === 'host' && operation.makesKind !== kind
    ? [operation.makesKind]
    : [];
}
