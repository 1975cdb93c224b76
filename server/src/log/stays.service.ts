import type { Ways } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';

/** Pieces of one batch that waited or were in hand at one operation. */
export interface WorkThen {
  /** Which of the instants asked for. */
  instant: number;
  batch: string;
  routeId: string;
  ways?: Ways;
  operation: string;
  pieces: number;
}

/** What the rows of the log say of times past. */
@Injectable()
export class StaysService {
  /** What waited or was in hand at each of some instants, ms. Something that began or ended right then was still what it was before. */
  async workAt(manager: EntityManager, instantsMs: readonly number[]): Promise<WorkThen[]> {
    const rows = await manager.query<(Omit<WorkThen, 'ways'> & { ways: Ways | null })[]>(
      `WITH instant AS (SELECT i::int - 1 AS instant, at FROM unnest($1::timestamptz[]) WITH ORDINALITY AS one(at, i)),
       standing AS (
         SELECT instant, batch, operation, cardinality(positions) AS pieces
           FROM instant JOIN stay ON to_at >= at AND from_at < at AND status IN ('waiting', 'inHand')
         UNION ALL
         SELECT instant, batch, operation, 1
           FROM instant JOIN piece ON since_at < at AND standing IN ('waiting', 'inHand')
       ), counted AS (SELECT instant, batch, operation, sum(pieces)::int AS pieces FROM standing GROUP BY 1, 2, 3),
       -- A state is long: it is unpacked once for each batch.
       routed AS MATERIALIZED (
         SELECT code AS batch, route_id AS "routeId", state -> 'ways' AS ways FROM batch WHERE code IN (SELECT batch FROM counted)
       )
       SELECT * FROM counted JOIN routed USING (batch) ORDER BY instant, batch, operation`,
      [instantsMs.map((ms) => new Date(ms))],
    );
    return rows.map(({ ways, ...row }) => ({ ...row, ...(ways ? { ways } : {}) }));
  }

  /** When the first stay began, ms; undefined: there is none. */
  async firstMs(manager: EntityManager): Promise<number | undefined> {
    const [row] = await manager.query<{ at: Date | null }[]>('SELECT min(from_at) AS at FROM stay');
    return row?.at?.getTime();
  }
}
