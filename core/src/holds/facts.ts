import { coatedAlike } from '../coats/index.ts';
import {
  holdGroups,
  type BatchState,
  type CureFact,
  type Facts,
  type HoldGroup,
  type PanelEnd,
} from '../ledger/index.ts';
import { operationOf, type HoldOperation, type Route } from '../route/index.ts';
import type { ClimateSample } from '../units/climate.ts';
import { holdContext } from './context.ts';
import { cureView, lastPanel } from './cure.ts';
import type { HoldContext } from './rules.ts';

/** The rooms and booths whose climate a judgement of this batch's coats and cures would have to know. */
export function roomsInQuestion(state: BatchState, route: Route): string[] {
  const rooms = holdGroups(state).flatMap((group) => {
    const operation = operationOf(route, group.operation);
    return operation.mode === 'hold' && operation.rule.rule === 'cure' ? [operation.room] : [];
  });
  return [...new Set([...rooms, ...coatedRooms(state)])];
}

/** The booths its coats were laid in, and the rooms they stood in since. */
export function coatedRooms({ coats, rests = [] }: Pick<BatchState, 'coats' | 'rests'>): string[] {
  return [...new Set([...coats.flatMap(({ room }) => room ?? []), ...rests.map(({ room }) => room)])];
}

/** How far the pieces of one cure are, those with the same coats together; empty when no climate is known. */
export function cureFacts(
  state: BatchState,
  operation: HoldOperation,
  group: Pick<HoldGroup, 'sinceMs' | 'positions'>,
  context: HoldContext,
): CureFact[] {
  const { rule, room } = operation;
  if (rule.rule !== 'cure') return [];
  return coatedAlike(state, group.positions).flatMap((positions) => {
    const asked = { ...context, positions };
    const seen = cureView(rule, room, asked);
    const panel = lastPanel(rule, asked);
    const cured = { sinceMs: group.sinceMs, positions };
    return seen
      ? [
          {
            ...cured,
            referenceHours: seen.gathered,
            neededHours: seen.needed,
            ...(panel ? { lastPanel: panel } : {}),
          },
        ]
      : [];
  });
}

/** What only the climate log can tell about the end of a hold: how far each cure is, hold by hold. */
export function factsForEnd(options: {
  state: BatchState;
  route: Route;
  atMs: number;
  climateOf: (room: string) => readonly ClimateSample[];
  /** A test panel that was sprayed with the batch and is cured, by which somebody goes, in words. */
  panel?: string | undefined;
  /** Test panels sprayed with the batch that can tell when they are cured. */
  panels?: readonly PanelEnd[];
}): Facts {
  const { state, route, atMs, climateOf, panel, panels = [] } = options;
  const cured = holdGroups(state).flatMap((group) => {
    const operation = operationOf(route, group.operation);
    if (operation.mode !== 'hold' || group.called !== null) return [];
    const context = {
      ...holdContext(state, group, atMs),
      climate: climateOf(operation.room),
      climateOf,
      panels,
    };
    return cureFacts(state, operation, group, context).map((fact) =>
      panel === undefined ? fact : { ...fact, panel },
    );
  });
  return cured.length > 0 ? { cured } : {};
}
