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

/** Stock of one lot, oldest use first: what has the nearest end is taken first. */
export interface StockLot {
  code: string;
  leftLitres: number;
  /** Null: keeps. */
  expiresMs: number | null;
}

export interface Supply {
  /** Usable now: lots past their date do not count. */
  litres: number;
  litresADay: number;
  /** Null: nothing is used. */
  days: number | null;
  /** Of the stock, what will be past its date before it could be used, litres. */
  wastedLitres: number;
}

const DAY_MS = 24 * 3_600_000;

/**
 * Days a stock lasts at a steady use, each lot used up in order of its date and only until that date.
 * @throws RangeError for a use below 0.
 */
export function daysOfSupply(options: {
  lots: readonly StockLot[];
  litresADay: number;
  nowMs: number;
}): Supply {
  const { lots, litresADay, nowMs } = options;
  if (!(litresADay >= 0))
    throw new RangeError(`daysOfSupply: litresADay must be 0 or more, got ${litresADay}`);
  const usable = lots
    .filter(({ expiresMs, leftLitres }) => leftLitres > 0 && (expiresMs === null || expiresMs > nowMs))
    .toSorted(
      (a, b) => (a.expiresMs ?? Infinity) - (b.expiresMs ?? Infinity) || a.code.localeCompare(b.code),
    );
  const litres = usable.reduce((sum, lot) => sum + lot.leftLitres, 0);
  if (litresADay === 0) return { litres, litresADay, days: null, wastedLitres: 0 };
  let days = 0;
  let wastedLitres = 0;
  for (const { leftLitres, expiresMs } of usable) {
    const wanted = leftLitres / litresADay;
    const lasts = expiresMs === null ? Infinity : Math.max(0, (expiresMs - nowMs) / DAY_MS - days);
    days += Math.min(wanted, lasts);
    wastedLitres += Math.max(0, wanted - lasts) * litresADay;
  }
  return { litres, litresADay, days, wastedLitres };
}
