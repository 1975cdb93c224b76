import { DAY_MS, HOUR_MS, type BoothSample } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { AskedTogether } from '../live/asked-together.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { ClimateService } from './climate.service.ts';

/** The longest cure whose climate is looked up, days. */
const LONGEST_CURE_DAYS = 60;

interface Known {
  fromMs: number;
  /** Of the moment up to which it was read. */
  hour: number;
  /** What PostgreSQL says of the hours: another sum means that one of them was written since. */
  version: string;
  hours: readonly BoothSample[];
}

/** The hours of the last weeks, room by room, for whoever judges the whole floor. */
@Injectable()
export class RecentAirService {
  private readonly known = new Map<string, Known>();
  /** A board asks for the air of its rooms from many sides at once. */
  private readonly versions = new AskedTogether(() => this.readVersions());

  constructor(
    private readonly source: DataSource,
    private readonly clock: FactoryClock,
    private readonly climate: ClimateService,
  ) {}

  /**
   * Hourly means of each room, from two months ago until now, in order of time; rooms without readings are left out. Read anew only
   * where hours were written since: else the very same array, so that what was worked out from it may be kept with it. Nobody
   * changes it.
   */
  async of(rooms: readonly string[], nowMs: number): Promise<Map<string, readonly BoothSample[]>> {
    const fromMs = beginningOf(nowMs);
    const hour = Math.floor(nowMs / HOUR_MS);
    const wanted = [...new Set(rooms)];
    if (wanted.length === 0) return new Map();
    const versions = await this.versions.get();
    const written = wanted.filter((room) => {
      const known = this.known.get(room);
      return known?.fromMs !== fromMs || known.hour !== hour || known.version !== versions.get(room);
    });
    const read = await this.climate.hours(
      written.filter((room) => versions.has(room)),
      fromMs,
      nowMs,
    );
    for (const room of written)
      this.known.set(room, { fromMs, hour, version: versions.get(room) ?? '', hours: read.get(room) ?? [] });
    return new Map(
      wanted.flatMap((room) => {
        const hours = this.known.get(room)?.hours ?? [];
        return hours.length > 0 ? [[room, hours] as const] : [];
      }),
    );
  }

  /** Of every room. A row that is written anew gets the number of the transaction that did it. */
  private async readVersions(): Promise<Map<string, string>> {
    const fromMs = beginningOf(await this.clock.now());
    const rows = await this.source.query<{ room: string; version: string }[]>(
      `SELECT room, count(*) || ' ' || sum(xmin::text::int8) AS version
         FROM climate_hour WHERE at >= $1 GROUP BY room`,
      [new Date(fromMs)],
    );
    return new Map(rows.map(({ room, version }) => [room, version]));
  }
}

/** A day at a time, so that the beginning does not move with every question. */
const beginningOf = (nowMs: number): number =>
  Math.floor(nowMs / DAY_MS) * DAY_MS - (LONGEST_CURE_DAYS + 1) * DAY_MS;
