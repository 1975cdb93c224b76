import type { ClimateSample } from '../units/climate.ts';
import { holdGroups, type BatchState } from './batch.ts';
import type { Facts } from './entry.ts';
import { cureProgressHours } from './holds/cure.ts';
import { holdContext } from './reduce.ts';
import { operationOf, type Route } from './route.ts';

/** The rooms whose climate a release of this batch would have to know. */
export function roomsInQuestion(state: BatchState, route: Route): string[] {
  const rooms = holdGroups(state).flatMap((group) => {
    const operation = operationOf(route, group.operation);
    return operation.mode === 'hold' && operation.rule.rule === 'cure' ? [operation.room] : [];
  });
  return [...new Set(rooms)];
}

/** What only the climate log can tell about a release: the reference hours of cure reached, hold by hold. */
export function factsForRelease(options: {
  state: BatchState;
  route: Route;
  atMs: number;
  climateOf: (room: string) => readonly ClimateSample[];
}): Facts {
  const { state, route, atMs, climateOf } = options;
  const cured = holdGroups(state).flatMap((group) => {
    const operation = operationOf(route, group.operation);
    if (operation.mode !== 'hold' || operation.rule.rule !== 'cure' || group.called !== null) return [];
    const context = { ...holdContext(state, group, atMs), climate: climateOf(operation.room) };
    const referenceHours = cureProgressHours(operation.rule, context);
    return referenceHours === undefined ? [] : [{ sinceMs: group.sinceMs, referenceHours }];
  });
  return cured.length > 0 ? { cured } : {};
}
