import {
  factoryDate,
  routeIn,
  shiftDate,
  startOfFactoryDay,
  stationLoads,
  workingMinutesOfDay,
  type ChangedSpan,
  type LoadDay,
  type WorkAt,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { StationDayRow } from './rows.ts';
import { StaysService } from '../log/stays.service.ts';
import { WorksService } from '../log/works.service.ts';
import { SetupService } from '../setup/setup.service.ts';

export interface StationDay extends LoadDay {
  hoursWaiting: number;
}

/** Roll-ups are made under this lock alone, found untrue under it beside others: none is made of what is being changed. Any number. */
const ROLLING_UP = 20261129;
/** So many days are summed up in one go. */
const DAYS_AT_ONCE = 20;

/** Work in front of each station at the end of past working days: summed up once, and again when the log says otherwise. */
@Injectable()
export class StationDaysService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly stays: StaysService,
    works: WorksService,
  ) {
    works.hear((manager, changed, filedMs) => this.forget(manager, changed, filedMs));
  }

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

  /** Sums all working days up anew, from the first thing that ever stood to yesterday. */
  async rebuild(nowMs: number, tell?: (done: number, of: number) => void): Promise<number> {
    const { calendar } = await this.setup.factory();
    const firstMs = (await this.stays.firstMs(this.source.manager)) ?? nowMs;
    const days: string[] = [];
    const today = factoryDate(calendar, nowMs);
    for (let day = factoryDate(calendar, firstMs); day < today; day = shiftDate(day, 1))
      if (workingMinutesOfDay(calendar, day) > 0) days.push(day);
    await this.source.query('DELETE FROM station_day');
    for (let done = 0; done < days.length; done += DAYS_AT_ONCE) {
      await this.rollUp(days.slice(done, done + DAYS_AT_ONCE));
      tell?.(Math.min(done + DAYS_AT_ONCE, days.length), days.length);
    }
    return days.length;
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

  private async rollUp(days: readonly string[]): Promise<void> {
    const { calendar } = await this.setup.factory();
    const stations = await this.setup.stations();
    const ends = days.map((day) => startOfFactoryDay(calendar, shiftDate(day, 1)));
    await this.source.transaction(async (manager) => {
      await manager.query('SELECT pg_advisory_xact_lock($1)', [ROLLING_UP]);
      const work = await this.workAt(manager, ends);
      const rows = days.flatMap((day, i) =>
        stationLoads({
          work: work[i] ?? [],
          stations,
          shiftHours: workingMinutesOfDay(calendar, day) / 60,
        }).map((load) => ({ day, station: load.station, hoursWaiting: load.hoursWaiting, days: load.days })),
      );
      await manager.createQueryBuilder().insert().into(StationDayRow).values(rows).orIgnore().execute();
    });
  }

  /** What waited or was in hand at each of some instants, with the routes of today: an operation they no longer have counts nowhere. */
  private async workAt(manager: EntityManager, instantsMs: readonly number[]): Promise<WorkAt[][]> {
    const work: WorkAt[][] = instantsMs.map(() => []);
    const then = await this.stays.workAt(manager, instantsMs);
    const routes = await this.setup.routeBook([...new Set(then.map(({ routeId }) => routeId))]);
    for (const { instant, operation, pieces, ...batch } of then) {
      const route = routeIn(routes, batch);
      if (route.operations.some(({ key }) => key === operation))
        work[instant]?.push({ route, operation, pieces });
    }
    return work;
  }

  /** Sums up days from one on anew: they were worked otherwise than was thought. */
  async forgetDays(manager: EntityManager, fromDay: string): Promise<void> {
    await manager.query('SELECT pg_advisory_xact_lock_shared($1)', [ROLLING_UP]);
    await manager.query('DELETE FROM station_day WHERE day >= $1', [fromDay]);
  }

  /** What is filed about earlier days, or taken back, makes the roll-ups of the days it touches untrue: they are made again. */
  private async forget(manager: EntityManager, changed: ChangedSpan, filedMs: number): Promise<void> {
    const { calendar } = await this.setup.factory(manager);
    const first = factoryDate(calendar, changed.fromMs);
    if (first >= factoryDate(calendar, filedMs)) return;
    const last = Number.isFinite(changed.toMs) ? factoryDate(calendar, changed.toMs) : null;
    await manager.query('SELECT pg_advisory_xact_lock_shared($1)', [ROLLING_UP]);
    await manager.query('DELETE FROM station_day WHERE day >= $1 AND ($2::date IS NULL OR day <= $2)', [
      first,
      last,
    ]);
  }
}
