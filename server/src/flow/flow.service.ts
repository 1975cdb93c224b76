import { factoryDate, routeIn, shiftDate, stationsLeft, type Ways } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { FactoryClock } from '../setup/factory-clock.ts';
import { RacksService } from '../floor/racks.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FlowDto, ThroughputRowDto } from './flow.dto.ts';
import { CONSTRAINT_DAYS, FloorService, withLoads } from './floor.service.ts';
import { StationDaysService } from './station-days.service.ts';
import { STANDS } from '../log/stands.ts';

/** What the log says about whole stations. */
@Injectable()
export class FlowService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly floor: FloorService,
    private readonly racks: RacksService,
    private readonly stationDays: StationDaysService,
  ) {}

  /** Throughput by station and working day over the last `count` working days and today. */
  async flow(count: number): Promise<FlowDto> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const stations = await this.setup.stations();
    const past = await this.stationDays.pastDays(nowMs, count);
    const today = factoryDate(calendar, nowMs);
    const days = [...past, today];
    const fromDay = days[0] ?? today;
    const [throughput, load, floor] = await Promise.all([
      this.throughput(fromDay, today, calendar.zone),
      this.stationDays.loads(past.slice(-(CONSTRAINT_DAYS - 1))),
      this.racks.open().then((racks) => this.floor.load(racks, stations, nowMs)),
    ]);
    return {
      fromDay,
      toDay: today,
      days,
      stations: withLoads(stations, floor.loads),
      throughput,
      load,
      constraint: floor.constraint,
    };
  }

  /** Good, scrapped and reworked pieces by factory day and station; what was taken back does not count. */
  private async throughput(fromDay: string, toDay: string, zone: string): Promise<ThroughputRowDto[]> {
    const window = [zone, fromDay, shiftDate(toDay, 1)];
    const staying = await this.staying(window);
    return this.source.query<ThroughputRowDto[]>(
      `WITH entry AS (
         SELECT e.*, b.route_id, coalesce(b.state -> 'ways', '{}') AS ways
           FROM log_entry e JOIN batch b ON b.code = e.batch
          WHERE ${IN_WINDOW}
       ), passed AS (
         SELECT DISTINCT ON (e.batch, piece, e.station) e.station, e.happened_at
           FROM entry e, unnest(e.positions) piece
          WHERE ${PASSES}
            AND NOT EXISTS (SELECT 1 FROM jsonb_to_recordset($4::jsonb) AS s(route_id text, ways jsonb, operation text, station text, entry_type text)
                             WHERE (s.entry_type IS NULL OR s.entry_type = e.type)
                               AND (s.route_id, s.ways, s.operation, s.station) = (e.route_id, e.ways, e.operation, e.station))
          ORDER BY e.batch, piece, e.station, e.happened_at DESC
       )
       SELECT (at AT TIME ZONE $1)::date::text AS day, station,
              sum(good)::int AS good, sum(scrapped)::int AS scrapped, sum(reworked)::int AS reworked
         FROM (SELECT happened_at AS at, station, 1 AS good, 0 AS scrapped, 0 AS reworked FROM passed
               UNION ALL
               SELECT happened_at, station, 0, pieces * (type = 'scrap')::int, pieces * (type = 'rework')::int
                 FROM entry WHERE type IN ('scrap', 'rework')) counted
        GROUP BY 1, 2 ORDER BY 1, 2`,
      [...window, JSON.stringify(staying)],
    );
  }

  /** The operations after which a piece is still at the station: another of its operations there is yet to come. */
  private async staying(window: readonly string[]): Promise<Staying[]> {
    const done = await this.source.query<{ route_id: string; ways: Ways; operation: string }[]>(
      `SELECT DISTINCT b.route_id, coalesce(b.state -> 'ways', '{}') AS ways, e.operation
         FROM log_entry e JOIN batch b ON b.code = e.batch
        WHERE ${IN_WINDOW} AND ${PASSES}`,
      [...window],
    );
    const routes = await this.setup.routeBook([...new Set(done.map(({ route_id }) => route_id))]);
    const staying: Staying[] = [];
    for (const { route_id, ways, operation } of done) {
      const worked = routeIn(routes, { routeId: route_id, ways });
      // An operation it no longer has, since the rack was moved to another revision, was the last one there.
      const known = worked.operations.find(({ key }) => key === operation);
      if (!known) continue;
      const left = stationsLeft(worked, operation);
      const made = known.mode === 'join' ? await this.setup.newestRoute(worked.model, known.makesKind) : null;
      const goesOnAt = made?.operations.map(({ stations }) => stations[0]) ?? [];
      for (const station of known.stations) {
        const stays = !left.includes(station) || goesOnAt.includes(station);
        // Work that a person stopped goes on where it was when that hold ends.
        if (stays || known.mode !== 'hold')
          staying.push({ route_id, ways, operation, station, entry_type: stays ? null : 'end' });
      }
    }
    return staying;
  }
}

interface Staying {
  route_id: string;
  ways: Ways;
  operation: string;
  station: string;
  /** Only for entries of this type; null: for all. */
  entry_type: 'end' | null;
}

const IN_WINDOW = `e.station IS NOT NULL AND e.type IN ('done', 'end', 'split', 'ship', 'join', 'scrap', 'rework')
   AND e.happened_at >= ($2::date)::timestamp AT TIME ZONE $1 AND e.happened_at < ($3::date)::timestamp AT TIME ZONE $1
   AND ${STANDS}`;
/** Entries by which good pieces go on; a neck that is joined goes on with its body. */
const PASSES = `(e.type IN ('done', 'end', 'split', 'ship') OR (e.type = 'join' AND e.body ->> 'role' = 'host'))`;
