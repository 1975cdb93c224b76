import { DAY_MS, HOUR_MS, isRefusal, kitsToPick, randomStream, type PartAsked } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import { KitsService } from '../kits/kits.service.ts';
import { PartsService } from '../kits/parts.service.ts';
import { BillRow } from '../kits/rows.ts';
import type { LogService } from '../log/log.service.ts';
import type { PlannedFiling } from './history.ts';
import { BILLS, FIRST_PART, partCode, PARTS } from './tarrow-kits.ts';

/** The store was written into the log so long ago, days. */
const KEPT_DAYS = 88;
/** Two deliveries of what is used came meanwhile. */
const DELIVERED_DAYS_AGO = [46, 19];
/** Of what was used, what stood on the shelves at first. */
const FIRST_SHARE = 0.4;
/** What the buyer forgot, and what comes late. */
const FORGOTTEN = 'coil-soap';
const LATE = 'bridge-4';
const LATE_DAYS = 6;
/** So many of it are left. */
const LEFT: Record<string, number> = { [FORGOTTEN]: 1, [LATE]: 5 };
const BUYER = 'quill';
const STOREKEEPER = 'fenn';
/** Racks whose bins stand ready. */
const BINS_READY = 2;
/** Parts are ordered by the ten. */
const TEN = 10;

/** Parts that kits took in a history, by key, as far as instruments were assembled as usual. */
function usedIn(history: readonly PlannedFiling[]): Map<string, number> {
  const used = new Map<string, number>();
  for (const { actions } of history)
    for (const action of actions)
      if (action.type === 'kit')
        for (const { part, quantity } of action.parts ?? [])
          used.set(part, (used.get(part) ?? 0) + quantity * (action.pieces?.length ?? 0));
  return used;
}

interface Store {
  manager: EntityManager;
  parts: PartsService;
  nowMs: number;
}

/** The store before the first kit: every part with what was counted, and what came in since, so that all kits could be picked. */
export async function keepParts(
  { manager, parts, nowMs }: Store,
  history: readonly PlannedFiling[],
  seed: number,
): Promise<void> {
  await manager.insert(
    BillRow,
    BILLS.map((bill) => ({
      ...{ ...bill, revision: 1, person: 'ostrander', madeAt: new Date(nowMs - KEPT_DAYS * DAY_MS) },
    })),
  );
  const used = usedIn(history);
  const random = randomStream(seed);
  for (const [i, { key, ...words }] of PARTS.entries()) {
    const keptMs = nowMs - KEPT_DAYS * DAY_MS + i * 60_000;
    const code = `C-${FIRST_PART + i}`;
    await parts.beginWithin(
      manager,
      { key: `tarrow-part-${key}`, by: BUYER, atMs: keptMs, part: { type: 'part', ...words } },
      keptMs,
    );
    const taken = used.get(code) ?? 0;
    const most = Math.max(
      1,
      ...BILLS.flatMap(({ lines }) =>
        lines.filter((line) => line.part === code).map(({ quantity }) => quantity),
      ),
    );
    const left = LEFT[key] ?? most * (taken > 0 ? random.between(44, 60) : random.between(8, 16));
    let n = 0;
    const file = (asked: PartAsked, atMs: number): Promise<unknown> =>
      parts.changeWithin(
        manager,
        { key: `tarrow-part-${key}-${(n += 1)}`, by: BUYER, atMs, part: code, asked },
        atMs,
      );
    const first = taken === 0 ? left : Math.ceil(FIRST_SHARE * taken);
    await file({ type: 'part-count', quantity: first }, keptMs + HOUR_MS);
    const rest = taken + left - first;
    if (taken === 0) continue;
    for (const [d, daysAgo] of DELIVERED_DAYS_AGO.entries()) {
      const quantity = d === 0 ? Math.ceil(rest / 2) : Math.floor(rest / 2);
      const orderedMs = nowMs - (daysAgo + words.leadDays) * DAY_MS;
      const cameMs = nowMs - daysAgo * DAY_MS;
      await file(
        { type: 'part-order', quantity, expectedMs: cameMs },
        Math.max(orderedMs, keptMs + 2 * HOUR_MS),
      );
      await file({ type: 'part-receive', quantity }, cameMs);
    }
  }
}

interface Now extends Omit<Store, 'manager'> {
  log: LogService;
  kits: KitsService;
  floor: RacksService;
}

/** The store as it is now: the next racks have their bins, the buyer has ordered what is wanted but for two parts. */
export async function kitMoment({ parts, nowMs, log, kits, floor }: Now): Promise<void> {
  let n = 0;
  const file = async (part: string, asked: PartAsked, atMs: number): Promise<void> => {
    const key = `tarrow-now-part-${String((n += 1)).padStart(3, '0')}`;
    const filed = await parts.change({ key, by: BUYER, part, atMs, asked });
    if (isRefusal(filed)) throw new Error(`demo: ${part} ${asked.type} was refused: ${filed.refused}`);
  };
  const late = partCode(LATE);
  const since = { reference: 'T5088', quantity: 60 };
  await file(late, { type: 'part-order', expectedMs: nowMs - 2 * DAY_MS, ...since }, nowMs - 26 * DAY_MS);
  const because = 'their plating bath is down';
  const expectedMs = nowMs + LATE_DAYS * DAY_MS;
  await file(late, { type: 'part-expect', of: 2 + 1, expectedMs, because }, nowMs - 3 * DAY_MS);
  await binsOfNext({ log, kits, floor, nowMs });
  for (const [key, off] of [
    ['screws', -2],
    ['buttons-nickel', 1],
  ] as const) {
    const { onHand } = await parts.part(partCode(key));
    await file(partCode(key), { type: 'part-count', quantity: onHand + off }, nowMs - HOUR_MS);
  }
  const { shortages } = await kits.view(1);
  for (const { part, leadDays, toOrder, hereByMs } of shortages) {
    if (toOrder === 0 || hereByMs === null || part === partCode(FORGOTTEN)) continue;
    const comesMs = Math.max(nowMs + 2 * HOUR_MS, hereByMs - DAY_MS);
    const quantity = TEN * Math.ceil(toOrder / TEN);
    const orderedMs = Math.max(nowMs - 30 * DAY_MS, Math.min(nowMs - DAY_MS, comesMs - leadDays * DAY_MS));
    const reference = `T${5100 + 7 * n}`;
    await file(part, { type: 'part-order', quantity, expectedMs: comesMs, reference }, orderedMs);
  }
}

/** The next racks that come to the benches have their bins, as far as all of it is there. */
async function binsOfNext({ log, kits, floor, nowMs }: Omit<Now, 'parts'>): Promise<void> {
  const { ahead } = await kits.view(30);
  const next = ahead
    .filter(({ bins }) => bins.every(({ standing }) => standing === 'none'))
    .slice(0, BINS_READY);
  let bin = 10;
  for (const [i, { batch }] of next.entries()) {
    const { state, route }: RackInQuestion = await floor.rack(batch);
    const actions = kitsToPick(state, route).map(({ position }) => ({
      ...{ type: 'kit' as const, pieces: [position], bin: String((bin += 1)) },
    }));
    const atMs = Math.max(state.lastMs, nowMs - (2 + i) * HOUR_MS);
    const filed = await log.file({ key: `tarrow-now-kit-${batch}`, by: STOREKEEPER, batch, atMs, actions });
    if (isRefusal(filed)) throw new Error(`demo: the kits of ${batch} were refused: ${filed.refused}`);
  }
}
