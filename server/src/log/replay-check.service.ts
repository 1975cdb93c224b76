import { isClosed, replay, routesNamed, type BatchState } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BatchRow } from '../database/entities.ts';
import { SetupService } from '../setup/setup.service.ts';
import { compared, disagreementsOf, remake, type Remade, type StateTable } from './remake.ts';
import { WorksService } from './works.service.ts';

/** Whether the tables say what the log says, and making them say it. */
@Injectable()
export class ReplayCheckService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly works: WorksService,
  ) {}

  /** Replays the log of every batch and tells which tables do not agree with it. */
  async disagreements(): Promise<{ batches: number; entries: number; wrong: string[] }> {
    const { rows, ...rest } = await disagreementsOf(this.source, this.states);
    return { batches: rows, ...rest };
  }

  /** Makes the states anew that do not agree with the log. */
  remake(tell?: (done: number, of: number) => void): Promise<Remade> {
    return remake(this.source, this.states, tell);
  }

  private readonly states: StateTable<BatchState> = {
    table: 'batch',
    replayed: async (manager, code) => {
      const row = await manager.getRepository(BatchRow).findOneByOrFail({ code });
      const log = await this.works.logOf(manager, code);
      return compared<BatchState>(
        row,
        log,
        replay(await this.setup.routeBook(routesNamed(log), manager), log),
      );
    },
    write: (manager, code, state) =>
      manager.query('UPDATE batch SET state = $2, closed = $3 WHERE code = $1', [
        code,
        state && JSON.stringify(state),
        state === null || isClosed(state),
      ]),
  };
}
