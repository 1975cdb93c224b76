import Papa from 'papaparse';
import { sheetNumber, type SheetProblem } from '../csv.ts';
import type { NewPartAsked } from './part-asked.ts';
import { HEAVIEST_PART_G, LONGEST_LEAD_DAYS, MOST_OF_A_PART } from './part-reduce.ts';

/** A part that was counted, or one that is to be kept from now on and may have been. */
export type StoreSheetRow = { row: number } & (
  { code: string; counted: number } | { part: NewPartAsked; counted: number | null }
);

export interface StoreSheet {
  rows: StoreSheetRow[];
  problems: SheetProblem[];
}

/** What is known of a part that is kept. */
export interface KeptPart {
  code: string;
  name: string;
  supplier: string;
}

/** More parts than one store keeps: somebody pasted the wrong thing. */
export const LONGEST_STORE_SHEET = 5000;
/** Columns a sheet may have; others are passed over, so that the sheet that was sent out may come back. */
export const STORE_COLUMNS = [
  'code',
  'name',
  'unit',
  'supplier',
  'lead_days',
  'weight_g',
  'counted',
] as const;
type Column = (typeof STORE_COLUMNS)[number];
const LONGEST = { name: 80, unit: 20, supplier: 80 };

/**
 * Reads the sheet of a store: CSV with a heading, or pasted columns. A row with the code of a part that is kept says how many were
 * counted (left empty: nobody did, and nothing happens); a row without a code is another part. Every bad cell is named by row and
 * column; good rows are kept apart from them, so that the caller may file those or nothing.
 * @param kept every part that is kept already: what is named like one of them is not kept twice
 */
export function parseStoreSheet(text: string, kept: readonly KeptPart[]): StoreSheet {
  const nothing = (row: number, message: string): StoreSheet => ({
    rows: [],
    problems: [{ row, column: '1', message }],
  });
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (trimmed === '') return nothing(1, 'the sheet is empty');
  const [heading = [], ...lines] = Papa.parse<string[]>(trimmed, {
    delimitersToGuess: [',', ';', '\t'],
  }).data;
  if (lines.length > LONGEST_STORE_SHEET)
    return nothing(
      LONGEST_STORE_SHEET + 2,
      `the sheet has ${lines.length} rows; at most ${LONGEST_STORE_SHEET} are read at once`,
    );
  const names = heading.map((name) =>
    name
      .trim()
      .toLowerCase()
      .replaceAll(/[\s-]+/g, '_'),
  );
  const twice = STORE_COLUMNS.find((column) => names.indexOf(column) !== names.lastIndexOf(column));
  if (twice !== undefined) return nothing(1, `there are two columns '${twice}'`);
  if (!names.includes('code') && !names.includes('name'))
    return nothing(1, `no column 'code' or 'name' (found: ${heading.join(', ')})`);
  const seen: Seen = {
    codes: new Set(kept.map(({ code }) => code.toUpperCase())),
    taken: new Map(kept.map((part) => [sameName(part), `${part.code} is called so already`])),
  };
  const sheet: StoreSheet = { rows: [], problems: [] };
  for (const [i, cells] of lines.entries()) {
    if (cells.every((cell) => cell.trim() === '')) continue;
    const cellOf = (column: Column): string => cells[names.indexOf(column)]?.trim() ?? '';
    const { found, problems } = readRow(i + 2, cellOf, seen);
    if (problems.length > 0) sheet.problems.push(...problems);
    else if (found) sheet.rows.push(found);
  }
  return sheet;
}

/** What is kept, and what rows before this one have said. */
interface Seen {
  codes: ReadonlySet<string>;
  /** Codes and names that may not come again, with why. */
  taken: Map<string, string>;
}

function readRow(
  row: number,
  cellOf: (column: Column) => string,
  { codes, taken }: Seen,
): { found: StoreSheetRow | null; problems: SheetProblem[] } {
  const problems: SheetProblem[] = [];
  const wrong = (column: Column, message: string): void => {
    problems.push({ row, column, message });
  };
  /** A cell as a number between two; whole ones have no sign that parts thousands, which would be read as decimals. */
  const number = (column: Column, least: number, most: number, whole = true): number | null => {
    const cell = cellOf(column);
    if (cell === '') return null;
    const value = sheetNumber(cell);
    if (Number.isNaN(value)) wrong(column, `'${cell}' is not a number`);
    else if (whole && !/^[+-]?\d+$/.test(cell)) wrong(column, `'${cell}' is not a whole number`);
    else if (value < least || value > most) wrong(column, `${value} is outside ${least} to ${most}`);
    return value;
  };
  const words = (column: 'name' | 'unit' | 'supplier'): string => {
    const said = cellOf(column);
    if (said === '') wrong(column, 'it is missing');
    else if (said.length > LONGEST[column]) wrong(column, `at most ${LONGEST[column]} letters`);
    else if (/\p{Cc}/u.test(said)) wrong(column, 'it has letters that cannot be written');
    return said;
  };
  const once = (column: Column, key: string, again: string): void => {
    const before = taken.get(key);
    if (before !== undefined) wrong(column, before);
    taken.set(key, again);
  };
  const counted = number('counted', 0, MOST_OF_A_PART);
  const code = cellOf('code').toUpperCase();
  if (code !== '') {
    if (!codes.has(code))
      wrong('code', `there is no part ${code}: leave its code empty to keep it from now on`);
    once('code', code, `${code} stands already in row ${row}`);
    return { found: counted === null ? null : { row, code, counted }, problems };
  }
  const leadDays = number('lead_days', 0, LONGEST_LEAD_DAYS);
  const weightG = number('weight_g', 0.1, HEAVIEST_PART_G, false);
  if (leadDays === null) wrong('lead_days', 'it is missing');
  const part: NewPartAsked = {
    ...{ type: 'part', name: words('name'), unit: words('unit'), supplier: words('supplier') },
    ...{ leadDays: leadDays ?? 0, ...(weightG === null ? {} : { weightG }) },
  };
  once('name', sameName(part), `the part stands already in row ${row}`);
  return { found: { row, part, counted }, problems };
}

/** What is called the same and sold by the same is the same part. */
const sameName = ({ name, supplier }: Pick<KeptPart, 'name' | 'supplier'>): string =>
  `${name}|${supplier}`.toLowerCase();
