import { pieceAt, type BatchState, type Route } from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, In, type EntityManager } from 'typeorm';
import { AskedTogether } from '../live/asked-together.ts';
import { BatchRow } from '../log/rows.ts';
import { SetupService } from '../setup/setup.service.ts';

/** A batch with the route it works. */
export interface RackInQuestion {
  state: BatchState;
  route: Route;
}

/** A batch, open or not. */
export type KnownBatch = Pick<BatchRow, 'code' | 'kind' | 'model' | 'routeId' | 'seq' | 'closed' | 'state'>;

interface Known extends RackInQuestion {
  /** Transaction that wrote the row: another one has written another state. */
  version: string;
  seq: number;
}

interface OpenRow {
  code: string;
  version: string;
  seq: number;
  /** Its state, where it is not of the version that is known. */
  written: BatchState | null;
}

/**
 * The open batches with the routes they work, for whoever looks at the whole floor. Most of them are as they were when last
 * looked at: PostgreSQL is asked which rows were written since, and only those are read again.
 */
@Injectable()
export class RacksService {
  private known = new Map<string, Known>();
  /** A board asks for the open racks from many sides at once. */
  private readonly together = new AskedTogether(() => this.look());

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
  ) {}

  /** In order of their codes. The states are shared: nobody changes them. */
  open(): Promise<readonly (RackInQuestion & { seq: number })[]> {
    return this.together.get();
  }

  /** A batch by its code; null: there is none. Whoever asks from within a transaction gives its manager. */
  find(code: string, manager: EntityManager = this.source.manager): Promise<KnownBatch | null> {
    return manager.getRepository(BatchRow).findOneBy({ code });
  }

  /** A batch with the route it works. @throws NotFoundException when there is none, or all of it was taken back. */
  async rack(code: string, manager?: EntityManager): Promise<RackInQuestion & { seq: number }> {
    const { seq = 0, state } = (await this.find(code, manager)) ?? {};
    if (!state) throw new NotFoundException(`there is no batch ${code}`);
    return { seq, state, route: await this.setup.routeOf(state, manager) };
  }

  /**
   * Some batches and all that their pieces were made of, by their codes. Whoever asks from within a transaction gives its manager.
   * @throws NotFoundException for one of those named that is none
   */
  async lineage(codes: readonly string[], manager?: EntityManager): Promise<Map<string, RackInQuestion>> {
    // Within a transaction nothing is asked beside it: two connections for one filing would run out of them.
    const open = manager ? [] : await this.open();
    const atHand = new Map<string, RackInQuestion>(open.map((rack) => [rack.state.code, rack]));
    const known = new Map<string, RackInQuestion>();
    for (let wanted = [...codes]; wanted.length > 0;) {
      const fresh = [...new Set(wanted)].filter((code) => !known.has(code));
      const racks = await this.racksNamed(fresh, atHand, manager);
      for (const rack of racks) known.set(rack.state.code, rack);
      wanted = racks.flatMap(({ state }) =>
        state.pieces.flatMap(({ parents }) => parents.map((parent) => pieceAt(parent).batch)),
      );
    }
    return known;
  }

  /** Some batches, those that are not at hand read together. @throws NotFoundException for one that is none */
  private async racksNamed(
    codes: readonly string[],
    atHand: ReadonlyMap<string, RackInQuestion>,
    manager: EntityManager = this.source.manager,
  ): Promise<RackInQuestion[]> {
    const away = codes.filter((code) => !atHand.has(code));
    const rows = away.length > 0 ? await manager.getRepository(BatchRow).findBy({ code: In(away) }) : [];
    const states = new Map(rows.map(({ code, state }) => [code, state]));
    const racks: RackInQuestion[] = [];
    for (const code of codes) {
      const state = states.get(code);
      const rack = atHand.get(code) ?? (state && { state, route: await this.setup.routeOf(state, manager) });
      if (!rack) throw new NotFoundException(`there is no batch ${code}`);
      racks.push(rack);
    }
    return racks;
  }

  /** The states of some batches, open or not, by their codes. */
  async statesOf(codes: readonly string[]): Promise<Map<string, BatchState>> {
    const rows = await this.source.getRepository(BatchRow).findBy({ code: In([...new Set(codes)]) });
    return new Map(rows.flatMap(({ code, state }) => (state ? [[code, state] as const] : [])));
  }

  /** The states of the open batches, by their codes, as a transaction sees them. */
  async openStates(manager: EntityManager): Promise<Map<string, BatchState>> {
    const rows = await manager.getRepository(BatchRow).findBy({ closed: false });
    return new Map(rows.flatMap(({ code, state }) => (state ? [[code, state] as const] : [])));
  }

  private async look(): Promise<Known[]> {
    const before = this.known; // requests overlap: each goes on from one and the same knowledge
    const rows = await this.source.query<OpenRow[]>(
      `SELECT b.code, b.xmin::text AS version, b.seq,
              CASE WHEN k.version IS DISTINCT FROM b.xmin::text THEN b.state END AS written
         FROM batch b LEFT JOIN unnest($1::text[], $2::text[]) AS k (code, version) ON k.code = b.code
        WHERE NOT b.closed AND b.state IS NOT NULL ORDER BY b.code`,
      [[...before.keys()], [...before.values()].map(({ version }) => version)],
    );
    const known = new Map<string, Known>();
    for (const { code, version, seq, written } of rows) {
      const same = before.get(code);
      if (written)
        known.set(code, { version, seq, state: written, route: await this.setup.routeOf(written) });
      else if (same) known.set(code, same);
    }
    this.known = known;
    return [...known.values()];
  }
}
