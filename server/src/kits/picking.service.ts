import {
  billed,
  binOf,
  count,
  instrumentsFor,
  isRefusal,
  lineOf,
  optionsOfBill,
  pickedOtherwise,
  pieceCode,
  refuse,
  withUsual,
  type BatchState,
  type Bill,
  type BilledPart,
  type BodyOf,
  type Choices,
  type KitPart,
  type OptionBook,
  type PieceState,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { FactsService, type Rack } from '../log/facts.service.ts';
import { Refused } from '../log/refused.ts';
import { OptionBooksService } from '../orders/option-books.service.ts';
import { BillsService } from './bills.service.ts';
import { StoreService, type StockedPart } from './store.service.ts';

/** What one instrument is to be: by its tag, or as usual where it is built for stock. */
export function choicesOf(state: BatchState, piece: PieceState, book: OptionBook | undefined): Choices {
  const spec = lineOf(state, piece);
  if (spec) return Object.fromEntries(spec.lines.map(({ option, value }) => [option, value]));
  return book ? withUsual(book, {}) : {};
}

/** What a bin still wants of its bill. */
export const stillWanted = (wants: readonly BilledPart[], there: readonly KitPart[]): BilledPart[] =>
  wants
    .map((want) => ({
      ...want,
      quantity: there.reduce(
        (left, { slot, quantity }) => (slot === want.slot ? left - quantity : left),
        want.quantity,
      ),
    }))
    .filter(({ quantity }) => quantity > 0);

/** Holds what is laid into bins against the bill of each instrument, when it is filed. */
@Injectable()
export class PickingService {
  constructor(
    facts: FactsService,
    private readonly bills: BillsService,
    private readonly books: OptionBooksService,
    private readonly store: StoreService,
  ) {
    facts.register({
      kit: (manager, rack, body) => this.picked(manager, rack, body),
      'kit-back': (manager, rack, body) => this.putBack(manager, rack, body),
    });
  }

  /** A kit with what it still wants beside what is laid into it. @throws Refused */
  private async picked(manager: EntityManager, rack: Rack, body: BodyOf<'kit'>): Promise<BodyOf<'kit'>> {
    const { missing: _told, choices: _by, ...asked } = body;
    const pieces = instrumentsFor(rack.state, rack.route, asked);
    // The reducer says why.
    if (isRefusal(pieces)) return asked;
    await this.store.enter(manager);
    const { wants, choices } = await this.wantsOf(manager, rack.state, pieces);
    for (const piece of pieces) refuseOtherwise(rack.state, piece);
    if (wants.length === 0)
      throw new Refused(refuse('bad-value', `nobody has said which parts a ${rack.state.model} wants`));
    const still = stillWanted(wants, inBins(rack.state, pieces));
    if (still.length === 0)
      throw new Refused(
        refuse('taken', `the kit of ${named(rack.state, pieces)} is picked and whole`, 'pieces'),
      );
    const parts = asked.parts
      ? asBilled(asked.parts, still)
      : await this.fromTheShelf(manager, rack.state, { still, bins: pieces.length });
    const missing = stillWanted(still, parts).map(({ slot, part, quantity }) => ({ slot, part, quantity }));
    const positions = pieces.map(({ position }) => position);
    return { ...asked, count: undefined, pieces: positions, parts, missing, choices };
  }

  /** Parts put back, with what their bins want then. @throws Refused */
  private async putBack(
    manager: EntityManager,
    { state, route }: Rack,
    body: BodyOf<'kit-back'>,
  ): Promise<BodyOf<'kit-back'>> {
    const { missing: _told, choices: _by, ...asked } = body;
    const pieces = instrumentsFor(state, route, asked);
    if (isRefusal(pieces)) return asked;
    await this.store.enter(manager);
    const { wants, choices } = await this.wantsOf(manager, state, pieces);
    const out = asked.parts ?? inBins(state, pieces);
    const left = [...inBins(state, pieces), ...out.map((part) => ({ ...part, quantity: -part.quantity }))];
    const missing = stillWanted(wants, left).map(({ slot, part, quantity }) => ({ slot, part, quantity }));
    const positions = pieces.map(({ position }) => position);
    return { ...asked, count: undefined, pieces: positions, missing, choices };
  }

  /** What the bill of instruments that are alike wants, and by which options; nothing where there is none. @throws Refused when they are not alike */
  private async wantsOf(
    manager: EntityManager,
    state: BatchState,
    pieces: readonly PieceState[],
  ): Promise<{ wants: readonly BilledPart[]; choices: Record<string, string> }> {
    const bill = (await this.bills.known(manager)).get(state.model);
    // What nobody wants any more can still be put back.
    if (!bill || bill.lines.length === 0) return { wants: [], choices: {} };
    const book = await this.books.of(state.model, manager);
    const [first, ...others] = pieces.map((piece) => kitOf(bill, choicesOf(state, piece, book)));
    if (!first) throw new Error('wantsOf: no instrument is meant');
    if (others.some((other) => JSON.stringify(other) !== JSON.stringify(first)))
      throw new Refused(
        refuse(
          'ambiguous',
          `the kits of ${named(state, pieces)} are not alike: pick them one by one`,
          'pieces',
        ),
      );
    return first;
  }

  /** All that is wanted, as far as it is there: what the bill names, or what may stand in for it. @throws Refused when nothing is */
  private async fromTheShelf(
    manager: EntityManager,
    state: BatchState,
    { still, bins }: { still: readonly BilledPart[]; bins: number },
  ): Promise<KitPart[]> {
    const codes = still.flatMap(({ part, instead }) => [part, ...instead]);
    const stock = await this.store.stock(codes, manager, state);
    const left = new Map(stock.map(({ code, onHand }) => [code, onHand]));
    const parts = still.flatMap(({ slot, part, quantity, instead }): KitPart[] => {
      const taken = [part, ...instead].find((code) => (left.get(code) ?? 0) >= quantity * bins);
      if (taken === undefined) return [];
      left.set(taken, (left.get(taken) ?? 0) - quantity * bins);
      return [{ slot, part: taken, quantity }];
    });
    if (parts.length === 0)
      throw new Refused(refuse('not-enough', `none of it is there: ${shelfWords(still, stock)}`, 'parts'));
    return parts;
  }
}

/** What one instrument's kit wants, and the values of the options its bill asks about. */
function kitOf(
  bill: Bill,
  choices: Choices,
): { wants: readonly BilledPart[]; choices: Record<string, string> } {
  const asked = optionsOfBill(bill).flatMap((option) => {
    const value = choices[option];
    return value === undefined ? [] : [[option, value] as const];
  });
  return { wants: billed(bill, choices), choices: Object.fromEntries(asked) };
}

const named = ({ code }: BatchState, pieces: readonly PieceState[]): string =>
  pieces.length === 1 ? pieceCode(code, pieces[0]?.position ?? 0) : count(pieces.length, 'instrument');

/** A bin that was picked for another spec is put back first. @throws Refused */
function refuseOtherwise(state: BatchState, piece: PieceState): void {
  const bin = binOf(state, piece.position);
  const changed = bin && pickedOtherwise(state, piece, bin);
  if (!changed) return;
  throw new Refused(
    refuse(
      'other-option',
      `the kit of ${pieceCode(state.code, piece.position)} was picked for ${changed.name} '${changed.was}', its tag says ${changed.is}: put it back first`,
      'pieces',
    ),
  );
}

/** What lies in bins that are alike. @throws Refused when they are not */
function inBins(state: BatchState, pieces: readonly PieceState[]): KitPart[] {
  const [first = [], ...others] = pieces.map(({ position }) => binOf(state, position)?.parts ?? []);
  if (others.some((other) => JSON.stringify(other) !== JSON.stringify(first)))
    throw new Refused(
      refuse(
        'ambiguous',
        `the bins of ${named(state, pieces)} do not hold the same: take them one by one`,
        'pieces',
      ),
    );
  return first;
}

/** What was told to be laid in, held against what is wanted. @throws Refused for a part the bill does not name, or too many of it */
function asBilled(parts: readonly KitPart[], still: readonly BilledPart[]): KitPart[] {
  for (const { slot, part, quantity } of parts) {
    const want = still.find((one) => one.slot === slot);
    if (!want) throw new Refused(refuse('bad-value', `nothing more is wanted for ${slot}`, 'parts'));
    if (part !== want.part && !want.instead.includes(part))
      throw new Refused(
        refuse(
          'bad-value',
          `${part} is not what goes in for ${slot}, and may not stand in for ${want.part}`,
          'parts',
        ),
      );
    const of = parts.reduce((sum, one) => (one.slot === slot ? sum + one.quantity : sum), 0);
    if (of > want.quantity)
      throw new Refused(
        refuse(
          'bad-value',
          `${want.quantity} are wanted for ${slot}, not ${of} (${quantity} of ${part})`,
          'parts',
        ),
      );
  }
  return [...parts];
}

const shelfWords = (still: readonly BilledPart[], stock: readonly StockedPart[]): string =>
  still
    .slice(0, 3)
    .map(({ slot, part }) => `${slot} (${stock.find(({ code }) => code === part)?.onHand ?? 0} of ${part})`)
    .join(', ');
