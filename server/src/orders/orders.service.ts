import {
  hasLeft,
  heldAgainst,
  isRefusal,
  lineCode,
  lineOf,
  orderLedger,
  orderOfLine,
  orderWords,
  refuse,
  specChange,
  specDifference,
  wantedLines,
  type BodyOf,
  type Choices,
  type EntryBody,
  type OrderAsked,
  type OrderBody,
  type OrderedAsked,
  type OrderedLine,
  type OrderLine,
  type OrderState,
  type Refusal,
  type Spec,
  type SpecChange,
} from '@ample-crane/core';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { FactsService, type Rack } from '../log/facts.service.ts';
import type { Filed, FilingOutcome, FilingRequest, OtherSubject } from '../log/filing.ts';
import { FilingsService } from '../log/filings.service.ts';
import { keyMeant } from '../log/logged.ts';
import { LogService } from '../log/log.service.ts';
import { piecesOfOrders } from '../log/pieces.ts';
import { Refused } from '../log/refused.ts';
import type { Remade } from '../log/remake.ts';
import { SubjectLedger, type SubjectWork } from '../log/subject-ledger.ts';
import type { When } from '../log/work.ts';
import { WorksService } from '../log/works.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { kindsOfModel } from './kinds-of-model.ts';
import { OptionBooksService } from './option-books.service.ts';
import { OrderRow } from './rows.ts';
import { givenBack, sentToStock, type RackSeen, type SentToStock } from './sent-to-stock.ts';

/** Orders carry this letter; batches those of their kinds, lots theirs. */
const ORDER_LETTER = 'O';

export interface PlaceRequest {
  key: string;
  by: string;
  atMs?: number;
  /** Null: built for stock. */
  customer: string | null;
  reference?: string | undefined;
  dueMs: number;
  lines: readonly OrderedAsked[];
}

export interface OrderFiling {
  key: string;
  by: string;
  order: string;
  asked: OrderAsked;
}

type OrderWork = SubjectWork<OrderState, OrderBody>;

/** The one way an order's entries come into the log. What its lines are to be goes on to the racks that are built for them. */
@Injectable()
export class OrdersService implements OnModuleInit, OtherSubject {
  private readonly ledger: SubjectLedger<OrderState, OrderBody>;

  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly works: WorksService,
    private readonly filings: FilingsService,
    private readonly setup: SetupService,
    private readonly books: OptionBooksService,
    private readonly floor: RacksService,
    facts: FactsService,
  ) {
    this.ledger = new SubjectLedger(source, setup, {
      ...{ letter: ORDER_LETTER, noun: 'order', table: 'customer_order' },
      ...{ ledger: orderLedger, words: orderWords },
      columns: (state) => {
        const pieces = state ? wantedLines(state).reduce((sum, { quantity }) => sum + quantity, 0) : 0;
        return { closed: pieces === 0, pieces };
      },
    });
    facts.register({
      allot: (manager, rack, body) => this.allotted(manager, rack, body),
      confirm: (_manager, rack, body) => Promise.resolve(withWrong(rack, body)),
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
    if (own.length === 0) return [];
    const rows = await this.source.query<{ code: string }[]>(
      'SELECT code FROM customer_order WHERE code = ANY($1)',
      [own],
    );
    return rows.map(({ code }) => code);
  }

  /** What a typed line may say of an order: taking its last filing back. */
  async file({ key, by, batch: order, actions }: FilingRequest & { batch: string }): Promise<FilingOutcome> {
    const [action] = actions;
    if (actions.length !== 1 || action?.type !== 'undo')
      return refuse(
        'bad-value',
        `${order} is an order: a line may take it back, the rest is done on its page`,
      );
    return this.change({ key, by, order, asked: action });
  }

  /** Places an order. Once this returns, it is committed. */
  place(request: PlaceRequest): Promise<FilingOutcome> {
    return this.filings.transact([], (manager, filedMs) => this.placeWithin(manager, request, filedMs));
  }

  /** The same within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async placeWithin(manager: EntityManager, request: PlaceRequest, filedMs: number): Promise<Filed> {
    const { key, ...asked } = request;
    const { by, atMs, customer, reference, dueMs } = request;
    return this.filings.once(manager, { key, by, asked, atMs }, filedMs, async (when) => {
      const lines: OrderedLine[] = [];
      for (const line of request.lines) lines.push(await this.ordered(manager, line));
      const work = await this.ledger.fresh(manager);
      const noted = reference === undefined ? {} : { reference };
      this.ledger.apply(work, { type: 'order', code: work.code, customer, ...noted, dueMs, lines }, when);
      return this.ledger.written(manager, key, when, [work]);
    });
  }

  /** Files one entry on an order, and on the racks that are built for it. Once this returns, it is committed. */
  async change({ key, by, order, asked }: OrderFiling): Promise<FilingOutcome> {
    return this.filings.transact([order], async (manager, filedMs) => {
      const sent = asked.type === 'undo' ? await sentWith(manager, order, asked.seq) : [];
      // Racks are always locked before orders: whoever gives a piece to a line has its rack already.
      const named = [...(await racksOf(manager, order)), ...sent.map(({ batch }) => batch)];
      const racks = await this.works.lock(manager, [...new Set(named)]);
      const touched: EntryOf[] = [];
      const filed = await this.filings.once(manager, { key, by, asked }, filedMs, async (when) => {
        const works = await this.perform(manager, { order, asked }, when);
        for (const { before, state } of works)
          touched.push(...retagged(before, state, [...racks.values()], reasonOf(asked)));
        touched.push(...givenBack(sent, [...racks.values()]));
        this.refuseUnknowing(asked, works, [...racks.values()]);
        return this.ledger.written(manager, key, when, works);
      });
      if (filed.repeated || touched.length === 0) return filed;
      const tags = await this.log.fileTogetherWithin(
        manager,
        { key: `${key}-2`, by, asked },
        () => Promise.resolve(touched),
        filedMs,
      );
      return {
        ...filed,
        sentence: `${filed.sentence}; ${tags.sentence}`,
        entries: [...filed.entries, ...tags.entries],
      };
    });
  }

  /** What a change of a line would touch of the racks that are built for it, or why it cannot be sold. Nothing is filed. */
  async touches(
    order: string,
    { line, choices }: { line: number; choices: Choices },
  ): Promise<SpecChange[] | Refusal> {
    const row = await this.source.getRepository(OrderRow).findOneBy({ code: order });
    const of = row?.state?.lines.find(({ number }) => number === line);
    if (!of) return refuse('unknown-batch', `there is no line ${lineCode(order, line)}`);
    try {
      const { spec } = await this.books.spec(of.model, { ...of.choices, ...choices });
      const racks = await Promise.all(
        (await racksOf(this.source.manager, order)).map((code) => this.floor.rack(code)),
      );
      return changesOf(racks, lineCode(order, line), spec);
    } catch (error) {
      if (error instanceof Refused) return error.refusal;
      throw error;
    }
  }

  /** Locks orders for this transaction, always in order of code: whoever files on pieces of several asks this first. */
  async hold(manager: EntityManager, codes: readonly string[]): Promise<void> {
    await this.ledger.lock(manager, codes);
  }

  private async perform(
    manager: EntityManager,
    { order, asked }: { order: string; asked: OrderAsked },
    when: When,
  ): Promise<OrderWork[]> {
    if (asked.type === 'undo') return [...(await this.ledger.undo(manager, order, asked.seq, when)).values()];
    const work = this.ledger.found(await this.ledger.lock(manager, [order]), order);
    this.ledger.apply(work, await this.complete(manager, work.state, asked), when);
    return [work];
  }

  /** Adds what a line comes to, by what is sold now. */
  private async complete(
    manager: EntityManager,
    state: OrderState | null,
    asked: Exclude<OrderAsked, { type: 'undo' }>,
  ): Promise<OrderBody> {
    switch (asked.type) {
      case 'order-add':
        return { ...asked, line: await this.ordered(manager, asked.line) };
      case 'order-change': {
        const { knowing: _known, choices, ...rest } = asked;
        const line = state?.lines.find(({ number }) => number === asked.line);
        if (!line) return rest;
        if (!choices) return asked.label === undefined ? rest : { ...rest, ...relabelled(line, asked.label) };
        const wanted = { ...line.choices, ...choices };
        const label = asked.label === undefined ? line.label : asked.label;
        return {
          ...rest,
          ...(await this.books.spec(line.model, wanted, { label: label ?? undefined, db: manager })),
        };
      }
      case 'order-due':
      case 'order-cancel':
        return asked;
    }
  }

  private async ordered(manager: EntityManager, line: OrderedAsked): Promise<OrderedLine> {
    const { model, choices = {}, label } = line;
    return { ...line, ...(await this.books.spec(model, choices, { label, db: manager })) };
  }

  /** A change that comes too late for pieces that are built already is filed only by who knows that. @throws Refused */
  private refuseUnknowing(asked: OrderAsked, works: readonly OrderWork[], racks: readonly RackSeen[]): void {
    if (asked.type !== 'order-change' || asked.knowing) return;
    const spec = works[0]?.state?.lines.find(({ number }) => number === asked.line)?.spec;
    const code = works[0]?.code;
    if (!spec || code === undefined) return;
    const late = changesOf(racks, lineCode(code, asked.line), spec).filter(({ done }) => done.length > 0);
    const [first] = late;
    if (!first) return;
    const { option, done, minutesAgain } = first;
    const again = minutesAgain > 0 ? `, ${Math.round(minutesAgain)} min of work again` : '';
    throw new Refused(
      refuse(
        'other-option',
        `${option} is behind ${done.join(', ')} already${again}: say that it is to be changed all the same`,
        'knowing',
      ),
    );
  }

  /** An allotment with the spec of its line, which must want it. @throws Refused */
  private async allotted(
    manager: EntityManager,
    { state, route }: Rack,
    body: BodyOf<'allot'>,
  ): Promise<BodyOf<'allot'>> {
    const { spec: told, ...asked } = body;
    if (body.line === null) return asked;
    const named = orderOfLine(body.line);
    const order = named && (await this.ledger.lock(manager, [named.order])).get(named.order)?.state;
    const line = order && wantedLines(order).find(({ number }) => number === named.line);
    if (!line)
      throw new Refused(refuse('bad-value', `there is no line ${body.line} that is to be built`, 'line'));
    if (line.model !== state.model)
      throw new Refused(
        refuse('bad-value', `${body.line} is a ${line.model}, ${state.code} holds ${state.model}`, 'line'),
      );
    const kinds = await kindsOfModel(this.setup, line.model, manager);
    const built = [...kinds].filter(([, becomes]) => becomes.includes(route.kind));
    if (built.length === 0)
      throw new Refused(refuse('bad-value', `pieces of ${state.code} are not given to orders`, 'line'));
    // Pieces that go with their spec as it is told are there already: a change of the line, not one more piece.
    if (
      told &&
      body.pieces.every((position) =>
        state.pieces.some((p) => p.position === position && p.line === body.line),
      )
    )
      return { ...asked, spec: line.spec };
    const there = await piecesOfOrders(manager, [named.order]);
    const mine = new Set(body.pieces);
    for (const [, becomes] of built) {
      const others = there.filter(
        (piece) =>
          piece.line === body.line &&
          becomes.includes(piece.kind) &&
          !['scrapped', 'joined', 'parted'].includes(piece.standing) &&
          !(piece.batch === state.code && mine.has(piece.position)),
      );
      if (others.length + mine.size > line.quantity)
        throw new Refused(
          refuse(
            'not-enough',
            `${body.line} wants ${line.quantity}, and has ${others.length} already`,
            'line',
          ),
        );
    }
    return { ...asked, spec: line.spec };
  }

  /** Replays the log of every order and tells which tables do not agree with it. */
  async disagreements(): Promise<{ orders: number; wrong: string[] }> {
    const { rows, wrong } = await this.ledger.disagreements();
    return { orders: rows, wrong };
  }

  /** Makes the states anew that do not agree with the log. */
  remake(): Promise<Remade> {
    return this.ledger.remake();
  }
}

/** A confirmation with the places whose tags say otherwise, so that its words can tell them. */
function withWrong({ state, route }: Rack, { wrong: _told, ...asked }: BodyOf<'confirm'>): BodyOf<'confirm'> {
  const held = heldAgainst(state, route, asked);
  // The reducer says why.
  return isRefusal(held) || held.wrong.length === 0 ? asked : { ...asked, wrong: held.wrong };
}

interface EntryOf {
  batch: string;
  body: EntryBody;
}

/** Racks with pieces that are built for an order and have not left. */
async function racksOf(manager: EntityManager, order: string): Promise<string[]> {
  const pieces = await piecesOfOrders(manager, [order]);
  return [
    ...new Set(
      pieces
        .filter(({ standing }) => ['waiting', 'inHand', 'onHold'].includes(standing))
        .map(({ batch }) => batch),
    ),
  ];
}

const changesOf = (racks: readonly RackSeen[], line: string, spec: Spec): SpecChange[] =>
  racks.flatMap(({ state, route }) => (state ? specChange(state, route, line, spec) : []));

/** What the filing that is to be taken back had sent to stock: it is filed under its key, and racks under the same with a number. */
const sentWith = async (
  manager: EntityManager,
  order: string,
  seq: number | undefined,
): Promise<SentToStock[]> => sentToStock(manager, `${await keyMeant(manager, order, seq)}-2`);

const reasonOf = (asked: OrderAsked): string => ('because' in asked ? asked.because : 'taken back');

/** The line as it was ordered, with another name on its label. */
function relabelled({ choices, spec }: OrderLine, label: string | null): { choices: Choices; spec: Spec } {
  const { label: _was, ...rest } = spec;
  return { choices, spec: { ...rest, ...(label === null ? {} : { label }) } };
}

/** What is filed on racks when what an order wants changes: pieces get the new spec of their line, or go back to stock. */
function retagged(
  before: OrderState | null,
  after: OrderState | null,
  racks: readonly RackSeen[],
  because: string,
): EntryOf[] {
  const code = (after ?? before)?.code ?? '';
  return (before?.lines ?? []).flatMap(({ number, spec: was }) => {
    const line = lineCode(code, number);
    const now = after && wantedLines(after).find((one) => one.number === number);
    if (now && specDifference(was, now.spec).length === 0 && was.label === now.spec.label) return [];
    return racks.flatMap(({ state }): EntryOf[] => {
      const pieces = (state?.pieces ?? []).flatMap((piece) =>
        piece.line === line && !hasLeft(piece) ? [piece.position] : [],
      );
      if (!state || pieces.length === 0) return [];
      const batch = state.code;
      const spec = lineOf(state, { line });
      const body: BodyOf<'allot'> = now
        ? { type: 'allot', pieces, line, spec: spec ?? now.spec, because }
        : { type: 'allot', pieces, line: null, because };
      return [{ batch, body }];
    });
  });
}
