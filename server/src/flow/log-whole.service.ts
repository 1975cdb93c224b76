import {
  DAY_MS,
  factoryDate,
  filingHabits,
  logWhole,
  workingClock,
  type FilingHabit,
  type LogWhole,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { filingsByQuarter } from '../log/entries-in-force.ts';
import { LogWindowsService } from './log-windows.service.ts';

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
    private readonly windows: LogWindowsService,
  ) {}

  /** @param days working days before today */
  async view(days: number): Promise<LogWholeView> {
    const window = await this.windows.days(days, CAME_BEFORE_DAYS);
    const { nowMs, fromMs, calendar, stations, people, shiftHours, stays } = window;
    const quarters = await filingsByQuarter(this.source, { fromMs, zone: calendar.zone });
    const firstMs = stays.reduce((least, stay) => Math.min(least, stay.fromMs), fromMs);
    const stages = new Map(stations.map(({ code, stage }) => [code, stage]));
    const names = new Map(people.map(({ code, name }) => [code, name]));
    return {
      ...{ nowMs, zone: calendar.zone },
      ...{ fromDay: factoryDate(calendar, fromMs), toDay: factoryDate(calendar, nowMs) },
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
