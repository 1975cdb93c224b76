import { looksOf, type BatchState } from '../ledger/index.ts';
import type { Route } from '../route/index.ts';

/** What one piece measured when it was last looked at for something. */
export interface MeasuredOf {
  atMs: number;
  /** Key and name of the operation, of the check, and the unit of its value. */
  operation: string;
  operationName: string;
  check: string;
  name: string;
  unit: string;
  value: number;
}

/**
 * The last value of every check of a piece that was told apart, in the order of its route: its neck's tongue, the tone and the
 * top of a closed box. What its route no more asks is left out.
 * @param position 1-based place on the rack
 */
export function measuredOf(state: BatchState, route: Route, position: number): MeasuredOf[] {
  const looks = looksOf(state).filter(({ positions }) => positions.includes(position));
  return route.operations.flatMap(({ key: operation, name: operationName, checks = [] }) =>
    checks.flatMap(({ key: check, name, unit }): MeasuredOf[] => {
      const last = looks.findLast((look) => look.operation === operation && look.check === check);
      const value = last?.values[last.positions.indexOf(position)];
      if (!last || value === undefined) return [];
      return [{ atMs: last.atMs, operation, operationName, check, name, unit, value }];
    }),
  );
}
