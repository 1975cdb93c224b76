import { hasLeft } from '../ledger/index.ts';
import { operationIndex, type Route } from '../route/index.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { workingClock } from '../time/working-clock.ts';
import { neededMs } from './needed.ts';
import type { RoutedBatch } from './station-load.ts';

/**
 * Pieces that each station must let go by a moment, so that what is open can be in time: those that have an operation there before
 * them which must be done by then at the latest (`neededMs`; what is late already must be done too). Each counts once at a station.
 * @param options.racks with the route of what a join makes of them, null: they ship as they are
 * @param options.byMs the moment
 * @returns pieces by code of the station; stations that need to let nothing go are missing
 */
export function neededBy(options: {
  racks: readonly (RoutedBatch & { then: Route | null })[];
  calendar: FactoryCalendar;
  byMs: number;
}): Map<string, number> {
  const { racks, calendar, byMs } = options;
  const clock = workingClock(calendar, Math.min(byMs, ...racks.map(({ state }) => state.dueMs)));
  const needed = new Map<string, number>();
  for (const { state, route, then } of racks) {
    const at = new Map<string, number>();
    for (const piece of state.pieces)
      if (!hasLeft(piece)) at.set(piece.operation, (at.get(piece.operation) ?? 0) + 1);
    const asked = { pieces: state.pieces.length, dueMs: state.dueMs, calendar, clock };
    // What two racks become is counted with the one that takes the other in.
    const isHost = route.operations.some((one) => one.mode === 'join' && one.role === 'host');
    const later = then && isHost ? lastAt(then, 0) : new Map<string, string>();
    const inTime = (station: string, operation: string): boolean => {
      const key = later.get(station);
      const latest =
        then && key !== undefined
          ? neededMs({ ...asked, route: then, operation: key, then: null })
          : neededMs({ ...asked, route, operation, then });
      return latest <= byMs;
    };
    for (const [operation, pieces] of at) {
      const own = lastAt(route, operationIndex(route, operation));
      for (const [station, key] of new Map([...later, ...own]))
        if (inTime(station, key)) needed.set(station, (needed.get(station) ?? 0) + pieces);
    }
  }
  return needed;
}

/** The last operation that is worked at each station, from an operation of the route on. */
function lastAt({ operations }: Route, from: number): Map<string, string> {
  return new Map(
    operations
      .slice(from)
      .flatMap(({ key, mode, stations: [station] }) =>
        mode === 'hold' || station === undefined ? [] : [[station, key] as const],
      ),
  );
}
