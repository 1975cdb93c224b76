import {
  billed,
  orderOfLine,
  pieceAt,
  pieceCode,
  weightForecast,
  withUsual,
  type BatchState,
  type Choices,
  type WeightForecast,
  type WeightTerm,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { RacksService } from '../floor/racks.service.ts';
import { OptionBooksService } from '../orders/option-books.service.ts';
import { OrderViewsService, type OrderLineView } from '../orders/order-views.service.ts';
import { StockService, type WeightWish } from '../wood/stock.service.ts';
import { BillsService } from './bills.service.ts';
import { StoreService } from './store.service.ts';

/** What one instrument of a line will weigh, or does. */
export interface LineWeight extends WeightForecast {
  line: string;
  /** The instrument, or the body it is built on; null: none is begun. */
  piece: string | null;
  /** It was weighed as it stands on the bench. */
  weighed: boolean;
}

/** The whole instrument on the bench. */
const WHOLE = 'weight';
/** What a kit's parts are off by: screws left over, a heavier set of tuners. Default, share of its weight. */
const KIT_SD_SHARE = 0.03;

/** What the instruments of an order will weigh: by its blanks, what was weighed, and the parts of its kit. */
@Injectable()
export class WeightsService {
  constructor(
    private readonly orders: OrderViewsService,
    private readonly floor: RacksService,
    private readonly stock: StockService,
    private readonly bills: BillsService,
    private readonly books: OptionBooksService,
    private readonly store: StoreService,
  ) {
    stock.register({ wishesOf: (racks) => this.wishesOf(racks) });
  }

  /** Of every line that wishes a weight, piece by piece. @throws NotFoundException */
  async ofOrder(code: string): Promise<LineWeight[]> {
    const { lines } = await this.orders.order(code);
    const weights: LineWeight[] = [];
    for (const line of lines)
      if (line.weightKg && line.cancelled === null) weights.push(...(await this.ofLine(line)));
    return weights;
  }

  /** What orders wish of pieces that are not cut yet: the weight, and what all else on the instrument will weigh. */
  private async wishesOf(racks: readonly BatchState[]): Promise<Map<string, WeightWish>> {
    const kinds = new Map(racks.map(({ code, kind }) => [code, kind]));
    const allotted = racks.flatMap(({ pieces }) => pieces.flatMap(({ line }) => line ?? []));
    const orders = new Set(allotted.flatMap((line) => orderOfLine(line)?.order ?? []));
    const wishes = new Map<string, WeightWish>();
    for (const line of await this.orders.wishingWeight([...orders])) {
      const { weightKg: finishedKg, code, model } = line;
      if (!finishedKg) continue;
      const kit = await this.kitOf(model, line.choices);
      for (const { parts } of await this.instrumentsOf(line))
        for (const piece of parts.values()) {
          const kind = kinds.get(pieceAt(piece).batch);
          if (kind === undefined) continue;
          const terms = [...(await this.stock.weightTerms(model, parts, kind)), ...kit];
          const othersKg = terms.length === 0 ? 0 : weightForecast(terms, null).kg;
          wishes.set(piece, { line: code, finishedKg, othersKg });
        }
    }
    return wishes;
  }

  private async ofLine(line: OrderLineView): Promise<LineWeight[]> {
    const kit = await this.kitOf(line.model, line.choices);
    const instruments = await this.instrumentsOf(line);
    const weights: LineWeight[] = [];
    for (const { piece, parts, weighedKg } of instruments) {
      const terms: WeightTerm[] =
        weighedKg === null
          ? [...(await this.stock.weightTerms(line.model, parts)), ...kit]
          : [{ what: 'strung, on the bench', weighedKg }];
      if (terms.length === 0) continue;
      weights.push({
        ...{ line: line.code, piece, weighed: weighedKg !== null },
        ...weightForecast(terms, line.weightKg),
      });
    }
    return weights;
  }

  /** The instruments of a line as far as they are begun, each with the parts it is made of; one that stands for those that are not. */
  private async instrumentsOf(
    line: OrderLineView,
  ): Promise<{ piece: string | null; parts: Map<string, string>; weighedKg: number | null }[]> {
    const whole: { piece: string | null; parts: Map<string, string>; weighedKg: number | null }[] = [];
    const loose = new Map<string, string[]>();
    for (const { batch, kind, part, positions, standing } of line.places) {
      if (standing === 'scrapped') continue;
      if (part) {
        const codes = positions.map((position) => pieceCode(batch, position));
        loose.set(kind, [...(loose.get(kind) ?? []), ...codes]);
        continue;
      }
      const { state } = await this.floor.rack(batch);
      for (const position of positions) {
        const parents = state.pieces.find((one) => one.position === position)?.parents ?? [];
        const sheet = state.sheets?.findLast(
          (one) => one.position === position && one.values[WHOLE] !== undefined,
        );
        whole.push({
          ...{ piece: pieceCode(batch, position), weighedKg: sheet?.values[WHOLE] ?? null },
          parts: new Map(parents.map((parent) => [parent.split('-')[0] ?? '', parent])),
        });
      }
    }
    // Parts that are still apart meet in their order: whatever the joint will do, they weigh the same together.
    const apart = Math.max(0, ...[...loose.values()].map(({ length }) => length));
    for (let i = 0; i < apart; i += 1) {
      const parts = new Map<string, string>();
      for (const [kind, codes] of loose) {
        const piece = codes[i];
        if (piece !== undefined) parts.set(kind, piece);
      }
      whole.push({ piece: [...parts.values()][0] ?? null, parts, weighedKg: null });
    }
    return whole.length < line.quantity
      ? [...whole, { piece: null, parts: new Map<string, string>(), weighedKg: null }]
      : whole;
  }

  /** A kit by the weights of its parts; as its model reckons it where one of them has none, or there is no bill; nothing where that is not said. */
  private async kitOf(model: string, choices: Choices): Promise<WeightTerm[]> {
    const bill = (await this.bills.known()).get(model);
    const wanted = bill ? billed(bill, withUsual(await this.books.of(model), choices)) : [];
    const parts = new Map(
      (await this.store.stock(wanted.map(({ part }) => part))).map((one) => [one.code, one]),
    );
    const grams = wanted.map(({ part, quantity }) => {
      const { weightG = null } = parts.get(part) ?? {};
      return weightG === null ? null : weightG * quantity;
    });
    if (grams.length === 0 || grams.some((one) => one === null)) {
      const kitKg = await this.stock.kitKg(model);
      return kitKg === null
        ? []
        : [{ what: 'kit, as usual', reckonedKg: kitKg, sdKg: 2 * KIT_SD_SHARE * kitKg }];
    }
    const kg = grams.reduce((sum: number, one) => sum + (one ?? 0), 0) / 1000;
    return [{ what: 'kit, by its parts', reckonedKg: kg, sdKg: KIT_SD_SHARE * kg }];
  }
}
