import {
  factoryDate,
  neededBy,
  routeIn,
  shiftDate,
  startOfFactoryDay,
  stationsLeft,
  workingMinutesOfDay,
  type FactoryCalendar,
  type RouteBook,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { FactoryClock } from '../setup/factory-clock.ts';
import { RacksService } from '../floor/racks.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FlowDto, LeftDto, NeedDto, ThroughputRowDto } from './flow.dto.ts';
import { CONSTRAINT_DAYS, FloorService, withLoads } from './floor.service.ts';
import { StationDaysService } from './station-days.service.ts';
import { StaysService, type DaysAsked, type GoneOn } from '../log/stays.service.ts';

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
    private readonly stays: StaysService,
  ) {}

  /** The racks behind a day of a station, as `flow` counts it over the same window. @throws NotFoundException for a day outside it */
  async left(count: number, { station, day }: { station: string; day: string }): Promise<LeftDto> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const [fromDay = today] = await this.stationDays.pastDays(nowMs, count);
    if (day < fromDay || day > today)
      throw new NotFoundException(`${day} is not within the days that are looked at, ${fromDay} to ${today}`);
    const window = { zone: calendar.zone, fromDay, toDay: today };
    const rows = await this.stays.countedAt(window, await this.stillIn(window), { station, day });
    const people = new Map((await this.setup.people()).map(({ code, name }) => [code, name]));
    return {
      ...{ day, station, zone: calendar.zone },
      left: rows.map(({ person, ...row }) => ({
        ...row,
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
      this.throughput({ zone: calendar.zone, fromDay, toDay: today }),
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

  /** Good, scrapped and reworked pieces by factory day and station; what was taken back does not count. */
  private async throughput(window: DaysAsked): Promise<ThroughputRowDto[]> {
    return this.stays.throughput(window, await this.stillIn(window));
  }

  /** From where pieces went on within some days without leaving the station. */
  private async stillIn(window: DaysAsked): Promise<GoneOn[]> {
    const gone = await this.stays.goneOn(window);
    const routes = await this.setup.routeBook([...new Set(gone.map(({ routeId }) => routeId))]);
    const still: GoneOn[] = [];
    for (const one of gone) if (await this.isStillThere(one, routes)) still.push(one);
    return still;
  }

  /** A piece is still at a station while another of its operations there is yet to come; a neck goes on with its body. */
  private async isStillThere({ operation, station, ended, ...work }: GoneOn, routes: RouteBook) {
    const worked = routeIn(routes, work);
    // An operation it no longer has, since the rack was moved to another revision, was the last one there.
    const known = worked.operations.find(({ key }) => key === operation);
    if (!known) return false;
    if (!stationsLeft(worked, operation).includes(station)) return true;
    if (known.mode !== 'join') return false;
    if (known.role !== 'host') return ended === 'joined';
    const made = await this.setup.newestRoute(worked.model, known.makesKind);
    return made?.operations.some(({ stations }) => stations[0] === station) ?? false;
  }
}
