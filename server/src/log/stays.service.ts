import type { Stay, StayEnd, Ways } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { readStays, readStaysOf } from './stay-rows.ts';

/** Pieces of one batch that waited or were in hand at one operation. */
export interface WorkThen {
  /** Which of the instants asked for. */
  instant: number;
  batch: string;
  routeId: string;
  ways: Ways;
  operation: string;
  pieces: number;
}

/** Factory days, the last one included. */
export interface DaysAsked {
  zone: string;
  fromDay: string;
  toDay: string;
}

/** A stay of some batch, with the route it was on. */
export interface EndedStay extends Pick<
  Stay,
  'operation' | 'station' | 'status' | 'person' | 'positions' | 'fromMs' | 'toMs' | 'ended'
> {
  batch: string;
  routeId: string;
  ways: Ways;
  pieces: number;
}

/** From where good pieces went on: an operation of a worked route, at one of its stations. */
export interface GoneOn {
  routeId: string;
  ways: Ways;
  operation: string;
  station: string;
  ended: StayEnd;
}

/** Pieces of one station on one factory day. */
export interface StationThroughput {
  day: string;
  station: string;
  good: number;
  scrapped: number;
  reworked: number;
}

/** Pieces of one rack that left a station together. */
export interface CountedPieces {
  batch: string;
  positions: number[];
  operation: string;
  ended: 'good' | 'scrapped' | 'sent back';
  person: string | null;
  reason: string | null;
  atMs: number;
}

const IN_DAYS = `s.station IS NOT NULL
   AND s.to_at >= ($2::date)::timestamp AT TIME ZONE $1 AND s.to_at < ($3::date + 1)::timestamp AT TIME ZONE $1`;
const WENT_ON = `s.ended IN ('passed', 'joined', 'parted', 'shipped')`;

/** Each piece that left a station within days $2 to $3 of zone $1: good once, when it went on last, not from what $4 has; scrapped, sent back. */
const COUNTED = `
  WITH good AS (
    SELECT DISTINCT ON (s.batch, piece, s.station)
           s.batch, piece, s.operation, s.station, s.person, s.reason, s.to_at AS at
      FROM stay s JOIN batch b ON b.code = s.batch, unnest(s.positions) piece
     WHERE ${IN_DAYS} AND ${WENT_ON}
       AND NOT EXISTS (
         SELECT 1 FROM jsonb_to_recordset($4::jsonb)
           AS r("routeId" text, ways jsonb, operation text, station text, ended text)
          WHERE (r."routeId", r.ways, r.operation, r.station, r.ended)
              = (b.route_id, b.ways, s.operation, s.station, s.ended))
     ORDER BY s.batch, piece, s.station, s.to_at DESC
  ), counted AS (
    SELECT *, 'good' AS ended FROM good
    UNION ALL
    SELECT s.batch, piece, s.operation, s.station, s.person, s.reason, s.to_at, s.ended
      FROM stay s, unnest(s.positions) piece WHERE ${IN_DAYS} AND s.ended IN ('scrapped', 'sent back')
  )`;

/** What the rows of the log say of times past. */
@Injectable()
export class StaysService {
  constructor(private readonly source: DataSource) {}

  /** What one piece was in, in the order in which it ended; what it is in now stands in its batch's state. @param position 1-based */
  async ofPiece(batch: string, position: number): Promise<Stay[]> {
    const stays = await readStays(this.source.manager, batch);
    return stays.filter(({ positions }) => positions.includes(position));
  }

  /** Everything that ended after a moment, of all batches, in the order in which it began; what goes on stands in their states. */
  endedSince(atMs: number): Promise<EndedStay[]> {
    return this.source.query<EndedStay[]>(
      `SELECT s.batch, s.operation, s.station, s.status, s.person, s.positions, cardinality(s.positions) AS pieces, s.ended,
              (extract(epoch FROM s.from_at) * 1000)::float8 AS "fromMs", (extract(epoch FROM s.to_at) * 1000)::float8 AS "toMs",
              b.route_id AS "routeId", b.ways
         FROM stay s JOIN batch b ON b.code = s.batch WHERE s.to_at > $1 ORDER BY s.from_at, s.batch, s.seq`,
      [new Date(atMs)],
    );
  }

  /** The stays of some batches, by batch, in the order in which they ended. */
  async ofBatches(batches: readonly string[]): Promise<Map<string, Stay[]>> {
    return readStaysOf(this.source.manager, batches);
  }

  /** Every operation and station from which pieces went on within some days, each once. */
  goneOn({ zone, fromDay, toDay }: DaysAsked): Promise<GoneOn[]> {
    return this.source.query<GoneOn[]>(
      `SELECT DISTINCT b.route_id AS "routeId", b.ways, s.operation, s.station, s.ended
         FROM stay s JOIN batch b ON b.code = s.batch WHERE ${IN_DAYS} AND ${WENT_ON}`,
      [zone, fromDay, toDay],
    );
  }

  /**
   * Good, scrapped and sent back pieces by day and station. A piece is good at a station once within these days, when it went on
   * from there last; what went on from `still` is not.
   */
  throughput({ zone, fromDay, toDay }: DaysAsked, still: readonly GoneOn[]): Promise<StationThroughput[]> {
    return this.source.query<StationThroughput[]>(
      `${COUNTED}
       SELECT (at AT TIME ZONE $1)::date::text AS day, station, count(*) FILTER (WHERE ended = 'good')::int AS good,
              count(*) FILTER (WHERE ended = 'scrapped')::int AS scrapped,
              count(*) FILTER (WHERE ended = 'sent back')::int AS reworked
         FROM counted GROUP BY 1, 2 ORDER BY 1, 2`,
      [zone, fromDay, toDay, JSON.stringify(still)],
    );
  }

  /** The pieces behind what `throughput` counts of a station on one of these days, those that left together as one. */
  async countedAt(
    { zone, fromDay, toDay }: DaysAsked,
    still: readonly GoneOn[],
    { station, day }: { station: string; day: string },
  ): Promise<CountedPieces[]> {
    const rows = await this.source.query<(Omit<CountedPieces, 'atMs'> & { at: Date })[]>(
      `${COUNTED}
       SELECT batch, operation, ended, person, reason, at, array_agg(piece ORDER BY piece) AS positions
         FROM counted WHERE station = $5 AND (at AT TIME ZONE $1)::date = $6::date
        GROUP BY batch, operation, ended, person, reason, at ORDER BY at, batch`,
      [zone, fromDay, toDay, JSON.stringify(still), station, day],
    );
    return rows.map(({ at, ...row }) => ({ ...row, atMs: at.getTime() }));
  }

  /** What waited or was in hand at each of some instants, ms. Something that began or ended right then was still what it was before. */
  workAt(manager: EntityManager, instantsMs: readonly number[]): Promise<WorkThen[]> {
    return manager.query<WorkThen[]>(
      `WITH instant AS (SELECT i::int - 1 AS instant, at FROM unnest($1::timestamptz[]) WITH ORDINALITY AS one(at, i)),
       standing AS (
         SELECT instant, batch, operation, cardinality(positions) AS pieces
           FROM instant JOIN stay ON to_at >= at AND from_at < at AND status IN ('waiting', 'inHand')
         UNION ALL
         SELECT instant, batch, operation, 1
           FROM instant JOIN piece ON since_at < at AND standing IN ('waiting', 'inHand')
       ), counted AS (SELECT instant, batch, operation, sum(pieces)::int AS pieces FROM standing GROUP BY 1, 2, 3)
       SELECT c.*, b.route_id AS "routeId", b.ways FROM counted c JOIN batch b ON b.code = c.batch
        ORDER BY c.instant, c.batch, c.operation`,
      [instantsMs.map((ms) => new Date(ms))],
    );
  }

  /** When the first stay began, ms; undefined: there is none. */
  async firstMs(manager: EntityManager): Promise<number | undefined> {
    const [row] = await manager.query<{ at: Date | null }[]>('SELECT min(from_at) AS at FROM stay');
    return row?.at?.getTime();
  }
}
