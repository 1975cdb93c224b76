import {
  DAY_MS,
  judgeRoom,
  samplesWithin,
  sensorHealth,
  usualAir,
  type ClimateSample,
  type RoomJudgement,
  type SensorHealth,
} from '@ample-crane/core';
import { BadRequestException, Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { RoomRow } from '../setup/rows.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService, type ClimateSpan } from './climate.service.ts';

export interface SensorTrouble {
  /** Messages that made no sense, in all, with the last one. */
  nonsense: number;
  nonsenseSaid: string | null;
  nonsenseMs: number | null;
  /** Readings that had to be dropped because the database was away too long. */
  dropped: number;
  /** How far its clock was off when it last was. */
  clockOffMs: number | null;
  clockMs: number | null;
}

export interface RoomPageView extends RoomJudgement {
  room: string;
  holdsWood: boolean;
  band: { lowPct: number; highPct: number };
  /** Mean of the last hour logged. */
  air: ClimateSample | null;
  lastMs: number | null;
  health: SensorHealth;
  trouble: SensorTrouble | null;
}

interface SensorRow {
  room: string;
  last_at: Date | null;
  nonsense: number | null;
  nonsense_said: string | null;
  nonsense_at: Date | null;
  dropped: number | null;
  dropped_at: Date | null;
  clock_off_ms: string | null;
  clock_at: Date | null;
}

/** Back so far a drift is followed. */
const LOOK_BACK_DAYS = 3;
/** A chart shows about so many points; more only hide each other. */
const CHART_POINTS = 360;
const LONGEST_COURSE_DAYS = 800;
/** A sensor's fault is shown for so long after it happened. */
const TROUBLE_SHOWN_MS = 7 * DAY_MS;

/** The rooms against the EMC they should hold, and how their sensors do. */
@Injectable()
export class RoomsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly climate: ClimateService,
    private readonly clock: FactoryClock,
  ) {}

  async seen(): Promise<RoomPageView[]> {
    const nowMs = await this.clock.now();
    const rooms = await this.setup.rooms();
    const names = rooms.map(({ name }) => name);
    const [hours, sensors] = await Promise.all([
      this.climate.spans(names, { fromMs: nowMs - LOOK_BACK_DAYS * DAY_MS, toMs: nowMs, hoursASpan: 1 }),
      this.sensors(names),
    ]);
    return rooms.map((room) => this.see(room, hours.get(room.name) ?? [], sensors.get(room.name), nowMs));
  }

  private see(
    room: RoomRow,
    hours: ClimateSpan[],
    sensor: SensorRow | undefined,
    nowMs: number,
  ): RoomPageView {
    const band = { lowPct: room.emcLowPct, highPct: room.emcHighPct };
    const last = hours.at(-1);
    const lastMs = sensor?.last_at?.getTime() ?? null;
    return {
      ...judgeRoom(hours, band),
      room: room.name,
      holdsWood: room.holdsWood,
      band,
      air: last
        ? { atMs: last.atMs, temperatureC: last.temperatureC, relativeHumidityPct: last.relativeHumidityPct }
        : null,
      lastMs,
      health: sensorHealth({ hours, lastMs, nowMs }),
      trouble: troubleOf(sensor, nowMs),
    };
  }

  private async sensors(rooms: readonly string[]): Promise<Map<string, SensorRow>> {
    const rows = await this.source.query<SensorRow[]>(
      `SELECT r.room, last.at AS last_at, s.nonsense, s.nonsense_said, s.nonsense_at, s.dropped, s.dropped_at, s.clock_off_ms, s.clock_at
         FROM unnest($1::text[]) AS r(room)
         LEFT JOIN sensor s ON s.room = r.room
         LEFT JOIN LATERAL (SELECT at FROM climate_reading c WHERE c.room = r.room ORDER BY at DESC LIMIT 1) last ON true`,
      [rooms],
    );
    return new Map(rows.map((row) => [row.room, row]));
  }

  /** One room over the last days, in spans that keep the extremes. */
  async course(name: string, days: number): Promise<{ hoursASpan: number; spans: ClimateSpan[] }> {
    if (!(await this.setup.rooms()).some((room) => room.name === name))
      throw new NotFoundException(`there is no room '${name}'`);
    const nowMs = await this.clock.now();
    const span = Math.min(days, LONGEST_COURSE_DAYS);
    const hoursASpan = Math.max(1, Math.ceil((24 * span) / CHART_POINTS));
    const spans = await this.climate.spans([name], {
      fromMs: nowMs - span * DAY_MS,
      toMs: nowMs,
      hoursASpan,
    });
    return { hoursASpan, spans: spans.get(name) ?? [] };
  }

  /** Changes the EMC a room should hold. */
  async setBand(teller: Teller, name: string, band: { lowPct: number; highPct: number }): Promise<void> {
    const { lowPct, highPct } = band;
    if (!(lowPct < highPct)) throw new BadRequestException('the band must rise: the lower EMC first');
    await this.changes.change({ ...teller, setting: 'room', name }, async (manager) => {
      const room = await this.setup.setRoom(manager, name, { emcLowPct: lowPct, emcHighPct: highPct });
      return { before: { lowPct: room.emcLowPct, highPct: room.emcHighPct }, after: { lowPct, highPct } };
    });
  }

  /** Mean air of a room over the last days: what is assumed of the days to come. */
  async usual(name: string, nowMs: number, days: number): Promise<ClimateSample | null> {
    const fromMs = nowMs - days * DAY_MS;
    const hours = (await this.climate.hourly([name], fromMs, nowMs)).get(name) ?? [];
    const usual = usualAir(samplesWithin(hours, fromMs, nowMs));
    return usual ? { atMs: nowMs, ...usual } : null;
  }
}

function troubleOf(sensor: SensorRow | undefined, nowMs: number): SensorTrouble | null {
  const recent = (at: Date | null | undefined): number | null =>
    at && nowMs - at.getTime() < TROUBLE_SHOWN_MS ? at.getTime() : null;
  const nonsenseMs = recent(sensor?.nonsense_at);
  const clockMs = recent(sensor?.clock_at);
  const droppedMs = recent(sensor?.dropped_at);
  if (!sensor || (nonsenseMs === null && clockMs === null && droppedMs === null)) return null;
  return {
    nonsense: nonsenseMs === null ? 0 : (sensor.nonsense ?? 0),
    nonsenseSaid: nonsenseMs === null ? null : sensor.nonsense_said,
    nonsenseMs,
    dropped: droppedMs === null ? 0 : (sensor.dropped ?? 0),
    clockOffMs: clockMs === null || sensor.clock_off_ms === null ? null : Number(sensor.clock_off_ms),
    clockMs,
  };
}
