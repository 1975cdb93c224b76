import {
  isClosed,
  isRefusal,
  retold,
  routesNamed,
  type BatchState,
  type Entry,
  type Retold,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { BatchRow } from './rows.ts';
import { SetupService } from '../setup/setup.service.ts';
import { logOf } from './logged.ts';
import { marksOf, remark } from './stands.ts';
import { canonical, compared, disagreementsOf, remake, type Remade, type StateTable } from './remake.ts';
import {
  forgetStays,
  insertPieces,
  insertStays,
  movedPieces,
  placedPieces,
  rowsOf,
  stayRow,
  type RowsOfBatch,
} from './stay-rows.ts';

/** Whether the tables say what the log says, and making them say it. */
@Injectable()
export class ReplayCheckService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
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
      const log = await logOf(manager, code);
      const told = await this.toldBy(manager, log);
      const state = isRefusal(told) ? told : told.state;
      const one = compared<BatchState>(row, log, state, await marksOf(manager, code));
      if (!one.agrees || isRefusal(told)) return one;
      const agrees = canonical(await rowsOf(manager, code)) === canonical(rowsBy(told));
      return { ...one, agrees };
    },
    write: async (manager, code, state) => {
      const log = await logOf(manager, code);
      const told = await this.toldBy(manager, log);
      if (isRefusal(told)) throw new Error(`${code}: ${told.refused}`);
      await forgetStays(manager, code, state?.pieces.length ?? 0);
      await remark(manager, code, log);
      await manager.query(
        `WITH stayed AS (${insertStays(4)}), moved AS (${insertPieces(5)})
         UPDATE batch SET state = $2, closed = $3 WHERE code = $1`,
        [
          ...[code, state && JSON.stringify(state), state === null || isClosed(state)],
          JSON.stringify(told.stays.map((stay) => stayRow(code, stay))),
          JSON.stringify(movedPieces(code, null, state)),
        ],
      );
    },
  };

  private async toldBy(manager: EntityManager, log: readonly Entry[]) {
    return retold(await this.setup.routeBook(routesNamed(log), manager), log);
  }
}

/** What the rows of a batch must say by its log. */
const rowsBy = ({ state, stays }: Retold): RowsOfBatch => ({
  stays: stays.toSorted((a, b) => a.seq - b.seq || byPlaces(a.positions, b.positions)),
  pieces: placedPieces(state),
});

/** As PostgreSQL orders arrays. Stays that one entry ended have no piece in common. */
const byPlaces = ([a = 0]: readonly number[], [b = 0]: readonly number[]): number => a - b;
