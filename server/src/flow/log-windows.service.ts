import {
  factoryDate,
  logResources,
  shiftDate,
  startOfFactoryDay,
  type FactoryCalendar,
  type LogWindow,
  type PlacedStay,
  type SkilledPerson,
  type Station,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LoggedStaysService } from './logged-stays.service.ts';
import { StationDaysService } from './station-days.service.ts';

/** Some working days of the log, up to now: what all racks were in, and who and what was there. */
export interface LoggedDays {
  nowMs: number;
  fromMs: number;
  /** Beginning of each working day, today's last. */
  dayStarts: number[];
  calendar: FactoryCalendar;
  stations: Station[];
  people: (SkilledPerson & { name: string })[];
  /** Hours of one person in a working day. */
  shiftHours: number;
  stays: PlacedStay[];
}

/** The window that the pages of flow look at, alike for all of them. */
@Injectable()
export class LogWindowsService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly logged: LoggedStaysService,
    private readonly stationDays: StationDaysService,
  ) {}

  /** @param count working days before today @param before calendar days before them of which the stays are wanted too */
  async days(count: number, before = 0): Promise<LoggedDays> {
    const nowMs = await this.clock.now();
    const [{ calendar }, stations, people, past, shiftHours] = await Promise.all([
      this.setup.factory(),
      this.setup.stations(),
      this.setup.people(),
      this.stationDays.pastDays(nowMs, count),
      this.setup.shiftHours(nowMs),
    ]);
    const today = factoryDate(calendar, nowMs);
    const first = past[0] ?? today;
    const dayStarts = [...past, today].map((day) => startOfFactoryDay(calendar, day));
    const [stays, absent] = await Promise.all([
      this.logged.since(startOfFactoryDay(calendar, shiftDate(first, -before)), nowMs),
      this.setup.absences(first, today),
    ]);
    return {
      ...{ nowMs, fromMs: dayStarts[0] ?? nowMs, dayStarts, calendar, stations, shiftHours, stays },
      people: people.map(({ code, name, skills }) => ({
        ...{ code, name, skills },
        absentOn: absent.flatMap(({ person, day }) => (person === code ? [day] : [])),
      })),
    };
  }
}

/** What stations and skills did in a part of these days. */
export const windowOf = (days: LoggedDays, fromMs: number, toMs: number): LogWindow =>
  logResources({ ...days, fromMs, toMs });

/** What a station or skill is called. */
export function namesIn({ stations }: LoggedDays): (one: { code: string; by: string }) => string {
  const names = new Map(stations.map(({ code, name }) => [code, name]));
  return ({ code, by }) => (by === 'station' ? (names.get(code) ?? code) : `those who can ${code}`);
}
