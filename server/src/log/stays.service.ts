import type { Stay, Ways } from '@ample-crane/core';
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

/** A stay of some batch, with the route it was on. */
export interface EndedStay extends Pick<
  Stay,
  'operation' | 'station' | 'status' | 'person' | 'positions' | 'fromMs' | 'toMs' | 'ended' | 'reason'
> {
  batch: string;
  routeId: string;
  ways: Ways;
  pieces: number;
}

/** What the rows of the log say of times past. */
@Injectable()
export class StaysService {
  constructor(private readonly source: DataSource) {}

  /** What one piece was in, in the order in which it ended; what it is in now stands in its batch's state. @param position 1-based */
  async ofPiece(batch: string, position: number): Promise<Stay[]> {
    const stays = await readStays(this.source.manager, batch);
    return stays.filter(({ positions }) => positions.includes(position));
  }

  /**
   * Everything that ended after a moment, of all batches or of some, by when it began, batch and entry; what goes on stands in the
   * states of the batches.
   */
  endedSince(atMs: number, batches?: readonly string[]): Promise<EndedStay[]> {
    return this.source.query<EndedStay[]>(
      `SELECT s.batch, s.operation, s.station, s.status, s.person, s.positions, cardinality(s.positions) AS pieces, s.ended, s.reason,
              (extract(epoch FROM s.from_at) * 1000)::float8 AS "fromMs", (extract(epoch FROM s.to_at) * 1000)::float8 AS "toMs",
              b.route_id AS "routeId", b.ways
         FROM stay s JOIN batch b ON b.code = s.batch WHERE s.to_at > $1 ${batches ? 'AND s.batch = ANY($2)' : ''}
        ORDER BY s.from_at, s.batch COLLATE "C", s.seq`,
      [new Date(atMs), ...(batches ? [batches] : [])],
    );
  }

  /** The stays of some batches, by batch, in the order in which they ended. */
  async ofBatches(batches: readonly string[]): Promise<Map<string, Stay[]>> {
    return readStaysOf(this.source.manager, batches);
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
