import {
  celsiusFromFahrenheit,
  fahrenheitFromCelsius,
  inchesFromMm,
  mmFromInches,
  umFromMils,
} from './quantities.ts';

/** What somebody reads and types lengths, films and temperatures in. What is kept is metric, whatever is chosen. */
export interface ChosenUnits {
  /** mm and µm, or inch and mil (a thousandth of an inch). */
  length: 'mm' | 'in';
  temperature: 'C' | 'F';
}

export const METRIC: ChosenUnits = { length: 'mm', temperature: 'C' };

/** Units of what is kept that somebody may want to see as others. */
export type MetricUnit = 'mm' | 'µm' | '°C';

interface OtherUnit {
  sign: string;
  from: (metric: number) => number;
  toMetric: (other: number) => number;
  /** A difference has no zero of its own: 2 °C more are 3.6 °F more, not 35.6. */
  difference: (metric: number) => number;
  /** Decimals more than the metric number has, so that no step of it is lost. */
  finer: number;
}

const INCH: OtherUnit = {
  sign: 'in',
  from: inchesFromMm,
  toMetric: mmFromInches,
  difference: inchesFromMm,
  finer: 2,
};
const MIL: OtherUnit = {
  sign: 'mil',
  from: (um) => um / umFromMils(1),
  toMetric: umFromMils,
  difference: (um) => um / umFromMils(1),
  finer: 1,
};
const FAHRENHEIT: OtherUnit = {
  sign: '°F',
  from: fahrenheitFromCelsius,
  toMetric: celsiusFromFahrenheit,
  difference: (celsius) => (celsius * 9) / 5,
  finer: 0,
};

function otherOf(unit: string, chosen: ChosenUnits): OtherUnit | null {
  if (unit === '°C') return chosen.temperature === 'F' ? FAHRENHEIT : null;
  if (chosen.length === 'mm') return null;
  return unit === 'mm' ? INCH : unit === 'µm' ? MIL : null;
}

/** Decimals of a number as it is written. */
const decimalsOf = (written: string): number => written.split('.')[1]?.length ?? 0;

/** The sign of a unit as somebody who chose so reads it: 'mm' may be 'in'; any other unit stays. */
export const signIn = (unit: string, chosen: ChosenUnits): string => otherOf(unit, chosen)?.sign ?? unit;

/** A metric number (mm, µm, °C; any other unit stays as it is) in the chosen unit, not rounded. */
export const numberIn = (value: number, unit: string, chosen: ChosenUnits): number =>
  otherOf(unit, chosen)?.from(value) ?? value;

/** A difference of two metric numbers in the chosen unit: 2 °C more are 3.6 °F more. Not rounded. */
export const differenceIn = (value: number, unit: string, chosen: ChosenUnits): number =>
  otherOf(unit, chosen)?.difference(value) ?? value;

/** Decimals a number of so many metric decimals is told with in the chosen unit. */
export const decimalsIn = (decimals: number, unit: string, chosen: ChosenUnits): number =>
  decimals + (otherOf(unit, chosen)?.finer ?? 0);

/** A metric number with its unit as it is read: `saidIn(22, 'mm', 0, inch)` is '0.87 in'. */
export const saidIn = (value: number, unit: string, decimals: number, chosen: ChosenUnits): string =>
  `${numberIn(value, unit, chosen).toFixed(decimalsIn(decimals, unit, chosen))} ${signIn(unit, chosen)}`;

const DECIMAL = /^[-−]?\d+([.,]\d+)?$/;
const FRACTION = /^(?:(\d+)[\s-]+)?(\d+)\/(\d+)$/;

/**
 * A number as it is typed, decimals by point or comma; where inches are chosen for mm also '2 3/16', '3/16', '2-3/16"'.
 * @returns it in the metric unit; null when it is no number
 */
export function typedIn(text: string, unit: string, chosen: ChosenUnits): number | null {
  const other = otherOf(unit, chosen);
  const bare = text.trim().replace('−', '-');
  const typed = other === INCH ? inches(bare.replace(/\s*("|″|in)$/, '')) : plain(bare);
  return typed === null || !other ? typed : tidy(other.toMetric(typed));
}

const plain = (text: string): number | null => (DECIMAL.test(text) ? Number(text.replace(',', '.')) : null);

function inches(text: string): number | null {
  const parts = FRACTION.exec(text);
  if (!parts) return plain(text);
  const [, whole = '0', over, under] = parts;
  return Number(under) === 0 ? null : Number(whole) + Number(over) / Number(under);
}

const OTHER: ChosenUnits = { length: 'in', temperature: 'F' };
/** Numbers with the sign of a unit behind them: what that is kept in, and what they are read as. */
const SIGNED = (
  [
    ['mm', 'mm', METRIC],
    [String.raw`in(?:ch(?:es)?)?|"|″`, 'mm', OTHER],
    ['um|µm', 'µm', METRIC],
    ['mils?', 'µm', OTHER],
    ['°c', '°C', METRIC],
    ['°?f', '°C', OTHER],
  ] as const
).map(([sign, unit, as]) => ({ pattern: new RegExp(`^([\\d.,/-]+?)(?:${sign})$`, 'i'), unit, as }));
const UM_PER: Readonly<Record<MetricUnit, number | null>> = { mm: 1_000, µm: 1, '°C': null };

/** A number with the sign of a unit behind it; null: it has none, or is no number. */
export interface SignedNumber {
  value: number;
  unit: MetricUnit;
}

/** What a number with a sign means, in the metric unit of that sign: '0.07in' and '3/32"' are mm, '4mil' µm, '68F' °C. */
export function signedNumber(text: string): SignedNumber | null {
  for (const { pattern, unit, as } of SIGNED) {
    const bare = pattern.exec(text)?.[1];
    const value = bare === undefined ? null : typedIn(bare, unit, as);
    if (value !== null) return { value, unit };
  }
  return null;
}

/** Such a number in another unit of its kind; null: a temperature is no length. */
export function inUnit({ value, unit }: SignedNumber, wanted: MetricUnit): number | null {
  if (unit === wanted) return value;
  const [from, to] = [UM_PER[unit], UM_PER[wanted]];
  return from === null || to === null ? null : tidy((value * from) / to);
}

/** Without the dust of binary numbers: a nanometre is finer than anything that is measured here. */
const tidy = (value: number): number => Number(value.toFixed(6));

const NUMBER = String.raw`[-−+]?\d+(?:,\d{3})*(?:\.\d+)?`;
/** Numbers that share the unit behind the last: a span, a size, a list of measured values, a value with its tolerance. */
const BETWEEN = String.raw`\s?(?:–|…|×)\s?|\s(?:±|to)\s|,\s(?=[-−+]?\d+\.\d)`;
const QUANTITY = new RegExp(
  String.raw`(?<![\w/.,-])(±\s?|\b(?:by|every)\s)?(${NUMBER}(?:(?:${BETWEEN})${NUMBER})*)(\s)(mm|µm|°C)(?![\w²³/])(\s(?:warmer|colder|above|below|more|less)\b)?`,
  'g',
);
const PARTS = new RegExp(String.raw`(${BETWEEN})`);

/** A piece of words that reads otherwise in the chosen units: from `start` up to before `end` it becomes `text`. */
export interface UnitEdit {
  start: number;
  end: number;
  text: string;
}

/**
 * What is to be changed in words so that every length, film and temperature in them is in the chosen units, in the order of the words:
 * the numbers and the signs of their units. A tolerance ('± 2 °C') and a difference ('2 °C above …', 'by 10 °C') are turned as differences.
 */
export function unitEdits(words: string, chosen: ChosenUnits): UnitEdit[] {
  if (chosen.length === 'mm' && chosen.temperature === 'C') return [];
  return [...words.matchAll(QUANTITY)].flatMap((match) => {
    const [, plusMinus = '', numbers = '', gap = '', unit = '', differs] = match;
    const other = otherOf(unit, chosen);
    if (!other) return [];
    let at = match.index + plusMinus.length;
    let difference = plusMinus !== '' || differs !== undefined;
    const edits: UnitEdit[] = [];
    const parts = numbers.split(PARTS);
    // '4 × 100 µm' are four films; only a size in mm is all of one unit.
    const first = unit === 'mm' ? 0 : 1 + parts.findLastIndex((part) => part.trim() === '×');
    for (const [i, part] of parts.entries()) {
      if (i % 2 === 0 && i >= first)
        edits.push({ start: at, end: at + part.length, text: turned(part, other, difference) });
      else if (i % 2 === 1) difference ||= part.trim() === '±';
      at += part.length;
    }
    at += gap.length;
    return [...edits, { start: at, end: at + unit.length, text: other.sign }];
  });
}

/** Words with every length, film and temperature in the chosen units: '22 mm at 21 °C' becomes '0.87 in at 70 °F'. */
export const wordsIn = (words: string, chosen: ChosenUnits): string =>
  unitEdits(words, chosen).reduceRight(
    (told, { start, end, text }) => told.slice(0, start) + text + told.slice(end),
    words,
  );

function turned(written: string, other: OtherUnit, difference: boolean): string {
  const sign = /^[-−+]/.exec(written)?.[0] ?? '';
  const bare = written.slice(sign.length).replaceAll(',', '');
  const metric = Number(bare) * (sign === '-' || sign === '−' ? -1 : 1);
  const value = difference ? other.difference(metric) : other.from(metric);
  const told = Math.abs(value).toFixed(decimalsOf(bare) + other.finer);
  if (value < 0) return `${sign === '-' ? '-' : '−'}${told}`;
  return `${sign === '+' ? '+' : ''}${told}`;
}
