import { createHash } from 'node:crypto';
import {
  gateSentence,
  isUsedUp,
  judgeLot,
  lotWords,
  moistureWindow,
  lotLedger,
  refuse,
  type LotBody,
  type LotState,
  type MoistureGate,
  type MoistureWindow,
} from '@ample-crane/core';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { LotRow } from './rows.ts';
import type { Filed, FilingOutcome, FilingRequest, OtherSubject } from '../log/filing.ts';
import { FilingsService } from '../log/filings.service.ts';
import { LogService } from '../log/log.service.ts';
import type { Remade } from '../log/remake.ts';
import { Refused } from '../log/refused.ts';
import { takenBackOf } from '../log/entries-in-force.ts';
import { SubjectLedger, type SubjectWork } from '../log/subject-ledger.ts';
import type { When } from '../log/work.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { MetersService } from './meters.service.ts';
import { ReadingsService } from './readings.service.ts';

/** Lots carry this letter; batches carry those of their kinds. */
const LOT_LETTER = 'W';

/** Nobody files one sheet and takes it back more often than this. */
const MOST_TAKEN_BACK = 30;

type Without<T, K extends string> = T extends unknown ? Omit<T, K> : never;
/** An entry as it is asked for: what the server knows (code, papers needed, who passes) is left to it. */
export type LotDraft =
  | Without<Extract<LotBody, { type: 'receive' }>, 'code' | 'papersNeeded'>
  | Without<Extract<LotBody, { type: 'to-cut' }>, 'facts'>
  | Exclude<LotBody, { type: 'receive' | 'to-cut' | 'undo' }>
  | { type: 'undo'; seq?: number };

export interface LotFiling {
  key: string;
  by: string;
  atMs?: number;
  /** One entry on each lot; `lot` null to receive one. All of them or none. */
  entries: { lot: string | null; draft: LotDraft }[];
}

type LotWork = SubjectWork<LotState, LotBody>;

/** The one way a lot's entries come into the log. */
@Injectable()
export class LotsService implements OnModuleInit, OtherSubject {
  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly filings: FilingsService,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly meters: MetersService,
    private readonly readings: ReadingsService,
  ) {
    this.ledger = new SubjectLedger(source, setup, {
      ...{ letter: LOT_LETTER, noun: 'lot', table: 'lot', ledger: lotLedger, words: lotWords },
      columns: (state) => ({ used_up: state === null || isUsedUp(state) }),
    });
  }

  private readonly ledger: SubjectLedger<LotState, LotBody>;

  onModuleInit(): void {
    this.log.register(this);
  }

  owns(code: string): boolean {
    return this.ledger.owns(code);
  }

  async codes(named: readonly string[]): Promise<string[]> {
    const rows = await this.source.query<{ code: string }[]>(
      'SELECT code FROM lot WHERE NOT used_up OR code = ANY($1)',
      [named],
    );
    return rows.map((row) => row.code);
  }

  /** What a typed line may say of a lot: readings, and taking the last filing back. */
  async file(request: FilingRequest & { batch: string }): Promise<FilingOutcome> {
    const [action] = request.actions;
    const { key, by, atMs, batch: lot } = request;
    const when = atMs === undefined ? {} : { atMs };
    if (request.actions.length !== 1 || (action?.type !== 'read' && action?.type !== 'undo'))
      return refuse(
        'bad-value',
        `${lot} is a lot of lumber: a line may say 'read' or 'undo', the rest is done on its page`,
      );
    if (action.type === 'undo') {
      const draft = { type: 'undo' as const, ...(action.seq === undefined ? {} : { seq: action.seq }) };
      return this.fileLot({ key, by, ...when, entries: [{ lot, draft }] });
    }
    const told = action.pieces?.length === action.valuesPct.length ? action.pieces : undefined;
    const draft = {
      type: 'lot-read' as const,
      meter: action.meter ?? null,
      woodTemperatureC: action.woodTemperatureC ?? null,
      depth: action.depth ?? ('shell' as const),
      ...(action.because === undefined ? {} : { because: action.because }),
      readings: action.valuesPct.map((readingPct, i) => ({ board: told?.[i] ?? null, readingPct })),
    };
    return this.fileLot({ key, by, ...when, entries: [{ lot, draft }] });
  }

  /** Files in a transaction of its own. Once this returns, it is committed. */
  async fileLot(request: LotFiling): Promise<FilingOutcome> {
    const codes = request.entries.flatMap(({ lot }) => lot ?? []);
    return this.filings.transact(codes, (manager, filedMs) => this.fileWithin(manager, request, filedMs));
  }

  /**
   * The key of a sheet of readings follows from what it says, so that the same sheet twice is one filing. One that was
   * taken back may be filed again: it gets the next number.
   */
  async keyOfSheet(content: string): Promise<string> {
    const stem = `sheet-${createHash('sha256').update(content).digest('hex')}-`;
    const keys = Array.from({ length: MOST_TAKEN_BACK }, (_, i) => `${stem}${i}`);
    return `${stem}${await takenBackOf(this.source, keys)}`;
  }

  /** Files within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async fileWithin(manager: EntityManager, request: LotFiling, filedMs: number): Promise<Filed> {
    const { key, ...asked } = request;
    const { by, atMs } = request;
    return this.filings.once(manager, { key, by, asked, atMs }, filedMs, async (when) => {
      const works = await this.perform(manager, request, when);
      return this.ledger.written(manager, key, when, works);
    });
  }

  private async perform(manager: EntityManager, request: LotFiling, when: When): Promise<LotWork[]> {
    const { entries } = request;
    const [first] = entries;
    if (!first) throw new Refused(refuse('bad-value', 'there is nothing to file'));
    const names = entries.flatMap(({ lot }) => (lot === null ? [] : [lot]));
    if (first.draft.type === 'undo' && first.lot !== null)
      return [...(await this.ledger.undo(manager, first.lot, first.draft.seq, when)).values()];
    const works = await this.ledger.lock(manager, names);
    for (const { lot, draft } of entries) {
      const work = lot === null ? await this.ledger.fresh(manager) : this.ledger.found(works, lot);
      works.set(work.code, work);
      this.ledger.apply(work, await this.complete(manager, work, draft, when.atMs), when);
    }
    return [...works.values()];
  }

  /** Adds what only the server knows. */
  private async complete(
    manager: EntityManager,
    work: LotWork,
    draft: LotDraft,
    atMs: number,
  ): Promise<LotBody> {
    switch (draft.type) {
      case 'receive': {
        const species = (await this.setup.species(manager)).find(({ name }) => name === draft.species);
        if (!species)
          throw new Refused(refuse('bad-value', `there is no species '${draft.species}' in Setup`));
        return { ...draft, code: work.code, papersNeeded: species.papersNeeded };
      }
      case 'lot-read':
        return work.state ? this.readings.ofLot(manager, work.state, draft, atMs) : draft;
      case 'move':
        if (!(await this.setup.rooms()).some(({ name }) => name === draft.room))
          throw new Refused(refuse('bad-value', `there is no room '${draft.room}'`));
        return draft;
      case 'to-cut':
        return { ...draft, facts: await this.factsOf(manager, work.state) };
      case 'undo':
        throw new Refused(refuse('bad-value', 'a correction is filed alone'));
      case 'papers':
      case 'sort':
      case 'cut':
      case 'weigh':
      case 'take':
      case 'give-back':
      case 'lot-scrap':
        return draft;
    }
  }

  private async factsOf(
    manager: EntityManager,
    state: LotState | null,
  ): Promise<Extract<LotBody, { type: 'to-cut' }>['facts']> {
    if (!state) return { passing: [], sentence: '', papersMissing: false };
    const window = await this.window(manager);
    const { judgement, passing } = judgeLot(state, {
      window,
      lineOf: (await this.meters.lines(manager))(state.species),
    });
    const { papersNeeded } =
      (await this.setup.species(manager)).find(({ name }) => name === state.species) ?? {};
    return {
      passing,
      sentence: gateSentence(judgement, window),
      papersMissing: (papersNeeded ?? false) && state.papers === null,
    };
  }

  /** The window lumber must show at this factory. */
  async window(manager: EntityManager = this.source.manager): Promise<MoistureWindow> {
    return moistureWindow((await this.setup.factory(manager)).woodGate);
  }

  async setGate(teller: Teller, gate: MoistureGate): Promise<void> {
    await this.changes.change({ ...teller, setting: 'wood gate', name: '' }, async (manager) => {
      const before = await this.setup.setFactory(manager, { woodGate: gate });
      return { before: before.woodGate, after: gate };
    });
  }

  async row(code: string): Promise<LotRow | null> {
    return this.source.getRepository(LotRow).findOneBy({ code });
  }

  /** Lots that blanks were taken from for a batch, used up or not. */
  async takenFor(batch: string, manager: EntityManager = this.source.manager): Promise<LotState[]> {
    const rows = await manager
      .getRepository(LotRow)
      .createQueryBuilder('lot')
      .where("lot.state -> 'blanks' @> :taken", { taken: JSON.stringify([{ batch }]) })
      .orderBy('lot.code')
      .getMany();
    return rows.flatMap(({ state }) => state ?? []);
  }

  /** Lots that are not used up, by code. */
  async open(): Promise<LotState[]> {
    const rows = await this.source.getRepository(LotRow).find({ where: { usedUp: false } });
    return rows
      .flatMap(({ state }) => (state ? [state] : []))
      .sort((a, b) => a.code.localeCompare(b.code, 'en', { numeric: true }));
  }

  /** Replays the log of every lot and tells which tables do not agree with it. */
  async disagreements(): Promise<{ lots: number; wrong: string[] }> {
    const { rows, wrong } = await this.ledger.disagreements();
    return { lots: rows, wrong };
  }

  /** Makes the states anew that do not agree with the log. */
  remake(): Promise<Remade> {
    return this.ledger.remake();
  }
}
