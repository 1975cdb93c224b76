import type { GapWindow } from '../fitting/pairing.ts';
import type { Check } from '../machining/check.ts';
import type { MoistureWindow } from '../wood/gate.ts';
import type { HoldRule, MoistureRule } from './hold-rule.ts';

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
  /** What follows: absent, the next in the list; several, ways to choose from, the first being the usual one. */
  next?: string[];
  /** Holds that must have come before it on every way: 'drying', 'rest', 'glue', 'cure' … */
  needs?: HoldRule['word'][];
  /** What is measured here. */
  checks?: Check[];
  /** Good pieces expected of a hundred. */
  yieldPct?: number;
  /** What this way of working risks, where it is one of several. */
  risk?: string;
  /** Material and tooling for a piece, in the factory's money. */
  costPerPiece?: number;
  /** Pieces get their serial here: they are not through without one. */
  serial?: true;
  /** The kit of a piece is picked and complete before it is taken in hand here. */
  kit?: true;
  /** What comes is looked at and accepted, or sent back, before work on it begins here. */
  accepts?: true;
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
  /** Only people with its skill may be put on it, and it must be said who is. */
  ableOnly?: boolean;
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
  /** Pieces lie in a press or carousel of the station; its places are counted. */
  bedded?: boolean;
}

/** Measure and decide. */
export interface GateOperation extends OperationCommon, Timed {
  mode: 'gate';
  gate:
    | { kind: 'moisture'; window: MoistureWindow; destination?: MoistureRule['destination'] }
    | {
        kind: 'inspection';
        /** Two people look at each piece, one after the other; absent: one. */
        eyes?: 2;
      };
}

/** Two batches become one; filed on the host (the body), the guest (the neck) leaves with it. */
export interface JoinOperation extends OperationCommon, Timed {
  mode: 'join';
  role: 'host' | 'guest';
  /** Kind letter of the other side. */
  partnerKind: string;
  /** Kind letter of what the join makes; that of the host itself: the host takes the guest in and goes on. */
  makesKind: string;
  /** How the two are paired by measurement: a check of each side, and the gap wanted (host minus guest). */
  fit?: { hostCheck: string; guestCheck: string; windowMm: GapWindow };
}

/** A piece becomes one piece of each kind made (a wedge becomes top and back); the batch ends with it. */
export interface SplitOperation extends OperationCommon, Timed {
  mode: 'split';
  makesKinds: string[];
}

export interface ShipOperation extends OperationCommon, Timed {
  mode: 'ship';
}

export type OperationMode = Operation['mode'];

export type Operation =
  | AttendedOperation
  | LoadOperation
  | HoldOperation
  | GateOperation
  | JoinOperation
  | SplitOperation
  | ShipOperation;

/** The ordered operations of a model and kind, at one revision. Open batches keep theirs. */
export interface Route {
  id: string;
  model: string;
  /** Kind letter: B, N, I … */
  kind: string;
  revision: number;
  operations: Operation[];
}

/** The operation of a key. @throws when the route has none. */
export function operationOf(route: Route, key: string): Operation {
  const found = route.operations.find((operation) => operation.key === key);
  if (!found) throw new Error(`operationOf: route ${route.id} has no operation '${key}'`);
  return found;
}

/** How many operations of the route come before it; −1 when the route has none of that key. */
export function operationIndex(route: Route, key: string): number {
  return route.operations.findIndex((operation) => operation.key === key);
}

/** The operation that follows; undefined after the last one. */
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
    case 'split':
    case 'ship':
      return operation.setUpMinutes + pieces * operation.pieceMinutes;
  }
}

/** Each of its pieces becomes one of that kind, and is what the other part is joined to: bodies carry instruments. */
export const carries = (route: Route, kind: string): boolean =>
  route.operations.some(
    (operation) =>
      operation.mode === 'join' &&
      operation.role === 'host' &&
      operation.makesKind === kind &&
      endsRoute(route, operation),
  );

/** Does the batch end with this operation: shipped, parted, or joined into something else? */
export function endsRoute(route: Pick<Route, 'kind'>, operation: Operation): boolean {
  if (operation.mode === 'ship' || operation.mode === 'split') return true;
  return operation.mode === 'join' && (operation.role === 'guest' || operation.makesKind !== route.kind);
}
