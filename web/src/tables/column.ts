import { decimalsIn, numberIn, signIn, type ChosenUnits } from '@ample-crane/core';
import type { GridColDef } from '@mui/x-data-grid';
import type { ReactNode } from 'react';
import { isoDate, isoMinute, sayClock, sayDate } from '../shared/time.ts';

/** A column of a table that can grow. */
export interface Column<Row> {
  /** By which it is remembered; never shown. */
  key: string;
  /** What stands over it; with the unit, where there is one that is the same for everybody. */
  head: string;
  /** mm, µm or °C: the number is told, sorted and taken along in the unit of whoever is at the screen. */
  unit?: string;
  /** What it is sorted, filtered, exported and found by. */
  of: (row: Row) => string | number | null;
  /** What is seen, where that is more than the value. */
  show?: (row: Row) => ReactNode;
  /** One of a few values: filtered by choosing them. */
  choice?: boolean;
  /** Numbers stand right, with so many decimals. */
  digits?: number;
  /** Added up below, over what the filter leaves. */
  sum?: boolean;
  /** Of what is left over, its share; 1 where nothing is said. */
  share?: number;
  /** Least width, px. */
  least?: number;
  /** Not shown until somebody asks for it. */
  hidden?: boolean;
}

/** A column of moments: sorted and exported as '2026-11-24 13:20' in factory time, and said as everywhere in the house; `never`: what is said of none. */
export const moment = <Row>(column: Timed<Row>): Column<Row> =>
  timed({ least: 124, ...column }, { sorts: isoMinute, says: sayClock });

/** The same of days: sorted and exported as '2026-11-24'. What is due on a day is due at no hour. */
export const day = <Row>(column: Timed<Row>): Column<Row> =>
  timed({ least: 100, ...column }, { sorts: isoDate, says: sayDate });

type Timed<Row> = Omit<Column<Row>, 'of' | 'show'> & {
  ms: (row: Row) => number | null;
  zone: string;
  never?: string;
};
type SaysTime = (at: number, zone: string) => string;

function timed<Row>(
  { ms, zone, never, ...rest }: Timed<Row>,
  { sorts, says }: { sorts: SaysTime; says: SaysTime },
): Column<Row> {
  const shown = (row: Row, say: SaysTime): string | null => {
    const at = ms(row);
    return at === null ? null : say(at, zone);
  };
  return { ...rest, of: (row) => shown(row, sorts), show: (row) => shown(row, says) ?? never ?? null };
}

/** A column as somebody reads it who chose these units. */
export function columnIn<Row>(column: Column<Row>, units: ChosenUnits): Column<Row> {
  const { unit, of, digits = 0 } = column;
  if (unit === undefined) return column;
  return {
    ...column,
    head: `${column.head}, ${signIn(unit, units)}`,
    digits: decimalsIn(digits, unit, units),
    of: (row) => {
      const value = of(row);
      return typeof value === 'number' ? numberIn(value, unit, units) : value;
    },
  };
}

/** A number as its column shows it; a point, as everywhere in the house. */
export const inDigits = (value: number, digits: number | undefined): string =>
  digits === undefined ? String(value) : value.toFixed(digits);

/** What a card or a plain cell shows of a row. */
export function shownOf<Row>(column: Column<Row>, row: Row): ReactNode {
  if (column.show) return column.show(row);
  const value = column.of(row);
  return typeof value === 'number' ? inDigits(value, column.digits) : value;
}

/** The columns as the grid wants them. */
export function gridColumns<Row extends object>(
  columns: readonly Column<Row>[],
  rows: readonly Row[],
): GridColDef<Row>[] {
  return columns.map((column) => {
    const numeric = column.digits !== undefined;
    const common = {
      field: column.key,
      headerName: column.head,
      flex: column.share ?? 1,
      minWidth: column.least ?? (numeric ? 80 : 96),
      valueGetter: (_: never, row: Row) => column.of(row),
      renderCell: ({ row }: { row: Row }) => shownOf(column, row),
      display: 'flex' as const,
    };
    // What has no head holds something to press: there is nothing to sort, look for or take along.
    if (column.head === '')
      return { ...common, sortable: false, filterable: false, hideable: false, disableExport: true };
    if (column.choice) {
      const values = [...new Set(rows.map((row) => column.of(row)).filter((value) => value !== null))];
      return { ...common, type: 'singleSelect' as const, valueOptions: values.toSorted() };
    }
    return numeric ? { ...common, type: 'number' as const } : common;
  });
}

/** Fewer rows than these need no looking through. */
export const FEW = 8;

/** By which column rows are sorted at first, downwards where it begins with '-'; null: as they come. */
export function firstSort(sortedBy: string | undefined): { field: string; sort: 'asc' | 'desc' } | null {
  if (sortedBy === undefined) return null;
  return { field: sortedBy.replace(/^-/, ''), sort: sortedBy.startsWith('-') ? 'desc' : 'asc' };
}

/** Sums of the columns that are added up, over these rows: 'weight, kg 94.2'. */
export function sumWords<Row>(columns: readonly Column<Row>[], rows: readonly Row[]): string[] {
  return columns
    .filter((column) => column.sum)
    .map((column) => {
      const sum = rows.reduce((total, row) => total + Number(column.of(row) ?? 0), 0);
      return `${column.head} ${inDigits(sum, column.digits)}`;
    });
}
