import { isYesNo, judgeCheck, limitsWords, valueWords, type Check } from '../machining/check.ts';

/** What was read of one instrument, by the key of its check; in the unit of that check. */
export type Measured = Readonly<Record<string, number>>;

/** One line of a bench sheet. */
export interface SetupItem {
  check: Check;
  /** Null: not read yet. */
  value: number | null;
  /** Null: not read yet. */
  inside: boolean | null;
}

export interface SetupJudgement {
  /** 'measure': something is still to be read, and all that was read is inside. */
  verdict: 'pass' | 'measure' | 'adjust';
  items: SetupItem[];
  /** One sentence with its numbers. */
  sentence: string;
}

/** Is a value inside the limits of its check, as everywhere else? Both limits count as inside. */
export const isInside = (check: Check, value: number): boolean => judgeCheck(check, [value]).pass;

/** More than this many are counted, not told one by one. */
const MOST_TOLD = 4;

/**
 * The bench sheet of one instrument against its model's limits: relief, action, nut clearance, intonation, weight, and what is
 * looked at. Keys that no limit asks for are left alone.
 * @param measurements what was read, by key; in the unit of its limit
 * @param limits every check of the sheet, in its order
 */
export function judgeSetup(measurements: Measured, limits: readonly Check[]): SetupJudgement {
  const items = limits.map((check): SetupItem => {
    const value = measurements[check.key];
    return value === undefined
      ? { check, value: null, inside: null }
      : { check, value, inside: isInside(check, value) };
  });
  const outside = items.filter(({ inside }) => inside === false);
  const open = items.filter(({ inside }) => inside === null);
  if (outside.length > 0)
    return { verdict: 'adjust', items, sentence: `Adjust: ${told(outside, outsideWords)}.` };
  if (open.length > 0)
    return {
      verdict: 'measure',
      items,
      sentence: `Still to read: ${told(open, ({ check }) => check.name.toLowerCase())}.`,
    };
  const read = items.filter(({ check }) => !isYesNo(check)).length;
  const looked = items.length - read;
  const words = [
    read > 0
      ? `${read} ${read === 1 ? 'value' : 'values'} inside ${read === 1 ? 'its' : 'their'} limits`
      : '',
    looked > 0 ? `${looked} looked at and right` : '',
  ].filter(Boolean);
  return { verdict: 'pass', items, sentence: `Passes: ${words.join(', ') || 'nothing is asked here'}.` };
}

const outsideWords = ({ check, value }: SetupItem): string =>
  isYesNo(check)
    ? `${check.name.toLowerCase()}: no`
    : `${check.name.toLowerCase()} ${valueWords(check, value ?? 0)}, limits ${limitsWords(check)}`;

function told(items: readonly SetupItem[], words: (item: SetupItem) => string): string {
  const first = items.slice(0, MOST_TOLD).map(words);
  const more = items.length - first.length;
  return `${first.join('; ')}${more > 0 ? `; and ${more} more` : ''}`;
}
