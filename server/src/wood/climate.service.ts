import {
  doubtsOf,
  HOUR_MS,
  type BoothSample,
  type ClimateSample,
  type Doubt,
  type LateReadings,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { FactoryClock } from '../setup/factory-clock.ts';

export interface NewClimateReading {
  room: string;
  atMs: number;
  temperatureC: number;
  relativeHumidityPct: number;
  /** Of the work, where the sensor measures it. */
  surfaceC?: number | undefined;
}

/** An hour of a room, or a longer span of it: its mean with the extremes that a mean hides. */
export interface ClimateSpan extends ClimateSample {
  lowC: number;
  highC: number;
  lowRhPct: number;
  highRhPct: number;
}

interface SpanRow {
  room: string;
  at_ms: string;
  temperature_c: number;
  low_c: number;
  high_c: number;
  relative_humidity_pct: number;
  low_rh_pct: number;
  high_rh_pct: number;
}

/** Readings before a new one that say whether it jumps. */
const LOOK_BACK = 4;
/** A reading that comes longer than this after its time came late. */
const LATE_AFTER_MS = HOUR_MS;

/** The logged air of the rooms and booths: raw readings by month, hours rolled up from those that are believed. */
@Injectable()
export class ClimateService {
  private readonly months = new Set<string>();

  constructor(
    private readonly source: DataSource,
    private readonly clock: FactoryClock,
  ) {}

  /** Hourly means of each room between two instants, in order of time; rooms without readings are left out. */
  async hourly(
    rooms: readonly string[],
    fromMs: number,
    toMs: number,
    db: EntityManager = this.source.manager,
  ): Promise<Map<string, ClimateSample[]>> {
    return this.hours(rooms, fromMs - HOUR_MS, toMs, db);
  }

  /** The same of the hours that begin between two instants, with the temperature of the work where a booth's sensor takes it. */
  async hours(
    rooms: readonly string[],
    fromMs: number,
    toMs: number,
    db: EntityManager = this.source.manager,
  ): Promise<Map<string, BoothSample[]>> {
    if (rooms.length === 0) return new Map();
    // One row a room: the server reads weeks of hours far faster as one text than row by row.
    const rows = await db.query<{ room: string; hours: [number, number, number, number | null][] }[]>(
      `SELECT room, json_agg(json_build_array(extract(epoch FROM at)::int8 * 1000, temperature_c,
                relative_humidity_pct, surface_c) ORDER BY at) AS hours
         FROM climate_hour WHERE room = ANY($1) AND at >= $2 AND at <= $3 GROUP BY room`,
      [rooms, new Date(fromMs), new Date(toMs)],
    );
    return new Map(
      rows.map(({ room, hours }) => [
        room,
        hours.map(([atMs, temperatureC, relativeHumidityPct, surfaceC]) => ({
          ...{ atMs, temperatureC, relativeHumidityPct },
          ...(surfaceC === null ? {} : { surfaceC }),
        })),
      ]),
    );
  }

  /** The same in spans of several hours, each with its extremes: what a chart of a year can show and must not hide. */
  async spans(
    rooms: readonly string[],
    options: { fromMs: number; toMs: number; hoursASpan: number },
    db: EntityManager = this.source.manager,
  ): Promise<Map<string, ClimateSpan[]>> {
    const series = new Map<string, ClimateSpan[]>();
    if (rooms.length === 0) return series;
    const whole = options.hoursASpan === 1;
    const rows = await db.query<SpanRow[]>(
      whole
        ? `SELECT room, extract(epoch FROM at) * 1000 AS at_ms, temperature_c, low_c, high_c, relative_humidity_pct,
                  low_rh_pct, high_rh_pct
             FROM climate_hour WHERE room = ANY($1) AND at >= $2 AND at <= $3 ORDER BY room, at`
        : `SELECT room, extract(epoch FROM date_bin($4::interval, at, 'epoch')) * 1000 AS at_ms,
                  avg(temperature_c) AS temperature_c, min(low_c) AS low_c, max(high_c) AS high_c,
                  avg(relative_humidity_pct) AS relative_humidity_pct, min(low_rh_pct) AS low_rh_pct,
                  max(high_rh_pct) AS high_rh_pct
             FROM climate_hour
            WHERE room = ANY($1) AND at >= $2 AND at <= $3
            GROUP BY 1, 2 ORDER BY 1, 2`,
      [
        ...[rooms, new Date(options.fromMs - HOUR_MS), new Date(options.toMs)],
        ...(whole ? [] : [`${options.hoursASpan} hours`]),
      ],
    );
    for (const row of rows) {
      const spans = series.get(row.room) ?? [];
      spans.push({
        atMs: Number(row.at_ms),
        temperatureC: row.temperature_c,
        lowC: row.low_c,
        highC: row.high_c,
        relativeHumidityPct: row.relative_humidity_pct,
        lowRhPct: row.low_rh_pct,
        highRhPct: row.high_rh_pct,
      });
      series.set(row.room, spans);
    }
    return series;
  }

  /** Hours of one booth with the temperature of the work, where it is measured. */
  async booth(
    room: string,
    fromMs: number,
    toMs: number,
    db: EntityManager = this.source.manager,
  ): Promise<BoothSample[]> {
    const rows = await db.query<
      { at_ms: string; temperature_c: number; relative_humidity_pct: number; surface_c: number | null }[]
    >(
      `SELECT extract(epoch FROM at) * 1000 AS at_ms, temperature_c, relative_humidity_pct, surface_c
         FROM climate_hour WHERE room = $1 AND at >= $2 AND at <= $3 ORDER BY at`,
      [room, new Date(fromMs - HOUR_MS), new Date(toMs)],
    );
    return rows.map((row) => ({
      atMs: Number(row.at_ms),
      temperatureC: row.temperature_c,
      relativeHumidityPct: row.relative_humidity_pct,
      surfaceC: row.surface_c ?? undefined,
    }));
  }

  /** Readings that came late since a moment, newest first. */
  async late(sinceMs: number): Promise<LateReadings[]> {
    const rows = await this.source.query<{ room: string; from_at: Date; to_at: Date; came_at: Date }[]>(
      'SELECT room, from_at, to_at, came_at FROM climate_late WHERE came_at > $1 ORDER BY came_at DESC, id DESC',
      [new Date(sinceMs)],
    );
    return rows.map(({ room, from_at, to_at, came_at }) => ({
      room,
      fromMs: from_at.getTime(),
      toMs: to_at.getTime(),
      cameMs: came_at.getTime(),
    }));
  }

  /**
   * Keeps readings; one that is already there (same room, same instant) is kept as it was. A reading that jumps is kept
   * too, marked, and left out of the hours.
   */
  async keep(readings: readonly NewClimateReading[]): Promise<number> {
    let kept = 0;
    const nowMs = await this.clock.now();
    for (const [room, own] of byRoom(readings)) {
      const months = this.newMonths(own);
      kept += await this.source.transaction(async (manager) => {
        for (const month of months) await manager.query('SELECT ensure_climate_month($1)', [month]);
        return this.keepRoom(manager, room, own, nowMs);
      });
      // Known to be there only once it is committed.
      for (const month of months) this.months.add(month);
    }
    return kept;
  }

  private async keepRoom(
    manager: EntityManager,
    room: string,
    readings: NewClimateReading[],
    nowMs: number,
  ): Promise<number> {
    const [first, last] = [readings[0], readings.at(-1)];
    if (!first || !last) return 0;
    const doubts = doubtsOf(await this.before(manager, room, first.atMs), readings);
    const [newest] = await manager.query<{ at: Date | null }[]>(
      'SELECT max(at) AS at FROM climate_hour WHERE room = $1',
      [room],
    );
    const kept = await manager.query<unknown[]>(
      `INSERT INTO climate_reading (room, at, temperature_c, relative_humidity_pct, doubt, surface_c)
       SELECT $1, * FROM unnest($2::timestamptz[], $3::real[], $4::real[], $5::text[], $6::real[])
       ON CONFLICT DO NOTHING RETURNING 1`,
      [
        room,
        readings.map((reading) => new Date(reading.atMs)),
        readings.map((reading) => reading.temperatureC),
        readings.map((reading) => reading.relativeHumidityPct),
        doubts,
        readings.map((reading) => reading.surfaceC ?? null),
      ],
    );
    if (kept.length > 0 && newest?.at)
      await noteLate(manager, { room, fromMs: first.atMs, toMs: last.atMs, cameMs: nowMs });
    await manager.query('SELECT roll_up_climate($1, $2, $3)', [
      room,
      new Date(first.atMs),
      new Date(last.atMs),
    ]);
    return kept.length;
  }

  /** First days of the months of these readings that have no table yet, as far as is known here. */
  private newMonths(readings: readonly NewClimateReading[]): string[] {
    const months = new Set(
      readings.map(({ atMs }) => `${new Date(atMs).toISOString().slice(0, 7)}-01T00:00:00Z`),
    );
    return [...months].filter((month) => !this.months.has(month));
  }

  private async before(
    manager: EntityManager,
    room: string,
    atMs: number,
  ): Promise<(ClimateSample & { doubt: Doubt | null })[]> {
    const rows = await manager.query<
      { at: Date; temperature_c: number; relative_humidity_pct: number; doubt: Doubt | null }[]
    >(
      `SELECT at, temperature_c, relative_humidity_pct, doubt FROM climate_reading
        WHERE room = $1 AND at < $2 ORDER BY at DESC LIMIT ${LOOK_BACK}`,
      [room, new Date(atMs)],
    );
    return rows.reverse().map((row) => ({
      atMs: row.at.getTime(),
      temperatureC: row.temperature_c,
      relativeHumidityPct: row.relative_humidity_pct,
      doubt: row.doubt,
    }));
  }
}

/** Each room's readings in order of time, one for an instant. */
function byRoom(readings: readonly NewClimateReading[]): Map<string, NewClimateReading[]> {
  const rooms = new Map<string, Map<number, NewClimateReading>>();
  for (const reading of readings) {
    const own = rooms.get(reading.room) ?? new Map<number, NewClimateReading>();
    if (!own.has(reading.atMs)) own.set(reading.atMs, reading);
    rooms.set(reading.room, own);
  }
  return new Map([...rooms].map(([room, own]) => [room, [...own.values()].sort((a, b) => a.atMs - b.atMs)]));
}

/** What came late changes what was counted already: it is noted, so that it can be said. */
async function noteLate(manager: EntityManager, { room, fromMs, toMs, cameMs }: LateReadings): Promise<void> {
  if (cameMs - fromMs <= LATE_AFTER_MS) return;
  await manager.query('INSERT INTO climate_late (room, from_at, to_at, came_at) VALUES ($1, $2, $3, $4)', [
    room,
    new Date(fromMs),
    new Date(Math.min(toMs + HOUR_MS, cameMs)),
    new Date(cameMs),
  ]);
}
