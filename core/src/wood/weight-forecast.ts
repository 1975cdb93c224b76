import { normalCdf } from '../stats/normal.ts';
import type { KeepBelief } from './keep-fraction.ts';

/** One thing an instrument's weight is made of: weighed, still to be cut out of a blank, or reckoned by its parts. */
export type WeightTerm = { what: string } & (
  | { weighedKg: number }
  | { blankKg: number; blankSdKg: number; keep: KeepBelief; chamberKg: number }
  | { reckonedKg: number; sdKg: number }
);

export interface TermForecast {
  what: string;
  kg: number;
  sdKg: number;
  from: 'weighed' | 'blank' | 'reckoned';
}

export interface WeightForecast {
  kg: number;
  sdKg: number;
  /** Nine in ten lie between. */
  lowKg: number;
  highKg: number;
  /** Share of such instruments inside the window, 0…1; null: no window is wished. */
  insideShare: number | null;
  /** What chambering would have to take out to come to the middle of the window, as far as its bodies may be chambered; 0: nothing. */
  chamberKg: number;
  terms: TermForecast[];
}

/** A shop's scale. Default, kg. */
const SCALE_SD_KG = 0.005;
/** Of a standard normal distribution nine in ten lie within so many deviations. */
const NINE_IN_TEN = 1.6449;

/**
 * What an instrument will weigh: body + neck + kit, each as well as it is known. A part that is not cut yet weighs its blank times
 * the share of it that its model keeps (learnt from pieces weighed before and after); deviations are taken as independent.
 * @param window what it should weigh, kg; null: nobody said
 * @throws RangeError when nothing is known of it, or a weight is not above 0
 */
export function weightForecast(
  terms: readonly WeightTerm[],
  window: { low: number; high: number } | null,
): WeightForecast {
  if (terms.length === 0) throw new RangeError('weightForecast: nothing is known of the instrument');
  const known = terms.map(termForecast);
  const wrong = known.find(({ kg }) => !(kg > 0));
  if (wrong) throw new RangeError(`weightForecast: ${wrong.what} of ${wrong.kg} kg`);
  const kg = known.reduce((sum, one) => sum + one.kg, 0);
  const sdKg = Math.sqrt(known.reduce((sum, one) => sum + one.sdKg ** 2, 0));
  const mayChamberKg = terms.reduce((sum, one) => sum + ('chamberKg' in one ? one.chamberKg : 0), 0);
  const over = window ? kg - (window.low + window.high) / 2 : 0;
  return {
    ...{ kg, sdKg, lowKg: kg - NINE_IN_TEN * sdKg, highKg: kg + NINE_IN_TEN * sdKg },
    insideShare: window && normalCdf((window.high - kg) / sdKg) - normalCdf((window.low - kg) / sdKg),
    chamberKg: Math.max(0, Math.min(mayChamberKg, over)),
    terms: known,
  };
}

function termForecast(term: WeightTerm): TermForecast {
  const { what } = term;
  if ('weighedKg' in term) return { what, kg: term.weighedKg, sdKg: SCALE_SD_KG, from: 'weighed' };
  if ('reckonedKg' in term) return { what, kg: term.reckonedKg, sdKg: term.sdKg, from: 'reckoned' };
  const { blankKg, blankSdKg, keep } = term;
  const sdKg = Math.hypot(keep.mean * blankSdKg, blankKg * keep.sd);
  return { what, kg: blankKg * keep.mean, sdKg, from: 'blank' };
}
