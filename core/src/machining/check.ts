/** One thing that is measured at an operation, with its limits. */
export interface Check {
  /** Unique within the operation: 'pocket-width'. */
  key: string;
  name: string;
  /** Of all its values: 'mm', 'Hz', 'g'. */
  unit: string;
  nominal: number;
  /** Spec limits, both included; null: no limit on that side. */
  lower: number | null;
  upper: number | null;
  /** The first piece off a new set-up must pass it before the load goes on. */
  firstPiece: boolean;
  /** Pieces measured of each load; 1 gives a chart of individuals, more an X̄–R chart. */
  sample: number;
  /** Every piece is measured before it is through; absent: a sample will do. */
  every?: boolean;
}

/** The check that 'measure' fills: action at fret 12. */
export const ACTION_CHECK = 'action';
/** A check that is looked at, not measured: 1 is yes, 0 is no. */
export const YES_NO = 'yes';

/** It is looked at, not measured: its value is 1 for yes and 0 for no. */
export const isYesNo = ({ unit }: Pick<Check, 'unit'>): boolean => unit === YES_NO;

/** '57.4 mm', 'no'. */
export const valueWords = ({ unit }: Pick<Check, 'unit'>, value: number): string =>
  unit === YES_NO ? (value >= 1 ? 'yes' : 'no') : `${value} ${unit}`;

/** Values of one look at a batch. */
export interface CheckSet {
  atMs: number;
  operation: string;
  /** Key of the check. */
  check: string;
  /** Places on the rack, one for each value; empty when they were not told apart. */
  positions: number[];
  values: number[];
  /** Load they were cut in; absent: none was known. */
  load?: string;
  /** Code of the person who filed it; absent: filed before that was kept. */
  by?: string;
  /** Typed by a person, sent by a gauge, or reckoned from what was planed off or glued on since it was measured. */
  source: 'typed' | 'gauge' | 'reckoned';
}

export interface CheckJudgement {
  pass: boolean;
  /** Values outside the limits. */
  low: number;
  high: number;
  /** One sentence with its numbers. */
  sentence: string;
}

const MM_PER_INCH = 25.4;
/** A value this much nearer to the nominal in the other unit was read in that unit. Share of the nominal. */
const SLIP_WITHIN = 0.1;
/** A value this far from its nominal is looked at for a slip of units. Share of the nominal. */
const SLIP_BEYOND = 0.5;

/** What its limits ask: '57.3–57.5 mm', '±3 cents', 'at least 3 mm', 'must be yes'. */
export const limitsWords = ({ lower, upper, unit }: Pick<Check, 'lower' | 'upper' | 'unit'>): string => {
  if (unit === YES_NO) return 'must be yes';
  if (lower !== null && upper !== null && lower === -upper) return `±${upper} ${unit}`;
  if (lower !== null && upper !== null)
    return lower < 0 ? `${lower} to ${upper} ${unit}`.replaceAll('-', '−') : `${lower}–${upper} ${unit}`;
  if (lower !== null) return `at least ${lower} ${unit}`;
  return upper === null ? `no limits, ${unit}` : `at most ${upper} ${unit}`;
};

/** Are all values inside the limits of the check? Bounds count as inside. No value at all does not pass. */
export function judgeCheck(check: Check, values: readonly number[]): CheckJudgement {
  const low = values.filter((value) => check.lower !== null && value < check.lower).length;
  const high = values.filter((value) => check.upper !== null && value > check.upper).length;
  const pass = values.length > 0 && low + high === 0;
  const limits = limitsWords(check);
  if (values.length === 0) return { pass, low, high, sentence: `${check.name}: nothing measured yet.` };
  const [only] = values;
  const shown =
    only !== undefined && values.length === 1 ? valueWords(check, only) : `${values.length} measured`;
  const outside = [low > 0 ? `${low} under` : '', high > 0 ? `${high} over` : ''].filter(Boolean).join(', ');
  return {
    pass,
    low,
    high,
    sentence: pass
      ? `${check.name}: ${shown}, inside ${limits}.`
      : `${check.name}: ${shown}, ${values.length === 1 ? 'outside' : outside + ' of'} ${limits}.`,
  };
}

export interface UnitSlip {
  /** Unit the value seems to have been read in. */
  readIn: 'in' | 'mm';
  /** What it would be in the check's unit. */
  meant: number;
}

/**
 * A length typed in the wrong unit: far from its nominal as it stands, but near it times or over 25.4. Null for
 * other units than mm and in, and for values that are merely bad.
 */
export function unitSlip(check: Pick<Check, 'unit' | 'nominal'>, value: number): UnitSlip | null {
  const { unit, nominal } = check;
  if ((unit !== 'mm' && unit !== 'in') || nominal <= 0 || value <= 0) return null;
  if (Math.abs(value - nominal) <= SLIP_BEYOND * nominal) return null;
  const readIn = unit === 'mm' ? 'in' : 'mm';
  const meant = unit === 'mm' ? value * MM_PER_INCH : value / MM_PER_INCH;
  if (Math.abs(meant - nominal) > SLIP_WITHIN * nominal) return null;
  return { readIn, meant: Math.round(meant * 10_000) / 10_000 };
}
