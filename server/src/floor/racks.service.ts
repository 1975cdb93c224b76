import type { BatchState, Route } from '@ample-crane/core';
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
  async rack(code: string): Promise<RackInQuestion & { seq: number }> {
    const { seq = 0, state } = (await this.find(code)) ?? {};
    if (!state) throw new NotFoundException(`there is no batch ${code}`);
    return { seq, state, route: await this.setup.routeOf(state) };
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
    const { heads, written } = await this.source.transaction('REPEATABLE READ', async (manager) => {
      const all = await manager.query<{ code: string; version: string }[]>(
        'SELECT code, xmin::text AS version FROM batch WHERE NOT closed AND state IS NOT NULL ORDER BY code',
      );
      const others = all.flatMap(({ code, version }) =>
        before.get(code)?.version === version ? [] : [code],
      );
      const rows =
        others.length === 0 ? [] : await manager.getRepository(BatchRow).findBy({ code: In(others) });
      return { heads: all, written: new Map(rows.map((row) => [row.code, row])) };
    });
    const known = new Map<string, Known>();
    for (const { code, version } of heads) {
      const { seq, state } = written.get(code) ?? {};
      const same = before.get(code);
      if (state && seq !== undefined)
        known.set(code, { version, seq, state, route: await this.setup.routeOf(state) });
      else if (same) known.set(code, { ...same, version });
    }
    this.known = known;
    return [...known.values()];
  }
}
