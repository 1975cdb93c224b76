import {
  broughtIn,
  count,
  parseStoreSheet,
  partLedger,
  partWords,
  refuse,
  voidedBy,
  type NewPartAsked,
  type PartAsked,
  type PartBody,
  type PartState,
  type SheetProblem,
} from '@ample-crane/core';
import { BadRequestException, Injectable, NotFoundException, type OnModuleInit } from '@nestjs/common';
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

/** A sheet as it was typed or uploaded. */
export interface NewStoreSheet {
  key: string;
  by: string;
  sheet: string;
  goodRowsOnly?: boolean;
  /** When it was counted; left out: now. */
  atMs?: number;
}

export interface SheetOutcome {
  outcome: FilingOutcome;
  /** Rows that were left out. */
  problems: SheetProblem[];
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

  /**
   * Files the sheet of a store: counts of parts that are kept, and parts that are to be kept, all in one filing. Once this returns, it is
   * committed. @throws BadRequestException with the rows that are wrong, unless the good ones are to be filed without them
   */
  async fileSheet({ key, by, sheet, goodRowsOnly, atMs }: NewStoreSheet): Promise<SheetOutcome> {
    let problems: SheetProblem[] = [];
    const outcome = await this.filings.transact([], (manager, filedMs) =>
      this.filings.once(manager, { key, by, asked: { sheet, goodRowsOnly }, atMs }, filedMs, async (when) => {
        await this.store.enter(manager);
        const kept = new Map((await this.store.stock(null, manager)).map((part) => [part.code, part]));
        const read = parseStoreSheet(sheet, [...kept.values()]);
        ({ problems } = read);
        if (read.rows.length === 0 || (problems.length > 0 && !goodRowsOnly)) {
          const [first] = problems;
          const why = first
            ? `row ${first.row}, column ${first.column}: ${first.message}`
            : 'it counts nothing';
          throw new BadRequestException({ message: `nothing was filed; ${why}`, problems });
        }
        const counted = read.rows.flatMap((row) => ('code' in row ? [row.code] : []));
        const locked = await this.ledger.lock(manager, counted);
        const works: PartWork[] = [];
        for (const row of read.rows) {
          const work = 'code' in row ? this.ledger.found(locked, row.code) : await this.ledger.fresh(manager);
          const known = kept.get(work.code);
          if ('part' in row) this.ledger.apply(work, { ...row.part, code: work.code }, when);
          if (row.counted !== null)
            this.ledger.apply(
              work,
              { type: 'part-count', quantity: row.counted, ...(known ? believedOf(known) : {}) },
              when,
            );
          works.push(work);
        }
        const written = await this.ledger.written(manager, key, when, works);
        await this.store.refuseBelowNothing(
          manager,
          works.map(({ code }) => code),
        );
        return { ...written, filed: { ...written.filed, sentence: sheetWords(works) } };
      }),
    );
    return { outcome, problems };
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
    return state && known ? believedOf(known) : {};
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

/** What a count is held against; nothing where nobody has counted or received any. */
const believedOf = (part: StockedPart): { believed?: number } =>
  part.moves.length > 0 || broughtIn(part) > 0 ? { believed: part.onHand } : {};

function sheetWords(works: readonly PartWork[]): string {
  const kept = works.filter(({ isNew }) => isNew).length;
  const counted = works.filter(({ steps }) => steps.some(({ body }) => body.type === 'part-count')).length;
  return `Store: ${[
    ...(kept > 0 ? [`${count(kept, 'part')} kept from now on`] : []),
    ...(counted > 0 ? [`${count(counted, 'part')} counted`] : []),
  ].join(', ')}`;
}
