import type { BatchState, PieceState, Rest } from '../ledger/index.ts';
import { operationOf, type Route } from '../route/index.ts';
/** A place where a piece rested, from a moment on. */
export type RestingSince = Pick<Rest, 'fromMs' | 'room'>;

/**
 * The state with the holds noted that coated pieces came onto by the last entry, each with its room: the clocks of their coats
 * ask for it long after the hold is over.
 */
export function withRests(before: BatchState, after: BatchState, route: Route): BatchState {
  if (after.coats.length === 0) return after;
  const was = new Map(before.pieces.map((piece) => [piece.position, piece]));
  const came = after.pieces.filter((piece) => isHeld(piece) && !isSameHold(was.get(piece.position), piece));
  if (came.length === 0) return after;
  const rests = [...(after.rests ?? [])];
  for (const { operation: key, sinceMs, position } of came) {
    const operation = operationOf(route, key);
    if (operation.mode !== 'hold') continue;
    const { room } = operation;
    const together = rests.find((rest) => rest.fromMs === sinceMs && rest.operation === key);
    if (!together) rests.push({ fromMs: sinceMs, operation: key, room, positions: [position] });
    else if (!together.positions.includes(position))
      rests[rests.indexOf(together)] = { ...together, positions: [...together.positions, position] };
  }
  return { ...after, rests: rests.sort((a, b) => a.fromMs - b.fromMs) };
}

const isHeld = ({ standing, called }: PieceState): boolean => standing === 'onHold' && called === null;

const isSameHold = (before: PieceState | undefined, now: PieceState): boolean =>
  before !== undefined &&
  (before === now ||
    (isHeld(before) && before.operation === now.operation && before.sinceMs === now.sinceMs));

/** Where a piece rested, in order of time; `hold` is where it rests now, by the route as it is now. */
export function restsOf(
  { rests = [] }: { rests?: readonly Rest[] },
  position: number,
  hold?: RestingSince,
): RestingSince[] {
  const past = rests.filter(
    ({ positions, fromMs }) => positions.includes(position) && fromMs !== hold?.fromMs,
  );
  return hold ? [...past, hold] : past;
}
