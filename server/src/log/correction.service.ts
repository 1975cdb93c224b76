import { applyUndo, isRefusal, refuse, routeIn, routesNamed, staysOf } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { SetupService } from '../setup/setup.service.ts';
import type { FilingRequest, UndoAction, Work } from './filing.ts';
import { entriesUnder, filingMeant, lastFilingOf, logOf } from './logged.ts';
import { Refused } from './refused.ts';
import { readStays } from './stay-rows.ts';
import type { When } from './work.ts';
import { WorksService } from './works.service.ts';

/** Filings taken back: they stay in the log, and another entry says that they do not stand. */
@Injectable()
export class CorrectionService {
  constructor(
    private readonly setup: SetupService,
    private readonly works: WorksService,
  ) {}

  /** Takes a whole filing back, on every batch it touched. */
  async undo(
    manager: EntityManager,
    request: FilingRequest,
    action: UndoAction,
    when: When,
  ): Promise<Work[]> {
    const meant = await this.filingMeant(manager, request, action);
    const works = await this.works.lock(manager, [...meant.keys()]);
    for (const work of works.values()) {
      const voids = meant.get(work.code) ?? [];
      const log = await logOf(manager, work.code);
      const entry = { seq: work.seq + 1, ...when, body: { type: 'undo' as const, voids } };
      const routes = await this.setup.routeBook(routesNamed(log), manager);
      const outcome = applyUndo(routes, log, entry);
      if (isRefusal(outcome)) throw new Refused({ ...outcome, refused: `${work.code}: ${outcome.refused}` });
      work.seq += 1;
      work.state = outcome.state;
      work.staysBefore = await readStays(manager, work.code);
      work.stays = staysOf(routes, [...log, entry]);
      if (work.state) work.route = routeIn(routes, work.state);
      work.steps.push({ seq: work.seq, body: entry.body, effect: outcome.effect });
    }
    return [...works.values()];
  }

  /** For a bare 'take back': what the person filed on last. */
  async lastSubjectOf(manager: EntityManager, request: FilingRequest): Promise<string | null> {
    if (request.batch !== null || request.actions[0]?.type !== 'undo') return null;
    const [last] = await lastFilingOf(manager, 'person', request.by);
    return last?.batch ?? null;
  }

  /** The batches of a filing, each with one of its entries, the last first: it may need those before it. */
  filingsUnder(manager: EntityManager, key: string): Promise<{ batch: string; seq: number }[]> {
    // What is filed in several is filed under its key and, for each further one, the key with a number behind it.
    return manager.query<{ batch: string; seq: number }[]>(
      `SELECT batch, seq FROM (
         SELECT DISTINCT ON (filing_key) id, batch, seq FROM log_entry
          WHERE filing_key = $1 OR filing_key ~ ('^' || $1 || '-[0-9]{1,3}$') ORDER BY filing_key, id
       ) AS filing ORDER BY id DESC`,
      [key],
    );
  }

  private async filingMeant(
    manager: EntityManager,
    request: FilingRequest,
    action: UndoAction,
  ): Promise<Map<string, number[]>> {
    if (request.batch !== null) return filingMeant(manager, request.batch, action.seq);
    const [last] = await lastFilingOf(manager, 'person', request.by);
    if (last) return entriesUnder(manager, last.filing_key);
    throw new Refused(refuse('nothing-to-undo', 'there is nothing to take back'));
  }
}
