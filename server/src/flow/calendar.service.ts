import {
  calendarFault,
  factoryDate,
  refuse,
  shiftDate,
  withClosed,
  withOvertime,
  withShifts,
  type FactoryCalendar,
  type Overtime,
  type Shift,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { RefusalException } from '../http/answers.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { StationDaysService } from './station-days.service.ts';

/** What of the calendar was changed; it is kept, and held against what others changed, by itself. */
type Part = 'shifts' | 'closedDays' | 'overtime';

const PART_NAMES: Record<Part, string> = {
  shifts: 'shifts',
  closedDays: 'closed days',
  overtime: 'overtime',
};

/** So far back somebody may say how it was worked after all; what is older has been counted and told. */
const SAID_LATE_DAYS = 60;

/** When the house works: shifts, closed days, overtime. */
@Injectable()
export class CalendarService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly changes: ChangesService,
    private readonly stationDays: StationDaysService,
  ) {}

  /** Some days are closed, or worked again. @throws RefusalException as `turn` does, as the others do */
  close(told: Teller, days: readonly [string, ...string[]], closed: boolean): Promise<FactoryCalendar> {
    return this.turn(told, 'closedDays', days[0], (calendar) => withClosed(calendar, days, closed));
  }

  /** An extra span is worked, or not after all. */
  overtime(told: Teller, extra: Overtime, worked: boolean): Promise<FactoryCalendar> {
    return this.turn(told, 'overtime', extra.date, (calendar) => withOvertime(calendar, extra, worked));
  }

  /** Other shifts from a day on. */
  shifts(told: Teller, shifts: readonly Shift[], fromDay: string): Promise<FactoryCalendar> {
    return this.turn(told, 'shifts', fromDay, (calendar) => withShifts(calendar, shifts, fromDay));
  }

  /** @throws RefusalException when nobody could work by it, or a day lies too far back; nothing is changed then */
  private async turn(
    told: Teller,
    part: Part,
    firstDay: string,
    change: (calendar: FactoryCalendar) => FactoryCalendar,
  ): Promise<FactoryCalendar> {
    const nowMs = await this.clock.now();
    const stations = (await this.setup.stations()).map(({ code }) => code);
    await this.changes.change({ ...told, setting: 'calendar', name: PART_NAMES[part] }, async (manager) => {
      const { calendar: before } = await this.setup.lockFactory(manager);
      const today = factoryDate(before, nowMs);
      if (firstDay < shiftDate(today, -SAID_LATE_DAYS))
        throw new RefusalException(
          refuse('bad-value', `${firstDay} is more than ${SAID_LATE_DAYS} days ago: it has been counted`),
        );
      const after = change(before);
      const fault = calendarFault(after, stations, nowMs);
      if (fault !== undefined) throw new RefusalException(refuse('bad-value', fault));
      await this.setup.setFactory(manager, { calendar: after });
      await this.stationDays.forgetDays(manager, firstDay);
      return { before: { [part]: before[part] }, after: { [part]: after[part] } };
    });
    return (await this.setup.factory()).calendar;
  }
}
