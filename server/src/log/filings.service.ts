import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { POOL_SIZE } from '../database/data-source.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { happenedMs } from '../setup/touch.ts';
import { claimKey, settleKey, type LastWrites } from './filing-keys.ts';
import type { Filed, FilingOutcome } from './filing.ts';
import { Refused } from './refused.ts';
import { Turns } from './turns.ts';
import type { When } from './work.ts';

/** What a client asks to be filed, whatever it is on. */
export interface Claim {
  key: string;
  by: string;
  /** The same under the same key is the same filing. */
  asked: object;
  /** Now, when left out. */
  atMs?: number | undefined;
}

/** What came of a filing, and on which batches or lots. */
export interface Written {
  filed: Omit<Filed, 'filedMs' | 'repeated'>;
  changed: readonly string[];
  types?: readonly string[];
  /** What of it is still to be written. */
  last?: LastWrites;
}

/** What every filing goes through, on batches and on lots: its turn, its transaction, its person and its key. */
@Injectable()
export class FilingsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** Two connections stay free for whoever reads. */
  private readonly turns = new Turns(POOL_SIZE - 2);

  /**
   * Does `work` in a transaction of its own, when nobody else of this server is at these batches or lots. What the rules refuse
   * is undone and is the answer. Once this returns, it is committed.
   */
  async transact(
    codes: readonly string[],
    work: (manager: EntityManager, filedMs: number) => Promise<Filed>,
  ): Promise<FilingOutcome> {
    // The database keeps whole milliseconds; a state with finer ones would not replay to itself.
    const filedMs = Math.floor(await this.clock.now());
    try {
      return await this.turns.take(codes, () => this.source.transaction((manager) => work(manager, filedMs)));
    } catch (error) {
      if (error instanceof Refused) return error.refusal;
      throw error;
    }
  }

  /**
   * Files something once, within a transaction: asked again under the same key, it gives back what was filed.
   * @throws Refused when nobody is here under that name, or the key was used for something else.
   */
  async once(
    manager: EntityManager,
    { key, by, asked, atMs }: Claim,
    filedMs: number,
    write: (when: When) => Promise<Written>,
  ): Promise<Filed> {
    const stranger = await this.setup.stranger(by, manager);
    if (stranger) throw new Refused(stranger);
    const known = await claimKey(manager, { key, asked, by, filedMs });
    if (known) return known;
    const when: When = { atMs: Math.floor(atMs ?? happenedMs(filedMs)), filedMs: Math.floor(filedMs), by };
    const { filed, last, ...news } = await write(when);
    const answer: Filed = { ...filed, filedMs: when.filedMs, repeated: false };
    await settleKey(manager, { key, filed: answer, ...news }, last);
    return answer;
  }
}
