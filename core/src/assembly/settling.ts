import { summarise } from '../stats/descriptive.ts';

/**
 * How far an instrument's action moved while it settled under string tension: mean of the second measuring minus
 * mean of the first, mm, positive when the strings rose.
 * @throws RangeError when either list is empty.
 */
export function settlingDriftMm(beforeMm: readonly number[], afterMm: readonly number[]): number {
  return summarise(afterMm).mean - summarise(beforeMm).mean;
}
