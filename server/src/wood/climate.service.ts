import { HOUR_MS, type ClimateSample } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';

interface HourRow {
  room: string;
  at_ms: string;
  temperature_c: number;
  relative_humidity_pct: number;
}

export interface NewClimateReading {
  room: string;
  atMs: number;
  temperatureC: number;
  relativeHumidityPct: number;
}

/** The logged air of the rooms and booths. */
@Injectable()
export class ClimateService {
  constructor(private readonly source: DataSource) {}

  /** Hourly means of each room between two instants, in order of time; rooms without readings are left out. */
  async hourly(
    rooms: readonly string[],
    fromMs: number,
    toMs: number,
    db: EntityManager = this.source.manager,
  ): Promise<Map<string, ClimateSample[]>> {
    const series = new Map<string, ClimateSample[]>();
    if (rooms.length === 0) return series;
    const rows = await db.query<HourRow[]>(
      `SELECT room, extract(epoch FROM date_bin('1 hour', at, 'epoch')) * 1000 AS at_ms,
              avg(temperature_c) AS temperature_c, avg(relative_humidity_pct) AS relative_humidity_pct
         FROM climate_reading
        WHERE room = ANY($1) AND at >= $2 AND at <= $3
        GROUP BY 1, 2 ORDER BY 1, 2`,
      [rooms, new Date(fromMs - HOUR_MS), new Date(toMs)],
    );
    for (const row of rows) {
      const samples = series.get(row.room) ?? [];
      samples.push({
        atMs: Number(row.at_ms),
        temperatureC: row.temperature_c,
        relativeHumidityPct: row.relative_humidity_pct,
      });
      series.set(row.room, samples);
    }
    return series;
  }

  /** Keeps readings; one that is already there (same room, same instant) is kept as it was. */
  async keep(readings: readonly NewClimateReading[]): Promise<number> {
    if (readings.length === 0) return 0;
    const kept = await this.source.query<{ room: string }[]>(
      `INSERT INTO climate_reading (room, at, temperature_c, relative_humidity_pct)
       SELECT * FROM unnest($1::text[], $2::timestamptz[], $3::real[], $4::real[])
       ON CONFLICT DO NOTHING RETURNING room`,
      [
        readings.map((reading) => reading.room),
        readings.map((reading) => new Date(reading.atMs)),
        readings.map((reading) => reading.temperatureC),
        readings.map((reading) => reading.relativeHumidityPct),
      ],
    );
    return kept.length;
  }
}
