import {
  factoryDate,
  shiftDate,
  startOfFactoryDay,
  stationLoads,
  workingMinutesOfDay,
  applyLogged,
  isRefusal,
  routeIn,
  routesNamed,
  voidedBy,
  type BatchState,
  type Entry,
  type LoadDay,
  type RouteBook,
  type RoutedBatch,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BatchRow, LogEntryRow, StationDayRow } from '../database/entities.ts';
import { entryOf } from '../log/work.ts';
import { SetupService } from '../setup/setup.service.ts';

export interface StationDay extends LoadDay {
  hoursWaiting: number;
}

/** Work in front of each station at the end of past working days, rolled up from the log when first asked for. */
@Injectable()
export class StationDaysService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
  ) {}

  /** The last `count` working days before the day of `nowMs`, oldest first. */
  async pastDays(nowMs: number, count: number): Promise<string[]> {
    const { calendar } = await this.setup.factory();
    const days: string[] = [];
    let day = factoryDate(calendar, nowMs);
    for (let back = 0; back < count * 3 && days.length < count; back += 1) {
      day = shiftDate(day, -1);
      if (workingMinutesOfDay(calendar, day) > 0) days.unshift(day);
    }
    return days;
  }

  async loads(days: readonly string[]): Promise<StationDay[]> {
    const known = await this.read(days);
    const missing = days.filter((day) => !known.some((row) => row.day === day));
    if (missing.length === 0) return known;
    await this.rollUp(missing);
    return this.read(days);
  }

  private async read(days: readonly string[]): Promise<StationDay[]> {
    const rows = await this.source.query<
      { day: string; station: string; hours_waiting: number; days: number }[]
    >(
      'SELECT day::text, station, hours_waiting, days FROM station_day WHERE day = ANY($1::date[]) ORDER BY day, station',
      [days],
    );
    return rows.map((row) => ({
      day: row.day,
      station: row.station,
      hoursWaiting: row.hours_waiting,
      days: row.days,
    }));
  }

  /** Replays the log up to the end of each missing day and keeps what stood in front of the stations then. */
  private async rollUp(days: readonly string[]): Promise<void> {
    const { calendar } = await this.setup.factory();
    const stations = await this.setup.stations();
    const ends = days.map((day) => startOfFactoryDay(calendar, shiftDate(day, 1)));
    const standing = await this.standingAt(ends);
    const rows = days.flatMap((day, i) =>
      stationLoads({
        batches: standing[i] ?? [],
        stations,
        shiftHours: workingMinutesOfDay(calendar, day) / 60,
      }).map((load) => ({ day, station: load.station, hoursWaiting: load.hoursWaiting, days: load.days })),
    );
    await this.source.createQueryBuilder().insert().into(StationDayRow).values(rows).orIgnore().execute();
  }

  /** The batches open at each of some instants (rising), as they stood then. */
  private async standingAt(instantsMs: readonly number[]): Promise<RoutedBatch[][]> {
    const standing: RoutedBatch[][] = instantsMs.map(() => []);
    const first = new Date(instantsMs[0] ?? 0);
    const rows = await this.source
      .getRepository(BatchRow)
      .createQueryBuilder('b')
      .select(['b.code', 'b.routeId'])
      .where(
        'NOT b.closed OR EXISTS (SELECT 1 FROM log_entry e WHERE e.batch = b.code AND e.happened_at >= :first)',
        { first },
      )
      .getMany();
    const logs = new Map<string, Entry[]>(rows.map((row) => [row.code, []]));
    const entries = await this.source
      .getRepository(LogEntryRow)
      .createQueryBuilder('e')
      .where('e.batch IN (:...codes)', {
        codes: [...logs.keys(), ''],
      })
      .orderBy('e.batch')
      .addOrderBy('e.seq')
      .getMany();
    for (const row of entries) logs.get(row.batch)?.push(entryOf(row));
    for (const row of rows) {
      const log = logs.get(row.code) ?? [];
      const routes = await this.setup.routeBook(routesNamed(log));
      statesAt(routes, log, instantsMs).forEach((state, i) => {
        if (state) standing[i]?.push({ state, route: routeIn(routes, state) });
      });
    }
    return standing;
  }
}

/** The state of one batch at each instant, by one pass over what still counts of its log. */
function statesAt(
  routes: RouteBook,
  log: readonly Entry[],
  instantsMs: readonly number[],
): (BatchState | null)[] {
  const voided = voidedBy(log);
  const valid = log.filter((entry) => entry.body.type !== 'undo' && !voided.has(entry.seq));
  return instantsMs.map((instant) => {
    let state: BatchState | null = null;
    for (const entry of valid) {
      if (entry.atMs >= instant) continue;
      const outcome = applyLogged(state, routes, entry);
      if (!isRefusal(outcome)) state = outcome.state;
    }
    return state;
  });
}
