/**
 * Serials: a pattern of fixed text and tokens in braces. Every number in it has a fixed width, so that a serial reads back in one
 * way only, whatever stands beside it.
 */
export interface SerialContext {
  /** Day it is given on, 'YYYY-MM-DD', factory time. */
  date: string;
  /** Letters and digits that stand for the model. */
  model: string;
  /** Number in its day, or overall, whichever the pattern counts; from 1. */
  sequence: number;
}

export interface ParsedSerial {
  /** 'YYYY' or 'YY', as it stands there; absent: the pattern has no year. */
  year?: string;
  /** Day of the year, 1–366. */
  day?: number;
  sequence: number;
  model?: string;
}

/** Serials that paper has used already, from one to the other, both included; as they are written. */
export interface SerialRange {
  from: string;
  to: string;
}

type Token =
  | { kind: 'text'; text: string }
  | { kind: 'year'; digits: 2 | 4 }
  | { kind: 'day' }
  | { kind: 'model' }
  | { kind: 'sequence'; per: 'day' | 'overall'; digits: number }
  | { kind: 'check' };

/** What may stand in a pattern, with what it becomes; for whoever puts one together. */
export const SERIAL_TOKENS: readonly { token: string; words: string }[] = [
  { token: '{year}', words: 'year, four digits' },
  { token: '{yy}', words: 'year, two digits' },
  { token: '{day}', words: 'day of the year, three digits' },
  { token: '{n:3}', words: 'number in the day, so many digits' },
  { token: '{all:6}', words: 'number overall, so many digits' },
  { token: '{model}', words: 'letters of the model' },
  { token: '{check}', words: 'check character over all before it' },
];

/** Longest pattern, and longest serial: it is stamped on a headstock. */
export const LONGEST_SERIAL = 24;
const LONGEST_PATTERN = 60;
const PLAIN = /^[A-Z0-9 .\-/]+$/;
const MODEL = /^[A-Z0-9]{1,6}$/;
const DIGITS = { least: 1, most: 9 } as const;

const TOKEN = /\{([a-z]+)(?::(\d+))?\}/gy;

/** The tokens of a pattern, or what is wrong with how it is written. */
function tokensOf(pattern: string): Token[] | string {
  if (pattern === '' || pattern.length > LONGEST_PATTERN)
    return `a pattern has 1 to ${LONGEST_PATTERN} characters`;
  const tokens: Token[] = [];
  for (let at = 0; at < pattern.length;) {
    const next = pattern.indexOf('{', at);
    if (next !== at) {
      const text = pattern.slice(at, next < 0 ? undefined : next);
      if (!PLAIN.test(text)) return `'${text}' is not fixed text: capitals, digits, blank, . - / only`;
      tokens.push({ kind: 'text', text });
      at += text.length;
      continue;
    }
    TOKEN.lastIndex = at;
    const found = TOKEN.exec(pattern);
    const token = found && tokenOf(found[1] ?? '', found[2]);
    if (!found || !token) return `nothing is called '${pattern.slice(at, at + 12)}' in a pattern`;
    tokens.push(token);
    at = TOKEN.lastIndex;
  }
  return tokens;
}

function tokenOf(name: string, width: string | undefined): Token | undefined {
  const digits = Number(width);
  if (name === 'n' || name === 'all')
    return digits >= DIGITS.least && digits <= DIGITS.most
      ? { kind: 'sequence', per: name === 'n' ? 'day' : 'overall', digits }
      : undefined;
  if (width !== undefined) return undefined;
  switch (name) {
    case 'year':
      return { kind: 'year', digits: 4 };
    case 'yy':
      return { kind: 'year', digits: 2 };
    case 'day':
    case 'model':
    case 'check':
      return { kind: name };
    default:
      return undefined;
  }
}

/** What a pattern counts: by the day or overall; null where it counts nothing. */
export function serialCounts(pattern: string): 'day' | 'overall' | null {
  const tokens = tokensOf(pattern);
  if (typeof tokens === 'string') return null;
  const found = tokens.find((token) => token.kind === 'sequence');
  return found?.per ?? null;
}

/**
 * Why a pattern cannot be used, in words; empty when it can. Two instruments could get the same serial where it counts nothing,
 * or counts by the day without saying which day of which year.
 */
export function serialProblems(pattern: string): string[] {
  const tokens = tokensOf(pattern);
  if (typeof tokens === 'string') return [tokens];
  const has = (kind: Token['kind']): number => tokens.filter((token) => token.kind === kind).length;
  const twice = (['year', 'day', 'model', 'sequence', 'check'] as const).filter((kind) => has(kind) > 1);
  const counts = serialCounts(pattern);
  const problems = twice.map((kind) => `${kind === 'sequence' ? 'the number' : kind} stands in it twice`);
  if (counts === null) problems.push('it would repeat at once: put in a number, {n:3} or {all:6}');
  if (counts === 'day' && (has('day') === 0 || has('year') === 0))
    problems.push('it would repeat: a number in the day needs the year and the day beside it');
  if (has('check') > 0 && tokens.at(-1)?.kind !== 'check') problems.push('the check character comes last');
  const longest = tokens.reduce((sum, token) => sum + longestOf(token), 0);
  if (longest > LONGEST_SERIAL)
    problems.push(`it makes up to ${longest} characters: ${LONGEST_SERIAL} at most`);
  return problems;
}

function longestOf(token: Token): number {
  switch (token.kind) {
    case 'text':
      return token.text.length;
    case 'year':
    case 'sequence':
      return token.digits;
    case 'day':
      return 3;
    case 'model':
      return 6;
    case 'check':
      return 1;
  }
}

/**
 * The serial of a pattern, or why there is none: the number has outgrown its digits, or the model has no letters.
 * @throws RangeError for a pattern with problems, and for a sequence below 1.
 */
export function serialFromPattern(
  pattern: string,
  { date, model, sequence }: SerialContext,
): { serial: string } | { problem: string } {
  const tokens = tokensOf(pattern);
  const [problem] = serialProblems(pattern);
  if (typeof tokens === 'string' || problem !== undefined)
    throw new RangeError(`serialFromPattern: ${problem ?? pattern}`);
  if (!Number.isInteger(sequence) || sequence < 1) throw new RangeError(`serialFromPattern: no. ${sequence}`);
  let serial = '';
  for (const token of tokens) {
    switch (token.kind) {
      case 'text':
        serial += token.text;
        break;
      case 'year':
        serial += date.slice(4 - token.digits, 4);
        break;
      case 'day':
        serial += String(dayOfYear(date)).padStart(3, '0');
        break;
      case 'model':
        if (!MODEL.test(model))
          return { problem: 'its model has no letters for serials yet: say them first' };
        serial += model;
        break;
      case 'sequence': {
        const number = String(sequence);
        if (number.length > token.digits)
          return {
            problem: `number ${number} does not fit into ${token.digits} ${token.digits === 1 ? 'digit' : 'digits'}: the pattern is used up${token.per === 'day' ? ' for the day' : ''}`,
          };
        serial += number.padStart(token.digits, '0');
        break;
      }
      case 'check':
        serial += checkCharacter(serial);
    }
  }
  return { serial };
}

/** What a serial says by a pattern; null where it cannot be of that pattern, or its check character is wrong. */
export function parseSerial(serial: string, pattern: string): ParsedSerial | null {
  const tokens = tokensOf(pattern);
  if (typeof tokens === 'string' || serialProblems(pattern).length > 0) return null;
  const parts = tokens.map((token) => {
    switch (token.kind) {
      case 'text':
        return token.text.replaceAll(/[.\-/]/g, '\\$&');
      case 'year':
        return `(?<year>\\d{${token.digits}})`;
      case 'day':
        return '(?<day>\\d{3})';
      case 'model':
        return '(?<model>[A-Z0-9]{1,6})';
      case 'sequence':
        return `(?<sequence>\\d{${token.digits}})`;
      case 'check':
        return '(?<check>[A-Z0-9])';
    }
  });
  const groups = new RegExp(`^${parts.join('')}$`).exec(serial)?.groups;
  if (!groups) return null;
  const { year, day, model, sequence = '', check } = groups;
  if (check !== undefined && checkCharacter(serial.slice(0, -1)) !== check) return null;
  const of = day === undefined ? undefined : Number(day);
  if (of !== undefined && (of < 1 || of > 366)) return null;
  const number = Number(sequence);
  if (number < 1) return null;
  return {
    ...(year === undefined ? {} : { year }),
    ...(of === undefined ? {} : { day: of }),
    sequence: number,
    ...(model === undefined ? {} : { model }),
  };
}

/** Is a serial among those that paper has used? Serials of one length are told apart letter by letter. */
export const isUsedOnPaper = (serial: string, ranges: readonly SerialRange[]): boolean =>
  ranges.some(
    ({ from, to }) =>
      serial.length === from.length && serial.length === to.length && serial >= from && serial <= to,
  );

/** 1–366. @param date 'YYYY-MM-DD' */
function dayOfYear(date: string): number {
  const [year = 0, month = 1, day = 1] = date.split('-').map(Number);
  return Math.round((Date.UTC(year, month - 1, day) - Date.UTC(year, 0, 1)) / 86_400_000) + 1;
}

const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/**
 * ISO/IEC 7064 MOD 37,36 over the letters and digits, other signs left out: it finds every single wrong character and nearly every
 * pair that changed places.
 */
function checkCharacter(text: string): string {
  const size = ALPHABET.length;
  let product = size;
  for (const sign of text) {
    const value = ALPHABET.indexOf(sign);
    if (value < 0) continue;
    const sum = (product + value) % size || size;
    product = (2 * sum) % (size + 1);
  }
  return ALPHABET[(size + 1 - product) % size] ?? '';
}
