import { factoryDate, shiftDate } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { FactoryClock } from '../setup/factory-clock.ts';
import { RacksService } from '../routing/racks.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FlowDto, ThroughputRowDto } from './board.dto.ts';
import { BoardService, CONSTRAINT_DAYS, withLoads } from './board.service.ts';
import { StationDaysService } from './station-days.service.ts';
import { STANDS } from '../log/stands.ts';

/** What the log says about whole stations. */
@Injectable()
export class FlowService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly boards: BoardService,
    private readonly floor: RacksService,
    private readonly stationDays: StationDaysService,
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
    const [throughput, load, board] = await Promise.all([
      this.throughput(fromDay, today, calendar.zone),
      this.stationDays.loads(past.slice(-(CONSTRAINT_DAYS - 1))),
      this.floor.open().then((racks) => this.boards.load(racks, stations, nowMs)),
    ]);
    return {
      fromDay,
      toDay: today,
      days,
      stations: withLoads(stations, board.loads),
      throughput,
      load,
      constraint: board.constraint,
    };
  }

  /** Good, scrapped and reworked pieces by factory day and station; what was taken back does not count. */
  private async throughput(fromDay: string, toDay: string, zone: string): Promise<ThroughputRowDto[]> {
    return this.source.query<ThroughputRowDto[]>(
      `SELECT (e.happened_at AT TIME ZONE $1)::date::text AS day, e.station,
              coalesce(sum(e.pieces) FILTER (WHERE e.type IN ('done', 'ship') OR (e.type = 'join' AND e.body->>'role' = 'host')), 0)::int AS good,
              coalesce(sum(e.pieces) FILTER (WHERE e.type = 'scrap'), 0)::int AS scrapped,
              coalesce(sum(e.pieces) FILTER (WHERE e.type = 'rework'), 0)::int AS reworked
         FROM log_entry e
        WHERE e.type IN ('done', 'ship', 'join', 'scrap', 'rework') AND e.station IS NOT NULL
          AND e.happened_at >= ($2::date)::timestamp AT TIME ZONE $1
          AND e.happened_at < ($3::date)::timestamp AT TIME ZONE $1
          AND ${STANDS}
        GROUP BY 1, 2 ORDER BY 1, 2`,
      [zone, fromDay, shiftDate(toDay, 1)],
    );
  }
}
