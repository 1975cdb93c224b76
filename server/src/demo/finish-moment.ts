import {
  DAY_MS,
  HOUR_MS,
  hasLeft,
  randomStream,
  TIME_CONSTANTS_TO_BUFF,
  type BatchState,
} from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { FilterChangeRow, MaterialLotRow, MixRow, PanelRow, PanelWeighingRow } from '../finishing/rows.ts';
import { BatchRow } from '../log/rows.ts';
import type { PlannedFiling } from './history.ts';
import { BOOTHS, MATERIAL_LOTS } from './tarrow-finish.ts';

const MIXED = 'catalysed satin';
/** Mixed ten parts to one of hardener and two of thinner. */
const BASE_SHARE = 10 / 13;
const ADDED = [
  { material: 'hardener', share: 1 / 13 },
  { material: 'thinner', share: 2 / 13 },
];
const POT_LIFE_HOURS = 6;
/** A mix is used for so long before a new one is made, hours; its pot life is longer. */
const MIX_EVERY_HOURS = 4;
const LEAST_MIX_LITRES = 3;
/** Drums and cans hold a multiple of so many litres. */
const DRUM_STEP_LITRES = 5;
/** What is left in a drum at the least: a moment at which more was drawn has a larger one. */
const LEAST_REST_LITRES = 1;
/** Mixed for what will be drawn, and this much more. */
const SPARE = 1.1;
/** Filters were changed so many days ago, booth by booth. */
const FILTERS_CHANGED_DAYS_AGO = [42, 9, 16];

/** Lots, and a mix before every satin coat that the last mix is too old for: they must be there when coats are filed. */
export async function finishStock(
  manager: EntityManager,
  history: readonly PlannedFiling[],
  nowMs: number,
): Promise<void> {
  const ago = (days: number | null): Date | null => (days === null ? null : new Date(nowMs - days * DAY_MS));
  const mixed = mixes(history, nowMs);
  const drawn = litresDrawn(history, mixed, nowMs);
  await manager.insert(
    MaterialLotRow,
    MATERIAL_LOTS.map((lot) => ({
      code: lot.code,
      material: lot.material,
      litres: Math.max(lot.litres, drumFor((drawn.get(lot.code) ?? 0) + LEAST_REST_LITRES)),
      receivedAt: new Date(nowMs - lot.receivedDaysAgo * DAY_MS),
      openedAt: ago(lot.openedDaysAgo),
      finishedAt: ago(lot.finishedDaysAgo),
      expiresAt: lot.expiresInDays === null ? null : new Date(nowMs + lot.expiresInDays * DAY_MS),
      person: 'lund',
    })),
  );
  await manager.insert(MixRow, mixed);
  await manager.query("SELECT setval('mix_number', (SELECT 1 + count(*) FROM mix))");
}

function mixes(history: readonly PlannedFiling[], nowMs: number): MixRow[] {
  const made: MixRow[] = [];
  for (const { firstMs, litres } of drawnTogether(history)) {
    const mixedAt = new Date(firstMs - 6 * 60_000);
    const before = made.at(-1);
    if (before)
      before.endedAt = new Date(
        Math.min(mixedAt.getTime(), before.mixedAt.getTime() + POT_LIFE_HOURS * HOUR_MS),
      );
    const inUse = (material: string): string | null => lotInUse(material, mixedAt.getTime(), nowMs);
    made.push({
      ...{ code: `M-${made.length + 1}`, key: `tarrow-mix-${made.length + 1}`, material: MIXED },
      ...{ lot: inUse(MIXED), litres, lotLitres: litres * BASE_SHARE, because: null },
      additions: ADDED.map(({ material, share }) => ({
        ...{ material, lot: inUse(material), litres: litres * share },
      })),
      ...{ mixedAt, potLifeHours: POT_LIFE_HOURS, endedAt: null, person: 'greave' },
    });
  }
  const last = made.at(-1);
  const endMs = (last?.mixedAt.getTime() ?? 0) + POT_LIFE_HOURS * HOUR_MS;
  if (last && endMs < nowMs) last.endedAt = new Date(endMs);
  return made;
}

const drumFor = (litres: number): number => DRUM_STEP_LITRES * Math.ceil(litres / DRUM_STEP_LITRES);

/** The lot of a material that was open at a moment. */
function lotInUse(material: string, atMs: number, nowMs: number): string | null {
  const open = MATERIAL_LOTS.find(
    (one) =>
      one.material === material &&
      nowMs - (one.openedDaysAgo ?? -1) * DAY_MS <= atMs &&
      (one.finishedDaysAgo === null || nowMs - one.finishedDaysAgo * DAY_MS > atMs),
  );
  return open?.code ?? null;
}

/** Litres that coats and mixes draw from each lot. */
function litresDrawn(
  history: readonly PlannedFiling[],
  mixed: readonly MixRow[],
  nowMs: number,
): Map<string, number> {
  const drawn = new Map<string, number>();
  const draw = (lot: string | null, litres: number | null): void => {
    if (lot !== null) drawn.set(lot, (drawn.get(lot) ?? 0) + (litres ?? 0));
  };
  for (const { atMs, drawn: coat } of history)
    if (coat && !coat.mixed) draw(lotInUse(coat.material, atMs, nowMs), coat.litres);
  for (const { lot, lotLitres, additions } of mixed) {
    draw(lot, lotLitres);
    for (const part of additions) draw(part.lot, part.litres);
  }
  return drawn;
}

/** Coats that come out of one mix: those of the hours after its first. It is mixed in half litres, with a little to spare. */
export function drawnTogether(history: readonly PlannedFiling[]): { firstMs: number; litres: number }[] {
  const mixes: { firstMs: number; drawn: number }[] = [];
  for (const { atMs, drawn } of history) {
    if (!drawn?.mixed) continue;
    const last = mixes.at(-1);
    if (last && atMs - last.firstMs < MIX_EVERY_HOURS * HOUR_MS) last.drawn += drawn.litres;
    else mixes.push({ firstMs: atMs, drawn: drawn.litres });
  }
  return mixes.map(({ firstMs, drawn }) => ({
    firstMs,
    litres: Math.max(LEAST_MIX_LITRES, Math.ceil(2 * SPARE * drawn) / 2),
  }));
}

/** Filters, and test panels as they hang now: some long cured, one ahead of its clock, one just begun. */
export async function finishMoment(manager: EntityManager, nowMs: number, seed: number): Promise<void> {
  await manager.insert(
    FilterChangeRow,
    BOOTHS.map(({ code }, i) => ({
      ...{ key: `tarrow-filters-${code}`, booth: code, usedHours: 11.8, person: 'greave' },
      at: new Date(nowMs - (FILTERS_CHANGED_DAYS_AGO[i] ?? 20) * DAY_MS),
    })),
  );
  const rows = await manager.getRepository(BatchRow).find({ order: { code: 'ASC' } });
  const random = randomStream(seed + 5);
  const cleared = rows.flatMap(({ state }) => (state && lastClear(state) ? [state] : []));
  const closed = cleared.filter((state) => state.pieces.every(hasLeft));
  const curing = cleared.filter((state) => state.pieces.some((piece) => piece.operation === 'cure'));
  const chosen = [
    ...closed
      .filter(({ model }) => model !== 'Ratline')
      .slice(-6)
      .map((state) => ({ state, share: random.normal(0.84, 0.05) })),
    ...curing.slice(0, 4).map((state, i) => ({ state, share: i === 0 ? 0.62 : random.normal(0.98, 0.05) })),
  ];
  for (const [i, { state, share }] of chosen.entries()) {
    const coat = lastClear(state);
    if (!coat?.spec || !state.finish) continue;
    const code = `TP-${i + 21}`;
    const planned = state.finish.coats.find(({ step }) => step === 'clear')?.coats ?? 1;
    const filmUm = (planned * coat.spec.wetUm * coat.spec.solidsPct) / 100;
    await manager.insert(PanelRow, {
      ...{ code, key: `tarrow-panel-${code}`, batch: state.code, recipe: state.finish.recipe, step: 'clear' },
      ...{ material: coat.spec.material, filmUm, room: 'Cure room', person: 'lund' },
      sprayedAt: new Date(coat.atMs),
    });
    // Its time constant is the one that the recipe's hours stand for, or a share of it.
    const thickness = (filmUm / coat.spec.referenceUm) ** 2;
    const tau = (share * thickness * coat.spec.hours.buff) / TIME_CONSTANTS_TO_BUFF;
    const days = [0, 0.5, 1, 2, 3, 5, 7, 9, 12, 15];
    const weighings = days
      .map((day) => coat.atMs + day * DAY_MS)
      .filter((atMs) => atMs <= nowMs)
      .map((atMs, j) => ({
        ...{ key: `tarrow-weighing-${code}-${j}`, panel: code, person: 'lund', at: new Date(atMs) },
        grams:
          Math.round(
            1000 * (184 + i + 7.5 * Math.exp(-(atMs - coat.atMs) / HOUR_MS / tau) + random.normal(0, 0.012)),
          ) / 1000,
      }));
    await manager.insert(PanelWeighingRow, weighings);
  }
  await manager.query("SELECT setval('panel_number', 40)");
}

const lastClear = (state: BatchState) => state.coats.findLast(({ step }) => step === 'clear');
