import {
  actionWords,
  type BatchState,
  type BodyOf,
  type EntryBody,
  kitsApart,
  lineEffect,
  refuse,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { SetupService } from '../setup/setup.service.ts';
import { checkBeds } from './beds.ts';
import { CorrectionService } from './correction.service.ts';
import { DRY_RUN } from './dry-run.ts';
import { FactsService } from './facts.service.ts';
import { FilingsService, type Claim, type Written } from './filings.service.ts';
import type { Filed, FilingAction, FilingOutcome, FilingRequest, OtherSubject, Work } from './filing.ts';
import { JoiningService } from './joining.service.ts';
import { OpeningService } from './opening.service.ts';
import { Refused } from './refused.ts';
import { apply, type When } from './work.ts';
import { WorksService } from './works.service.ts';

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
    private readonly filings: FilingsService,
    private readonly facts: FactsService,
    private readonly works: WorksService,
    private readonly opening: OpeningService,
    private readonly joining: JoiningService,
    private readonly correction: CorrectionService,
  ) {}

  private readonly others: OtherSubject[] = [];

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
    const code = request.batch ?? (await this.correction.lastSubjectOf(this.source.manager, request));
    const other = code === null ? undefined : this.others.find((subject) => subject.owns(code));
    if (other && code !== null) return other.file({ ...request, batch: code });
    return this.filings.transact(code === null ? opens(request) : [code], (manager, filedMs) =>
      this.fileWithin(manager, request, filedMs),
    );
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
    const codes = dry ? [] : requests.flatMap(({ batch }) => batch ?? []);
    try {
      return await this.filings.transact(codes, async (manager, filedMs) => {
        if (dry && manager.queryRunner) manager.queryRunner.data[DRY_RUN] = true;
        const all: Filed[] = [];
        for (const request of requests) all.push(await this.fileWithin(manager, request, filedMs));
        const filed = {
          sentence: all.map(({ sentence }) => sentence).join('; '),
          entries: all.flatMap(({ entries }) => entries),
          filedMs,
          repeated: all.every(({ repeated }) => repeated),
        };
        if (dry) throw new DryRun(filed);
        return filed;
      });
    } catch (error) {
      if (error instanceof DryRun) return error.filed;
      throw error;
    }
  }

  /** Takes back the filing of a key: all it filed, on every batch or lot it touched. */
  async takeBack({ key, by, filing }: { key: string; by: string; filing: string }): Promise<FilingOutcome> {
    const filings = await this.correction.filingsUnder(this.source.manager, filing);
    if (filings.length === 0) return refuse('nothing-to-undo', 'what is to be taken back was never filed');
    // What else has entries (an order) takes back itself what it filed on batches, too.
    for (const { batch, seq } of filings) {
      const other = this.others.find((subject) => subject.owns(batch));
      if (other) return other.file({ key, by, batch, actions: [{ type: 'undo', seq }] });
    }
    return this.fileAll(
      filings.map(({ batch, seq }, i) => ({
        key: i === 0 ? key : `${key}-${i + 1}`,
        ...{ by, batch, actions: [{ type: 'undo' as const, seq }] },
      })),
    );
  }

  /** Files within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async fileWithin(manager: EntityManager, request: FilingRequest, filedMs: number): Promise<Filed> {
    const { key, ...asked } = request;
    const { by, atMs } = request;
    return this.filings.once(manager, { key, by, asked, atMs }, filedMs, async (when) =>
      this.settled(manager, when, await this.perform(manager, request, when)),
    );
  }

  private async settled(manager: EntityManager, when: When, works: readonly Work[]): Promise<Written> {
    await checkBeds(manager, works);
    const types = new Set(works.flatMap(({ steps }) => steps.map(({ body }) => body.type)));
    return {
      filed: { sentence: sentenceOf(works), entries: entriesOf(works) },
      changed: works.map(({ code }) => code),
      types: [...types],
      last: await this.works.written(manager, when, works),
    };
  }

  private async perform(manager: EntityManager, request: FilingRequest, when: When): Promise<Work[]> {
    const [only] = request.actions;
    if (!only) throw new Refused(refuse('bad-value', 'there is nothing to file'));
    if (request.actions.length > 1 && request.actions.some(isFiledAlone)) {
      throw new Refused(
        refuse('bad-value', 'a join, a split, a correction and a new batch are each filed alone'),
      );
    }
    if (only.type === 'open') return [await this.opening.open(manager, only, when)];
    if (only.type === 'undo') return this.correction.undo(manager, request, only, when);
    if (request.batch === null) throw new Refused(refuse('unknown-batch', 'no batch is named'));
    if (only.type === 'join') return this.joining.join(manager, request.batch, only, when);
    if (only.type === 'split') return this.joining.split(manager, request.batch, only, when);
    const work = await this.works.locked(manager, request.batch);
    for (const action of request.actions) {
      if (isFiledAlone(action)) throw new Error(`perform: '${action.type}' is filed alone`);
      await this.step(manager, work, action, when);
    }
    return [work];
  }

  /** One entry by whatever way it came: completed by the stages it concerns, then applied. */
  private async step(
    manager: EntityManager,
    work: Work,
    body: EntryBody,
    when: When,
    moved?: Route,
  ): Promise<void> {
    if (!work.state) return apply(work, body, when);
    for (const one of meant(work.state, work.route, body)) {
      const rack = { state: work.state, route: work.route };
      apply(work, await this.facts.complete(manager, rack, one, when), when, moved);
    }
  }

  /**
   * Files entries on several batches in one filing: all of it or nothing, and taken back as one. `plan` looks at the
   * factory within the transaction and says what is filed, in this order. `batches`: those it will be filed on, whose turn it takes.
   */
  async fileTogether(
    { batches, ...filing }: { key: string; by: string; asked: object; batches: readonly string[] },
    plan: (manager: EntityManager, atMs: number) => Promise<{ batch: string; body: EntryBody }[]>,
  ): Promise<FilingOutcome> {
    return this.filings.transact(batches, (manager, filedMs) =>
      this.fileTogetherWithin(manager, filing, plan, filedMs),
    );
  }

  /** The same within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async fileTogetherWithin(
    manager: EntityManager,
    { key, by, asked }: Claim,
    plan: (manager: EntityManager, atMs: number) => Promise<{ batch: string; body: EntryBody }[]>,
    filedMs: number,
  ): Promise<Filed> {
    return this.filings.once(manager, { key, by, asked }, filedMs, async (when) => {
      const entries = await plan(manager, when.atMs);
      const works = await this.works.lock(manager, [...new Set(entries.map((entry) => entry.batch))]);
      for (const { batch, body } of entries) {
        const work = works.get(batch);
        if (!work) throw new Refused(refuse('unknown-batch', `there is no batch ${batch}`));
        const moved = body.type === 'reroute' ? await this.setup.routeOf(body, manager) : undefined;
        await this.step(manager, work, body, when, moved);
        if (moved) work.route = moved;
      }
      return this.settled(manager, when, [...works.values()]);
    });
  }
}

/** What is said of a whole rack and differs among its pieces is filed apart. */
function meant(state: BatchState, route: Route, body: EntryBody): EntryBody[] {
  if (body.type === 'end') return holdsMeant(state, body);
  return body.type === 'kit' ? kitsApart(state, route, body) : [body];
}

/** Against several holds of one rack one reason is enough: each is ended with it. */
function holdsMeant(state: BatchState, action: BodyOf<'end'>): BodyOf<'end'>[] {
  const named = action.operation ?? action.station ?? action.pieces ?? action.count;
  if (!action.because || named !== undefined) return [action];
  const held = state.pieces.filter(({ standing }) => standing === 'onHold').map(({ operation }) => operation);
  const operations = [...new Set(held)];
  return operations.length < 2 ? [action] : operations.map((operation) => ({ ...action, operation }));
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
