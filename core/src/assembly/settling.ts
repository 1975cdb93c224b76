import { summarise } from '../stats/descriptive.ts';
import { limitsWords, valueWords, type Check } from '../machining/check.ts';
import { isInside, type Measured } from './setup.ts';

/**
 * How far an instrument's action moved while it settled under string tension: mean of the second measuring minus
 * mean of the first, mm, positive when the strings rose.
 * @throws RangeError when either list is empty.
 */
export function settlingDriftMm(beforeMm: readonly number[], afterMm: readonly number[]): number {
  return summarise(afterMm).mean - summarise(beforeMm).mean;
}

/** What one value of the second look is held against. */
export interface DriftLimit {
  check: Check;
  /** It may move so far either way, in the unit of the check; null: only where it is now is judged. */
  drift: number | null;
}

/** One value of the second look. */
export interface SettledItem {
  check: Check;
  before: number | null;
  after: number | null;
  /** After minus before; null: one of the two is not known. */
  drift: number | null;
  movedTooFar: boolean;
  /** It lies outside its limits now, however little it moved. */
  outside: boolean;
}

export interface SettledJudgement {
  verdict: 'pass' | 'measure' | 'back';
  items: SettledItem[];
  /** What is wrong or missing, in words, without the instrument's name; empty where all is right. */
  words: string[];
  /** The same as one sentence. */
  sentence: string;
}

/** Values are read to a thousandth; their differences are not finer. */
const ROUNDING = 1e-9;

/**
 * The second look at a settled instrument: how far each value moved since set-up, and whether it still lies inside its limits.
 * A value that was never read before is judged by its limits alone.
 * @param before what was read at set-up, by key of the check
 * @param after what was read when the settling was over; a value that is missing is still to be read
 */
export function settleDrift(
  before: Measured,
  after: Measured,
  limits: readonly DriftLimit[],
): SettledJudgement {
  const items = limits.map(({ check, drift: limit }): SettledItem => {
    const [was, is] = [before[check.key], after[check.key]];
    const drift = was === undefined || is === undefined ? null : is - was;
    return {
      ...{ check, before: was ?? null, after: is ?? null, drift },
      movedTooFar: limit !== null && drift !== null && Math.abs(drift) > limit + ROUNDING,
      outside: is !== undefined && !isInside(check, is),
    };
  });
  const wrong = items.flatMap((item, i) => [
    ...(item.movedTooFar ? [driftWords(item, limits[i]?.drift ?? 0)] : []),
    ...(item.outside
      ? [
          `${item.check.name.toLowerCase()} is ${valueWords(item.check, item.after ?? 0)}, limits ${limitsWords(item.check)}`,
        ]
      : []),
  ]);
  const open = items.filter(({ after: is }) => is === null).map(({ check }) => check.name.toLowerCase());
  if (wrong.length > 0)
    return { verdict: 'back', items, words: wrong, sentence: `Back to set-up: ${wrong.join('; ')}.` };
  if (open.length > 0)
    return { verdict: 'measure', items, words: open, sentence: `Second look is due: ${open.join(', ')}.` };
  return { verdict: 'pass', items, words: [], sentence: 'Passes: it held still.' };
}

const driftWords = ({ check, drift }: SettledItem, limit: number): string =>
  `${check.name.toLowerCase()} moved ${signed(drift ?? 0)} ${check.unit}, limit ${limit.toFixed(2)} ${check.unit}`;

/** '+0.12', '−0.05', as it is read. */
export const signed = (value: number): string => `${value >= 0 ? '+' : '−'}${Math.abs(value).toFixed(2)}`;
