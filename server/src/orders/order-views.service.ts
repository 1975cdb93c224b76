import {
  endOfRouteMs,
  groupedBy,
  lineCode,
  pieceCode,
  wantedLines,
  wantedOf,
  workedRoute,
  workingClock,
  type KindsOfModel,
  type OrderChange,
  type OrderLine,
  type OrderState,
  type Stage,
  type Standing,
  type Wanted,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { FindingService, type FoundOrder } from '../assembly/finding.service.ts';
import { JudgedRacksService } from '../flow/judged-racks.service.ts';
import { piecesOfOrders, shippedOfOrders, type OrderedPiece } from '../log/pieces.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { earliestOf, lastKind, type Earliest, type OrderFloor } from './earliest.ts';
import { kindsOfModels } from './kinds-of-model.ts';
import { OrderRow } from './rows.ts';

/** Pieces of one line that stand alike in one rack. */
export interface OrderPlace {
  batch: string;
  kind: string;
  /** It becomes part of an instrument: not one by itself. */
  part: boolean;
  /** 1-based places on the rack. */
  positions: number[];
  pieces: string[];
  operation: string;
  stage: Stage | null;
  standing: Standing;
  sinceMs: number;
  /** The word of the hold they are in, and when it is over as its rule reckons; null: none, or nobody knows. */
  hold: string | null;
  holdEndMs: number | null;
  serials: string[];
}

export interface OrderLineView extends Omit<OrderLine, 'spec'> {
  /** 'O-12/1'. */
  code: string;
  options: { option: string; name: string; value: string; valueName: string }[];
  places: OrderPlace[];
  /** Parts that no rack has yet. */
  unbegun: { kind: string; count: number }[];
  shipped: number;
  /** By its routes and holds alone; null: all of it has left, or nobody can say. */
  earliestMs: number | null;
}

/** One open order in the list of all. */
export interface OrderSummary {
  code: string;
  customer: string | null;
  reference: string | null;
  placedMs: number;
  dueMs: number;
  models: { model: string; quantity: number }[];
  pieces: number;
  shipped: number;
  /** Instruments whose parts no rack has. */
  unbegun: number;
  earliestMs: number | null;
}

export interface OrderView extends Pick<
  OrderState,
  'code' | 'customer' | 'reference' | 'placedMs' | 'dueMs'
> {
  seq: number;
  nowMs: number;
  zone: string;
  changes: OrderChange[];
  lines: OrderLineView[];
  earliestMs: number | null;
}

/** The lines of an order with what decides when they could be through. */
export interface DecidedLines {
  floor: OrderFloor;
  lines: { line: string; model: string; placedMs: number; earliest: Earliest }[];
}

/** Where orders are: their pieces as the log has them, and when they could be through at the earliest. */
@Injectable()
export class OrderViewsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly judged: JudgedRacksService,
    private readonly clock: FactoryClock,
    finding: FindingService,
  ) {
    finding.register({ orders: (words, most) => this.like(words, most) });
  }

  /** Orders of which something is still to leave, due first first. */
  async open(): Promise<OrderSummary[]> {
    return (await this.seenAll(await this.openStates()))
      .map(({ code, customer, reference, placedMs, dueMs, earliestMs, lines }): OrderSummary => {
        const open = lines.filter(({ cancelled }) => cancelled === null);
        return {
          ...{ code, customer, reference, placedMs, dueMs, earliestMs },
          models: open.map(({ model, quantity }) => ({ model, quantity })),
          pieces: open.reduce((sum, { quantity }) => sum + quantity, 0),
          shipped: open.reduce((sum, { shipped }) => sum + shipped, 0),
          unbegun: open.reduce(
            (sum, line) => sum + Math.max(0, ...line.unbegun.map(({ count }) => count)),
            0,
          ),
        };
      })
      .toSorted((a, b) => a.dueMs - b.dueMs || a.code.localeCompare(b.code, 'en', { numeric: true }));
  }

  /** One order, open or not. @throws NotFoundException */
  async order(code: string): Promise<OrderView> {
    const { state, seq, pieces, floor } = await this.standing(code);
    return { ...this.seen(state, pieces, floor), seq, nowMs: floor.nowMs, zone: floor.calendar.zone };
  }

  /** What decides the earliest day of each line of an order that is to be built. @throws NotFoundException */
  async deciding(code: string): Promise<DecidedLines> {
    const { state, pieces, floor } = await this.standing(code);
    const wanted = wantedOf([state], pieces, floor.kinds);
    const lines = wantedLines(state).flatMap(({ number, model, addedMs }) => {
      const own = lineCode(code, number);
      const unbegun = wanted.filter(({ line }) => line === own);
      const there = pieces.filter(({ line }) => line === own);
      const earliest = earliestOf(model, there, unbegun, floor);
      return earliest ? [{ line: own, model, placedMs: addedMs ?? state.placedMs, earliest }] : [];
    });
    return { floor, lines };
  }

  private async standing(code: string) {
    const row = await this.source.getRepository(OrderRow).findOneBy({ code });
    if (!row?.state) throw new NotFoundException(`there is no order ${code}`);
    const { state, seq } = row;
    const [pieces, floor] = await Promise.all([piecesOfOrders(this.source, [code]), this.floor([state])]);
    return { state, seq, pieces, floor };
  }

  /** Orders whose code or customer or reference has these words; newest first. */
  private async like(words: string, most: number): Promise<FoundOrder[]> {
    const part = `%${words.replaceAll(/[\\%_]/g, String.raw`\$&`)}%`;
    const rows = await this.source.query<{ state: OrderState }[]>(
      `SELECT state FROM customer_order
        WHERE state IS NOT NULL AND (code ILIKE $1 OR state ->> 'customer' ILIKE $1 OR state ->> 'reference' ILIKE $1)
        ORDER BY (state ->> 'placedMs')::bigint DESC LIMIT $2`,
      [part, most],
    );
    return rows.map(({ state: { code, customer, reference } }) => ({ code, customer, reference }));
  }

  /** Lines of some orders that wish a weight, with where their pieces are. */
  async wishingWeight(codes: readonly string[]): Promise<OrderLineView[]> {
    const rows = await this.source.query<{ state: OrderState }[]>(
      `SELECT state FROM customer_order
        WHERE code = ANY($1) AND jsonb_path_exists(state, '$.lines[*] ? (@.weightKg != null && @.cancelled == null)')
        ORDER BY code`,
      [codes],
    );
    if (rows.length === 0) return [];
    const states = rows.map(({ state }) => state);
    return (await this.seenAll(states))
      .flatMap(({ lines }) => lines)
      .filter(({ weightKg, cancelled }) => weightKg !== null && cancelled === null);
  }

  private async seenAll(states: readonly OrderState[]): Promise<Omit<OrderView, 'seq' | 'nowMs' | 'zone'>[]> {
    const codes = states.map(({ code }) => code);
    const [pieces, floor] = await Promise.all([piecesOfOrders(this.source, codes), this.floor(states)]);
    const byOrder = groupedBy(pieces, ({ line }) => line.split('/')[0] ?? '');
    return states.map((state) => this.seen(state, byOrder.get(state.code) ?? [], floor));
  }

  /** What is ordered and no rack has, of all open orders. */
  async wanted(): Promise<Wanted[]> {
    const states = await this.openStates();
    const pieces = await piecesOfOrders(
      this.source,
      states.map(({ code }) => code),
    );
    return wantedOf(states, pieces, await this.kinds(states));
  }

  private async openStates(): Promise<OrderState[]> {
    const rows = await this.source.getRepository(OrderRow).findBy({ closed: false });
    const shipped = await shippedOfOrders(
      this.source,
      rows.map(({ code }) => code),
    );
    return rows.flatMap(({ code, pieces, state }) =>
      state && (shipped.get(code) ?? 0) < pieces ? [state] : [],
    );
  }

  private kinds(states: readonly OrderState[]): Promise<KindsOfModel> {
    return kindsOfModels(
      this.setup,
      states.flatMap(({ lines }) => lines.map(({ model }) => model)),
    );
  }

  private async floor(states: readonly OrderState[]): Promise<OrderFloor> {
    const [nowMs, { calendar }, kinds, routes, stations] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.kinds(states),
      this.setup.newestRoutes(),
      this.setup.stations(),
    ]);
    const racks = await this.judged.all(nowMs, calendar);
    const clock = workingClock(calendar, nowMs);
    const known = new Map<string, number>();
    const usual = new Map(routes.map((route) => [`${route.model} ${route.kind}`, workedRoute(route, {})]));
    return {
      ...{ nowMs, calendar, clock, kinds },
      stages: new Map(stations.map(({ code, stage }) => [code, stage])),
      racks: new Map(racks.map((rack) => [rack.state.code, rack])),
      usual: (model, kind) => usual.get(`${model} ${kind}`),
      throughMs: (model, kind, pieces, fromMs) => {
        const route = usual.get(`${model} ${kind}`);
        if (!route) return null;
        // Many orders ask the same: one of that model, begun now.
        const asked = `${route.id} ${pieces} ${fromMs}`;
        const endMs = known.get(asked) ?? endOfRouteMs({ route, pieces, fromMs, calendar, clock });
        known.set(asked, endMs);
        return endMs;
      },
    };
  }

  private seen(
    state: OrderState,
    pieces: readonly OrderedPiece[],
    floor: OrderFloor,
  ): Omit<OrderView, 'seq' | 'nowMs' | 'zone'> {
    const { code, customer, reference, placedMs, dueMs, changes } = state;
    const wanted = wantedOf([state], pieces, floor.kinds);
    const byLine = groupedBy(pieces, ({ line }) => line);
    const lines = state.lines.map(({ spec, ...line }): OrderLineView => {
      const own = lineCode(code, line.number);
      const there = byLine.get(own) ?? [];
      const unbegun = wanted.flatMap(({ line: of, kind, count }) => (of === own ? [{ kind, count }] : []));
      return {
        ...line,
        code: own,
        options: spec.lines.map(({ option, name, value, valueName }) => ({ option, name, value, valueName })),
        places: placesOf(line.model, there, floor),
        unbegun,
        shipped: there.filter(({ standing }) => standing === 'shipped').length,
        earliestMs:
          line.cancelled === null ? (earliestOf(line.model, there, unbegun, floor)?.endMs ?? null) : null,
      };
    });
    const ends = lines.flatMap(({ earliestMs }) => earliestMs ?? []);
    return {
      ...{ code, customer, reference, placedMs, dueMs, changes, lines },
      earliestMs: ends.length > 0 ? Math.max(...ends) : null,
    };
  }
}

/** Where pieces are, those that stand alike together; what became something else is where that is. */
function placesOf(
  model: string,
  pieces: readonly OrderedPiece[],
  { racks, stages, kinds }: OrderFloor,
): OrderPlace[] {
  const last = lastKind(kinds, model);
  const here = pieces.filter(({ standing }) => standing !== 'joined' && standing !== 'parted');
  const alike = groupedBy(here, ({ batch, operation, standing }) => `${batch}|${operation}|${standing}`);
  return [...alike.values()].flatMap((group) => {
    const [first] = group;
    if (!first) return [];
    const { batch, kind, operation, standing } = first;
    const rack = racks.get(batch);
    const known = rack?.route.operations.find(({ key }) => key === operation);
    const hold =
      standing === 'onHold' ? rack?.holds.find(({ dto }) => dto.operation === operation)?.dto : undefined;
    return [
      {
        ...{ batch, kind, standing, part: kind !== last, positions: group.map(({ position }) => position) },
        pieces: group.map(({ position }) => pieceCode(batch, position)),
        operation: known?.name ?? operation,
        stage: stages.get(known?.stations[0] ?? '') ?? null,
        sinceMs: Math.min(...group.map(({ sinceMs }) => sinceMs)),
        ...{ hold: hold?.word ?? null, holdEndMs: hold?.endMs ?? null },
        serials: group.flatMap(({ serial }) => serial ?? []),
      },
    ];
  });
}
