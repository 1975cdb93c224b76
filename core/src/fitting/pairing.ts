import { munkres } from 'munkres';
import { summarise } from '../stats/descriptive.ts';
import { normalCdf } from '../stats/normal.ts';

/** The gap wanted between tenon and pocket, pocket minus tenon, mm, both bounds included. */
export interface GapWindow {
  low: number;
  high: number;
}

/** Wanted gaps by construction. Defaults. */
export const GAP_WINDOWS: Readonly<Record<'set' | 'bolted', GapWindow>> = {
  set: { low: 0.05, high: 0.15 },
  bolted: { low: 0, high: 0.1 },
};

/** More than this is not shimmed or planed away, but kept for the next batch, mm. Default. */
const MOST_REMEDY_MM = 0.6;
/** Gaps are differences of readings with two decimals: anything below this is rounding, mm. */
const ROUNDING_MM = 1e-9;

export interface Pair {
  /** Index in the list of tenons, and of pockets. */
  tenon: number;
  pocket: number;
  gapMm: number;
}

export type Remedy =
  /** Glue a shim to the tenon: the gap is too wide by itself. */
  | { do: 'shim'; byMm: number }
  /** Take so much off the tenon. */
  | { do: 'plane'; byMm: number }
  /** Nothing here comes near it: keep it for the next batch. */
  | { do: 'hold' };

export interface Leftover {
  side: 'tenon' | 'pocket';
  index: number;
  /** The part on the other side it would be made to fit; null when it is kept. */
  with: number | null;
  remedy: Remedy;
}

export interface Pairing {
  pairs: Pair[];
  leftovers: Leftover[];
  /** Σ of how far the gaps are from the middle of the window, mm. */
  totalDeviationMm: number;
}

const round = (mm: number): number => Math.round(mm * 1000) / 1000;

function mustBeWidths(name: string, widthsMm: readonly number[]): void {
  const wrong = widthsMm.findIndex((width) => !(Number.isFinite(width) && width > 0));
  if (wrong >= 0)
    throw new RangeError(`pairParts: ${name} ${wrong + 1} is no width in mm: ${widthsMm[wrong]}`);
}

/** Parts that are to be paired. */
export interface PartsToPair {
  tenonsMm: readonly number[];
  pocketsMm: readonly number[];
  windowMm: GapWindow;
  /** Line of the order each is built for, null for stock; left out: all for stock. Only parts of one line meet. */
  tenonLines?: readonly (string | null)[];
  pocketLines?: readonly (string | null)[];
}

/** Whether two parts are of one line of an order, or both for stock. */
function mayMeet({ tenonLines = [], pocketLines = [] }: PartsToPair, tenon: number, pocket: number): boolean {
  return (tenonLines[tenon] ?? null) === (pocketLines[pocket] ?? null);
}

/**
 * Pairs necks with bodies by measurement: as many pairs inside the window as there can be, and among those the least total
 * deviation from its middle (an assignment problem, solved exactly by the Hungarian method). What is left over is matched
 * in order of width and told what would make it fit.
 * @throws RangeError for a width that is not above nought or a window the wrong way round.
 */
export function pairParts(options: PartsToPair): Pairing {
  const { tenonsMm, pocketsMm, windowMm } = options;
  mustBeWidths('tenon', tenonsMm);
  mustBeWidths('pocket', pocketsMm);
  if (!(windowMm.low <= windowMm.high))
    throw new RangeError(`pairParts: window ${windowMm.low} to ${windowMm.high} is the wrong way round`);
  const middle = (windowMm.low + windowMm.high) / 2;
  const gap = (tenon: number, pocket: number): number =>
    round((pocketsMm[pocket] ?? 0) - (tenonsMm[tenon] ?? 0));
  const fits = (mm: number): boolean => mm >= windowMm.low - ROUNDING_MM && mm <= windowMm.high + ROUNDING_MM;
  // One pair outside the window costs more than every pair inside it together: the number of pairs comes first.
  const half = (windowMm.high - windowMm.low) / 2;
  const outside = (half + 1) * (Math.min(tenonsMm.length, pocketsMm.length) + 1);
  const isPair = (t: number, p: number): boolean => fits(gap(t, p)) && mayMeet(options, t, p);
  const costs = tenonsMm.map((_, t) =>
    pocketsMm.map((_pocket, p) => (isPair(t, p) ? Math.abs(gap(t, p) - middle) : outside)),
  );
  const assigned = tenonsMm.length === 0 || pocketsMm.length === 0 ? [] : munkres(costs);
  const pairs = assigned
    .map(([tenon, pocket]) => ({ tenon, pocket, gapMm: gap(tenon, pocket) }))
    .filter(({ tenon, pocket }) => isPair(tenon, pocket))
    .sort((a, b) => a.pocket - b.pocket);
  return {
    pairs,
    leftovers: leftovers(options, pairs, middle),
    totalDeviationMm: pairs.reduce((sum, pair) => sum + Math.abs(pair.gapMm - middle), 0),
  };
}

/** What to do with parts no partner fits: narrow with narrow, as the least has then to be taken off or put on. */
function leftovers(parts: PartsToPair, pairs: readonly Pair[], middle: number): Leftover[] {
  const { tenonsMm, pocketsMm } = parts;
  const free = (widths: readonly number[], taken: Set<number>): number[] =>
    widths
      .map((_, i) => i)
      .filter((i) => !taken.has(i))
      .sort((a, b) => (widths[a] ?? 0) - (widths[b] ?? 0) || a - b);
  const tenons = free(tenonsMm, new Set(pairs.map((pair) => pair.tenon)));
  const pockets = free(pocketsMm, new Set(pairs.map((pair) => pair.pocket)));
  const found: Leftover[] = [];
  const most = Math.max(tenons.length, pockets.length);
  for (let i = 0; i < most; i += 1) {
    const [tenon, pocket] = [tenons[i], pockets[i]];
    const remedy = tenon === undefined || pocket === undefined ? null : remedyFor(tenon, pocket);
    const together = remedy !== null && remedy.do !== 'hold';
    if (tenon !== undefined)
      found.push({
        side: 'tenon',
        index: tenon,
        with: together ? (pocket ?? null) : null,
        remedy: remedy ?? { do: 'hold' },
      });
    if (pocket !== undefined)
      found.push({
        side: 'pocket',
        index: pocket,
        with: together ? (tenon ?? null) : null,
        remedy: remedy ?? { do: 'hold' },
      });
  }
  return found;

  function remedyFor(tenon: number, pocket: number): Remedy {
    const off = round((pocketsMm[pocket] ?? 0) - (tenonsMm[tenon] ?? 0) - middle);
    if (Math.abs(off) > MOST_REMEDY_MM || !mayMeet(parts, tenon, pocket)) return { do: 'hold' };
    return off > 0 ? { do: 'shim', byMm: off } : { do: 'plane', byMm: -off };
  }
}

/**
 * Share of pairs that would fit if necks were taken to bodies at random, in %: `measuredPct` over all combinations of the
 * measured parts (which is exactly the expectation), `populationPct` from normal populations with their means and spreads,
 * for batches like these not yet cut. Null without a measurement on either side; the second needs two on each.
 */
export function expectedFitShare(options: {
  tenonsMm: readonly number[];
  pocketsMm: readonly number[];
  windowMm: GapWindow;
}): { measuredPct: number; populationPct: number | null } | null {
  const { tenonsMm, pocketsMm, windowMm } = options;
  if (tenonsMm.length === 0 || pocketsMm.length === 0) return null;
  let fitting = 0;
  for (const pocket of pocketsMm) {
    for (const tenon of tenonsMm) {
      const gap = round(pocket - tenon);
      if (gap >= windowMm.low - ROUNDING_MM && gap <= windowMm.high + ROUNDING_MM) fitting += 1;
    }
  }
  const tenon = summarise(tenonsMm);
  const pocket = summarise(pocketsMm);
  const spread = Math.hypot(tenon.sd, pocket.sd);
  const centre = pocket.mean - tenon.mean;
  const known = tenon.count > 1 && pocket.count > 1 && spread > 0;
  return {
    measuredPct: (100 * fitting) / (tenonsMm.length * pocketsMm.length),
    populationPct: known
      ? 100 * (normalCdf((windowMm.high - centre) / spread) - normalCdf((windowMm.low - centre) / spread))
      : null,
  };
}
