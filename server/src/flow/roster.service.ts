import {
  dayRoster,
  factoryDate,
  shiftDate,
  startOfFactoryDay,
  workBefore,
  workingClock,
  workingMinutesBetween,
  workingMinutesOfDay,
  type FactoryCalendar,
  type Overtime,
  type RosterPerson,
} from '@ample-crane/core';
import { BadRequestException, Injectable } from '@nestjs/common';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { FloorService } from './floor.service.ts';
import { JudgedRacksService } from './judged-racks.service.ts';
import { LogWindowsService, type LoggedDays } from './log-windows.service.ts';

/** Somebody at a station for some hours. */
export interface RosteredPerson {
  code: string;
  name: string;
  hours: number;
  isLent: boolean;
}

/** Work of one skill at a station, and who is there for it. */
export interface RosteredWork {
  station: string;
  stationName: string;
  skill: string | null;
  wantedHours: number;
  /** Of them, those of pieces that are on a hold now: the board does not count them yet. */
  comingHours: number;
  /** Hours nobody is there for, or that have no place. */
  leftHours: number;
  people: RosteredPerson[];
}

/** Somebody of the house on that day. */
export interface PersonOfDay {
  code: string;
  name: string;
  role: string;
  isAway: boolean;
  /** The station at which they worked most lately; null: at none. */
  home: string | null;
  /** Hours in which nobody needs them; null: they work at no bench. */
  freeHours: number | null;
  learning: string[];
}

export interface EmptyPlace {
  station: string;
  stationName: string;
  hours: number;
}

export interface RosterView {
  nowMs: number;
  zone: string;
  day: string;
  isToday: boolean;
  /** Hours of one person that are left of the day, or that it has. */
  hours: number;
  /** Stations in the order in which they are given people: what paces the house, then what has most work in front of it. */
  work: RosteredWork[];
  people: PersonOfDay[];
  /** Hours in which a station has work and a place, and nobody who can; those without any are left out. */
  empty: EmptyPlace[];
  /** Today and the next working days. */
  days: string[];
  /** The station that is marked as the constraint; null: none is. */
  paces: string | null;
  /** Overtime of single stations on that day: nobody is told off for it here. */
  evenings: Overtime[];
}

/** Days ahead for which a roster is made. */
const MOST_AHEAD_DAYS = 14;
/** So many days are offered. */
const DAYS_OFFERED = 5;
/** Working days by which it is told where somebody usually works. */
const HOME_DAYS = 20;

/** Who works where on a day: those who are in, held against what there is to do. */
@Injectable()
export class RosterService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly judged: JudgedRacksService,
    private readonly floor: FloorService,
    private readonly windows: LogWindowsService,
  ) {}

  /** @param asked 'YYYY-MM-DD', today or within two weeks; left out: today. @throws BadRequestException for another day */
  async view(asked?: string): Promise<RosterView> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const day = asked ?? today;
    if (day < today || day > shiftDate(today, MOST_AHEAD_DAYS))
      throw new BadRequestException(
        `a roster is made for today and ${MOST_AHEAD_DAYS} days ahead, not for ${day}`,
      );
    const [people, absent, stations, racks, logged] = await Promise.all([
      this.setup.people(),
      this.setup.absences(day, day),
      this.setup.stations(),
      this.judged.all(nowMs, calendar),
      this.windows.days(HOME_DAYS),
    ]);
    const { loads, constraint } = await this.floor.load(racks, stations, nowMs);
    const { hours, endMs } = hoursLeft(calendar, day, nowMs);
    const home = homesIn(logged);
    const away = new Set(absent.map(({ person }) => person));
    const crew = people.map(({ code, skills }): RosterPerson => ({
      ...{ code, skills, home: home.get(code) ?? null, hours: away.has(code) ? 0 : hours },
    }));
    const wanted = workBefore(
      racks.map(({ state, route, holds }) => ({ state, route, holds: holds.map(({ dto }) => dto) })),
      endMs,
    );
    const order = [
      ...(constraint ? [constraint.station] : []),
      ...loads.toSorted((a, b) => b.days - a.days).map(({ station }) => station),
    ];
    const places = new Map(stations.map(({ code, parallel }) => [code, parallel]));
    const roster = dayRoster({ work: wanted, people: crew, places, hours, order });
    const nameOf = new Map(people.map(({ code, name }) => [code, name]));
    const stationName = new Map(stations.map(({ code, name }) => [code, name]));
    const at = (one: { station: string; skill: string | null }) => (other: typeof one) =>
      one.station === other.station && one.skill === other.skill;
    const free = new Map(roster.free.map((one) => [one.person, one.hours]));
    return {
      ...{ nowMs, zone: calendar.zone, day, isToday: day === today, hours },
      work: wanted
        .map((task) => ({
          ...{ station: task.station, skill: task.skill, wantedHours: task.hours },
          comingHours: task.comingHours,
          stationName: stationName.get(task.station) ?? task.station,
          leftHours: roster.left.find(at(task))?.hours ?? 0,
          people: roster.places.filter(at(task)).map(({ person, hours: there, isLent }) => ({
            ...{ code: person, name: nameOf.get(person) ?? person, hours: there, isLent },
          })),
        }))
        .toSorted((a, b) => order.indexOf(a.station) - order.indexOf(b.station)),
      people: people.map(({ code, name, role, skills, learning }) => ({
        ...{ code, name, role, learning, isAway: away.has(code), home: home.get(code) ?? null },
        freeHours: skills.length === 0 ? null : (free.get(code) ?? 0),
      })),
      empty: roster.empty.map(({ station, hours: none }) => ({
        ...{ station, stationName: stationName.get(station) ?? station, hours: none },
      })),
      days: workingDaysFrom(calendar, today),
      paces: constraint?.station ?? null,
      evenings: calendar.overtime.filter(({ date, stations: own }) => date === day && own !== undefined),
    };
  }
}

/** A day, and the next that are worked. */
function workingDaysFrom(calendar: FactoryCalendar, today: string): string[] {
  const ahead = Array.from({ length: MOST_AHEAD_DAYS }, (_, i) => shiftDate(today, i + 1));
  return [today, ...ahead.filter((day) => workingMinutesOfDay(calendar, day) > 0).slice(0, DAYS_OFFERED - 1)];
}

/** Hours of one person that a day has, of today those that are left; and when it is over. */
function hoursLeft(calendar: FactoryCalendar, day: string, nowMs: number): { hours: number; endMs: number } {
  const fromMs = Math.max(nowMs, startOfFactoryDay(calendar, day));
  const endMs = startOfFactoryDay(calendar, shiftDate(day, 1));
  return { hours: workingMinutesBetween(calendar, fromMs, endMs) / 60, endMs };
}

/** The station at which each of them had something in hand longest. */
function homesIn({ stays, calendar, fromMs }: LoggedDays): Map<string, string> {
  const { between } = workingClock(calendar, fromMs);
  const minutes = new Map<string, Map<string, number>>();
  for (const { person, station, status, fromMs: from, toMs } of stays) {
    if (person === null || station === null || status !== 'inHand' || toMs <= fromMs) continue;
    const at = minutes.get(person) ?? new Map<string, number>();
    at.set(station, (at.get(station) ?? 0) + between(Math.max(from, fromMs), toMs));
    minutes.set(person, at);
  }
  return new Map(
    [...minutes].flatMap(([person, at]) => {
      const [most] = [...at].toSorted(([, a], [, b]) => b - a);
      return most ? [[person, most[0]] as const] : [];
    }),
  );
}
