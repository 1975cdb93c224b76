import { createHash } from 'node:crypto';
import {
  applyLotEntry,
  gateSentence,
  isRefusal,
  isUsedUp,
  judgeLot,
  lotWords,
  moistureWindow,
  lotLedger,
  refuse,
  replayed,
  takenBack,
  type LotBody,
  type LotState,
  type MoistureGate,
  type MoistureWindow,
  type Refusal,
} from '@ample-crane/core';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { LotRow } from './rows.ts';
import type { Filed, FilingOutcome, FilingRequest, OtherSubject } from '../log/filing.ts';
import { FilingsService } from '../log/filings.service.ts';
import { LogService } from '../log/log.service.ts';
import { filingMeant, logOf, writeEntries } from '../log/logged.ts';
import { compared, disagreementsOf, remake, type Remade, type StateTable } from '../log/remake.ts';
import { Refused } from '../log/refused.ts';
import { takenBackOf } from '../log/entries-in-force.ts';
import { marksOf, remark } from '../log/stands.ts';
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

interface LotWork {
  code: string;
  seq: number;
  state: LotState | null;
  isNew: boolean;
  steps: { seq: number; body: LotBody }[];
}

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
  ) {}

  onModuleInit(): void {
    this.log.register(this);
  }

  owns(code: string): boolean {
    return code.startsWith(`${LOT_LETTER}-`);
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
      await this.write(manager, key, when, works);
      return {
        filed: {
          sentence: sentenceOf(works),
          entries: works.flatMap(({ code, steps }) => steps.map(({ seq }) => ({ batch: code, seq }))),
        },
        changed: works.map(({ code }) => code),
      };
    });
  }

  private async perform(manager: EntityManager, request: LotFiling, when: When): Promise<LotWork[]> {
    const { entries } = request;
    const [first] = entries;
    if (!first) throw new Refused(refuse('bad-value', 'there is nothing to file'));
    const names = entries.flatMap(({ lot }) => (lot === null ? [] : [lot]));
    if (first.draft.type === 'undo' && first.lot !== null)
      return this.undo(manager, first.lot, first.draft.seq, when);
    const works = await this.lock(manager, names);
    for (const { lot, draft } of entries) {
      const work = lot === null ? await this.fresh(manager) : works.get(lot);
      if (!work) throw new Refused(refuse('unknown-batch', `there is no lot ${lot}`));
      works.set(work.code, work);
      apply(work, await this.complete(manager, work, draft, when.atMs), when);
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

  private async fresh(manager: EntityManager): Promise<LotWork> {
    const number = await this.setup.nextNumber(manager, LOT_LETTER);
    if (number === undefined)
      throw new Refused(refuse('bad-value', `Setup has no kind '${LOT_LETTER}' for lots`));
    return { code: `${LOT_LETTER}-${number}`, seq: 0, state: null, isNew: true, steps: [] };
  }

  /** Takes a whole filing back, on every lot it touched. */
  private async undo(
    manager: EntityManager,
    lot: string,
    seq: number | undefined,
    when: When,
  ): Promise<LotWork[]> {
    const meant = await filingMeant(manager, lot, seq);
    const works = await this.lock(manager, [...meant.keys()]);
    for (const work of works.values()) {
      const log = await logOf<LotBody>(manager, work.code);
      const body = { type: 'undo' as const, voids: meant.get(work.code) ?? [] };
      const state = takenBack(lotLedger, log, { seq: work.seq + 1, ...when, body });
      if (isRefusal(state)) throw new Refused({ ...state, refused: `${work.code}: ${state.refused}` });
      work.seq += 1;
      work.state = state;
      work.steps.push({ seq: work.seq, body });
    }
    return [...works.values()];
  }

  /** Locks lots for this transaction, always in order of code. */
  private async lock(manager: EntityManager, codes: readonly string[]): Promise<Map<string, LotWork>> {
    const rows = await manager.query<{ code: string; seq: number; state: LotState | null }[]>(
      'SELECT code, seq, state FROM lot WHERE code = ANY($1) ORDER BY code FOR UPDATE',
      [codes],
    );
    return new Map(rows.map((row) => [row.code, { ...row, isNew: false, steps: [] }]));
  }

  private async write(manager: EntityManager, key: string, when: When, works: LotWork[]): Promise<void> {
    for (const work of works) {
      const usedUp = work.state === null || isUsedUp(work.state);
      const values = [work.code, work.seq, usedUp, work.state && JSON.stringify(work.state)];
      await manager.query(
        work.isNew
          ? 'INSERT INTO lot (code, seq, used_up, state) VALUES ($1, $2, $3, $4)'
          : 'UPDATE lot SET seq = $2, used_up = $3, state = $4 WHERE code = $1',
        values,
      );
      await writeEntries(manager, key, when, work.code, work.steps);
    }
  }

  async row(code: string): Promise<LotRow | null> {
    return this.source.getRepository(LotRow).findOneBy({ code });
  }

  /** Lots that blanks were taken from for a batch, used up or not. */
  async takenFor(batch: string): Promise<LotState[]> {
    const rows = await this.source
      .getRepository(LotRow)
      .createQueryBuilder('lot')
      .where('lot.state @> :taken', { taken: JSON.stringify({ blanks: [{ batch }] }) })
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
    const { rows, wrong } = await disagreementsOf(this.source, this.states);
    return { lots: rows, wrong };
  }

  /** Makes the states anew that do not agree with the log. */
  remake(): Promise<Remade> {
    return remake(this.source, this.states);
  }

  private readonly states: StateTable<LotState> = {
    table: 'lot',
    replayed: async (manager, code) => {
      const row = await manager.getRepository(LotRow).findOneByOrFail({ code });
      const log = await logOf<LotBody>(manager, code);
      return compared<LotState>(row, log, replayed(lotLedger, log), await marksOf(manager, code));
    },
    write: async (manager, code, state) => {
      await remark(manager, code, await logOf(manager, code));
      await manager.query('UPDATE lot SET state = $2 WHERE code = $1', [
        code,
        state && JSON.stringify(state),
      ]);
    },
  };
}

function sentenceOf(works: readonly LotWork[]): string {
  const sentence = works
    .map(({ code, steps }) => `${code}: ${steps.map(({ body }) => lotWords(body)).join(', ')}`)
    .join('; ');
  const corrects = works.some(({ steps }) => steps.some(({ body }) => body.type === 'undo'));
  return corrects ? `Corrected: ${sentence}` : sentence;
}

function apply(work: LotWork, body: LotBody, when: When): void {
  const seq = work.seq + 1;
  const outcome: LotState | Refusal = applyLotEntry(work.state, { seq, ...when, body });
  if (isRefusal(outcome)) throw new Refused(outcome);
  work.seq = seq;
  work.state = outcome;
  work.steps.push({ seq, body });
}
