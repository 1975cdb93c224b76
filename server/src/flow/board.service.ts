import {
  checkCalls,
  calls,
  constraintSign,
  earliestEndMs,
  factoryDate,
  operationAfter,
  operationOf,
  operationsInUse,
  roomCalls,
  meetingCalls,
  meetingForecast,
  meetingSides,
  missingCalls,
  millCalls,
  workingClock,
  ropeStages,
  shiftAt,
  stationLoads,
  type Call,
  type Constraint,
  type DueSight,
  type FactoryCalendar,
  type HoldSight,
  type RoomSight,
  type Route,
  type Station,
  type WoodSight,
  type StationLoad,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BackupService } from '../backup/backup.service.ts';
import { FinishCallsService } from '../finishing/finish-calls.service.ts';
import { LogService } from '../log/log.service.ts';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import { HoldsService, type SeenHold } from '../routing/holds.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { factoryWords } from '../setup/factory-words.ts';
import { SetupService } from '../setup/setup.service.ts';
import { MillSightsService, type MillSights } from '../machining/mill-sights.service.ts';
import { StockService } from '../wood/stock.service.ts';
import { LotsSeenService } from '../wood/lots-seen.service.ts';
import type { BoardDto, LastFilingDto, StationDto } from './board.dto.ts';
import { StationDaysService } from './station-days.service.ts';

/** Days the constraint is looked for over, today included. */
export const CONSTRAINT_DAYS = 7;

interface Rack extends RackInQuestion {
  seq: number;
  holds: readonly SeenHold[];
  earliestMs: number | null;
}

/** Everything the Now board shows, in one answer. */
@Injectable()
export class BoardService {
  constructor(
    private readonly backups: BackupService,
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly holds: HoldsService,
    private readonly floor: RacksService,
    private readonly stationDays: StationDaysService,
    private readonly log: LogService,
    private readonly lots: LotsSeenService,
    private readonly mills: MillSightsService,
    private readonly finish: FinishCallsService,
    private readonly stock: StockService,
  ) {}

  async board(): Promise<BoardDto> {
    const nowMs = await this.clock.now();
    const { name, calendar } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const [racks, stations, people, absent, lastFiling, lots, rooms, mills, finish, backups] =
      await Promise.all([
        this.racks(nowMs, calendar),
        this.setup.stations(),
        this.setup.people(),
        this.setup.absent(today),
        this.lastFiling(),
        this.log.otherCodes([]),
        this.lots.sights(),
        this.mills.sights(),
        this.finish.calls(),
        this.backups.calls(),
      ]);
    const [{ loads, constraint }, wood] = await Promise.all([
      this.load(racks, stations, nowMs),
      this.stock.woodOf(racks),
    ]);
    const shift = shiftAt(calendar, nowMs) ?? null;
    const seen = racks.map(({ seq, state, holds, earliestMs }) => ({
      seq,
      state,
      earliestMs,
      holds: holds.map((hold) => hold.dto),
    }));
    return {
      nowMs,
      factory: name,
      zone: calendar.zone,
      shift,
      peopleIn: people.length - absent.length,
      peopleAll: people.length,
      stages: ropeStages(racks, stations),
      constraint,
      stations: withLoads(stations, loads),
      batches: seen,
      routes: await this.routesOf(racks),
      lots,
      calls: this.calls({
        nowMs,
        racks,
        rooms,
        mills,
        finish: [...finish, ...backups],
        wood,
        stations,
        loads,
        constraint,
        calendar,
        open: shift !== null,
      }),
      lastFiling,
    };
  }

  /** Loads of all stations now and the first sign of the constraint. */
  async load(
    racks: readonly RackInQuestion[],
    stations: readonly Station[],
    nowMs: number,
  ): Promise<{ loads: StationLoad[]; constraint: Constraint | null }> {
    const shiftHours = await this.setup.shiftHours(nowMs);
    const loads = stationLoads({ batches: racks, stations, shiftHours });
    const days = await this.stationDays.pastDays(nowMs, CONSTRAINT_DAYS - 1);
    return { loads, constraint: constraintSign(loads, await this.stationDays.loads(days)) };
  }

  /** The routes of some racks as they are drawn: each browser walks them by the ways of its batches. */
  private async routesOf(racks: readonly RackInQuestion[]): Promise<Route[]> {
    const ids = [...new Set(racks.map(({ state }) => state.routeId))];
    return Promise.all(ids.map((id) => this.setup.route(id)));
  }

  private async racks(nowMs: number, calendar: FactoryCalendar): Promise<Rack[]> {
    const open = await this.floor.open();
    const clock = workingClock(calendar, nowMs);
    const evidence = await this.holds.evidenceFor(open, nowMs);
    return open.map((rack) => {
      const holds = this.holds.see(rack, nowMs, evidence);
      const ends = holds.map(({ dto }) => dto);
      return { ...rack, holds, earliestMs: earliestEndMs({ ...rack, calendar, nowMs, clock, holds: ends }) };
    });
  }

  private async lastFiling(): Promise<LastFilingDto | null> {
    const [row] = await this.source.query<
      { key: string; batch: string; sentence: string; filed_at: Date; person: string }[]
    >(
      `SELECT f.key, e.batch, f.result->>'sentence' AS sentence, f.filed_at, f.person
         FROM filing f JOIN log_entry e ON e.filing_key = f.key ORDER BY e.id DESC LIMIT 1`,
    );
    return row
      ? {
          ...{ key: row.key, batch: row.batch, sentence: row.sentence, by: row.person },
          filedMs: row.filed_at.getTime(),
        }
      : null;
  }

  private calls(options: {
    nowMs: number;
    racks: readonly Rack[];
    rooms: readonly RoomSight[];
    mills: MillSights;
    finish: readonly Call[];
    wood: readonly WoodSight[];
    stations: readonly Station[];
    loads: readonly StationLoad[];
    constraint: Constraint | null;
    calendar: FactoryCalendar;
    open: boolean;
  }): Call[] {
    const { racks, rooms, mills, finish, wood, calendar, nowMs, ...rest } = options;
    const time = factoryWords(nowMs, calendar.zone);
    const meeting = racks.map(({ state, route, holds: seen }) => ({
      state,
      route,
      holds: seen.map(({ dto }) => dto),
    }));
    const sides = meetingSides({ racks: meeting, calendar, nowMs });
    const holds = racks.flatMap((rack) => rack.holds.map((hold) => hold.sight));
    return calls({
      ...rest,
      nowMs,
      holds,
      due: racks.flatMap(dueSight),
      arrivals: arrivals(racks, holds),
      others: [
        ...checkCalls(racks),
        ...missingCalls(wood, racks),
        ...roomCalls(rooms),
        ...millCalls(mills),
        ...finish,
        ...meetingCalls(meetingForecast(sides), sides, nowMs, time),
      ],
      time,
    });
  }
}

function dueSight({ state, route, earliestMs }: Rack): DueSight[] {
  const key = operationsInUse(state, route)[0];
  if (earliestMs === null || key === undefined) return [];
  const pieces = state.pieces.filter(
    (p) => p.standing === 'waiting' || p.standing === 'inHand' || p.standing === 'onHold',
  ).length;
  return [{ batch: state.code, dueMs: state.dueMs, earliestMs, pieces, where: operationOf(route, key).name }];
}

/** When the next rack comes off a hold to each station. */
function arrivals(
  racks: readonly Rack[],
  holds: readonly HoldSight[],
): Map<string, { batch: string; atMs: number }> {
  const next = new Map<string, { batch: string; atMs: number }>();
  for (const hold of holds) {
    const route = racks.find((rack) => rack.state.code === hold.batch)?.route;
    const station = route && operationAfter(route, hold.operation)?.stations[0];
    if (!station || hold.endMs === null) continue;
    const known = next.get(station);
    if (!known || hold.endMs < known.atMs) next.set(station, { batch: hold.batch, atMs: hold.endMs });
  }
  return next;
}

export function withLoads(stations: readonly Station[], loads: readonly StationLoad[]): StationDto[] {
  return stations.flatMap((station) => {
    const load = loads.find((candidate) => candidate.station === station.code);
    return load ? [{ ...station, ...load }] : [];
  });
}
