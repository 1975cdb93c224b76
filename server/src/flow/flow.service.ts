import {
  countUpTo,
  factoryDate,
  leftStations,
  neededBy,
  shiftDate,
  startOfFactoryDay,
  stationsLeft,
  workingMinutesOfDay,
  type FactoryCalendar,
  type LeftTogether,
  type Route,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { FactoryClock } from '../setup/factory-clock.ts';
import { RacksService } from '../floor/racks.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FlowDto, LeftDto, NeedDto, ThroughputRowDto } from './flow.dto.ts';
import { CONSTRAINT_DAYS, FloorService, withLoads } from './floor.service.ts';
import { LoggedStaysService } from './logged-stays.service.ts';
import { StationDaysService } from './station-days.service.ts';

/** Working days ahead over which it is told what is needed. */
const NEED_DAYS = 20;

/** What the log says about whole stations. */
@Injectable()
export class FlowService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly floor: FloorService,
    private readonly racks: RacksService,
    private readonly stationDays: StationDaysService,
    private readonly logged: LoggedStaysService,
  ) {}

  /** The racks behind a day of a station, as `flow` counts it over the same window. @throws NotFoundException for a day outside it */
  async left(count: number, { station, day }: { station: string; day: string }): Promise<LeftDto> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const [fromDay = today] = await this.stationDays.pastDays(nowMs, count);
    if (day < fromDay || day > today)
      throw new NotFoundException(`${day} is not within the days that are looked at, ${fromDay} to ${today}`);
    const rows = (await this.leftBetween(calendar, fromDay, today, nowMs)).filter(
      (row) => row.station === station && row.day === day,
    );
    const people = new Map((await this.setup.people()).map(({ code, name }) => [code, name]));
    return {
      ...{ day, station, zone: calendar.zone },
      left: rows.map(({ batch, positions, operation, ended, person, reason, atMs }) => ({
        ...{ batch, positions, operation, ended, reason, atMs },
        by: person === null ? null : (people.get(person) ?? person),
      })),
    };
  }

  /** What each station must let go a working day, in the next ones, so that what is open can be in time. */
  private async need(nowMs: number, calendar: FactoryCalendar): Promise<NeedDto[]> {
    const racks = await this.racks.open();
    if (racks.length === 0) return [];
    const ahead = await Promise.all(
      racks.map(async ({ state, route }) => {
        const then = await this.setup.routeAfter(route);
        return { state, route, then: then?.id === route.id ? null : then };
      }),
    );
    let day = factoryDate(calendar, nowMs);
    for (let worked = 0, i = 0; worked < NEED_DAYS && i < 3 * NEED_DAYS; i += 1) {
      day = shiftDate(day, 1);
      if (workingMinutesOfDay(calendar, day) > 0) worked += 1;
    }
    const byMs = startOfFactoryDay(calendar, shiftDate(day, 1));
    return [...neededBy({ racks: ahead, calendar, byMs })].map(([station, pieces]) => ({
      ...{ station, aDay: pieces / NEED_DAYS },
    }));
  }

  /** Throughput by station and working day over the last `count` working days and today. */
  async flow(count: number): Promise<FlowDto> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const stations = await this.setup.stations();
    const past = await this.stationDays.pastDays(nowMs, count);
    const today = factoryDate(calendar, nowMs);
    const days = [...past, today];
    const fromDay = days[0] ?? today;
    const [throughput, load, need, floor] = await Promise.all([
      this.leftBetween(calendar, fromDay, today, nowMs).then(counted),
      this.stationDays.loads(past.slice(-(CONSTRAINT_DAYS - 1))),
      this.need(nowMs, calendar),
      this.racks.open().then((racks) => this.floor.load(racks, stations, nowMs)),
    ]);
    return {
      fromDay,
      toDay: today,
      days,
      stations: withLoads(stations, floor.loads),
      throughput,
      ...{ load, need },
      constraint: floor.constraint,
    };
  }

  /** What left the stations on some factory days, the last one included; what was taken back does not count. */
  private async leftBetween(
    calendar: FactoryCalendar,
    fromDay: string,
    toDay: string,
    nowMs: number,
  ): Promise<LeftOnDay[]> {
    const days: string[] = [];
    for (let day = fromDay; day <= toDay; day = shiftDate(day, 1)) days.push(day);
    const starts = days.map((day) => startOfFactoryDay(calendar, day));
    const fromMs = starts[0] ?? nowMs;
    const [stays, newest] = await Promise.all([
      this.logged.since(fromMs - 1, nowMs),
      this.setup.newestRoutes(),
    ]);
    const left = leftStations({
      ...{ stays, fromMs, toMs: startOfFactoryDay(calendar, shiftDate(toDay, 1)) },
      staysThere: thereStill(newest),
    });
    return left.map((one) => ({ ...one, day: days[countUpTo(starts, one.atMs) - 1] ?? fromDay }));
  }
}

interface LeftOnDay extends LeftTogether {
  /** Factory day, 'YYYY-MM-DD'. */
  day: string;
}

/** Good, scrapped and sent back pieces by factory day and station. */
function counted(left: readonly LeftOnDay[]): ThroughputRowDto[] {
  const rows = new Map<string, ThroughputRowDto>();
  for (const { day, station, ended, positions } of left) {
    const key = `${day}|${station}`;
    const row = rows.get(key) ?? { day, station, good: 0, scrapped: 0, reworked: 0 };
    rows.set(key, row);
    row[ended === 'sent back' ? 'reworked' : ended] += positions.length;
  }
  return [...rows.values()].toSorted(
    (a, b) => a.day.localeCompare(b.day) || a.station.localeCompare(b.station),
  );
}

/** Whether what goes on from an operation is at its station still; each operation of a route is looked at once. */
function thereStill(newest: readonly Route[]): Parameters<typeof leftStations>[0]['staysThere'] {
  const known = new Map<Route, Map<string, boolean>>();
  return ({ route, operation, station, ended }) => {
    const at = `${operation}|${station}|${ended}`;
    const of = known.get(route) ?? new Map<string, boolean>();
    known.set(route, of);
    const there = of.get(at) ?? isStillThere({ route, operation, station, ended }, newest);
    of.set(at, there);
    return there;
  };
}

/** A piece is still at a station while another of its operations there is yet to come; a neck goes on with its body. */
function isStillThere(
  { route, operation, station, ended }: { route: Route; operation: string; station: string; ended: string },
  newest: readonly Route[],
): boolean {
  // An operation it no longer has, since the rack was moved to another revision, was the last one there.
  const known = route.operations.find(({ key }) => key === operation);
  if (!known) return false;
  if (!stationsLeft(route, operation).includes(station)) return true;
  if (known.mode !== 'join') return false;
  if (known.role !== 'host') return ended === 'joined';
  const made = newest.find(({ model, kind }) => model === route.model && kind === known.makesKind);
  return made?.operations.some(({ stations }) => stations[0] === station) ?? false;
}
