import {
  isRefusal,
  refuse,
  replayed,
  takenBack,
  type Correction,
  type Ledger,
  type LedgerEntry,
  type Refusal,
} from '@ample-crane/core';
import type { DataSource, EntityManager } from 'typeorm';
import type { SetupService } from '../setup/setup.service.ts';
import type { Written } from './filings.service.ts';
import { filingMeant, logOf, writeEntries } from './logged.ts';
import { Refused } from './refused.ts';
import { compared, disagreementsOf, remake, type Remade, type StateTable } from './remake.ts';
import { marksOf, remark } from './stands.ts';
import type { When } from './work.ts';

/** Something besides batches that has a log of its own: what it is called, how it comes out of its log, where it is kept. */
export interface Subject<State, Body extends { type: string }> {
  /** Letter of its codes, as Setup counts them. */
  letter: string;
  /** As people call it: 'lot'. */
  noun: string;
  /** Its table: code, seq, state, and the columns below. */
  table: StateTable<State>['table'];
  ledger: Ledger<State, Body>;
  /** What its table says of a state besides, by column. */
  columns: (state: State | null) => Record<string, unknown>;
  words: (body: Body) => string;
}

/** One of them while it is filed on: locked, and changed step by step until it is written. */
export interface SubjectWork<State, Body> {
  code: string;
  seq: number;
  /** As it was locked. */
  before: State | null;
  state: State | null;
  isNew: boolean;
  steps: { seq: number; body: Body }[];
}

/** What all such subjects have alike: locking, filing step by step, taking back, writing, and proof by replay. */
export class SubjectLedger<State, Body extends { type: string }> {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly subject: Subject<State, Body>,
  ) {}

  owns(code: string): boolean {
    return code.startsWith(`${this.subject.letter}-`);
  }

  /** Locks them for this transaction, always in order of code. */
  async lock(
    manager: EntityManager,
    codes: readonly string[],
  ): Promise<Map<string, SubjectWork<State, Body>>> {
    const rows = await manager.query<{ code: string; seq: number; state: State | null }[]>(
      `SELECT code, seq, state FROM ${this.subject.table} WHERE code = ANY($1) ORDER BY code FOR UPDATE`,
      [codes],
    );
    return new Map(
      rows.map((row) => [row.code, { ...row, before: row.state, isNew: false, steps: [] }] as const),
    );
  }

  /** One that is locked. @throws Refused */
  found(works: ReadonlyMap<string, SubjectWork<State, Body>>, code: string): SubjectWork<State, Body> {
    const work = works.get(code);
    if (!work) throw new Refused(refuse('unknown-batch', `there is no ${this.subject.noun} ${code}`));
    return work;
  }

  /** A new one, with the next number. @throws Refused when Setup has none to give */
  async fresh(manager: EntityManager): Promise<SubjectWork<State, Body>> {
    const { letter, noun } = this.subject;
    const number = await this.setup.nextNumber(manager, letter);
    if (number === undefined)
      throw new Refused(refuse('bad-value', `Setup has no kind '${letter}' for ${noun}s`));
    return { code: `${letter}-${number}`, seq: 0, before: null, state: null, isNew: true, steps: [] };
  }

  /** Applies one entry. @throws Refused */
  apply(work: SubjectWork<State, Body>, body: Body, when: When): void {
    const seq = work.seq + 1;
    const outcome: State | Refusal = this.subject.ledger.apply(work.state, { seq, ...when, body });
    if (isRefusal(outcome)) throw new Refused(outcome);
    work.seq = seq;
    work.state = outcome;
    work.steps.push({ seq, body });
  }

  /** Takes a whole filing back, on every one it touched. `correction` gives the body. @throws Refused */
  async undo(
    manager: EntityManager,
    code: string,
    seq: number | undefined,
    when: When,
  ): Promise<Map<string, SubjectWork<State, Body>>> {
    const meant = await filingMeant(manager, code, seq);
    const works = await this.lock(manager, [...meant.keys()]);
    for (const work of works.values()) {
      const log = await logOf<Body>(manager, work.code);
      const correction: Correction = { type: 'undo', voids: meant.get(work.code) ?? [] };
      const body = correction as Correction & Body;
      const entry: LedgerEntry<Body> & { body: Correction } = { seq: work.seq + 1, ...when, body };
      const state = takenBack(this.subject.ledger, log, entry);
      if (isRefusal(state)) throw new Refused({ ...state, refused: `${work.code}: ${state.refused}` });
      work.seq += 1;
      work.state = state;
      work.steps.push({ seq: work.seq, body });
    }
    return works;
  }

  private async write(
    manager: EntityManager,
    key: string,
    when: When,
    works: Iterable<SubjectWork<State, Body>>,
  ): Promise<void> {
    for (const { code, seq, state, isNew, steps } of works) {
      const columns = Object.entries(this.subject.columns(state));
      const names = ['code', 'seq', 'state', ...columns.map(([name]) => name)];
      const values = [code, seq, state && JSON.stringify(state), ...columns.map(([, value]) => value)];
      await manager.query(
        isNew
          ? `INSERT INTO ${this.subject.table} (${names.join(', ')}) VALUES (${names.map((_, i) => `$${i + 1}`).join(', ')})`
          : `UPDATE ${this.subject.table} SET ${names.map((name, i) => `${name} = $${i + 1}`).join(', ')} WHERE code = $1`,
        values,
      );
      await writeEntries(manager, key, when, code, steps);
    }
  }

  /** Writes what was filed on them; gives the answer. */
  async written(
    manager: EntityManager,
    key: string,
    when: When,
    works: readonly SubjectWork<State, Body>[],
  ): Promise<Written> {
    await this.write(manager, key, when, works);
    return {
      filed: {
        sentence: this.sentence(works),
        entries: works.flatMap(({ code, steps }) => steps.map(({ seq }) => ({ batch: code, seq }))),
      },
      changed: works.map(({ code }) => code),
    };
  }

  private sentence(works: readonly SubjectWork<State, Body>[]): string {
    const sentence = works
      .map(({ code, steps }) => `${code}: ${steps.map(({ body }) => this.subject.words(body)).join(', ')}`)
      .join('; ');
    const corrects = works.some(({ steps }) => steps.some(({ body }) => body.type === 'undo'));
    return corrects ? `Corrected: ${sentence}` : sentence;
  }

  /** Replays the log of every one and tells which tables do not agree with it. */
  async disagreements(): Promise<{ rows: number; wrong: string[] }> {
    return disagreementsOf(this.source, this.states);
  }

  /** Makes the states anew that do not agree with the log. */
  remake(): Promise<Remade> {
    return remake(this.source, this.states);
  }

  private get states(): StateTable<State> {
    const { table, ledger } = this.subject;
    return {
      table,
      replayed: async (manager, code) => {
        const [row] = await manager.query<{ seq: number; state: State | null }[]>(
          `SELECT seq, state FROM ${table} WHERE code = $1`,
          [code],
        );
        if (!row) throw new Error(`there is no ${code}`);
        const log = await logOf<Body>(manager, code);
        return compared<State>(row, log, replayed(ledger, log), await marksOf(manager, code));
      },
      write: async (manager, code, state) => {
        await remark(manager, code, await logOf(manager, code));
        await manager.query(`UPDATE ${table} SET state = $2 WHERE code = $1`, [
          code,
          state && JSON.stringify(state),
        ]);
      },
    };
  }
}
