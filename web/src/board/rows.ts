import { operationIndex, operationOf, type Route } from '@ample-crane/core';
import type { Board, BoardBatch, Hold, StationSeen } from '../api/queries.ts';
import { routeFor } from '../api/routes.ts';
import type { Peg } from '../devices/PegRack.tsx';

/** A rack at one station: the pieces of a batch that wait or are in hand there. */
export interface RackAt {
  batch: BoardBatch;
  operation: string;
  operationName: string;
  pegs: Peg[];
  here: number;
  done: number;
  sinceMs: number;
}

export interface HoldAt {
  batch: BoardBatch;
  hold: Hold;
  /** Other groups of the same rack in the same hold, drawn with this one. */
  more: number;
}

export interface Row {
  station: StationSeen;
  /** Next first. */
  waiting: RackAt[];
  inHand: RackAt[];
  /** Ending first; without an end last. */
  holds: HoldAt[];
}

/** The pegs of a batch as seen from one operation. */
export function pegsAt(batch: BoardBatch, route: Route, operation: string): Peg[] {
  const here = operationIndex(route, operation);
  return batch.state.pieces.map((piece): Peg => {
    if (piece.standing === 'scrapped') return 'scrapped';
    if (piece.standing === 'joined' || piece.standing === 'parted' || piece.standing === 'shipped')
      return 'done';
    const there = operationIndex(route, piece.operation);
    if (there === here) return piece.rework ? 'rework' : 'todo';
    return there > here ? 'done' : 'elsewhere';
  });
}

/** The rows of the Now board, one for each station: what waits, what is in hand, what is on hold. */
export function boardRows(board: Board): Row[] {
  const rows = new Map<string, Row>(
    board.stations.map((station) => [station.code, { station, waiting: [], inHand: [], holds: [] }]),
  );
  for (const batch of board.batches) {
    const route = routeFor(board, batch.state);
    if (!route) continue;
    for (const standing of ['waiting', 'inHand'] as const) {
      for (const rack of racksOf(batch, route, standing)) {
        const station = rack.station ?? operationOf(route, rack.operation).stations[0] ?? '';
        rows.get(station)?.[standing].push(rack);
      }
    }
    const seen = new Map<string, HoldAt>();
    for (const hold of batch.holds) {
      const known = seen.get(hold.operation + hold.rule);
      if (known) {
        known.more += hold.positions.length;
        continue;
      }
      const at: HoldAt = { batch, hold, more: 0 };
      seen.set(hold.operation + hold.rule, at);
      rows.get(operationOf(route, hold.operation).stations[0] ?? '')?.holds.push(at);
    }
  }
  for (const row of rows.values()) sortRow(row);
  return [...rows.values()];
}

function racksOf(
  batch: BoardBatch,
  route: Route,
  standing: 'waiting' | 'inHand',
): (RackAt & { station: string | null })[] {
  const pieces = batch.state.pieces.filter((piece) => piece.standing === standing);
  const keys = [...new Set(pieces.map((piece) => piece.operation))];
  return keys.map((operation) => {
    const there = pieces.filter((piece) => piece.operation === operation);
    const pegs = pegsAt(batch, route, operation);
    return {
      batch,
      operation,
      operationName: operationOf(route, operation).name,
      pegs,
      here: there.length,
      done: pegs.filter((peg) => peg === 'done').length,
      sinceMs: Math.min(...there.map((piece) => piece.sinceMs)),
      station: there[0]?.station ?? null,
    };
  });
}

/** Next is what is due first, then what has waited longest; ties by code. */
function sortRow(row: Row): void {
  const order = (a: RackAt, b: RackAt): number =>
    a.batch.state.dueMs - b.batch.state.dueMs ||
    a.sinceMs - b.sinceMs ||
    a.batch.state.code.localeCompare(b.batch.state.code);
  row.waiting.sort(order);
  row.inHand.sort(order);
  const end = ({ hold }: HoldAt): number => (hold.over ? 0 : (hold.endMs ?? Infinity));
  row.holds.sort((a, b) => {
    const byEnd = end(a) - end(b);
    return byEnd !== 0 && !Number.isNaN(byEnd) ? byEnd : a.batch.state.code.localeCompare(b.batch.state.code);
  });
}
