import type { BatchState } from '../ledger/index.ts';
import { operationIndex, operationOf, workMinutes, type Route, type Station } from '../route/index.ts';
export interface RoutedBatch {
  state: BatchState;
  route: Route;
}

/** Work that stands before a station. */
export interface StationLoad {
  station: string;
  /** Hours of one person or machine for what waits and is in hand here, by the route's times. */
  hoursWaiting: number;
  /** Hours this station has in a working day. */
  hoursADay: number;
  /** hoursWaiting / hoursADay: working days of work in front of it. */
  days: number;
}

/** Pieces of one batch that wait or are in hand at one operation. */
export interface WorkAt {
  /** The worked route of the batch. */
  route: Route;
  operation: string;
  pieces: number;
}

/** What waits or is in hand now, by batch and operation. */
export function workNow(batches: readonly RoutedBatch[]): WorkAt[] {
  return batches.flatMap(({ state, route }) => {
    const pieces = new Map<string, number>();
    for (const piece of state.pieces) {
      if (piece.standing !== 'waiting' && piece.standing !== 'inHand') continue;
      pieces.set(piece.operation, (pieces.get(piece.operation) ?? 0) + 1);
    }
    return [...pieces].map(([operation, n]) => ({ route, operation, pieces: n }));
  });
}

/** Hours of work at each station; alternatives count for their usual station. */
function hoursByStation(work: readonly WorkAt[]): Map<string, number> {
  const hours = new Map<string, number>();
  for (const { route, operation: key, pieces } of work) {
    const operation = operationOf(route, key);
    const station = operation.stations[0];
    if (station === undefined) continue;
    hours.set(station, (hours.get(station) ?? 0) + workMinutes(operation, pieces) / 60);
  }
  return hours;
}

/**
 * Where pieces leave a station with this operation: its stations, without those that are the usual one of an operation
 * that comes behind it on the way. A piece leaves a station once, however many operations it has there.
 */
export function stationsLeft(worked: Route, key: string): string[] {
  const at = operationIndex(worked, key);
  const behind = new Set(worked.operations.slice(at + 1).map(({ stations }) => stations[0]));
  return operationOf(worked, key).stations.filter((station) => !behind.has(station));
}

/** The work in front of each station, hours and working days, by the times of the routes. */
export function stationLoads(options: {
  work: readonly WorkAt[];
  stations: readonly Station[];
  /** Working hours of one person in the day looked at. */
  shiftHours: number;
}): StationLoad[] {
  const hours = hoursByStation(options.work);
  return options.stations.map((station) => {
    const hoursWaiting = hours.get(station.code) ?? 0;
    const hoursADay = station.parallel * options.shiftHours;
    return {
      station: station.code,
      hoursWaiting,
      hoursADay,
      days: hoursADay > 0 ? hoursWaiting / hoursADay : 0,
    };
  });
}

/** One station's load at the end of one factory day. */
export interface LoadDay {
  /** 'YYYY-MM-DD'. */
  day: string;
  station: string;
  days: number;
}

/** The station that three signs of the log name. */
export interface NamedConstraint {
  station: string;
  /** It is named for those who can this: most of their work comes there; null: for itself. */
  skill: string | null;
  /** How many of the three signs name it. */
  agree: number;
  /** Working days of the log they were taken of. */
  days: number;
}

export interface Constraint {
  station: string;
  now: StationLoad;
  /** Mean of the last days and today, working days of work in front of it. */
  meanDays: number;
  /** On how many of the days looked at it had the most work in front of it. */
  daysOnTop: number;
  daysLookedAt: number;
  /** What it rests on; null: the three signs name none, it is the one with the most work in front of it. */
  signs: Omit<NamedConstraint, 'station'> | null;
}

/** Less work than this in front of the fullest station paces nobody. Default, working days. */
const LEAST_CONSTRAINT_DAYS = 0.5;

/**
 * The station that is marked as the constraint: the one that three signs of the log name, or, where they name none, a first sign of
 * it: the station with the most working days of work in front of it, on average over the last days and now; null when none has even
 * half a day. Ties go to the earlier station in the list.
 * @param named what the three signs name; null: no station
 */
export function markedConstraint(
  now: readonly StationLoad[],
  history: readonly LoadDay[],
  named: NamedConstraint | null,
): Constraint | null {
  const days = [...new Set(history.map((row) => row.day))];
  const byDay = days.map((day) => history.filter((row) => row.day === day));
  const told = (load: StationLoad): Constraint => {
    const past = history.filter((row) => row.station === load.station).map((row) => row.days);
    const meanDays = [...past, load.days].reduce((sum, value) => sum + value, 0) / (past.length + 1);
    const onTop = (rows: readonly { station: string; days: number }[]): boolean => {
      const most = Math.max(0, ...rows.map((row) => row.days));
      return most > 0 && rows.some((row) => row.station === load.station && row.days === most);
    };
    const daysOnTop = [...byDay, now].filter(onTop).length;
    return {
      ...{ station: load.station, now: load, meanDays, daysOnTop, daysLookedAt: byDay.length + 1 },
      signs: null,
    };
  };
  const load = now.find(({ station }) => station === named?.station);
  if (named && load) {
    const { station: _station, ...signs } = named;
    return { ...told(load), signs };
  }
  const best = now
    .map(told)
    .reduce<Constraint | null>((most, one) => (most && one.meanDays <= most.meanDays ? most : one), null);
  return best && best.meanDays >= LEAST_CONSTRAINT_DAYS ? best : null;
}

/** What the mark of the constraint rests on, behind its name: 'all three signs of 20 working days name it; 5.2 days …'. */
export function constraintWords({ signs, meanDays, daysOnTop, daysLookedAt }: Constraint): string {
  const inFront = `${meanDays.toFixed(1)} days of work in front of it on average`;
  if (!signs)
    return `${inFront}, the most of any station on ${daysOnTop} of the last ${daysLookedAt} days; the three signs of the log name none.`;
  const name = signs.agree === 3 ? 'all three signs' : `${signs.agree} of three signs`;
  const whom = signs.skill === null ? 'it' : `those who can ${signs.skill}, whose work is here most of all`;
  return `${name} of the last ${signs.days} working days name ${whom}; ${inFront}.`;
}
