import { changedSpan, isClosed, refuse, type BatchState, type ChangedSpan } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { SetupService } from '../setup/setup.service.ts';
import type { Work } from './filing.ts';
import type { LastWrites } from './filing-keys.ts';
import { Refused } from './refused.ts';
import { forgetStays, insertPieces, insertStays, movedPieces, stayRow } from './stay-rows.ts';
import { untouched, type When } from './work.ts';

/** What every filing writes: states, stays, pieces and entries. */
const WRITES = `
  stated AS (
    UPDATE batch SET seq = r.seq, closed = r.closed, state = r.state, route_id = r.route
      FROM jsonb_to_recordset($9::jsonb) AS r(code text, seq int, closed boolean, state jsonb, route text)
     WHERE batch.code = r.code
  ), stayed AS (${insertStays(10)}
  ), moved AS (${insertPieces(11)}
  ), logged AS (
    INSERT INTO log_entry (filing_key, batch, seq, type, operation, station, pieces, positions, person, happened_at, filed_at, body)
    SELECT $1, r.batch, r.seq, r.type, r.operation, r.station, cardinality(r.positions), r.positions, $5, $6, $7, r.body
      FROM jsonb_to_recordset($8::jsonb)
        AS r(batch text, seq int, type text, operation text, station text, positions int[], body jsonb)
  )`;

/** Is told, in the transaction of a filing, within which span it changed what pieces were in. */
type HearsOfChanges = (manager: EntityManager, changed: ChangedSpan, filedMs: number) => Promise<void>;

/** Writes, in the transaction of a filing, what it keeps beside the states of batches. @throws Refused */
type KeepsBeside = (manager: EntityManager, works: readonly Work[]) => Promise<void>;

/** The batches a filing is on: locked, read, and written with what was filed. */
@Injectable()
export class WorksService {
  private readonly listeners: HearsOfChanges[] = [];
  private readonly keepers: KeepsBeside[] = [];

  constructor(private readonly setup: SetupService) {}

  async locked(manager: EntityManager, code: string): Promise<Work> {
    const work = (await this.lock(manager, [code])).get(code);
    if (!work) throw new Refused(refuse('unknown-batch', `there is no batch ${code}`));
    return work;
  }

  /** The next code of a kind that no batch has yet; undefined: there is no such kind. What is joined has its body's number. */
  async nextCode(manager: EntityManager, kind: string): Promise<string | undefined> {
    for (;;) {
      const number = await this.setup.nextNumber(manager, kind);
      if (number === undefined) return undefined;
      const code = `${kind}-${number}`;
      const taken = await manager.query<object[]>('SELECT 1 FROM batch WHERE code = $1', [code]);
      if (taken.length === 0) return code;
    }
  }

  /** Locks batches for this transaction, always in order of code, so that two filings never wait in a circle. */
  async lock(manager: EntityManager, codes: readonly string[]): Promise<Map<string, Work>> {
    const rows = await manager.query<
      { code: string; kind: string; model: string; route_id: string; seq: number; state: BatchState | null }[]
    >(
      'SELECT code, kind, model, route_id, seq, state FROM batch WHERE code = ANY($1) ORDER BY code FOR UPDATE',
      [codes],
    );
    const works = new Map<string, Work>();
    for (const row of rows) {
      const route = row.state
        ? await this.setup.routeOf(row.state, manager)
        : await this.setup.route(row.route_id, manager);
      works.set(row.code, { ...row, route, isNew: false, ...untouched(row.state) });
    }
    return works;
  }

  /** Writes one filing, but for its states, entries, stays and pieces: those are written with its answer. */
  async written(manager: EntityManager, when: When, works: readonly Work[]): Promise<LastWrites> {
    for (const { code, kind, model, route } of works.filter(({ isNew }) => isNew))
      await manager.query(
        'INSERT INTO batch (code, kind, model, route_id, seq, closed) VALUES ($1, $2, $3, $4, 0, false)',
        [code, kind, model, route.id],
      );
    const states = works.map(({ code, seq, state, route }) => ({
      ...{ code, seq, state },
      closed: state === null || isClosed(state),
      route: state?.routeId ?? route.id,
    }));
    const entries = works.flatMap(({ code, steps }) =>
      steps.map(({ seq, body, effect: { operation, station, positions } }) => ({
        ...{ batch: code, seq, type: body.type, operation, station, positions, body },
      })),
    );
    const stays = works.flatMap((work) => work.stays.map((stay) => stayRow(work.code, stay)));
    const moved = works.flatMap((work) => movedPieces(work.code, work.before, work.state));
    for (const { code, state } of works.filter(({ staysBefore }) => staysBefore !== null))
      await forgetStays(manager, code, state?.pieces.length ?? 0);
    for (const keep of this.keepers) await keep(manager, works);
    await this.tellWhoSumsUp(manager, when, works);
    return {
      name: 'write-filing',
      expressions: WRITES,
      values: [
        ...[when.by, new Date(when.atMs), new Date(when.filedMs)],
        ...[entries, states, stays, moved].map((rows) => JSON.stringify(rows)),
      ],
    };
  }

  /** A room that keeps a table of its own of what batches hold says so here. */
  keep(keeper: KeepsBeside): void {
    this.keepers.push(keeper);
  }

  /** Whoever sums up the log says so here; what it keeps of the span it is told is not true any more. */
  hear(listener: HearsOfChanges): void {
    this.listeners.push(listener);
  }

  private async tellWhoSumsUp(manager: EntityManager, when: When, works: readonly Work[]): Promise<void> {
    for (const { before, state, stays, staysBefore } of works) {
      const changed = changedSpan({ stays: staysBefore ?? [], state: before }, { stays, state });
      if (changed) for (const hear of this.listeners) await hear(manager, changed, when.filedMs);
    }
  }
}
