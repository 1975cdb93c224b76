import { broughtIn, refuse, stillComing, type BatchState, type PartState } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import type { Work } from '../log/filing.ts';
import { Refused } from '../log/refused.ts';
import { batchesWithBins, inBins, partsInBins, type PartInBin } from '../log/bins.ts';
import { WorksService } from '../log/works.service.ts';

/** A part, and how many of it are there: what came in since the last count less what kits took since. */
export interface StockedPart extends PartState {
  seq: number;
  onHand: number;
  /** Still to come, of all purchases. */
  onOrder: number;
}

type Asks = Pick<EntityManager, 'query'>;

/** Whoever takes or counts parts does so one after the other, until its transaction ends. */
const DOOR = `SELECT pg_advisory_xact_lock(hashtext('parts store'))`;

/** Batches whose bins are looked at together. */
const AT_ONCE = 500;

/** How many of each part are there. No part is ever taken below nothing. */
@Injectable()
export class StoreService {
  constructor(
    private readonly source: DataSource,
    works: WorksService,
  ) {
    works.keep((manager, written) => this.keep(manager, written));
  }

  /** Waits until nobody else takes, counts or puts back parts; for as long as the transaction lasts. */
  async enter(manager: EntityManager): Promise<void> {
    await manager.query(DOOR);
  }

  /**
   * Parts with what is there of them, by their codes; all that are kept when none is named.
   * @param filing a batch as far as a filing has changed it: its bins count as it says
   */
  async stock(
    codes: readonly string[] | null = null,
    db: Asks = this.source,
    filing: BatchState | null = null,
  ): Promise<StockedPart[]> {
    const rows = await db.query<{ seq: number; state: PartState; taken: number }[]>(
      `SELECT p.seq, p.state, coalesce((
                SELECT sum(k.quantity) FROM kit_part k
                 WHERE k.part = p.code AND k.at > p.counted_at AND ($2::text IS NULL OR k.batch <> $2)), 0)::int AS taken
         FROM part p WHERE p.state IS NOT NULL AND ($1::text[] IS NULL OR p.code = ANY($1))
        ORDER BY length(p.code), p.code`,
      [codes, filing?.code ?? null],
    );
    const own = inBins(filing);
    return rows.map(({ seq, state, taken }) => {
      const since = own.filter(({ part, atMs }) => part === state.code && atMs > state.counted.atMs);
      const filed = since.reduce((sum, { quantity }) => sum + quantity, 0);
      return { ...state, seq, onHand: broughtIn(state) - taken - filed, onOrder: stillComing(state) };
    });
  }

  /** @throws Refused when less than nothing would be there of one of these */
  async refuseBelowNothing(manager: EntityManager, codes: readonly string[]): Promise<void> {
    const below = (await this.stock(codes, manager)).find(({ onHand }) => onHand < 0);
    if (!below) return;
    throw new Refused(
      refuse(
        'not-enough',
        `${-below.onHand} more of ${below.code} ${below.name} would be gone than are there: count it first`,
        'parts',
      ),
    );
  }

  /** Keeps beside the states of batches what lies in their bins. */
  private async keep(manager: EntityManager, written: readonly Work[]): Promise<void> {
    for (const { code, before, state } of written) {
      if (sameKits(before, state)) continue;
      await this.enter(manager);
      const rows = inBins(state);
      const gone = await manager.query<{ part: string }[]>(
        'SELECT DISTINCT part FROM kit_part WHERE batch = $1',
        [code],
      );
      await manager.query('DELETE FROM kit_part WHERE batch = $1', [code]);
      await insert(manager, rows);
      const touched = new Set([...rows, ...gone].map(({ part }) => part));
      await this.refuseBelowNothing(manager, [...touched]);
    }
  }

  /** Batches whose bins are told otherwise here than in their states. */
  async disagreements(): Promise<string[]> {
    const rows = await this.source.query<{ batch: string }[]>('SELECT DISTINCT batch FROM kit_part');
    const told = await batchesWithBins(this.source);
    const all = [...new Set([...rows.map(({ batch }) => batch), ...told])].toSorted();
    const wrong: string[] = [];
    for (let from = 0; from < all.length; from += AT_ONCE) {
      const batches = all.slice(from, from + AT_ONCE);
      const kept = await this.source.query<PartInBin[]>(
        `SELECT batch, part, (extract(epoch FROM at) * 1000)::float8 AS "atMs", quantity FROM kit_part WHERE batch = ANY($1)`,
        [batches],
      );
      const said = await partsInBins(this.source, batches);
      wrong.push(...batches.filter((batch) => addedUp(kept, batch) !== addedUp(said, batch)));
    }
    return wrong;
  }

  /** Tells anew, out of the states, what lies in the bins of these. */
  async remake(batches: readonly string[]): Promise<void> {
    if (batches.length === 0) return;
    await this.source.transaction(async (manager) => {
      await this.enter(manager);
      await manager.query('DELETE FROM kit_part WHERE batch = ANY($1)', [batches]);
      await insert(manager, await partsInBins(manager, batches));
    });
  }
}

async function insert(manager: EntityManager, rows: readonly PartInBin[]): Promise<void> {
  await manager.query(
    `INSERT INTO kit_part (batch, part, at, quantity)
     SELECT r.batch, r.part, to_timestamp(r.at_ms / 1000), r.quantity
       FROM jsonb_to_recordset($1::jsonb) AS r(batch text, part text, at_ms float8, quantity int)`,
    [JSON.stringify(rows.map(({ atMs, ...row }) => ({ ...row, at_ms: atMs })))],
  );
}

/** What one batch holds, in words that are equal when it is the same. */
const addedUp = (rows: readonly PartInBin[], batch: string): string => {
  const sums = new Map<string, number>();
  for (const { part, atMs, quantity } of rows.filter((row) => row.batch === batch)) {
    const id = `${part} ${Math.round(atMs)}`;
    sums.set(id, (sums.get(id) ?? 0) + quantity);
  }
  return JSON.stringify([...sums].filter(([, quantity]) => quantity !== 0).toSorted());
};

const sameKits = (before: BatchState | null, after: BatchState | null): boolean =>
  before?.kits === after?.kits || JSON.stringify(before?.kits ?? []) === JSON.stringify(after?.kits ?? []);
