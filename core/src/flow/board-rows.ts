import type { BatchState } from '../ledger/index.ts';
import { operationIndex, operationOf, type Route, type Station } from '../route/index.ts';
import type { RoutedBatch } from './station-load.ts';

/** How one piece stands, seen from the place where the rack is drawn. */
export type Peg = 'todo' | 'done' | 'scrapped' | 'rework' | 'elsewhere';
export const PEGS: readonly Peg[] = ['todo', 'done', 'scrapped', 'rework', 'elsewhere'];

/** What the board says of a batch wherever it is drawn. */
interface Drawn {
  batch: string;
  model: string;
  /** Pieces it was opened with. */
  quantity: number;
  dueMs: number;
  /** Code of the station it is drawn at. */
  station: string;
}

/** A rack at one station: the pieces of a batch that wait or are in hand there. */
export interface RackAt extends Drawn {
  operation: string;
  operationName: string;
  pegs: Peg[];
  here: number;
  done: number;
  sinceMs: number;
}

/** A hold as the board needs it; what else is known of it goes along. */
export interface DrawnHold {
  operation: string;
  rule: string;
  positions: readonly number[];
  over: boolean;
  endMs: number | null;
}

export interface HoldAt<H extends DrawnHold> extends Drawn {
  hold: H;
  /** Pieces of the rack's other groups in the same hold, drawn with this one. */
  more: number;
}

/** Where a rack is drawn. */
export interface RackDrawn<H extends DrawnHold> {
  waiting: RackAt[];
  inHand: RackAt[];
  holds: HoldAt<H>[];
  /** Stations its route goes through, by the ways it took. */
  through: string[];
}

export interface BoardRow<H extends DrawnHold> {
  /** Code of the station. */
  station: string;
  /** Whether the route of any of the racks goes through it. */
  used: boolean;
  /** Next first: what is due first, then what has waited longest. */
  waiting: RackAt[];
  inHand: RackAt[];
  /** Over first, then ending first; without an end last. */
  holds: HoldAt<H>[];
}

/** The pegs of a batch as seen from one operation of its route, in the order of its pieces. */
export function pegsAt(state: BatchState, route: Route, operation: string): Peg[] {
  const here = operationIndex(route, operation);
  return state.pieces.map((piece): Peg => {
    if (piece.standing === 'scrapped') return 'scrapped';
    if (piece.standing === 'joined' || piece.standing === 'parted' || piece.standing === 'shipped')
      return 'done';
    const there = operationIndex(route, piece.operation);
    if (there === here) return piece.rework ? 'rework' : 'todo';
    return there > here ? 'done' : 'elsewhere';
  });
}

/** Where one rack is drawn on the board, with the holds it is in as they were judged. */
export function drawRack<H extends DrawnHold>(
  { state, route }: RoutedBatch,
  holds: readonly H[],
): RackDrawn<H> {
  const common = { batch: state.code, model: state.model, quantity: state.quantity, dueMs: state.dueMs };
  const firstStation = (operation: string): string => operationOf(route, operation).stations[0] ?? '';
  const racks = (standing: 'waiting' | 'inHand'): RackAt[] => {
    const pieces = state.pieces.filter((piece) => piece.standing === standing);
    return [...new Set(pieces.map((piece) => piece.operation))].map((operation) => {
      const there = pieces.filter((piece) => piece.operation === operation);
      const pegs = pegsAt(state, route, operation);
      return {
        ...common,
        operation,
        operationName: operationOf(route, operation).name,
        pegs,
        here: there.length,
        done: pegs.filter((peg) => peg === 'done').length,
        sinceMs: Math.min(...there.map((piece) => piece.sinceMs)),
        station: there[0]?.station ?? firstStation(operation),
      };
    });
  };
  const bars = new Map<string, HoldAt<H>>();
  for (const hold of holds) {
    const known = bars.get(hold.operation + hold.rule);
    if (known) known.more += hold.positions.length;
    else
      bars.set(hold.operation + hold.rule, {
        ...common,
        hold,
        more: 0,
        station: firstStation(hold.operation),
      });
  }
  return {
    waiting: racks('waiting'),
    inHand: racks('inHand'),
    holds: [...bars.values()],
    through: [...new Set(route.operations.flatMap(({ stations }) => stations))],
  };
}

/** The rows of the Now board, one for each station: what waits, what is in hand, what is on hold. */
export function boardRows<H extends DrawnHold>(
  stations: readonly Pick<Station, 'code'>[],
  racks: readonly RackDrawn<H>[],
): BoardRow<H>[] {
  const rows = new Map<string, BoardRow<H>>(
    stations.map(({ code }) => [
      code,
      { station: code, used: racks.length === 0, waiting: [], inHand: [], holds: [] },
    ]),
  );
  for (const { waiting, inHand, holds, through } of racks) {
    for (const code of through) {
      const row = rows.get(code);
      if (row) row.used = true;
    }
    for (const rack of waiting) rows.get(rack.station)?.waiting.push(rack);
    for (const rack of inHand) rows.get(rack.station)?.inHand.push(rack);
    for (const hold of holds) rows.get(hold.station)?.holds.push(hold);
  }
  for (const row of rows.values()) {
    row.waiting.sort(nextFirst);
    row.inHand.sort(nextFirst);
    row.holds.sort(endingFirst);
  }
  return [...rows.values()];
}

const codes = new Intl.Collator('en', { numeric: true });

const nextFirst = (a: RackAt, b: RackAt): number =>
  a.dueMs - b.dueMs || a.sinceMs - b.sinceMs || codes.compare(a.batch, b.batch);

function endingFirst(a: HoldAt<DrawnHold>, b: HoldAt<DrawnHold>): number {
  const end = ({ hold }: HoldAt<DrawnHold>): number => (hold.over ? 0 : (hold.endMs ?? Infinity));
  // Two without an end are NaN apart: then by code, as two that end together.
  return end(a) - end(b) || codes.compare(a.batch, b.batch);
}
