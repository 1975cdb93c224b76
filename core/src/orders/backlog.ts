import { carries, workMinutes, type Route } from '../route/index.ts';
import type { Wanted } from './demand.ts';

/** Work of what is ordered and not begun, at one station. */
export interface BacklogWork {
  dueMs: number;
  /** Instruments nothing of which is begun, and parts that are wanted again by themselves. */
  pieces: number;
  /** Hours of one person or machine there; set-ups are of racks, and not in it. */
  hours: number;
}

/**
 * Hours that what is ordered and not begun will take at a station, line by line: each part by its own route, the instrument once,
 * with the part that carries it. By the usual ways and the route's own minutes.
 * @param routes worked: the usual ways of the newest revisions
 */
export function backlogAt(
  station: string,
  wanted: readonly Wanted[],
  routes: readonly Route[],
): BacklogWork[] {
  const minutesOf = new Map(routes.map((route) => [route, minutesAt(station, route)]));
  const lines = new Map<string, BacklogWork>();
  for (const { line, model, kind, count, dueMs } of wanted) {
    const own = routes.find((route) => route.model === model && route.kind === kind);
    if (!own) continue;
    const carried = routes.find((route) => route.model === model && carries(own, route.kind));
    const minutes = (minutesOf.get(own) ?? 0) + (carried ? (minutesOf.get(carried) ?? 0) : 0);
    const known = lines.get(line) ?? { dueMs, pieces: 0, hours: 0 };
    lines.set(line, {
      dueMs,
      pieces: Math.max(known.pieces, count),
      hours: known.hours + (count * minutes) / 60,
    });
  }
  return [...lines.values()];
}

/** Minutes of one piece at a station; what a machine takes at once is shared by its places. */
const minutesAt = (station: string, { operations }: Route): number =>
  operations
    .filter(({ stations }) => stations[0] === station)
    .reduce(
      (sum, operation) =>
        sum + (operation.mode === 'load' ? operation.cycleMinutes / operation.places : perPiece(operation)),
      0,
    );

const perPiece = (operation: Route['operations'][number]): number =>
  workMinutes(operation, 2) - workMinutes(operation, 1);
