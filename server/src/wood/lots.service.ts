import { createHash } from 'node:crypto';
import {
  applyLotEntry,
  gateSentence,
  isRefusal,
  isUsedUp,
  judgeLot,
  lotWords,
  moistureWindow,
  refuse,
  replayLot,
  type LotBody,
  type LotEntry,
  type LotState,
  type MoistureGate,
  type MoistureWindow,
  type Refusal,
} from '@ample-crane/core';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { LogEntryRow, LotRow } from '../database/entities.ts';
import type { Filed, FilingOutcome, FilingRequest, OtherSubject } from '../log/filing.ts';
import { claimKey, settleKey } from '../log/filing-keys.ts';
import { lastFilingOf } from '../log/correction.service.ts';
import { LogService } from '../log/log.service.ts';
import { compared, disagreementsOf, remake, type Remade, type StateTable } from '../log/remake.ts';
import { happenedMs, touchNow } from '../setup/touch.ts';
import { Refused } from '../log/refused.ts';
import { STANDS } from '../log/stands.ts';
import { ChangesService } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
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

interface When {
  atMs: number;
  filedMs: number;
  by: string;
}

/** The one way a lot's entries come into the log. */
@Injectable()
export class LotsService implements OnModuleInit, OtherSubject {
  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
    private readonly meters: MetersService,
    private readonly readings: ReadingsService,
  ) {}

  onModuleInit(): void {
    this.log.register(this);
  }

  // ---- for the log's own lines ----------------------------------------------------------------------------------

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

  // ---- filing ---------------------------------------------------------------------------------------------------

  /** Files in a transaction of its own. Once this returns, it is committed. */
  async fileLot(request: LotFiling): Promise<FilingOutcome> {
    const filedMs = await this.clock.now();
    try {
      return await this.log.inTurn(
        request.entries.flatMap(({ lot }) => lot ?? []),
        () => this.source.transaction((manager) => this.fileWithin(manager, request, filedMs)),
      );
    } catch (error) {
      if (error instanceof Refused) return error.refusal;
      throw error;
    }
  }

  /**
   * The key of a sheet of readings follows from what it says, so that the same sheet twice is one filing. One that was
   * taken back may be filed again: it gets the next number.
   */
  async keyOfSheet(content: string): Promise<string> {
    const stem = `sheet-${createHash('sha256').update(content).digest('hex')}-`;
    const [row] = await this.source.query<{ taken: number }[]>(
      `SELECT count(*)::int AS taken FROM log_entry e
        WHERE filing_key = ANY($1) AND NOT ${STANDS}`,
      [Array.from({ length: MOST_TAKEN_BACK }, (_, i) => `${stem}${i}`)],
    );
    return `${stem}${row?.taken ?? 0}`;
  }

  /** Files within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async fileWithin(manager: EntityManager, request: LotFiling, filedMs: number): Promise<Filed> {
    const { key, ...asked } = request;
    const stranger = await this.setup.stranger(request.by, manager);
    if (stranger) throw new Refused(stranger);
    const known = await claimKey(manager, { key, asked, by: request.by, filedMs });
    if (known) return known;
    const when = {
      atMs: Math.floor(request.atMs ?? happenedMs(filedMs)),
      filedMs: Math.floor(filedMs),
      by: request.by,
    };
    const works = await this.perform(manager, request, when);
    const entries = works.flatMap((work) => work.steps.map(({ seq }) => ({ batch: work.code, seq })));
    const sentence = works
      .map((work) => `${work.code}: ${work.steps.map(({ body }) => lotWords(body)).join(', ')}`)
      .join('; ');
    const corrects = works.some((work) => work.steps.some(({ body }) => body.type === 'undo'));
    const filed: Filed = {
      sentence: corrects ? `Corrected: ${sentence}` : sentence,
      entries,
      filedMs,
      repeated: false,
    };
    await this.write(manager, key, when, works);
    await settleKey(manager, { key, filed, changed: works.map((work) => work.code) });
    return filed;
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

  async setGate(by: string, gate: MoistureGate): Promise<void> {
    await this.changes.change({ by, setting: 'wood gate', name: '' }, async (manager) => {
      const [row] = await manager.query<{ wood_gate: MoistureGate }[]>(
        'SELECT wood_gate FROM factory FOR UPDATE',
      );
      await manager.query('UPDATE factory SET wood_gate = $1', [JSON.stringify(gate)]);
      return { before: row?.wood_gate ?? null, after: gate };
    });
  }

  private async fresh(manager: EntityManager): Promise<LotWork> {
    const [rows] = await manager.query<[{ number: number }[], number]>(
      'UPDATE kind SET next_number = next_number + 1 WHERE letter = $1 RETURNING next_number - 1 AS number',
      [LOT_LETTER],
    );
    const number = rows[0]?.number;
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
    const repository = manager.getRepository(LogEntryRow);
    const named = seq === undefined ? null : await repository.findOneBy({ batch: lot, seq });
    const [last] =
      seq === undefined ? await lastFilingOf(manager, 'batch', lot, touchNow()?.seen.get(lot)) : [];
    const key = named?.filingKey ?? last?.filing_key;
    if (key === undefined)
      throw new Refused(
        refuse(
          'nothing-to-undo',
          seq === undefined ? `there is nothing to take back on ${lot}` : `${lot} has no entry ${seq}`,
        ),
      );
    const rows = await repository.find({ where: { filingKey: key }, order: { seq: 'ASC' } });
    const works = await this.lock(manager, [...new Set(rows.map((row) => row.batch))]);
    for (const work of works.values()) {
      const voids = rows.filter((row) => row.batch === work.code).map((row) => row.seq);
      await this.undoOn(manager, work, voids, when);
    }
    return [...works.values()];
  }

  private async undoOn(manager: EntityManager, work: LotWork, voids: number[], when: When): Promise<void> {
    const log = await this.logOf(manager, work.code);
    const taken = new Set(log.flatMap(({ body }) => (body.type === 'undo' ? body.voids : [])));
    for (const seq of voids) {
      const target = log.find((entry) => entry.seq === seq);
      if (target?.body.type === 'undo')
        throw new Refused(
          refuse('undo-of-undo', `entry ${seq} is itself a correction: file again what it took back`),
        );
      if (taken.has(seq)) throw new Refused(refuse('nothing-to-undo', `entry ${seq} is already taken back`));
    }
    const body: LotBody = { type: 'undo', voids };
    const state = replayLot([...log, { seq: work.seq + 1, ...when, body }]);
    if (isRefusal(state)) {
      const needs = `${work.code}: entry ${state.seq} came after and needs it (${state.refused}): take that back first`;
      throw new Refused(refuse('undo-needed-by-later', needs));
    }
    work.seq += 1;
    work.state = state;
    work.steps.push({ seq: work.seq, body });
  }

  // ---- reading and writing --------------------------------------------------------------------------------------

  /** Locks lots for this transaction, always in order of code. */
  private async lock(manager: EntityManager, codes: readonly string[]): Promise<Map<string, LotWork>> {
    const rows = await manager.query<{ code: string; seq: number; state: LotState | null }[]>(
      'SELECT code, seq, state FROM lot WHERE code = ANY($1) ORDER BY code FOR UPDATE',
      [codes],
    );
    return new Map(rows.map((row) => [row.code, { ...row, isNew: false, steps: [] }]));
  }

  /** The whole log of a lot, in sequence. */
  async logOf(manager: EntityManager, lot: string): Promise<LotEntry[]> {
    const rows = await manager
      .getRepository(LogEntryRow)
      .find({ where: { batch: lot }, order: { seq: 'ASC' } });
    return rows.map((row) => ({
      seq: row.seq,
      atMs: row.happenedAt.getTime(),
      filedMs: row.filedAt.getTime(),
      by: row.person,
      body: row.body as unknown as LotBody,
    }));
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
      for (const { seq, body } of work.steps) {
        await manager.query(
          `INSERT INTO log_entry (filing_key, batch, seq, type, pieces, person, happened_at, filed_at, body)
           VALUES ($1, $2, $3, $4, 0, $5, $6, $7, $8)`,
          [
            key,
            work.code,
            seq,
            body.type,
            when.by,
            new Date(when.atMs),
            new Date(when.filedMs),
            JSON.stringify(body),
          ],
        );
      }
    }
  }

  async row(code: string): Promise<LotRow | null> {
    return this.source.getRepository(LotRow).findOneBy({ code });
  }

  /** Lots that are not used up, by code. */
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
      const log = await this.logOf(manager, code);
      return compared<LotState>(row, log, replayLot(log));
    },
    write: (manager, code, state) =>
      manager.query('UPDATE lot SET state = $2 WHERE code = $1', [code, state && JSON.stringify(state)]),
  };
}

function apply(work: LotWork, body: LotBody, when: When): void {
  const seq = work.seq + 1;
  const outcome: LotState | Refusal = applyLotEntry(work.state, { seq, ...when, body });
  if (isRefusal(outcome)) throw new Refused(outcome);
  work.seq = seq;
  work.state = outcome;
  work.steps.push({ seq, body });
}
