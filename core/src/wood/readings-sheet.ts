import Papa from 'papaparse';
import { MOISTURE_POSSIBLE } from './gate.ts';
import { isSheetNumber, sheetNumber, type SheetProblem } from '../csv.ts';
import { MAY_BE } from '../units/may-be.ts';

/** One reading from a pasted or uploaded sheet. */
export interface SheetReading {
  /** Place on the rack, 1-based; null when the sheet names none. */
  position: number | null;
  readingPct: number;
  woodTemperatureC: number | null;
}

export interface ReadingsSheet {
  readings: SheetReading[];
  problems: SheetProblem[];
}

/** Longer than any rack's sheet: somebody pasted the wrong thing. */
export const LONGEST_SHEET_ROWS = 2000;
const POSITION_NAMES = ['piece', 'board', 'position', 'place', 'no', 'nr', '#'];
const READING_NAMES = [
  'reading',
  'moisture',
  'mc',
  'value',
  'percent',
  '%',
  'reading_pct',
  'reading %',
  'moisture %',
  'mc %',
];
const TEMPERATURE_NAMES = [
  'temperature',
  'temp',
  'wood_temperature_c',
  'wood temperature',
  '°c',
  'temp c',
  'temperature_c',
];

/** Which heading stands for what, when the names do not say it themselves. */
export interface SheetColumns {
  reading: string;
  position: string | null;
  temperature: string | null;
}

interface Columns {
  position: number | null;
  reading: number;
  temperature: number | null;
  names: string[];
}

/**
 * Reads a sheet of moisture readings: CSV or pasted columns, comma, semicolon or tab between cells, point or
 * comma in decimals, with or without a heading. Every bad cell is named by row and column; good rows are kept
 * apart from them so that the caller may file the good rows or nothing.
 */
export function parseReadingsSheet(
  text: string,
  options: { quantity: number; columns?: SheetColumns },
): ReadingsSheet {
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (trimmed === '')
    return { readings: [], problems: [{ row: 1, column: '1', message: 'the sheet is empty' }] };
  const rows = Papa.parse<string[]>(trimmed, { delimiter: delimiterOf(trimmed), skipEmptyLines: false }).data;
  if (rows.length > LONGEST_SHEET_ROWS) {
    const message = `the sheet has ${rows.length} rows; at most ${LONGEST_SHEET_ROWS} are read at once`;
    return { readings: [], problems: [{ row: LONGEST_SHEET_ROWS + 1, column: '1', message }] };
  }
  const heading = options.columns ? chosenHeading(rows[0] ?? [], options.columns) : headingOf(rows[0] ?? []);
  if (heading && 'problem' in heading) return { readings: [], problems: [heading.problem] };
  const columns = heading?.columns ?? plainColumns(rows);
  const result: ReadingsSheet = { readings: [], problems: [] };
  const seen = new Map<number, number>();
  rows.forEach((cells, index) => {
    if (heading && index === 0) return;
    if (cells.every((cell) => cell.trim() === '')) return;
    const row = index + 1;
    const problems: SheetProblem[] = [];
    const reading = readRow(cells, row, columns, problems);
    if (reading.position !== null)
      checkPosition(reading.position, options.quantity, row, columns, seen, problems);
    if (problems.length > 0) result.problems.push(...problems);
    else result.readings.push(reading);
  });
  return result;
}

/** The headings of a sheet, as they stand in its first row. */
export function sheetHeadings(text: string): string[] {
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  const [first = []] = Papa.parse<string[]>(trimmed, { delimiter: delimiterOf(trimmed), preview: 1 }).data;
  return first.map((cell) => cell.trim());
}

function chosenHeading(
  names: string[],
  columns: SheetColumns,
): { columns: Columns } | { problem: SheetProblem } {
  const place = (name: string | null): number | null => {
    const found = name === null ? -1 : names.findIndex((candidate) => candidate.trim() === name);
    return found >= 0 ? found : null;
  };
  const reading = place(columns.reading);
  if (reading === null) {
    const message = `there is no column '${columns.reading}' (found: ${names.join(', ')})`;
    return { problem: { row: 1, column: '1', message } };
  }
  return {
    columns: { position: place(columns.position), reading, temperature: place(columns.temperature), names },
  };
}

/** Semicolon or tab wins where it is used; a comma parts cells only where it cannot be a decimal comma. */
export function delimiterOf(text: string): string {
  if (text.includes('\t')) return '\t';
  if (text.includes(';')) return ';';
  const commaDecimalsOnly = text
    .split(/\r?\n/)
    .every((line) => line.trim() === '' || /^\s*\d{1,2},\d\s*$/.test(line) || !line.includes(','));
  return commaDecimalsOnly ? ';' : ',';
}

function headingOf(cells: string[]): { columns: Columns } | { problem: SheetProblem } | undefined {
  const names = cells.map((cell) => cell.trim().toLowerCase());
  if (names.every((name) => name === '' || isSheetNumber(name))) return undefined;
  const find = (wanted: string[]): number | null => {
    const found = names.findIndex((name) => wanted.includes(name));
    return found >= 0 ? found : null;
  };
  const reading = find(READING_NAMES);
  if (reading === null && !names.some((name) => /^[a-z%#°][a-z_ %#°]*$/.test(name))) return undefined;
  if (reading === null) {
    const message = `no column of readings: name one 'reading' (found: ${cells.join(', ')})`;
    return { problem: { row: 1, column: '1', code: 'no-readings-column', message } };
  }
  return {
    columns: { position: find(POSITION_NAMES), reading, temperature: find(TEMPERATURE_NAMES), names: cells },
  };
}

/** Without a heading: one column is the reading; two or more are place, reading, temperature. */
function plainColumns(rows: string[][]): Columns {
  const width = Math.max(...rows.map((cells) => cells.length));
  return width === 1
    ? { position: null, reading: 0, temperature: null, names: ['reading'] }
    : {
        position: 0,
        reading: 1,
        temperature: width > 2 ? 2 : null,
        names: ['piece', 'reading', 'temperature'],
      };
}

function readRow(cells: string[], row: number, columns: Columns, problems: SheetProblem[]): SheetReading {
  const number = (index: number | null, low: number, high: number, unit: string): number | null => {
    const cell = index === null ? '' : (cells[index] ?? '').trim();
    if (index === null || cell === '') return null;
    const value = sheetNumber(cell);
    const column = columns.names[index]?.trim() ?? String(index + 1);
    if (Number.isNaN(value)) problems.push({ row, column, message: `'${cell}' is not a number` });
    else if (value < low || value > high)
      problems.push({ row, column, message: `${cell}${unit} is outside ${low}–${high}${unit}` });
    return value;
  };
  const readingPct = number(columns.reading, MOISTURE_POSSIBLE.lowPct, MOISTURE_POSSIBLE.highPct, ' %');
  const position = number(columns.position, 1, Number.MAX_SAFE_INTEGER, '');
  const woodTemperatureC = number(columns.temperature, MAY_BE.woodC.least, MAY_BE.woodC.most, ' °C');
  if (readingPct === null) {
    problems.push({
      row,
      column: columns.names[columns.reading]?.trim() ?? 'reading',
      message: 'the reading is missing',
    });
  }
  return { position, readingPct: readingPct ?? NaN, woodTemperatureC };
}

function checkPosition(
  position: number,
  quantity: number,
  row: number,
  columns: Columns,
  seen: Map<number, number>,
  problems: SheetProblem[],
): void {
  const column = columns.names[columns.position ?? 0]?.trim() ?? 'piece';
  const earlier = seen.get(position);
  if (!Number.isInteger(position) || position > quantity) {
    problems.push({ row, column, message: `piece ${position} is not on this rack of ${quantity}` });
  } else if (earlier !== undefined) {
    problems.push({ row, column, message: `piece ${position} stands already in row ${earlier}` });
  } else seen.set(position, row);
}
