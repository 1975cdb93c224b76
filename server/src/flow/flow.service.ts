import { factoryDate, routeIn, stationsLeft, type RouteBook } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { FactoryClock } from '../setup/factory-clock.ts';
import { RacksService } from '../floor/racks.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FlowDto, ThroughputRowDto } from './flow.dto.ts';
import { CONSTRAINT_DAYS, FloorService, withLoads } from './floor.service.ts';
import { StationDaysService } from './station-days.service.ts';
import { StaysService, type GoneOn } from '../log/stays.service.ts';

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

  /** Throughput by station and working day over the last `count` working days and today. */
  async flow(count: number): Promise<FlowDto> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const stations = await this.setup.stations();
    const past = await this.stationDays.pastDays(nowMs, count);
    const today = factoryDate(calendar, nowMs);
    const days = [...past, today];
    const fromDay = days[0] ?? today;
    const [throughput, load, floor] = await Promise.all([
      this.throughput(fromDay, today, calendar.zone),
      this.stationDays.loads(past.slice(-(CONSTRAINT_DAYS - 1))),
      this.racks.open().then((racks) => this.floor.load(racks, stations, nowMs)),
    ]);
    return {
      fromDay,
      toDay: today,
      days,
      stations: withLoads(stations, floor.loads),
      throughput,
      load,
      constraint: floor.constraint,
    };
  }

  /** Good, scrapped and reworked pieces by factory day and station; what was taken back does not count. */
  private async throughput(fromDay: string, toDay: string, zone: string): Promise<ThroughputRowDto[]> {
    const window = { zone, fromDay, toDay };
    const gone = await this.stays.goneOn(window);
    const routes = await this.setup.routeBook([...new Set(gone.map(({ routeId }) => routeId))]);
    const still: GoneOn[] = [];
    for (const one of gone) if (await this.isStillThere(one, routes)) still.push(one);
    return this.stays.throughput(window, still);
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
