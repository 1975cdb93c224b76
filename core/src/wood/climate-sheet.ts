import Papa from 'papaparse';
import { isSheetNumber, sheetNumber, type SheetProblem } from '../csv.ts';
import { delimiterOf } from './readings-sheet.ts';

/** One row of a logger's file. */
export interface ClimateRow {
  /** As it stood there, for whoever knows the factory's zone. */
  time: string;
  temperatureC: number;
  relativeHumidityPct: number;
}

export interface ClimateSheet {
  rows: (ClimateRow & { row: number })[];
  problems: SheetProblem[];
}

/** A year of readings every ten minutes. */
export const LONGEST_CLIMATE_ROWS = 60_000;
const TIME_NAMES = /^(at|time|date|datetime|timestamp|date.?time|when|zeit|hour)/i;
const TEMPERATURE_NAMES = /^(t\b|temp|°c|celsius)/i;
const HUMIDITY_NAMES = /^(rh\b|rel|hum|%)/i;

/**
 * Reads a climate logger's CSV: a heading that names time, temperature and humidity (in any order, other columns left
 * out), or without a heading those three in that order; comma, semicolon or tab between cells, point or comma in
 * decimals. Bad cells are named by row and column, good rows are given apart from them.
 */
export function parseClimateSheet(text: string): ClimateSheet {
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (trimmed === '') return { rows: [], problems: [{ row: 1, column: '1', message: 'the sheet is empty' }] };
  const cells = Papa.parse<string[]>(trimmed, { delimiter: delimiterOf(trimmed) }).data;
  if (cells.length > LONGEST_CLIMATE_ROWS) {
    const message = `the sheet has ${cells.length} rows; at most ${LONGEST_CLIMATE_ROWS} are read at once`;
    return { rows: [], problems: [{ row: LONGEST_CLIMATE_ROWS + 1, column: '1', message }] };
  }
  const names = (cells[0] ?? []).map((cell) => cell.trim());
  const headed = !names.some((name) => isSheetNumber(name));
  const at = headed
    ? [TIME_NAMES, TEMPERATURE_NAMES, HUMIDITY_NAMES].map((wanted) =>
        names.findIndex((name) => wanted.test(name)),
      )
    : [0, 1, 2];
  const missing = ['time', 'temperature', 'humidity'].filter((_, i) => (at[i] ?? -1) < 0);
  if (missing.length > 0) {
    const message = `no column of ${missing.join(' and ')} (found: ${names.join(', ')})`;
    return { rows: [], problems: [{ row: 1, column: '1', message }] };
  }
  const sheet: ClimateSheet = { rows: [], problems: [] };
  cells.forEach((row, i) => {
    if ((headed && i === 0) || row.every((cell) => cell.trim() === '')) return;
    const before = sheet.problems.length;
    const number = (column: number, name: string, low: number, high: number): number => {
      const cell = (row[column] ?? '').trim();
      const value = sheetNumber(cell);
      if (cell === '') sheet.problems.push({ row: i + 1, column: name, message: `the ${name} is missing` });
      else if (Number.isNaN(value))
        sheet.problems.push({ row: i + 1, column: name, message: `'${cell}' is not a number` });
      else if (value < low || value > high)
        sheet.problems.push({ row: i + 1, column: name, message: `${cell} is outside ${low}–${high}` });
      return value;
    };
    const time = (row[at[0] ?? 0] ?? '').trim();
    if (time === '') sheet.problems.push({ row: i + 1, column: 'time', message: 'the time is missing' });
    const temperatureC = number(at[1] ?? 1, 'temperature', -40, 80);
    const relativeHumidityPct = number(at[2] ?? 2, 'humidity', 0, 100);
    if (sheet.problems.length === before)
      sheet.rows.push({ row: i + 1, time, temperatureC, relativeHumidityPct });
  });
  return sheet;
}
