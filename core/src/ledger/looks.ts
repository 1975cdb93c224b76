import { ACTION_CHECK } from '../machining/check.ts';
import type { BatchState } from './batch.ts';

/** What was read of a batch in one go, by whatever way it was filed. */
export interface Look {
  atMs: number;
  operation: string;
  /** Code of the person who filed it; absent: nobody noted. */
  by?: string;
  /** Key of the check. */
  check: string;
  /** Places on the rack, one for each value; empty when they were not told apart. */
  positions: readonly number[];
  values: readonly number[];
}

/**
 * Everything measured on a batch, oldest first: what a check asked, the action at fret 12, and bench sheets. What was reckoned from
 * planing or a shim is not measured yet.
 */
export function looksOf({
  checks = [],
  measures,
  sheets = [],
}: Pick<BatchState, 'checks' | 'measures' | 'sheets'>): Look[] {
  const looks: Look[] = checks.filter(({ source }) => source !== 'reckoned');
  for (const { atMs, operation, positions = [], valuesMm } of measures)
    looks.push({ atMs, operation, positions, check: ACTION_CHECK, values: valuesMm });
  for (const { atMs, by, operation, position, values } of sheets)
    for (const [check, value] of Object.entries(values))
      looks.push({ atMs, by, operation, check, positions: [position], values: [value] });
  return looks.sort((one, other) => one.atMs - other.atMs);
}
