import { createHash } from 'node:crypto';
import {
  count,
  factoryDate,
  instantOfClock,
  shiftDate,
  startOfFactoryDay,
  type FactoryCalendar,
  type Station,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import ical, { ICalCalendarMethod, ICalEventTransparency } from 'ical-generator';
import { DateTime } from 'luxon';
import { DataSource } from 'typeorm';
import { JudgedRacksService } from '../flow/judged-racks.service.ts';
import { MillViewsService } from '../machining/mill-views.service.ts';
import { OrderViewsService } from '../orders/order-views.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

/** One thing that stands in the calendar of whoever subscribes. */
export interface CalendarEvent {
  /** The same for the same thing, whatever it says. */
  uid: string;
  summary: string;
  description: string;
  startMs: number;
  endMs: number;
  /** Days, by the factory's; the end is the first day after. */
  allDay: boolean;
}

/** So far ahead absences, closed days and overtime are told. */
const AHEAD_DAYS = 120;
/** A hold's end is a moment: it is drawn so long. */
const MOMENT_MS = 30 * 60_000;
const DOMAIN = 'ample-crane.invalid';

/** What a calendar program is told: ends of holds, due days, absences, cutters to change, closed days, overtime. */
@Injectable()
export class CalendarEventsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly racks: JudgedRacksService,
    private readonly orders: OrderViewsService,
    private readonly mills: MillViewsService,
  ) {}

  /** Everything that is to come, in order of its beginning. */
  async events(): Promise<CalendarEvent[]> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const lastDay = shiftDate(today, AHEAD_DAYS);
    const [racks, orders, people, stations, absent, { cutters }] = await Promise.all([
      this.racks.all(nowMs, calendar),
      this.orders.open(),
      this.setup.people(),
      this.setup.stations(),
      this.setup.absences(today, lastDay),
      this.mills.views(),
    ]);
    const day = (date: string): { startMs: number; endMs: number; allDay: true } => ({
      startMs: startOfFactoryDay(calendar, date),
      endMs: startOfFactoryDay(calendar, shiftDate(date, 1)),
      allDay: true,
    });
    const names = new Map(people.map(({ code, name }) => [code, name]));
    const holds = racks.flatMap(({ state, holds: seen }) =>
      seen.flatMap(({ dto }): CalendarEvent[] => {
        if (dto.endMs === null || dto.over) return [];
        return [
          {
            uid: `hold-${state.code}-${dto.operation}-${dto.rule}-${dto.positions[0] ?? 0}@${DOMAIN}`,
            summary: `${state.code} off ${dto.word}`,
            description: `${state.model}, ${count(dto.positions.length, 'piece')} at ${dto.operationName}. ${dto.sentence}`,
            ...{ startMs: dto.endMs, endMs: dto.endMs + MOMENT_MS, allDay: false },
          },
        ];
      }),
    );
    const due = racks.map(({ state }): CalendarEvent => ({
      uid: `due-${state.code}@${DOMAIN}`,
      summary: `${state.code} due`,
      description: `${state.model}, ${count(state.pieces.length, 'piece')}`,
      ...day(factoryDate(calendar, state.dueMs)),
    }));
    const ordered = orders.map(({ code, customer, dueMs, models }): CalendarEvent => ({
      uid: `due-${code}@${DOMAIN}`,
      summary: `${code} due`,
      description: `${customer ?? 'for stock'}: ${models.map(({ model, quantity }) => `${quantity} × ${model}`).join(', ')}`,
      ...day(factoryDate(calendar, dueMs)),
    }));
    const away = absent.map(({ person, day: date }): CalendarEvent => ({
      uid: `away-${person}-${date}@${DOMAIN}`,
      summary: `${names.get(person) ?? person} away`,
      description: '',
      ...day(date),
    }));
    const worn = cutters.flatMap(
      ({ station, stationName, tool, usedMinutes, lifeMinutes, pastWith }): CalendarEvent[] =>
        pastWith === null
          ? []
          : [
              {
                uid: `cutter-${station}-${tool.replaceAll(/\W+/gu, '-')}@${DOMAIN}`,
                summary: `Change ${tool} at ${stationName}`,
                description: `${Math.round(usedMinutes)} of ${lifeMinutes} min; before the load of ${pastWith}`,
                ...day(today),
              },
            ],
    );
    const isAhead = (date: string): boolean => date >= today && date <= lastDay;
    const closed = calendar.closedDays.filter(isAhead).map((date): CalendarEvent => ({
      uid: `closed-${date}@${DOMAIN}`,
      summary: 'The works are closed',
      description: '',
      ...day(date),
    }));
    const extras = calendar.overtime
      .filter(({ date }) => isAhead(date))
      .map((extra) => overtimeEvent(calendar, extra, stations));
    return [...holds, ...due, ...ordered, ...away, ...worn, ...closed, ...extras].toSorted(
      (a, b) => a.startMs - b.startMs || (a.uid < b.uid ? -1 : 1),
    );
  }

  /** The same as an iCalendar object (RFC 5545): each event under a number that is higher whenever it says something else. */
  async calendar(): Promise<string> {
    const [events, { name, calendar }, nowMs] = await Promise.all([
      this.events(),
      this.setup.factory(),
      this.clock.now(),
    ]);
    const sequences = await this.sequences(events);
    const made = ical({
      name,
      prodId: { company: 'Ample Crane', product: 'works calendar' },
      method: ICalCalendarMethod.PUBLISH,
      ttl: 900,
    });
    for (const { uid, summary, description, startMs, endMs, allDay } of events)
      made.createEvent({
        ...{ id: uid, summary, sequence: sequences.get(uid) ?? 0, stamp: new Date(nowMs) },
        ...(description === '' ? {} : { description }),
        ...(allDay
          ? {
              allDay: true,
              start: DateTime.fromISO(factoryDate(calendar, startMs)),
              end: DateTime.fromISO(factoryDate(calendar, endMs)),
            }
          : { start: new Date(startMs), end: new Date(endMs) }),
        transparency: ICalEventTransparency.TRANSPARENT,
      });
    return made.toString();
  }

  /** The number of each event: one more than it was when it says something else than when it was last told. */
  private async sequences(events: readonly CalendarEvent[]): Promise<Map<string, number>> {
    const says = events.map(({ summary, description, startMs, endMs }) =>
      createHash('sha256')
        .update(JSON.stringify([summary, description, minute(startMs), minute(endMs)]))
        .digest('hex'),
    );
    const rows = await this.source.query<{ uid: string; sequence: number }[]>(
      `INSERT INTO calendar_event AS known (uid, sequence, says)
         SELECT uid, 0, says FROM unnest($1::text[], $2::text[]) AS told(uid, says) ORDER BY uid
       ON CONFLICT (uid) DO UPDATE
         SET sequence = known.sequence + (known.says <> excluded.says)::int, says = excluded.says
       RETURNING uid, sequence`,
      [events.map(({ uid }) => uid), says],
    );
    return new Map(rows.map(({ uid, sequence }) => [uid, sequence]));
  }
}

/** A forecast that moves by seconds says the same. */
const minute = (ms: number): number => Math.round(ms / 60_000);

/** A span that is worked beside the shifts; one that ends before it begins runs into the next day. */
function overtimeEvent(
  calendar: FactoryCalendar,
  { date, start, end, stations: codes }: FactoryCalendar['overtime'][number],
  stations: readonly Station[],
): CalendarEvent {
  const nameOf = (code: string): string => stations.find((one) => one.code === code)?.name ?? code;
  const at = codes ? ` at ${codes.map(nameOf).join(' and ')}` : '';
  const lastDate = end > start ? date : shiftDate(date, 1);
  return {
    uid: `overtime-${date}-${start.replace(':', '')}-${codes?.join('-') ?? 'house'}@${DOMAIN}`,
    summary: `Overtime${at}`,
    description: '',
    startMs: instantOfClock(calendar, startOfFactoryDay(calendar, date), start),
    endMs: instantOfClock(calendar, startOfFactoryDay(calendar, lastDate), end),
    allDay: false,
  };
}
