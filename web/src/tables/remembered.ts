import type { GridColumnVisibilityModel, GridSortModel } from '@mui/x-data-grid';

/** How a person left a table: which columns, in which order of rows. What was filtered is not kept: rows would be missed. */
export interface Remembered {
  columns?: GridColumnVisibilityModel;
  sort?: GridSortModel;
}

const keyOf = (name: string): string => `ample-crane.table.${name}`;

/** What is remembered of a table in this browser; nothing where it keeps nothing, or what it kept is no table's. */
export function remembered(name: string): Remembered {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(name)) ?? '{}');
    if (typeof kept !== 'object' || kept === null) return {};
    return {
      ...('columns' in kept && isVisibility(kept.columns) ? { columns: kept.columns } : {}),
      ...('sort' in kept && isSort(kept.sort) ? { sort: kept.sort } : {}),
    };
  } catch {
    return {};
  }
}

export function remember(name: string, change: Remembered): void {
  try {
    localStorage.setItem(keyOf(name), JSON.stringify({ ...remembered(name), ...change }));
  } catch {
    // A browser that keeps nothing shows the table as it was made.
  }
}

const isVisibility = (value: unknown): value is GridColumnVisibilityModel =>
  typeof value === 'object' &&
  value !== null &&
  Object.values(value).every((shown) => typeof shown === 'boolean');

const isSort = (value: unknown): value is GridSortModel =>
  Array.isArray(value) &&
  value.every(
    (one: unknown) =>
      typeof one === 'object' &&
      one !== null &&
      'field' in one &&
      typeof one.field === 'string' &&
      'sort' in one &&
      (one.sort === 'asc' || one.sort === 'desc'),
  );
