import {
  DAY_MS,
  factoryDate,
  filingHabits,
  logWhole,
  shiftDate,
  startOfFactoryDay,
  workingClock,
  type FilingHabit,
  type LogWhole,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { filingsByQuarter } from '../log/entries-in-force.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LoggedStaysService } from './logged-stays.service.ts';
import { StationDaysService } from './station-days.service.ts';

/** What came to a stage longer before the window than this is told as if it had come then. Calendar days. */
const CAME_BEFORE_DAYS = 120;

export interface LogWholeView extends LogWhole {
  nowMs: number;
  zone: string;
  fromDay: string;
  toDay: string;
  habits: (FilingHabit & { name: string })[];
}

/** Whether the log can be believed. */
@Injectable()
export class LogWholeService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly logged: LoggedStaysService,
    private readonly stationDays: StationDaysService,
  ) {}

  /** @param days working days before today */
  async view(days: number): Promise<LogWholeView> {
    const nowMs = await this.clock.now();
    const [{ calendar }, stations, people, shiftHours] = await Promise.all([
      this.setup.factory(),
      this.setup.stations(),
      this.setup.people(),
      this.setup.shiftHours(nowMs),
    ]);
    const toDay = factoryDate(calendar, nowMs);
    const past = await this.stationDays.pastDays(nowMs, days);
    const fromDay = past[0] ?? toDay;
    const fromMs = startOfFactoryDay(calendar, fromDay);
    const sinceMs = startOfFactoryDay(calendar, shiftDate(fromDay, -CAME_BEFORE_DAYS));
    const [stays, quarters] = await Promise.all([
      this.logged.since(sinceMs, nowMs),
      filingsByQuarter(this.source, { fromMs, zone: calendar.zone }),
    ]);
    const firstMs = stays.reduce((least, stay) => Math.min(least, stay.fromMs), sinceMs);
    const stages = new Map(stations.map(({ code, stage }) => [code, stage]));
    const names = new Map(people.map(({ code, name }) => [code, name]));
    return {
      ...{ nowMs, zone: calendar.zone, fromDay, toDay },
      ...logWhole({
        ...{ stays, fromMs, toMs: nowMs, shiftHours },
        stageOf: (station) => stages.get(station) ?? null,
        momentsMs: everyDay(fromMs, nowMs),
        between: workingClock(calendar, firstMs).between,
      }),
      habits: filingHabits(quarters).map((habit) => ({
        ...habit,
        name: names.get(habit.person) ?? habit.person,
      })),
    };
  }
}

/** Every hour of a window says as much as any other: pieces are counted by the calendar, as their stay in the stage is. */
const everyDay = (fromMs: number, toMs: number): number[] =>
  Array.from(
    { length: Math.max(1, Math.floor((4 * (toMs - fromMs)) / DAY_MS)) },
    (_, i) => fromMs + (i + 0.5) * (DAY_MS / 4),
  );
