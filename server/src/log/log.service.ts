import {
  actionWords,
  applyEntry,
  applyUndo,
  closedWords,
  factoryDate,
  isClosed,
  isRefusal,
  lineEffect,
  numbered,
  planJoin,
  planSplit,
  refuse,
  replay,
  routeIn,
  routesNamed,
  unknownWays,
  type BatchState,
  type Entry,
  type EntryBody,
  type EndBody,
  type OpenBody,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, In, type EntityManager } from 'typeorm';
import { POOL_SIZE } from '../database/data-source.ts';
import { BatchRow, LogEntryRow } from '../database/entities.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import type {
  Filed,
  FilingAction,
  FilingOutcome,
  FilingRequest,
  OpenAction,
  OtherSubject,
  UndoAction,
  Work,
} from './filing.ts';
import { checkBeds } from './beds.ts';
import { FactsService, type Asked } from './facts.service.ts';
import { claimKey, settleKey } from './filing-keys.ts';
import { DRY_RUN } from './dry-run.ts';
import { Refused } from './refused.ts';
import { compared, disagreementsOf, remake, type Remade, type StateTable } from './remake.ts';
import { STANDS } from './stands.ts';
import { Turns } from './turns.ts';
import { happenedMs, touchNow } from '../setup/touch.ts';

interface When {
  atMs: number;
  filedMs: number;
  by: string;
}

/** Rolls a transaction back that was only to see what it would do. */
class DryRun extends Error {
  constructor(readonly filed: Filed) {
    super('a dry run is rolled back');
  }
}

type FiledAlone = Extract<FilingAction, { type: 'open' | 'join' | 'split' | 'undo' }>;

/** These touch other batches than the one they are said of, or all that was filed with them. */
const isFiledAlone = (action: FilingAction): action is FiledAlone =>
  ['open', 'join', 'split', 'undo'].includes(action.type);

/** Batches of one kind are opened one after the other: they share its numbers. */
const opens = ({ actions }: FilingRequest): string[] =>
  actions.flatMap((action) => (action.type === 'open' ? [`new ${action.kind}`] : []));

/** The one way into the log. */
@Injectable()
export class LogService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly facts: FactsService,
  ) {}

  private readonly others: OtherSubject[] = [];
  /** Two connections stay free for whoever reads. */
  private readonly turns = new Turns(POOL_SIZE - 2);

  /** Does `work`, a transaction on these batches or lots, when nobody else of this server is at them. */
  inTurn<T>(codes: readonly string[], work: () => Promise<T>): Promise<T> {
    return this.turns.take(codes, work);
  }

  /** What else has entries in the log files them itself; it says here which codes are its own. */
  register(subject: OtherSubject): void {
    this.others.push(subject);
  }

  /** Codes besides batches that a line may name: the open ones, and those it names itself. */
  async otherCodes(named: readonly string[]): Promise<string[]> {
    return (await Promise.all(this.others.map((subject) => subject.codes(named)))).flat();
  }

  /** Files a request in a transaction of its own. Once this returns, it is committed. */
  async file(request: FilingRequest): Promise<FilingOutcome> {
    const code = request.batch ?? (await this.lastSubjectOf(request));
    const other = code === null ? undefined : this.others.find((subject) => subject.owns(code));
    if (other && code !== null) return other.file({ ...request, batch: code });
    const filedMs = await this.clock.now();
    try {
      return await this.inTurn(code === null ? opens(request) : [code], () =>
        this.source.transaction((manager) => this.fileWithin(manager, request, filedMs)),
      );
    } catch (error) {
      if (error instanceof Refused) return error.refusal;
      throw error;
    }
  }

  /**
   * Several requests in one transaction: all of them or none. `dry`: everything is done as if it were filed, and taken back before
   * anybody sees it; the answer is what filing it now would give.
   */
  async fileAll(requests: readonly FilingRequest[], { dry = false } = {}): Promise<FilingOutcome> {
    const [only] = requests;
    const other =
      only?.batch == null ? undefined : this.others.find((subject) => subject.owns(only.batch ?? ''));
    const bare = only?.batch === null;
    if (!dry && only && requests.length === 1) return this.file(only);
    if (other || (bare && dry))
      return dry
        ? { sentence: '', entries: [], filedMs: 0, repeated: false }
        : refuse('bad-value', 'lots of lumber are read one line each');
    const filedMs = await this.clock.now();
    try {
      const codes = requests.flatMap(({ batch }) => batch ?? []);
      return await this.inTurn(dry ? [] : codes, () =>
        this.source.transaction(async (manager) => {
          if (dry && manager.queryRunner) manager.queryRunner.data[DRY_RUN] = true;
          const all: Filed[] = [];
          for (const request of requests) all.push(await this.fileWithin(manager, request, filedMs));
          const filed = {
            sentence: all.map(({ sentence }) => sentence).join('; '),
            entries: all.flatMap(({ entries }) => entries),
            filedMs: Math.floor(filedMs),
            repeated: all.every(({ repeated }) => repeated),
          };
          if (dry) throw new DryRun(filed);
          return filed;
        }),
      );
    } catch (error) {
      if (error instanceof DryRun) return error.filed;
      if (error instanceof Refused) return error.refusal;
      throw error;
    }
  }

  /** Takes back the filing of a key: all it filed, on every batch or lot it touched. */
  async takeBack({ key, by, filing }: { key: string; by: string; filing: string }): Promise<FilingOutcome> {
    // A line of several batches is filed under its key and, for each further batch, the key with a number behind it.
    const filings = await this.source.query<{ batch: string; seq: number }[]>(
      `SELECT DISTINCT ON (filing_key) batch, seq FROM log_entry
        WHERE filing_key = $1 OR filing_key ~ ('^' || $1 || '-[0-9]{1,3}$') ORDER BY filing_key, id`,
      [filing],
    );
    if (filings.length === 0) return refuse('nothing-to-undo', 'what is to be taken back was never filed');
    return this.fileAll(
      filings.map(({ batch, seq }, i) => ({
        key: i === 0 ? key : `${key}-${i + 1}`,
        ...{ by, batch, actions: [{ type: 'undo' as const, seq }] },
      })),
    );
  }

  /** For a bare 'take back': what the person filed on last. */
  private async lastSubjectOf(request: FilingRequest): Promise<string | null> {
    if (request.batch !== null || request.actions[0]?.type !== 'undo') return null;
    const [last] = await lastFilingOf(this.source.manager, 'person', request.by);
    return last?.batch ?? null;
  }

  /** Files within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async fileWithin(manager: EntityManager, request: FilingRequest, filedMs: number): Promise<Filed> {
    const { key, ...asked } = request;
    await this.mustBeHere(manager, request.by);
    const known = await claimKey(manager, { key, asked, by: request.by, filedMs });
    if (known) return known;
    // The database keeps whole milliseconds; a state with finer ones would not replay to itself.
    const when: When = {
      atMs: Math.floor(request.atMs ?? happenedMs(filedMs)),
      filedMs: Math.floor(filedMs),
      by: request.by,
    };
    const works = await this.perform(manager, request, when);
    await checkBeds(manager, works);
    return this.settle(manager, request.key, when, works);
  }

  private async mustBeHere(manager: EntityManager, by: string): Promise<void> {
    const stranger = await this.setup.stranger(by, manager);
    if (stranger) throw new Refused(stranger);
  }

  private async settle(manager: EntityManager, key: string, when: When, works: Work[]): Promise<Filed> {
    const { filedMs } = when;
    const filed: Filed = { sentence: sentenceOf(works), entries: entriesOf(works), filedMs, repeated: false };
    await this.write(manager, key, when, works, filed);
    return filed;
  }

  private async perform(manager: EntityManager, request: FilingRequest, when: When): Promise<Work[]> {
    const [only] = request.actions;
    if (!only) throw new Refused(refuse('bad-value', 'there is nothing to file'));
    if (request.actions.length > 1 && request.actions.some(isFiledAlone)) {
      throw new Refused(
        refuse('bad-value', 'a join, a split, a correction and a new batch are each filed alone'),
      );
    }
    if (only.type === 'open') return [await this.open(manager, only, when)];
    if (only.type === 'undo') return this.undo(manager, request, only, when);
    if (request.batch === null) throw new Refused(refuse('unknown-batch', 'no batch is named'));
    if (only.type === 'join') return this.join(manager, request.batch, only, when);
    if (only.type === 'split') return this.split(manager, request.batch, only, when);
    const work = await this.locked(manager, request.batch);
    for (const action of request.actions) {
      if (isFiledAlone(action)) throw new Error(`perform: '${action.type}' is filed alone`);
      await this.step(manager, work, action, when);
    }
    return [work];
  }

  // ---- what can be filed ----------------------------------------------------------------------------------------

  /** One entry by whatever way it came: completed by the stages it concerns, then applied. */
  private async step(
    manager: EntityManager,
    work: Work,
    body: EntryBody,
    when: When,
    moved?: Route,
  ): Promise<void> {
    if (!work.state) return apply(work, body, when);
    const rack = { state: work.state, route: work.route };
    for (const one of body.type === 'end' ? holdsMeant(rack, body) : [body])
      apply(work, await this.facts.complete(manager, { ...rack, state: work.state }, one, when), when, moved);
  }

  private async open(manager: EntityManager, action: OpenAction, when: When): Promise<Work> {
    const route = await this.setup.newestRoute(action.model, action.kind, manager);
    if (!route)
      throw new Refused(refuse('bad-value', `${action.model} has no route for kind ${action.kind}`));
    if (action.dueMs <= when.atMs)
      throw new Refused(refuse('bad-value', 'the due date is not after the opening'));
    const { calendar } = await this.setup.factory(manager);
    const closed = closedWords(calendar, factoryDate(calendar, action.dueMs));
    if (closed) throw new Refused(refuse('bad-value', closed));
    const [numbers] = await manager.query<[{ number: number }[], number]>(
      'UPDATE kind SET next_number = next_number + 1 WHERE letter = $1 RETURNING next_number - 1 AS number',
      [action.kind],
    );
    const number = numbers[0]?.number;
    if (number === undefined) throw new Refused(refuse('bad-value', `there is no kind '${action.kind}'`));
    const code = `${action.kind}-${number}`;
    const work: Work = {
      code,
      kind: action.kind,
      model: action.model,
      route,
      seq: 0,
      state: null,
      isNew: true,
      steps: [],
    };
    const { kind, model, quantity, dueMs, ways } = action;
    const wrong = ways && unknownWays(route, ways);
    if (wrong?.[0] !== undefined)
      throw new Refused(refuse('no-way', `the route of ${model} ${kind} leaves no choice '${wrong[0]}'`));
    const chosen = ways === undefined ? {} : { ways };
    work.route = routeIn(route, { routeId: route.id, ...chosen });
    const body = { type: 'open' as const, code, kind, model, routeId: route.id, quantity, dueMs, ...chosen };
    await this.opened(manager, work, body, { ...when, recipe: action.recipe });
    return work;
  }

  private async opened(
    manager: EntityManager,
    work: Work,
    body: OpenBody,
    asked: When & Asked,
  ): Promise<void> {
    const rack = { state: null, route: work.route };
    apply(work, await this.facts.complete(manager, rack, body, asked), asked);
  }

  private async join(
    manager: EntityManager,
    batch: string,
    action: Extract<FilingAction, { type: 'join' }>,
    when: When,
  ): Promise<Work[]> {
    const host = await this.hostOf(manager, [batch, action.partner]);
    // A host that takes its guest in makes nothing new: the code is its own.
    const goesOn = host.makesKind === host.code.split('-')[0];
    const made = goesOn ? host.code : await this.madeCode(manager, host.makesKind, host.code);
    const works = await this.lock(manager, [batch, action.partner, made]);
    const [one, other, before] = [works.get(batch), works.get(action.partner), works.get(made)];
    if (!one?.state || !other?.state) {
      throw new Refused(
        refuse('unknown-batch', `there is no open batch ${one?.state ? action.partner : batch}`),
      );
    }
    const madeRoute = (await this.setup.newestRoute(one.model, host.makesKind, manager)) ?? null;
    if (!madeRoute && !goesOn)
      throw new Refused(refuse('not-joinable', `${one.model} has no route for what this join would make`));
    const plan = planJoin({
      one: { state: one.state, route: one.route },
      other: { state: other.state, route: other.route },
      count: action.count,
      station: action.station,
      because: action.because,
      made: goesOn ? null : (before?.state ?? null),
      madeRoute: before?.route ?? madeRoute,
      makes: made,
    });
    if (isRefusal(plan)) throw new Refused(plan);
    const [hostWork, guestWork] = host.code === one.code ? [one, other] : [other, one];
    apply(hostWork, plan.host, when);
    apply(guestWork, plan.guest, when);
    if (!plan.made || !madeRoute) return [hostWork, guestWork];
    const fresh = { code: plan.makes, kind: host.makesKind, model: one.model };
    const madeWork = before ?? freshWork(fresh, madeRoute);
    const { made: body } = plan;
    if (body.type === 'open') await this.opened(manager, madeWork, body, when);
    else apply(madeWork, body, when);
    return [hostWork, guestWork, madeWork];
  }

  /**
   * The code of what is made from a batch: its own number, unless another batch has that already (bodies and sides both
   * become instruments, each counting for themselves); then the next number of the kind.
   */
  private async madeCode(manager: EntityManager, kind: string, from: string): Promise<string> {
    const usual = numbered(kind, from);
    const batches = manager.getRepository(BatchRow);
    const source = await batches.findOneBy({ code: from });
    const before = source?.state?.pieces
      .flatMap((piece) => [piece.joinedInto ?? [], ...(piece.partedInto ?? [])].flat())
      .map((piece) => piece.split('/')[0] ?? '')
      .find((code) => code.startsWith(`${kind}-`));
    if (before !== undefined) return before;
    const there = (await batches.findOneBy({ code: usual }))?.state;
    const mine = there?.pieces.some(({ parents }) => parents.some((one) => one.split('/')[0] === from));
    if (!there || mine) return usual;
    for (;;) {
      const [numbers] = await manager.query<[{ number: number }[], number]>(
        'UPDATE kind SET next_number = next_number + 1 WHERE letter = $1 RETURNING next_number - 1 AS number',
        [kind],
      );
      const code = `${kind}-${numbers[0]?.number ?? ''}`;
      if (!(await batches.existsBy({ code }))) return code;
    }
  }

  /** Which of two batches is the host of their join, and the kind the join makes; both follow from their routes. */
  private async hostOf(
    manager: EntityManager,
    codes: [string, string],
  ): Promise<{ code: string; makesKind: string }> {
    const rows = await manager.getRepository(BatchRow).find({ where: { code: In(codes) } });
    for (const row of rows) {
      const partner = rows.find((other) => other.code !== row.code);
      const { operations } = row.state
        ? await this.setup.routeOf(row.state, manager)
        : await this.setup.route(row.routeId, manager);
      const host = operations.find(
        (operation) =>
          operation.mode === 'join' &&
          operation.role === 'host' &&
          (!partner || operation.partnerKind === partner.kind),
      );
      if (host?.mode === 'join') return { code: row.code, makesKind: host.makesKind };
    }
    const missing = codes.find((code) => !rows.some((row) => row.code === code));
    if (missing) throw new Refused(refuse('unknown-batch', `there is no batch ${missing}`));
    throw new Refused(refuse('not-joinable', `${codes.join(' and ')} do not join: their routes do not meet`));
  }

  /** Parts the pieces of a batch: each becomes a piece of every kind made. */
  private async split(
    manager: EntityManager,
    batch: string,
    action: Extract<FilingAction, { type: 'split' }>,
    when: When,
  ): Promise<Work[]> {
    const seen = await manager.getRepository(BatchRow).findOneBy({ code: batch });
    if (!seen?.state) throw new Refused(refuse('unknown-batch', `there is no open batch ${batch}`));
    const { operations } = await this.setup.routeOf(seen.state, manager);
    const kinds = operations.flatMap((operation) => (operation.mode === 'split' ? operation.makesKinds : []));
    const codes = new Map<string, string>();
    for (const kind of kinds) codes.set(kind, await this.madeCode(manager, kind, batch));
    const works = await this.lock(manager, [batch, ...codes.values()]);
    const work = works.get(batch);
    if (!work?.state) throw new Refused(refuse('unknown-batch', `there is no open batch ${batch}`));
    const made = new Map<string, { code: string; state: BatchState | null; route: Route }>();
    for (const [kind, code] of codes) {
      const before = works.get(code);
      const route = before?.route ?? (await this.setup.newestRoute(seen.model, kind, manager));
      if (!route)
        throw new Refused(
          refuse('route-problem', `${seen.model} has no route for kind ${kind}, which this makes`),
        );
      made.set(kind, { code, state: before?.state ?? null, route });
    }
    const plan = planSplit({ side: { state: work.state, route: work.route }, selection: action, made });
    if (isRefusal(plan)) throw new Refused(plan);
    apply(work, plan.parted, when);
    const children = plan.made.map(({ kind, code, body }) => {
      const route = made.get(kind)?.route ?? work.route;
      const child = works.get(code) ?? freshWork({ code, kind, model: seen.model }, route);
      apply(child, body, when);
      return child;
    });
    return [work, ...children];
  }

  /**
   * Files entries on several batches in one filing: all of it or nothing, and taken back as one. `plan` looks at the
   * factory within the transaction and says what is filed, in this order. `batches`: those it will be filed on, whose turn it takes.
   */
  async fileTogether(
    { batches, ...filing }: { key: string; by: string; asked: object; batches: readonly string[] },
    plan: (manager: EntityManager, atMs: number) => Promise<{ batch: string; body: EntryBody }[]>,
  ): Promise<FilingOutcome> {
    const filedMs = Math.floor(await this.clock.now());
    try {
      return await this.inTurn(batches, () =>
        this.source.transaction((manager) => this.fileTogetherWithin(manager, filing, plan, filedMs)),
      );
    } catch (error) {
      if (error instanceof Refused) return error.refusal;
      throw error;
    }
  }

  /** The same within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async fileTogetherWithin(
    manager: EntityManager,
    { key, by, asked }: { key: string; by: string; asked: object },
    plan: (manager: EntityManager, atMs: number) => Promise<{ batch: string; body: EntryBody }[]>,
    filedMs: number,
  ): Promise<Filed> {
    await this.mustBeHere(manager, by);
    const known = await claimKey(manager, { key, asked, by, filedMs });
    if (known) return known;
    const when = { atMs: Math.floor(happenedMs(filedMs)), filedMs, by };
    const entries = await plan(manager, when.atMs);
    const works = await this.lock(manager, [...new Set(entries.map((entry) => entry.batch))]);
    for (const { batch, body } of entries) {
      const work = works.get(batch);
      if (!work) throw new Refused(refuse('unknown-batch', `there is no batch ${batch}`));
      const moved = body.type === 'reroute' ? await this.setup.routeOf(body, manager) : undefined;
      await this.step(manager, work, body, when, moved);
      if (moved) work.route = moved;
    }
    await checkBeds(manager, [...works.values()]);
    return this.settle(manager, key, when, [...works.values()]);
  }

  /** Takes a whole filing back, on every batch it touched. */
  private async undo(
    manager: EntityManager,
    request: FilingRequest,
    action: UndoAction,
    when: When,
  ): Promise<Work[]> {
    const key = await this.filingToUndo(manager, request, action);
    const rows = await manager
      .getRepository(LogEntryRow)
      .find({ where: { filingKey: key }, order: { seq: 'ASC' } });
    const works = await this.lock(manager, [...new Set(rows.map((row) => row.batch))]);
    for (const work of works.values()) {
      const voids = rows.filter((row) => row.batch === work.code).map((row) => row.seq);
      const log = await this.logOf(manager, work.code);
      const entry = { seq: work.seq + 1, ...when, body: { type: 'undo' as const, voids } };
      const routes = await this.setup.routeBook(routesNamed(log), manager);
      const outcome = applyUndo(routes, log, entry);
      if (isRefusal(outcome)) throw new Refused({ ...outcome, refused: `${work.code}: ${outcome.refused}` });
      work.seq += 1;
      work.state = outcome.state;
      if (work.state) work.route = routeIn(routes, work.state);
      work.steps.push({ seq: work.seq, body: entry.body, effect: outcome.effect });
    }
    return [...works.values()];
  }

  private async filingToUndo(
    manager: EntityManager,
    request: FilingRequest,
    action: UndoAction,
  ): Promise<string> {
    const repository = manager.getRepository(LogEntryRow);
    if (action.seq !== undefined && request.batch !== null) {
      const row = await repository.findOneBy({ batch: request.batch, seq: action.seq });
      if (row) return row.filingKey;
      throw new Refused(refuse('nothing-to-undo', `${request.batch} has no entry ${action.seq}`));
    }
    const [last] =
      request.batch === null
        ? await lastFilingOf(manager, 'person', request.by)
        : await lastFilingOf(manager, 'batch', request.batch, touchNow()?.seen.get(request.batch));
    if (last) return last.filing_key;
    throw new Refused(
      refuse(
        'nothing-to-undo',
        `there is nothing to take back${request.batch ? ` on ${request.batch}` : ''}`,
      ),
    );
  }

  // ---- reading and writing --------------------------------------------------------------------------------------

  private async locked(manager: EntityManager, code: string): Promise<Work> {
    const work = (await this.lock(manager, [code])).get(code);
    if (!work) throw new Refused(refuse('unknown-batch', `there is no batch ${code}`));
    return work;
  }

  /** Locks batches for this transaction, always in order of code, so that two filings never wait in a circle. */
  private async lock(manager: EntityManager, codes: readonly string[]): Promise<Map<string, Work>> {
    const rows = await manager.query<
      { code: string; kind: string; model: string; route_id: string; seq: number; state: BatchState | null }[]
    >(
      'SELECT code, kind, model, route_id, seq, state FROM batch WHERE code = ANY($1) ORDER BY code FOR UPDATE',
      [codes],
    );
    const works = new Map<string, Work>();
    for (const row of rows) {
      const route = row.state
        ? await this.setup.routeOf(row.state, manager)
        : await this.setup.route(row.route_id, manager);
      works.set(row.code, { ...row, route, isNew: false, steps: [] });
    }
    return works;
  }

  /** The whole log of a batch, in sequence. */
  async logOf(manager: EntityManager, batch: string): Promise<Entry[]> {
    const rows = await manager.getRepository(LogEntryRow).find({ where: { batch }, order: { seq: 'ASC' } });
    return rows.map(entryOf);
  }

  private async write(
    manager: EntityManager,
    key: string,
    when: When,
    works: Work[],
    filed: Filed,
  ): Promise<void> {
    for (const { code, kind, model, route } of works.filter(({ isNew }) => isNew))
      await manager.query(
        'INSERT INTO batch (code, kind, model, route_id, seq, closed) VALUES ($1, $2, $3, $4, 0, false)',
        [code, kind, model, route.id],
      );
    const states = works.map(({ code, seq, state, route }) => ({
      ...{ code, seq, state },
      closed: state === null || isClosed(state),
      route: state?.routeId ?? route.id,
    }));
    const entries = works.flatMap(({ code, steps }) =>
      steps.map(({ seq, body, effect: { operation, station, positions } }) => ({
        ...{ batch: code, seq, type: body.type, operation, station, positions, body },
      })),
    );
    // One question for both: a filing waits for the database more than for anything else.
    await manager.query(
      `WITH stated AS (
         UPDATE batch SET seq = r.seq, closed = r.closed, state = r.state, route_id = r.route
           FROM jsonb_to_recordset($6::jsonb) AS r(code text, seq int, closed boolean, state jsonb, route text)
          WHERE batch.code = r.code)
       INSERT INTO log_entry (filing_key, batch, seq, type, operation, station, pieces, positions, person, happened_at, filed_at, body)
       SELECT $1, r.batch, r.seq, r.type, r.operation, r.station, cardinality(r.positions), r.positions, $2, $3, $4, r.body
         FROM jsonb_to_recordset($5::jsonb)
           AS r(batch text, seq int, type text, operation text, station text, positions int[], body jsonb)`,
      [
        ...[key, when.by, new Date(when.atMs), new Date(when.filedMs)],
        ...[JSON.stringify(entries), JSON.stringify(states)],
      ],
    );
    await this.forgetRollUps(manager, when, works);
    const types = new Set(works.flatMap(({ steps }) => steps.map(({ body }) => body.type)));
    await settleKey(manager, { key, filed, changed: works.map((work) => work.code), types: [...types] });
  }

  /** What is filed about an earlier day, or taken back, makes that day's roll-ups untrue: they are made again. */
  private async forgetRollUps(manager: EntityManager, when: When, works: Work[]): Promise<void> {
    const { calendar } = await this.setup.factory(manager);
    const today = factoryDate(calendar, when.filedMs);
    const corrects = works.some((work) => work.steps.some((step) => step.body.type === 'undo'));
    const day = corrects ? null : factoryDate(calendar, when.atMs);
    if (day !== null && day >= today) return;
    await manager.query('DELETE FROM station_day WHERE $1::date IS NULL OR day >= $1::date', [day]);
  }

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
      const log = await this.logOf(manager, code);
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

/**
 * The last filing of a person or on a batch or lot that is neither a correction nor taken back. `seen`: the last entry whoever
 * asks had seen; what was filed since is not meant.
 */
export function lastFilingOf(
  manager: EntityManager,
  column: 'person' | 'batch',
  value: string,
  seen?: number,
): Promise<{ filing_key: string; batch: string }[]> {
  return manager.query(
    `SELECT filing_key, batch FROM log_entry e
      WHERE ${column} = $1 AND type <> 'undo'
        AND ${STANDS} AND ($2::int IS NULL OR seq <= $2)
      ORDER BY id DESC LIMIT 1`,
    [value, seen ?? null],
  );
}

export function entryOf(row: LogEntryRow): Entry {
  return {
    seq: row.seq,
    atMs: row.happenedAt.getTime(),
    filedMs: row.filedAt.getTime(),
    by: row.person,
    body: row.body,
  };
}

/** A batch that a join or a split makes. */
const freshWork = (fresh: Pick<Work, 'code' | 'kind' | 'model'>, route: Route): Work => ({
  ...fresh,
  route,
  seq: 0,
  state: null,
  isNew: true,
  steps: [],
});

/** Against several holds of one rack one reason is enough: each is ended with it. */
function holdsMeant({ state }: { state: BatchState }, action: EndBody): EndBody[] {
  const named = action.operation ?? action.station ?? action.pieces ?? action.count;
  if (!action.because || named !== undefined) return [action];
  const held = state.pieces.filter(({ standing }) => standing === 'onHold').map(({ operation }) => operation);
  const operations = [...new Set(held)];
  return operations.length < 2 ? [action] : operations.map((operation) => ({ ...action, operation }));
}

function apply(work: Work, body: EntryBody, when: When, moved?: Route): void {
  const seq = work.seq + 1;
  const outcome = applyEntry(work.state, work.route, { seq, ...when, body }, moved);
  if (isRefusal(outcome)) throw new Refused(outcome);
  work.seq = seq;
  work.state = outcome.state;
  work.steps.push({ seq, body, effect: outcome.effect });
}

const entriesOf = (works: readonly Work[]): Filed['entries'] =>
  works.flatMap((work) => work.steps.map((step) => ({ batch: work.code, seq: step.seq })));

function sentenceOf(works: readonly Work[]): string {
  const [first] = works;
  if (!first) return '';
  const undone = first.steps.some((step) => step.body.type === 'undo');
  if (undone || !first.state) {
    const words = works.map(
      (work) => `${work.code} ${work.steps.map((step) => actionWords(step.body, 0)).join(', ')}`,
    );
    return `Corrected: ${words.join('; ')}`;
  }
  return lineEffect({ state: first.state, route: first.route, steps: first.steps });
}
