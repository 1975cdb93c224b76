import { typedNumber, typedNumbers } from '../shared/typed.ts';

/** What a number of a form may be. Limits are in its metric unit. */
export interface NumberLimits {
  unit?: string;
  /** Smallest and largest that may be filed. */
  least?: number | undefined;
  most?: number | undefined;
  /** It must be more than this. */
  above?: number | undefined;
  whole?: boolean;
  optional?: boolean;
  /** More than one may be typed, a space between them; so many at most, where that is known. */
  several?: boolean;
  mostValues?: number | undefined;
  leastValues?: number | undefined;
}

/**
 * What is wrong with a number as it is typed, in words; null: nothing.
 * @param say puts words into the units of whoever types
 */
export function problemOfNumber(
  text: string,
  limits: NumberLimits,
  say: (words: string) => string = (words) => words,
): string | null {
  const { optional = false, several = false, mostValues, leastValues } = limits;
  if (text.trim() === '') return optional ? null : several ? 'numbers, a space between' : 'a number';
  if (!several) {
    const value = typedNumber(text);
    return value === null ? `'${short(text)}' is no number` : outside(value, limits, say);
  }
  const values = typedNumbers(text);
  if (!values) return 'numbers, a space between';
  if (mostValues !== undefined && values.length > mostValues)
    return `${values.length} values, ${mostValues} at most`;
  if (leastValues !== undefined && values.length < leastValues)
    return `${values.length} of the ${leastValues} values that are wanted`;
  for (const value of values) {
    const problem = outside(value, limits, say);
    if (problem) return values.length > 1 ? `${say(withUnit(value, limits))}: ${problem}` : problem;
  }
  return null;
}

function outside(value: number, limits: NumberLimits, say: (words: string) => string): string | null {
  const { least, most, above, whole = false } = limits;
  const bad =
    (whole && !Number.isInteger(value)) ||
    (least !== undefined && value < least) ||
    (above !== undefined && value <= above) ||
    (most !== undefined && value > most);
  return bad ? say(limitsOf(limits)) : null;
}

const withUnit = (value: number, { unit }: NumberLimits): string => `${value}${unit ? ` ${unit}` : ''}`;

/** 'above 0 to 500 µm', '1 to 60, a whole number', 'more than 0 g'. */
function limitsOf({ least, most, above, whole = false, unit }: NumberLimits): string {
  const sign = unit ? ` ${unit}` : '';
  const from = above === undefined ? least : `above ${above}`;
  const span =
    most !== undefined
      ? `${from === undefined ? 'at most' : `${from} to`} ${most}${sign}`
      : above !== undefined
        ? `more than ${above}${sign}`
        : least !== undefined
          ? `at least ${least}${sign}`
          : '';
  return [...(span ? [span] : []), ...(whole ? ['a whole number'] : [])].join(', ');
}

/** A thousand characters are not said again. */
const short = (text: string): string => (text.length > 24 ? `${text.slice(0, 24)}…` : text);
