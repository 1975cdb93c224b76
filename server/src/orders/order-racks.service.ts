import {
  closedWords,
  count,
  DAY_MS,
  factoryDate,
  groupIntoRacks,
  orderOfLine,
  refuse,
  startOfFactoryDay,
  type Choices,
  type EntryBody,
  type FactoryCalendar,
  type Option,
  type PlannedRack,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { Filed, FilingOutcome } from '../log/filing.ts';
import { FilingsService } from '../log/filings.service.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import { SetupService } from '../setup/setup.service.ts';
import { OptionBooksService } from './option-books.service.ts';
import { OrderViewsService } from './order-views.service.ts';
import { OrdersService } from './orders.service.ts';

/** A rack of orders that is to be opened. */
export interface OrderRack {
  model: string;
  kinds: readonly string[];
  family: Choices;
  dueMs: number;
  lines: readonly { line: string; count: number }[];
}

/** Racks at once: more would be a week's work. */
export const MOST_OPENED = 40;
/** Hours into its day at which a rack is due: the end of a working day is not known where shifts change. */
const DUE_HOURS = 12;
/** No factory is closed for longer. */
const LONGEST_CLOSED_DAYS = 60;

/** What is ordered and no rack has, put together into racks, and opened: each piece with its tag, partners told. */
@Injectable()
export class OrderRacksService {
  constructor(
    private readonly filings: FilingsService,
    private readonly log: LogService,
    private readonly setup: SetupService,
    private readonly books: OptionBooksService,
    private readonly views: OrderViewsService,
    private readonly orders: OrdersService,
  ) {}

  /** Racks that make sense to run together, due first first. @param asked what a rack holds at most, and how far due days may be apart */
  async plan({ largest, withinDays }: { largest: number; withinDays: number }): Promise<PlannedRack[]> {
    const [wanted, books] = await Promise.all([this.views.wanted(), this.books.all()]);
    const options = new Map(books.map((book) => [book.model, book.options]));
    return groupIntoRacks(wanted, options, { largest: {}, usual: largest, withinDays });
  }

  /** Opens racks for lines of orders in one go: all of them or none. Once this returns, it is committed. */
  async open(asked: { key: string; by: string; racks: readonly OrderRack[] }): Promise<FilingOutcome> {
    const kinds = new Set(asked.racks.flatMap((rack) => rack.kinds));
    return this.filings.transact(
      [...kinds].map((kind) => `new ${kind}`),
      (manager, filedMs) => this.openWithin(manager, asked, filedMs),
    );
  }

  /** The same within a transaction of the caller's. @throws Refused, which must undo that transaction. */
  async openWithin(
    manager: EntityManager,
    { key, by, racks }: { key: string; by: string; racks: readonly OrderRack[] },
    filedMs: number,
  ): Promise<Filed> {
    const [{ calendar }, books] = await Promise.all([this.setup.factory(manager), this.books.all(manager)]);
    await this.orders.hold(manager, ordersOf(racks));
    const entries: { batch: string; body: EntryBody }[] = [];
    const opened: string[] = [];
    let number = 0;
    for (const rack of racks) {
      const options = books.find(({ model }) => model === rack.model)?.options ?? [];
      const codes: string[] = [];
      for (const kind of rack.kinds) {
        number += 1;
        const route = await this.setup.newestRoute(rack.model, kind, manager);
        const finishes = (await this.setup.model(rack.model, manager))?.finish[kind]?.recipes ?? [];
        const filed = await this.log.fileWithin(
          manager,
          {
            ...{ key: number === 1 ? key : `${key}-${number}`, by, batch: null },
            actions: [
              {
                ...{ type: 'open', kind, model: rack.model, quantity: piecesOf(rack) },
                dueMs: workingDayBy(calendar, rack.dueMs, filedMs),
                ...whatItTakes(options, rack.family, { route, finishes }),
              },
            ],
          },
          filedMs,
        );
        if (filed.repeated) return filed;
        const batch = filed.entries[0]?.batch ?? '';
        codes.push(batch);
        entries.push(...allotments(batch, rack));
      }
      entries.push(...partners(codes));
      opened.push(codes.join(' and '));
    }
    const tagged = await this.log.fileTogetherWithin(
      manager,
      { key: `${key}-${number + 1}`, by, asked: { racks } },
      () => Promise.resolve(entries),
      filedMs,
    );
    const pieces = racks.reduce((sum, rack) => sum + piecesOf(rack), 0);
    return {
      ...tagged,
      sentence: `Opened ${opened.join('; ')}: ${count(pieces, 'instrument')} of ${count(ordersOf(racks).length, 'order')}`,
    };
  }
}

const piecesOf = ({ lines }: OrderRack): number => lines.reduce((sum, line) => sum + line.count, 0);

const ordersOf = (racks: readonly OrderRack[]): string[] => [
  ...new Set(racks.flatMap(({ lines }) => lines.flatMap(({ line }) => orderOfLine(line)?.order ?? []))),
];

/** Pieces of a rack given to its lines, in order of place. */
function allotments(batch: string, { lines }: OrderRack): { batch: string; body: EntryBody }[] {
  let next = 1;
  return lines.map(({ line, count: n }) => {
    const pieces = Array.from({ length: n }, (_, i) => next + i);
    next += n;
    return { batch, body: { type: 'allot', line, pieces } };
  });
}

/** Two racks that were opened for each other meet at their join. */
function partners([one, other, ...more]: readonly string[]): { batch: string; body: EntryBody }[] {
  if (one === undefined || other === undefined || more.length > 0) return [];
  return [
    { batch: one, body: { type: 'meet', partner: other } },
    { batch: other, body: { type: 'meet', partner: one } },
  ];
}

/** Recipe and ways that the values of a family ask of one kind, as far as it is finished so and forks there. @throws Refused when two of them ask for different ones */
function whatItTakes(
  options: readonly Option[],
  family: Choices,
  { route, finishes }: { route: Route | undefined; finishes: readonly string[] },
): { recipe?: string; ways?: Record<string, string> } {
  const values = options.flatMap(
    ({ key, values: sold }) => sold.find(({ code }) => code === family[key]) ?? [],
  );
  const asked = values.flatMap(({ recipe }) => recipe ?? []);
  const recipes = [...new Set(asked.filter((recipe) => finishes.includes(recipe)))];
  if (recipes.length > 1)
    throw new Refused(refuse('bad-value', `one rack cannot be finished as ${recipes.join(' and as ')}`));
  const forks = new Set(route?.operations.map(({ key }) => key));
  const ways = Object.fromEntries(
    values.flatMap(({ ways: own = {} }) => Object.entries(own).filter(([fork]) => forks.has(fork))),
  );
  return {
    ...(recipes[0] === undefined ? {} : { recipe: recipes[0] }),
    ...(Object.keys(ways).length > 0 ? { ways } : {}),
  };
}

/** Noon of the last day not after a moment on which the factory works; of the next one where that is past already. */
export function workingDayBy(calendar: FactoryCalendar, dueMs: number, nowMs: number): number {
  const noon = (ms: number): number =>
    startOfFactoryDay(calendar, factoryDate(calendar, ms)) + DUE_HOURS * (DAY_MS / 24);
  const days = Array.from({ length: LONGEST_CLOSED_DAYS }, (_, i) => i);
  const isWorked = (ms: number): boolean =>
    ms > nowMs && closedWords(calendar, factoryDate(calendar, ms)) === undefined;
  const before = days.map((i) => noon(dueMs - i * DAY_MS)).find(isWorked);
  const found = before ?? days.map((i) => noon(Math.max(nowMs, dueMs) + (i + 1) * DAY_MS)).find(isWorked);
  if (found === undefined)
    throw new Refused(refuse('bad-value', 'the factory works on no day near that one'));
  return found;
}
