import { type operationOf, workMinutes, type Route, type Station } from '../route/index.ts';
import { groupedBy } from '../stats/grouped.ts';
import type { Stay, StayStatus } from '../stays/index.ts';
import { stationCalendar, workingMinutesBetween, type FactoryCalendar } from '../time/calendar.ts';
import { workingClock } from '../time/working-clock.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import {
  availableHours,
  workedDays,
  type AvailableHours,
  type SkilledPerson,
  type WorkedDay,
} from './available-hours.ts';
import type { Resource } from './constraint-signs.ts';

/** What some pieces of a rack were in together, as the log has it; what has not ended goes up to now. */
export interface LoggedStay {
  batch: string;
  /** The worked route of the batch. */
  route: Route;
  operation: string;
  station: string | null;
  status: StayStatus;
  person: string | null;
  pieces: number;
  fromMs: number;
  toMs: number;
  /** Null: it goes on. */
  ended: Stay['ended'] | null;
}

/** Stations and skills over a window of the log, on an axis on which only hours that are worked have length. */
export interface LogWindow {
  resources: Resource[];
  /** Length of the window on that axis. */
  windowMs: number;
  /** Working days in it, the last one in part. */
  days: number;
}

interface Span {
  fromMs: number;
  toMs: number;
}

/**
 * What every station and every skill worked on, what waited for it, and the hours it had, by the log. A station is as large as its
 * places, a load takes one for each time it fills them; a skill is as large as those who can, busy with whatever they have in hand.
 * What waits to be joined waits for its partner, not for the station.
 * @param options.fromMs the window, to `toMs`
 * @param options.shiftHours hours of one person in a working day
 */
export function logResources(options: {
  stays: readonly LoggedStay[];
  stations: readonly Pick<Station, 'code' | 'parallel'>[];
  people: readonly SkilledPerson[];
  calendar: FactoryCalendar;
  fromMs: number;
  toMs: number;
  shiftHours: number;
}): LogWindow {
  const { stations, people, calendar, fromMs, toMs, shiftHours } = options;
  const clock = workingClock(calendar, fromMs);
  const onAxis = (ms: number): number =>
    clock.between(fromMs, Math.min(Math.max(ms, fromMs), toMs)) * MINUTE_MS;
  const windowMs = onAxis(toMs);
  const stays = options.stays.flatMap((stay) => {
    // Most of a long log lies outside of a week of it.
    if (stay.fromMs >= toMs || stay.toMs <= fromMs) return [];
    const operation = stay.route.operations.find(({ key }) => key === stay.operation);
    if (!operation) return [];
    const { batch, station, status, person, pieces, fromMs: from, toMs: to, ended } = stay;
    const span = { fromMs: onAxis(from), toMs: onAxis(to) };
    return [{ batch, operation, station, status, person, pieces, fromMs: from, toMs: to, ended, span }];
  });
  const inHand = stays.filter(({ status }) => status === 'inHand');
  const queued = stays.filter(({ status, operation: { mode } }) => status === 'waiting' && mode !== 'join');
  const resumed = new Set(
    stays.flatMap((one) => (one.ended === 'resumed' ? [arrivalKey(one, one.toMs)] : [])),
  );
  const waiting = rackwise(queued).map((group) => {
    const { operation, span, fromMs: cameMs } = group.first;
    const arrival = arrivalKey(group.first, cameMs);
    return {
      ...span,
      operation,
      pieces: group.pieces,
      hours: workMinutes(operation, group.pieces) / 60,
      station: group.first.station ?? operation.stations[0] ?? null,
      // What was stopped and goes on had come before, and so had what was there when the window began: null.
      arrival: cameMs >= fromMs && !resumed.has(arrival) ? arrival : null,
    };
  });
  const offered = (all: typeof waiting): Pick<Resource, 'hoursOffered' | 'piecesOffered'> => {
    // What came together is one set-up, however its pieces were taken in hand afterwards.
    const came = new Map<string, { operation: Operation; pieces: number }>();
    for (const { arrival, operation, pieces } of all) {
      if (arrival === null) continue;
      came.set(arrival, { operation, pieces: (came.get(arrival)?.pieces ?? 0) + pieces });
    }
    const racks = [...came.values()];
    return {
      hoursOffered: racks.reduce((sum, one) => sum + workMinutes(one.operation, one.pieces) / 60, 0),
      piecesOffered: racks.reduce((sum, one) => sum + one.pieces, 0),
    };
  };
  const worked = workedDays(calendar, fromMs, toMs);
  const hoursOf = (station: { parallel: number }, skills: readonly string[]): AvailableHours =>
    availableHours({ calendar, fromMs, toMs, station, skills, people, worked });
  const evenings = stations.flatMap((station): Evenings[] => {
    const own = stationCalendar(calendar, station.code);
    if (own === calendar) return [];
    const days = workedDays(own, fromMs, toMs).map(({ day, hours }, i) => ({
      day,
      hours: hours - (worked[i]?.hours ?? 0),
    }));
    const extra = (span: Span): number =>
      (workingMinutesBetween(own, span.fromMs, span.toMs) -
        workingMinutesBetween(calendar, span.fromMs, span.toMs)) /
      60;
    return [{ station, days, extra }];
  });
  /** Of an evening of a station's own, as many of those who can have it as it has places. */
  const eveningHours = (skills: readonly string[], at: ReadonlySet<string | undefined>): number =>
    evenings
      .filter(({ station }) => at.has(station.code))
      .reduce(
        (sum, { station, days }) =>
          sum + availableHours({ calendar, fromMs, toMs, station, skills, people, worked: days }).hours,
        0,
      );
  /** What was in hand in such evenings: they have no length on the axis. */
  const inHandThen = (some: readonly (typeof inHand)[number][]): number =>
    evenings.reduce(
      (sum, { station: { code }, extra }) =>
        sum +
        union(
          some.flatMap(({ station, fromMs: from, toMs: to }) =>
            station === code ? [{ fromMs: Math.max(from, fromMs), toMs: Math.min(to, toMs) }] : [],
          ),
        ).reduce((hours, span) => hours + extra(span), 0),
      0,
    );
  const waitingAt = groupedBy(waiting, ({ station }) => station);
  const inHandAt = groupedBy(inHand, ({ station }) => station);
  const ofStation = stations.map(({ code, parallel }): Resource => {
    const own = waitingAt.get(code) ?? [];
    const there = inHandAt.get(code) ?? [];
    return {
      ...{ code, by: 'station', capacity: parallel, waiting: own },
      hoursThere: hoursOf({ parallel }, []).placeHours + eveningHours([], new Set([code])),
      busy: placesTaken(there),
      eveningHours: inHandThen(there),
      ...offered(own),
    };
  });
  /** Stations where each skill is needed. */
  const neededAt = new Map<string, Set<string | undefined>>();
  for (const { operation } of stays) {
    const skill = skillOf(operation);
    if (skill === null) continue;
    const at = neededAt.get(skill) ?? new Set();
    neededAt.set(skill, at.add(operation.stations[0]));
  }
  const waitingFor = groupedBy(waiting, ({ operation }) => skillOf(operation));
  const inHandOf = groupedBy(inHand, ({ person }) => person);
  const ofSkill = [...neededAt.keys()].toSorted().map((skill): Resource => {
    const able = people.filter((person) => person.skills.includes(skill));
    const own = waitingFor.get(skill) ?? [];
    return {
      ...{ code: skill, by: 'skill', capacity: able.length, waiting: own, ...offered(own) },
      hoursThere:
        (hoursOf({ parallel: 0 }, [skill]).peopleHours ?? 0) +
        eveningHours([skill], neededAt.get(skill) ?? new Set()),
      eveningHours: able.reduce((sum, { code }) => sum + inHandThen(inHandOf.get(code) ?? []), 0),
      busy: able.flatMap(({ code }) => union((inHandOf.get(code) ?? []).map(({ span }) => span))),
    };
  });
  return {
    resources: [...ofStation, ...ofSkill],
    windowMs,
    days: shiftHours > 0 ? windowMs / HOUR_MS / shiftHours : 0,
  };
}

/** What a station works beside the hours of the house. */
interface Evenings {
  station: Pick<Station, 'code' | 'parallel'>;
  days: WorkedDay[];
  /** Hours of a span that lie in them. */
  extra: (span: Span) => number;
}

type Operation = ReturnType<typeof operationOf>;
const skillOf = (operation: Operation): string | null => ('skill' in operation ? operation.skill : null);
const arrivalKey = ({ batch, operation }: { batch: string; operation: Operation }, atMs: number): string =>
  `${batch}|${operation.key}|${atMs}`;

interface Together<S> {
  first: S;
  pieces: number;
}

/** Stays of one rack that began and ended alike as one: they are worked on as one. */
function rackwise<S extends { batch: string; operation: Operation; pieces: number; span: Span }>(
  stays: readonly S[],
): Together<S>[] {
  const groups = new Map<string, Together<S>>();
  for (const stay of stays) {
    const { batch, operation, span, pieces } = stay;
    const key = `${batch}|${operation.key}|${span.fromMs}|${span.toMs}`;
    const group = groups.get(key);
    if (group) group.pieces += pieces;
    else groups.set(key, { first: stay, pieces });
  }
  return [...groups.values()];
}

/** A span for each place of a station that was taken: a rack takes one, a load as many as it fills. */
function placesTaken(
  inHand: readonly { batch: string; operation: Operation; pieces: number; span: Span }[],
): Span[] {
  const racks = new Map<string, Span[]>();
  const loads: Span[] = [];
  for (const { first, pieces } of rackwise(inHand)) {
    const { batch, operation, span } = first;
    if (operation.mode === 'load')
      for (let filled = 0; filled < pieces; filled += operation.places) loads.push(span);
    else {
      const key = `${batch}|${operation.key}`;
      racks.set(key, [...(racks.get(key) ?? []), span]);
    }
  }
  return [...loads, ...[...racks.values()].flatMap(union)];
}

/** Spans without what they have twice, in order. */
function union(spans: readonly Span[]): Span[] {
  const merged: Span[] = [];
  for (const span of spans.toSorted((a, b) => a.fromMs - b.fromMs)) {
    const last = merged.at(-1);
    if (last && span.fromMs <= last.toMs) last.toMs = Math.max(last.toMs, span.toMs);
    else merged.push({ ...span });
  }
  return merged;
}
