import type { Recipe } from './recipe.ts';

/** Every material the recipes spray or mix in, each once. A mix's base goes by the name of what is mixed. */
export const materialsOf = (recipes: readonly Pick<Recipe, 'steps'>[]): string[] => [
  ...new Set(
    recipes.flatMap(({ steps }) =>
      steps.flatMap((step) =>
        step.kind === 'coat'
          ? [step.spec.material, ...(step.mix?.parts.slice(1).map(({ name }) => name) ?? [])]
          : [],
      ),
    ),
  ),
];

/**
 * Litres of a material that one coat takes: what must land on the area, and what misses it.
 * Area in m², wet film in µm (1 µm on 1 m² is 1 cm³), transfer efficiency in %.
 * @throws RangeError for an area or film that is not above 0, or a transfer outside 0…100 %.
 */
export function coatLitres(coat: { areaM2: number; wetUm: number; transferPct: number }): number {
  const { areaM2, wetUm, transferPct } = coat;
  if (!(areaM2 > 0 && wetUm > 0 && transferPct > 0 && transferPct <= 100))
    throw new RangeError(
      `coatLitres: area and film must be above 0, transfer above 0 to 100 %, got ${areaM2} m², ${wetUm} µm, ${transferPct} %`,
    );
  return (areaM2 * wetUm) / 1000 / (transferPct / 100);
}

/** Stock of one lot. */
export interface StockLot {
  code: string;
  leftLitres: number;
  /** Null: keeps. */
  expiresMs: number | null;
}

/** What a rack ahead takes of a material by its recipe, and when it could want it at the soonest. */
export interface Demand {
  batch: string;
  litres: number;
  atMs: number;
}

export interface Supply {
  /** Usable now: lots past their date do not count. */
  litres: number;
  /** What the racks ahead take, litres. */
  plannedLitres: number;
  /** The first rack the stock does not reach; null: it reaches them all. */
  runsOut: { batch: string; atMs: number } | null;
  /** What the stock lacks for all of them, litres. */
  shortLitres: number;
  /** Of the stock, what will be past its date before anybody wants it, litres. */
  wastedLitres: number;
}

/**
 * How far a stock reaches: the racks ahead take theirs in the order in which they could want it, each out of the lots that
 * end soonest, and of none that is past its date by then.
 */
export function supplyAhead(options: {
  lots: readonly StockLot[];
  demand: readonly Demand[];
  nowMs: number;
}): Supply {
  const { nowMs } = options;
  const ends = ({ expiresMs }: StockLot): number => expiresMs ?? Infinity;
  const lots = options.lots
    .filter((lot) => lot.leftLitres > 0 && ends(lot) > nowMs)
    .toSorted((a, b) => ends(a) - ends(b) || a.code.localeCompare(b.code))
    .map((lot) => ({ ...lot }));
  const litres = lots.reduce((sum, lot) => sum + lot.leftLitres, 0);
  let [plannedLitres, shortLitres, lastMs] = [0, 0, nowMs];
  let runsOut: Supply['runsOut'] = null;
  for (const { batch, litres: wanted, atMs } of options.demand.toSorted(
    (a, b) => a.atMs - b.atMs || a.batch.localeCompare(b.batch),
  )) {
    plannedLitres += wanted;
    lastMs = Math.max(lastMs, atMs);
    let open = wanted;
    for (const lot of lots.filter((one) => ends(one) > atMs)) {
      const taken = Math.min(open, lot.leftLitres);
      lot.leftLitres -= taken;
      open -= taken;
    }
    if (open <= 1e-9) continue;
    shortLitres += open;
    runsOut ??= { batch, atMs };
  }
  const wastedLitres = lots
    .filter((lot) => ends(lot) <= lastMs)
    .reduce((sum, lot) => sum + lot.leftLitres, 0);
  return { litres, plannedLitres, runsOut, shortLitres, wastedLitres };
}
