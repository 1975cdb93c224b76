import Papa from 'papaparse';

export type CsvCell = string | number | null | undefined;

/** Digits a measurement can have: what is behind them is only how a computer keeps numbers. */
const MOST_DIGITS = 12;

/**
 * Rows as CSV (RFC 4180, lines ended by CRLF) under their headings. Numbers are written as people write them (8.7, not
 * 8.700000000000001); text that a spreadsheet would take for a formula is marked as text by an apostrophe.
 */
export function csvOf(headings: readonly string[], rows: readonly (readonly CsvCell[])[]): string {
  const cells = rows.map((row) =>
    row.map((cell) => (typeof cell === 'number' ? Number(cell.toPrecision(MOST_DIGITS)) : (cell ?? ''))),
  );
  return Papa.unparse([[...headings], ...cells], { newline: '\r\n', escapeFormulae: true }) + '\r\n';
}

export interface SheetProblem {
  /** 1-based line of the sheet, the heading counted. */
  row: number;
  /** Heading of the column, or its number. */
  column: string;
  /** What a program may act on; left out: the row or cell is wrong, and only a person can tell. */
  code?: 'no-readings-column';
  message: string;
}

/** Whether a cell is a number, with point or comma in decimals. */
export const isSheetNumber = (cell: string): boolean => /^[+-]?\d+([.,]\d+)?$/.test(cell.trim());
/** A cell as a number, point or comma in decimals; NaN for anything else. */
export const sheetNumber = (cell: string): number =>
  isSheetNumber(cell) ? Number(cell.replace(',', '.')) : NaN;
