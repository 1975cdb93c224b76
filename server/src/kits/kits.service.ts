import {
  awaitKit,
  binOf,
  binStanding,
  billed,
  carries,
  DAY_MS,
  earliestEndMs,
  endOfRouteMs,
  hasLeft,
  kitCalls,
  kitOperation,
  kitShortages,
  kitsToPick,
  lineOf,
  neededMs,
  pickedOtherwise,
  pieceCode,
  withUsual,
  workedRoute,
  workingClock,
  type Bill,
  type BinStanding,
  type BilledPart,
  type FactoryCalendar,
  type KitShortages,
  type OptionBook,
  type PieceState,
  type Route,
  type WantedKits,
  type WorkingClock,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { BoardService } from '../flow/board.service.ts';
import { JudgedRacksService, type JudgedRack } from '../flow/judged-racks.service.ts';
import { Kept, oneOf } from '../live/kept.ts';
import { LiveService, type LiveNews } from '../live/live.service.ts';
import { PerRack } from '../floor/per-rack.ts';
import { RacksService } from '../floor/racks.service.ts';
import { OptionBooksService } from '../orders/option-books.service.ts';
import { OrderViewsService } from '../orders/order-views.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { BillsService } from './bills.service.ts';
import { choicesOf, stillWanted } from './picking.service.ts';
import { StoreService, type StockedPart } from './store.service.ts';

export interface BinAhead {
  piece: string;
  position: number;
  bin: string | null;
  standing: BinStanding;
}

/** A rack that comes to assembly. */
export interface RackAhead {
  batch: string;
  model: string;
  /** When its kits are wanted, by its route alone. */
  wantMs: number;
  dueMs: number;
  /** Where it is now. */
  where: string;
  bins: BinAhead[];
  /** Parts that will be missing. */
  short: { part: string; name: string; slot: string; short: number; comesMs: number | null }[];
}

export interface NamedShortage {
  part: string;
  name: string;
  unit: string;
  supplier: string;
  leadDays: number;
  onHand: number;
  onOrder: number;
  short: number;
  toOrder: number;
  hereByMs: number | null;
  orderByMs: number | null;
  racks: KitShortages['parts'][number]['racks'];
}

export interface KitsView {
  nowMs: number;
  zone: string;
  ahead: RackAhead[];
  shortages: NamedShortage[];
  standIns: (KitShortages['standIns'][number] & { name: string; insteadName: string })[];
  /** Models that come to assembly and have no bill. */
  without: string[];
}

/** One part of a kit, as whoever picks it sees it. */
export interface PickLine {
  slot: string;
  part: string;
  name: string;
  unit: string;
  /** For one instrument. */
  wanted: number;
  /** Lies in the bin, of the part or of what stands in for it. */
  there: number;
  onHand: number;
  instead: { part: string; name: string; onHand: number }[];
}

export interface PickView {
  nowMs: number;
  piece: string;
  batch: string;
  position: number;
  model: string;
  line: string | null;
  label: string | null;
  bin: string | null;
  standing: BinStanding;
  /** What was changed since it was picked: put it back first. */
  otherwise: string | null;
  operationName: string;
  lines: PickLine[];
  parts: { slot: string; part: string; name: string; quantity: number }[];
}

interface Standing {
  nowMs: number;
  zone: string;
  calendar: FactoryCalendar;
  racks: readonly JudgedRack[];
  books: ReadonlyMap<string, OptionBook>;
  bills: ReadonlyMap<string, Bill>;
  stock: readonly StockedPart[];
  routes: readonly Route[];
}

/** Orders, and entries by which a rack begins what is ordered, or loses it again. */
const changesWhatIsWanted = (news: LiveNews): boolean =>
  news.batches.some((code) => code.startsWith('O-')) ||
  oneOf('open', 'join', 'split', 'scrap', 'allot', 'undo')(news);

/** Kits ahead are shown for so many days, unless more are asked for. */
export const USUAL_DAYS = 10;

/** Which kits are wanted by when, what is missing of them, and the bin of each instrument. */
@Injectable()
export class KitsService {
  private readonly wanted = new PerRack<WantedKits[]>();
  private readonly unbegun: Kept<WantedKits[]>;
  /** What will be missing, as the board calls it. */
  private readonly missing: Kept<NamedShortage[]>;

  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly judged: JudgedRacksService,
    private readonly floor: RacksService,
    private readonly books: OptionBooksService,
    private readonly orders: OrderViewsService,
    private readonly bills: BillsService,
    private readonly store: StoreService,
    board: BoardService,
    live: LiveService,
  ) {
    this.unbegun = new Kept(() => this.ofUnbegun(), live.news, changesWhatIsWanted);
    this.missing = new Kept(() => this.willBeMissing(), live.news);
    board.register(async (nowMs) => kitCalls(await this.missing.get(), nowMs));
  }

  /** Racks whose kits are wanted within so many days, in the order in which they come to assembly, and every shortage. */
  async view(days: number): Promise<KitsView> {
    const standing = await this.standing();
    const { nowMs, zone, racks, bills, stock } = standing;
    const plan = await this.plan(standing);
    const found = shortagesOf(plan, standing);
    const names = new Map(stock.map(({ code, name }) => [code, name]));
    const until = nowMs + days * DAY_MS;
    const clock = workingClock(standing.calendar, nowMs);
    const ahead = racks
      .flatMap((rack) => aheadOf(rack, { standing, clock, found, names }))
      .filter((rack) => rack.wantMs <= until)
      .toSorted((a, b) => a.wantMs - b.wantMs || a.dueMs - b.dueMs);
    const coming = racks.filter(({ route }) => kitOperation(route)).map(({ state }) => state.model);
    return {
      ...{ nowMs, zone, ahead, shortages: named(found, stock) },
      standIns: found.standIns.map((one) => ({
        ...one,
        ...{ name: names.get(one.part) ?? one.part, insteadName: names.get(one.instead) ?? one.instead },
      })),
      without: [...new Set(coming)].filter((model) => !bills.get(model)).toSorted(),
    };
  }

  /** The bin of one instrument as whoever picks it needs it. @throws NotFoundException */
  async pick(batch: string, position: number): Promise<PickView> {
    const [nowMs, { state, route }, bills, books] = await Promise.all([
      this.clock.now(),
      this.floor.rack(batch),
      this.bills.known(),
      this.books.all(),
    ]);
    const operation = kitOperation(route);
    const piece = state.pieces.find((one) => one.position === position);
    if (!operation || !piece) throw new NotFoundException(`${pieceCode(batch, position)} gets no kit`);
    const book = books.find(({ model }) => model === state.model);
    const bill = bills.get(state.model);
    const wants = bill ? billed(bill, choicesOf(state, piece, book)) : [];
    const bin = binOf(state, position);
    const otherwise = bin && pickedOtherwise(state, piece, bin);
    const codes = [
      ...wants.flatMap(({ part, instead }) => [part, ...instead]),
      ...(bin?.parts ?? []).map(({ part }) => part),
    ];
    const stock = new Map((await this.store.stock([...new Set(codes)])).map((one) => [one.code, one]));
    const spec = lineOf(state, piece);
    const nameOf = (part: string): string => stock.get(part)?.name ?? part;
    return {
      ...{ nowMs, piece: pieceCode(batch, position), batch, position, model: state.model },
      ...{ line: piece.line ?? null, label: spec?.label ?? null, operationName: operation.name },
      ...{ bin: bin?.bin ?? null, standing: binStanding(state, piece) },
      otherwise: otherwise
        ? `picked for ${otherwise.name} '${otherwise.was}', the tag says ${otherwise.is}`
        : null,
      lines: wants.map((want) => pickLine(want, bin?.parts ?? [], stock)),
      parts: (bin?.parts ?? []).map((part) => ({ ...part, name: nameOf(part.part) })),
    };
  }

  private async willBeMissing(): Promise<NamedShortage[]> {
    const standing = await this.standing();
    if (standing.bills.size === 0) return [];
    return named(shortagesOf(await this.plan(standing), standing), standing.stock);
  }

  private async standing(): Promise<Standing> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const [racks, books, bills, stock, routes] = await Promise.all([
      this.judged.all(nowMs, calendar),
      this.books.all(),
      this.bills.known(),
      this.store.stock(),
      this.setup.newestRoutes(),
    ]);
    return {
      ...{ nowMs, zone: calendar.zone, calendar, racks, bills, stock, routes },
      books: new Map(books.map((book) => [book.model, book])),
    };
  }

  /** Kits of what is ordered and not begun: each is wanted when its order's day asks for it. */
  private async ofUnbegun(): Promise<WantedKits[]> {
    const [nowMs, { calendar }, wanted, books, routes] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.orders.wanted(),
      this.books.all(),
      this.setup.newestRoutes(),
    ]);
    // What was due already was wanted before now.
    const clock = workingClock(calendar, Math.min(nowMs, ...wanted.map(({ dueMs }) => dueMs)));
    return wanted.flatMap(({ line, model, kind, count, choices, dueMs }): WantedKits[] => {
      const made = routes.find((route) => route.model === model && kitOperation(route));
      const operation = made && kitOperation(made);
      const own = routes.find((route) => route.model === model && route.kind === kind);
      if (!made || !operation || !areOrCarry(own, made.kind)) return [];
      const book = books.find((one) => one.model === model);
      const wantMs = neededMs({
        ...{ route: workedRoute(made, {}), operation: operation.key, pieces: count, dueMs, calendar },
        ...{ then: null, clock },
      });
      const chosen = book ? withUsual(book, choices) : choices;
      return [{ rack: line, model, pieces: count, choices: chosen, wantMs }];
    });
  }

  /** Every kit that is wanted: of what is assembled next, of what is on its way there, of what is ordered and not begun. */
  private async plan(standing: Standing): Promise<WantedKits[]> {
    const { nowMs, calendar, racks, books, routes } = standing;
    const clock = workingClock(calendar, nowMs);
    const onTheWay = racks.flatMap((rack) =>
      this.wanted.get(
        rack.state,
        nowMs,
        [rack.holds, calendar, books.get(rack.state.model)?.revision, routes.length],
        () => wantedBy(rack, standing, clock),
      ),
    );
    const unbegun = await this.unbegun.get();
    return [...onTheWay, ...unbegun.map((one) => (one.wantMs < nowMs ? { ...one, wantMs: nowMs } : one))];
  }
}

/** Whether pieces of this kind are the instruments of a model, or carry them. */
const areOrCarry = (route: Route | undefined, makes: string): boolean =>
  route !== undefined && (route.kind === makes || carries(route, makes));

/** Kits that a rack wants: its own, or those of the instruments its bodies become. */
function wantedBy(
  rack: JudgedRack,
  { nowMs, calendar, books, routes }: Standing,
  clock: WorkingClock,
): WantedKits[] {
  const { state, route, holds } = rack;
  const book = books.get(state.model);
  if (kitOperation(route)) {
    const pieces = kitsToPick(state, route);
    const ahead = awaitKit(state, route).filter((piece) => pieces.includes(piece));
    const wantMs = atBenchMs(rack, ahead, { nowMs, calendar, clock });
    return alike(pieces, (piece) => ({
      choices: choicesOf(state, piece, book),
      picked: (binOf(state, piece.position)?.parts ?? []).map(({ slot, quantity }) => ({ slot, quantity })),
      // What went on without all of its kit wants the rest now.
      late: !ahead.includes(piece),
    })).map(({ like: { choices, picked, late }, count }) => ({
      ...{ rack: state.code, model: state.model, pieces: count, choices, wantMs: late ? nowMs : wantMs },
      picked: picked.map((one) => ({ ...one, quantity: one.quantity * count })),
    }));
  }
  const made = routes.find((one) => one.model === state.model && kitOperation(one));
  const at = made && kitOperation(made);
  if (!made || !at || !areOrCarry(route, made.kind)) return [];
  const pieces = state.pieces.filter((piece) => !hasLeft(piece));
  const seen = holds.map(({ dto }) => dto);
  const joinedMs = earliestEndMs({ state: { ...state, pieces }, route, holds: seen, nowMs, calendar, clock });
  if (joinedMs === null) return [];
  const usual = workedRoute(made, {});
  const before = usual.operations.slice(
    0,
    usual.operations.findIndex(({ key }) => key === at.key),
  );
  const wantMs = endOfRouteMs({
    ...{ route: { ...usual, operations: before }, pieces: pieces.length, fromMs: joinedMs, calendar, clock },
  });
  return alike(pieces, (piece) => choicesOf(state, piece, book)).map(({ like: choices, count }) => ({
    ...{ rack: state.code, model: state.model, pieces: count, choices, wantMs },
  }));
}

/** When pieces of a rack could come to where their kits are wanted, by its route and holds alone. */
function atBenchMs(
  { state, route, holds }: JudgedRack,
  pieces: readonly PieceState[],
  { nowMs, calendar, clock }: { nowMs: number; calendar: FactoryCalendar; clock: WorkingClock },
): number {
  const upTo = kitOperation(route)?.key;
  const seen = holds.map(({ dto }) => dto);
  const mine = { ...state, pieces: [...pieces] };
  return (
    earliestEndMs({ state: mine, route, holds: seen, nowMs, calendar, clock, ...(upTo ? { upTo } : {}) }) ??
    nowMs
  );
}

/** Pieces of which the same is true, and how many those are. */
function alike<T>(
  pieces: readonly PieceState[],
  likeOf: (piece: PieceState) => T,
): { like: T; count: number }[] {
  const groups = new Map<string, { like: T; count: number }>();
  for (const piece of pieces) {
    const like = likeOf(piece);
    const key = JSON.stringify(like);
    const group = groups.get(key);
    if (group) group.count += 1;
    else groups.set(key, { like, count: 1 });
  }
  return [...groups.values()];
}

const shortagesOf = (plan: readonly WantedKits[], { stock, bills }: Standing): KitShortages =>
  kitShortages(
    plan,
    stock.map(({ code, onHand, coming, leadDays }) => ({ part: code, onHand, coming, leadDays })),
    bills,
  );

function named({ parts }: KitShortages, stock: readonly StockedPart[]): NamedShortage[] {
  const byCode = new Map(stock.map((part) => [part.code, part]));
  return parts.map((shortage) => {
    const part = byCode.get(shortage.part);
    const {
      name = shortage.part,
      unit = '',
      supplier = '',
      leadDays = 0,
      onHand = 0,
      onOrder = 0,
    } = part ?? {};
    return { ...shortage, name, unit, supplier, leadDays, onHand, onOrder };
  });
}

/** The rack as the list of kits tells it; none: it wants no kit, or all of it is past that. */
function aheadOf(
  rack: JudgedRack,
  {
    standing: { nowMs, calendar },
    clock,
    found,
    names,
  }: { standing: Standing; clock: WorkingClock; found: KitShortages; names: ReadonlyMap<string, string> },
): RackAhead[] {
  const { state, route, line } = rack;
  const operation = kitOperation(route);
  if (!operation) return [];
  const pieces = awaitKit(state, route).filter(
    (piece) => piece.operation !== operation.key || piece.standing !== 'inHand',
  );
  if (pieces.length === 0) return [];
  const bins = pieces.map((piece): BinAhead => {
    const { position } = piece;
    const bin = binOf(state, position)?.bin ?? null;
    return { piece: pieceCode(state.code, position), position, bin, standing: binStanding(state, piece) };
  });
  const short = found.parts.flatMap(({ part, racks }) =>
    racks
      .filter(({ rack }) => rack === state.code)
      .map(({ slot, short: missing, comesMs }) => ({
        ...{ part, name: names.get(part) ?? part, slot, short: missing, comesMs },
      })),
  );
  const { code: batch, model, dueMs } = state;
  const wantMs = atBenchMs(rack, pieces, { nowMs, calendar, clock });
  return [{ batch, model, wantMs, dueMs, where: line?.operationName ?? operation.name, bins, short }];
}

function pickLine(
  { slot, part, quantity, instead }: BilledPart,
  inBin: readonly { slot: string; part: string; quantity: number }[],
  stock: ReadonlyMap<string, StockedPart>,
): PickLine {
  const still = stillWanted([{ slot, part, quantity, instead }], inBin)[0]?.quantity ?? 0;
  const of = (code: string) => ({
    name: stock.get(code)?.name ?? code,
    onHand: stock.get(code)?.onHand ?? 0,
  });
  return {
    ...{ slot, part, wanted: quantity, there: quantity - still, ...of(part) },
    unit: stock.get(part)?.unit ?? '',
    instead: instead.map((code) => ({ part: code, ...of(code) })),
  };
}
