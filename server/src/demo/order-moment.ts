import { DAY_MS, hasLeft, HOUR_MS, lineCode, type BatchState } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import type { BatchRow } from '../log/rows.ts';
import type { LogService } from '../log/log.service.ts';
import { OptionBookRow } from '../orders/rows.ts';
import type { OrdersService } from '../orders/orders.service.ts';
import { workingDayBy } from '../orders/order-racks.service.ts';
import { CUSTOMERS } from './tarrow-bench.ts';
import { OPTION_BOOKS, tarrowOrders, type TarrowOrder } from './tarrow-orders.ts';
import { tarrowCalendar } from './tarrow-works.ts';

/** Who waits for one of them wants it light. */
const SELMA = { label: 'Selma', weightKg: { low: 3.2, high: 3.45 } };
/** Orders that nothing of is begun. */
const BACKLOG = 27;
/** What stands on the racks was ordered so long ago. */
const BEGUN_DAYS_AGO = 70;
const FROM_THE_PAPER = 'ordered on paper, entered from the old book';

interface Filer {
  /** Keys of what was placed, one after the other. */
  nextKey: () => string;
  manager: EntityManager;
  log: LogService;
  orders: OrdersService;
  nowMs: number;
}

/** What is sold, as it was written down before the first of it was built. */
export async function optionBooks(manager: EntityManager, nowMs: number): Promise<void> {
  const made = { person: 'brandt', madeAt: new Date(nowMs - 90 * DAY_MS) };
  await manager.insert(
    OptionBookRow,
    OPTION_BOOKS.map((book) => ({ ...book, ...made })),
  );
}

/** What is ordered, and whose the instruments on the racks are: the order book as it was taken over from paper. */
export async function orderMoment(
  told: Omit<Filer, 'nextKey'>,
  rows: readonly Pick<BatchRow, 'code' | 'kind' | 'state'>[],
  seed: number,
): Promise<void> {
  let placed = 0;
  const nextKey = (): string => `tarrow-order-${String((placed += 1)).padStart(3, '0')}`;
  const filer = { ...told, nextKey };
  const racks = rows.flatMap(({ kind, state }) => (kind === 'I' && state ? [state] : []));
  for (const [i, rack] of racks.entries()) await beginning(filer, rack, i);
  for (const order of tarrowOrders(seed, BACKLOG)) await place(filer, order);
  const necks = rows.find(
    ({ kind, state }) =>
      kind === 'N' && state?.pieces.some((p) => p.operation === 'board' && p.standing === 'inHand'),
  );
  if (!necks?.state) return;
  const { model, quantity } = necks.state;
  const bodies = rows.find(
    ({ kind, state }) => kind === 'B' && state?.model === model && state.quantity === quantity,
  );
  await caught(filer, necks.state, bodies?.state ?? null);
}

async function place({ manager, orders, nowMs, nextKey }: Filer, order: TarrowOrder): Promise<string> {
  const { customer, reference, placedDaysAgo, dueInDays, lines } = order;
  const filed = await orders.placeWithin(
    manager,
    {
      ...{ key: nextKey(), by: 'brandt', customer, reference },
      atMs: nowMs - placedDaysAgo * DAY_MS,
      dueMs: workingDayBy(tarrowCalendar(nowMs), nowMs + dueInDays * DAY_MS, nowMs),
      lines,
    },
    nowMs - HOUR_MS,
  );
  return filed.entries[0]?.batch ?? '';
}

/** A rack of instruments belongs to a dealer, but for one or two that players wait for. */
async function beginning(filer: Filer, rack: BatchState, i: number): Promise<void> {
  const { nowMs } = filer;
  const places = rack.pieces.filter((piece) => !hasLeft(piece)).map(({ position }) => position);
  const dueInDays = Math.max(11, Math.round((rack.dueMs - nowMs) / DAY_MS) + 12);
  const dealer = await place(filer, {
    ...{ customer: CUSTOMERS[i % CUSTOMERS.length] ?? '', reference: `H${3000 + 17 * i}` },
    ...{ placedDaysAgo: BEGUN_DAYS_AGO - i, dueInDays },
    lines: [{ model: rack.model, quantity: places.length, choices: {} }],
  });
  await allot(filer, rack, places, lineCode(dealer, 1));
}

/** A neck of a rack was about to get the wrong board: it was held against its tag, and caught. */
async function caught(filer: Filer, rack: BatchState, bodies: BatchState | null): Promise<void> {
  const { log, manager, nowMs } = filer;
  const places = rack.pieces.filter((piece) => !hasLeft(piece)).map(({ position }) => position);
  const [first, ...others] = places;
  if (first === undefined || others.length === 0) return;
  const lines: Omit<TarrowOrder['lines'][number], 'model'>[] = [
    { quantity: others.length, choices: {} },
    { quantity: 1, choices: { board: 'ebony', frets: 'jumbo' }, ...SELMA },
  ];
  const order = await place(filer, {
    ...{ customer: 'The Low String, Ambry', reference: 'H4410', placedDaysAgo: 31, dueInDays: 38 },
    lines: lines.map((line) => ({ model: rack.model, ...line })),
  });
  for (const parts of bodies ? [rack, bodies] : [rack]) {
    await allot(filer, parts, others, lineCode(order, 1));
    await allot(filer, parts, [first], lineCode(order, 2));
  }
  const confirmed = { type: 'confirm' as const, operation: 'board', option: 'board' };
  for (const [name, value, minutesAgo] of [
    ['all', 'rosewood', 25],
    ['right', 'ebony', 18],
  ] as const)
    await log.fileWithin(
      manager,
      {
        ...{ key: `tarrow-now-tag-${name}`, by: 'oakes', batch: rack.code },
        atMs: nowMs - (minutesAgo / 60) * HOUR_MS,
        actions: [{ ...confirmed, value, ...(name === 'right' ? { pieces: [first] } : {}) }],
      },
      nowMs,
    );
}

async function allot(
  { log, manager, nowMs }: Filer,
  { code: batch, lastMs }: BatchState,
  pieces: number[],
  line: string,
): Promise<void> {
  const action = { type: 'allot' as const, pieces, line, because: FROM_THE_PAPER };
  await log.fileWithin(
    manager,
    {
      ...{ key: `tarrow-now-allot-${batch}-${line.replace('/', '-')}`, by: 'brandt', batch },
      ...{ atMs: Math.max(lastMs, nowMs - HOUR_MS), actions: [action] },
    },
    nowMs,
  );
}
