import {
  broughtIn,
  partLedger,
  partWords,
  refuse,
  voidedBy,
  type NewPartAsked,
  type PartAsked,
  type PartBody,
  type PartState,
} from '@ample-crane/core';
import { Injectable, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { FindingService, type FoundPart } from '../assembly/finding.service.ts';
import type { Filed, FilingOutcome, FilingRequest, OtherSubject } from '../log/filing.ts';
import { FilingsService } from '../log/filings.service.ts';
import { logOf } from '../log/logged.ts';
import { LogService } from '../log/log.service.ts';
import type { Remade } from '../log/remake.ts';
import { SubjectLedger, type SubjectWork } from '../log/subject-ledger.ts';
import type { When } from '../log/work.ts';
import { SetupService } from '../setup/setup.service.ts';
import { StoreService, type StockedPart } from './store.service.ts';

/** Parts are components: their codes carry this letter. */
const PART_LETTER = 'C';

export interface NewPart {
  key: string;
  by: string;
  atMs?: number;
  part: NewPartAsked;
}

export interface PartFiling {
  key: string;
  by: string;
  atMs?: number;
  part: string;
  asked: PartAsked;
}

/** An entry of a part as it was filed. */
export interface PartEntryView {
  seq: number;
  atMs: number;
  byName: string;
  words: string;
  voided: boolean;
}

type PartWork = SubjectWork<PartState, PartBody>;

/** The one way a part's entries come into the log. */
@Injectable()
export class PartsService implements OnModuleInit, OtherSubject {
  private readonly ledger: SubjectLedger<PartState, PartBody>;

  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly filings: FilingsService,
    private readonly setup: SetupService,
    private readonly store: StoreService,
    finding: FindingService,
  ) {
    finding.register({ parts: (words, most) => this.like(words, most) });
    this.ledger = new SubjectLedger(source, setup, {
      ...{ letter: PART_LETTER, noun: 'part', table: 'part', ledger: partLedger, words: partWords },
      columns: (state) => ({ counted_at: state && new Date(state.counted.atMs) }),
    });
  }

  onModuleInit(): void {
    this.log.register(this);
  }

  owns(code: string): boolean {
    return this.ledger.owns(code);
  }

  async codes(named: readonly string[]): Promise<string[]> {
    const own = named.filter((code) => this.owns(code));
    return own.length === 0 ? [] : (await this.store.stock(own)).map(({ code }) => code);
  }

  /** What a typed line may say of a part: taking its last filing back. */
  async file({ key, by, batch: part, actions }: FilingRequest & { batch: string }): Promise<FilingOutcome> {
    const [action] = actions;
    if (actions.length !== 1 || action?.type !== 'undo')
      return refuse('bad-value', `${part} is a part: a line may take it back, the rest is done on its page`);
    return this.change({ key, by, part, asked: action });
  }

  /** Keeps a part from now on. Once this returns, it is committed. */
  begin(request: NewPart): Promise<FilingOutcome> {
    return this.filings.transact([], (manager, filedMs) => this.beginWithin(manager, request, filedMs));
  }

  /** The same within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async beginWithin(
    manager: EntityManager,
    { key, by, atMs, part }: NewPart,
    filedMs: number,
  ): Promise<Filed> {
    return this.filings.once(manager, { key, by, asked: part, atMs }, filedMs, async (when) => {
      const work = await this.ledger.fresh(manager);
      this.ledger.apply(work, { ...part, code: work.code }, when);
      return this.ledger.written(manager, key, when, [work]);
    });
  }

  /** Files one entry on a part. Once this returns, it is committed. */
  change(filing: PartFiling): Promise<FilingOutcome> {
    return this.filings.transact([filing.part], (manager, filedMs) =>
      this.changeWithin(manager, filing, filedMs),
    );
  }

  /** The same within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async changeWithin(
    manager: EntityManager,
    { key, by, atMs, part, asked }: PartFiling,
    filedMs: number,
  ): Promise<Filed> {
    return this.filings.once(manager, { key, by, asked: { part, ...asked }, atMs }, filedMs, async (when) => {
      await this.store.enter(manager);
      const works = await this.perform(manager, part, asked, when);
      const written = await this.ledger.written(manager, key, when, works);
      await this.store.refuseBelowNothing(
        manager,
        works.map(({ code }) => code),
      );
      return written;
    });
  }

  /** A part with its entries, newest first. @throws NotFoundException */
  async part(code: string): Promise<StockedPart & { entries: PartEntryView[] }> {
    const [part] = await this.store.stock([code]);
    if (!part) throw new NotFoundException(`there is no part ${code}`);
    const [log, people] = await Promise.all([
      logOf<PartBody>(this.source.manager, code),
      this.setup.people(),
    ]);
    const voided = voidedBy(log);
    const names = new Map(people.map((one) => [one.code, one.name]));
    const entries = log.map(({ seq, atMs, by, body }) => ({
      ...{ seq, atMs, byName: names.get(by) ?? by, words: partWords(body), voided: voided.has(seq) },
    }));
    return { ...part, entries: entries.toReversed() };
  }

  /** Parts whose code, name or supplier has these words, by code. */
  private like(words: string, most: number): Promise<FoundPart[]> {
    const part = `%${words.replaceAll(/[\\%_]/g, String.raw`\$&`)}%`;
    return this.source.query<FoundPart[]>(
      `SELECT code, state ->> 'name' AS name FROM part
        WHERE state IS NOT NULL AND (code ILIKE $1 OR state ->> 'name' ILIKE $1 OR state ->> 'supplier' ILIKE $1)
        ORDER BY length(code), code LIMIT $2`,
      [part, most],
    );
  }

  private async perform(
    manager: EntityManager,
    code: string,
    asked: PartAsked,
    when: When,
  ): Promise<PartWork[]> {
    if (asked.type === 'undo') return [...(await this.ledger.undo(manager, code, asked.seq, when)).values()];
    const work = this.ledger.found(await this.ledger.lock(manager, [code]), code);
    const body: PartBody =
      asked.type === 'part-count' ? { ...asked, ...(await this.believed(manager, work)) } : asked;
    this.ledger.apply(work, body, when);
    return [work];
  }

  /** What a count is held against. */
  private async believed(manager: EntityManager, { code, state }: PartWork): Promise<{ believed?: number }> {
    const [known] = await this.store.stock([code], manager);
    const wasCounted = state && (state.moves.length > 0 || broughtIn(state) > 0);
    return known && wasCounted ? { believed: known.onHand } : {};
  }

  /** Replays the log of every part and tells which tables do not agree with it. */
  async disagreements(): Promise<{ parts: number; wrong: string[] }> {
    const { rows, wrong } = await this.ledger.disagreements();
    return { parts: rows, wrong };
  }

  /** Makes the states anew that do not agree with the log. */
  remake(): Promise<Remade> {
    return this.ledger.remake();
  }
}
