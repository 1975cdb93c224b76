import type { MoistureWindow } from '../wood/gate.ts';
import type { HoldRule, MoistureRule } from './holds/rules.ts';

/** The five stages in process order. */
export const STAGES = ['wood', 'machining', 'fitting', 'finishing', 'assembly'] as const;
export type Stage = (typeof STAGES)[number];

/** A place where work is done or where racks rest. */
export interface Station {
  code: string;
  name: string;
  stage: Stage;
  /** How many people or machines can work here at once; hours a day = this × the shift's hours. */
  parallel: number;
  /** Where its air is logged. */
  room: string;
  /** What stands under its name on the board: '2 tables × 6'. */
  note: string;
}

interface OperationCommon {
  /** Unique in the route. */
  key: string;
  name: string;
  /** Codes of the stations that may do it; the first is the usual one. */
  stations: string[];
  /** Where a piece goes that must be done again; null when nothing here can be put right. */
  reworkTo: string | null;
  /** Reminder shown with the operation. */
  caution: string | null;
}

interface Timed {
  setUpMinutes: number;
  /** Per piece, one person. */
  pieceMinutes: number;
  /** Skill it takes; null: anyone at the station. */
  skill: string | null;
}

/** A person, per piece. */
export interface AttendedOperation extends OperationCommon, Timed {
  mode: 'attended';
  /** Coats to lay before the operation is done; null where nothing is sprayed. */
  coats: { wanted: number; material: string } | null;
}

/** A machine, press, table or booth that takes up to `places` pieces for one cycle. */
export interface LoadOperation extends OperationCommon {
  mode: 'load';
  places: number;
  setUpMinutes: number;
  cycleMinutes: number;
  skill: string | null;
}

/** Nobody works: the rule says when it is over. */
export interface HoldOperation extends OperationCommon {
  mode: 'hold';
  rule: HoldRule;
  /** Where the rack rests, for its climate. */
  room: string;
}

/** Measure and decide. */
export interface GateOperation extends OperationCommon, Timed {
  mode: 'gate';
  gate:
    | { kind: 'moisture'; window: MoistureWindow; destination?: MoistureRule['destination'] }
    | { kind: 'inspection' };
}

/** Two batches become one; filed on the host (the body), the guest (the neck) leaves with it. */
export interface JoinOperation extends OperationCommon, Timed {
  mode: 'join';
  role: 'host' | 'guest';
  /** Kind letter of the other side. */
  partnerKind: string;
  /** Kind letter of what the join makes. */
  makesKind: string;
}

export interface ShipOperation extends OperationCommon, Timed {
  mode: 'ship';
}

export type OperationMode = Operation['mode'];

export type Operation =
  AttendedOperation | LoadOperation | HoldOperation | GateOperation | JoinOperation | ShipOperation;

/** The ordered operations of a model and kind, at one revision. Released batches keep theirs. */
export interface Route {
  id: string;
  model: string;
  /** Kind letter: B, N, I … */
  kind: string;
  revision: number;
  operations: Operation[];
}

export function operationOf(route: Route, key: string): Operation {
  const found = route.operations.find((operation) => operation.key === key);
  if (!found) throw new Error(`operationOf: route ${route.id} has no operation '${key}'`);
  return found;
}

export function operationIndex(route: Route, key: string): number {
  return route.operations.findIndex((operation) => operation.key === key);
}

export function operationAfter(route: Route, key: string): Operation | undefined {
  return route.operations[operationIndex(route, key) + 1];
}

/** Minutes of one person or machine that `pieces` pieces take here, set-up included once; 0 for holds. */
export function workMinutes(operation: Operation, pieces: number): number {
  if (pieces <= 0) return 0;
  switch (operation.mode) {
    case 'hold':
      return 0;
    case 'load':
      return operation.setUpMinutes + Math.ceil(pieces / operation.places) * operation.cycleMinutes;
    case 'attended':
    case 'gate':
    case 'join':
    case 'ship':
      return operation.setUpMinutes + pieces * operation.pieceMinutes;
  }
}

/** What is wrong with a route, in words; empty when it can be worked. */
export function routeProblems(route: Route): string[] {
  const problems: string[] = [];
  const keys = route.operations.map((operation) => operation.key);
  if (keys.length === 0) return ['a route needs at least one operation'];
  keys.forEach((key, index) => {
    if (keys.indexOf(key) !== index) problems.push(`'${key}' stands twice`);
  });
  route.operations.forEach((operation, index) => {
    const last = index === route.operations.length - 1;
    const leaves = operation.mode === 'join' || operation.mode === 'ship';
    if (last && !leaves)
      problems.push(`'${operation.key}' is the end, but only a join or shipping can end a route`);
    if (!last && leaves)
      problems.push(`nothing can follow '${operation.key}': the pieces have left the route`);
    if (operation.stations.length === 0) problems.push(`'${operation.key}' has no station`);
    if (operation.reworkTo !== null && keys.indexOf(operation.reworkTo) < 0) {
      problems.push(`'${operation.key}' sends rework to '${operation.reworkTo}', which is not in the route`);
    } else if (operation.reworkTo !== null && keys.indexOf(operation.reworkTo) > index) {
      problems.push(`'${operation.key}' sends rework ahead to '${operation.reworkTo}'`);
    }
  });
  return problems;
}
