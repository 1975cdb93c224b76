import type { PieceState } from '../ledger/index.ts';
import { operationOf, STAGES, type Route, type Stage, type Station } from '../route/index.ts';
import type { RoutedBatch } from './station-load.ts';

/** Code of the station a piece stands at: where it is in hand, or would be by its route; '' where the route names none. */
export const standsAt = (piece: Pick<PieceState, 'station' | 'operation'>, route: Route): string =>
  piece.station ?? operationOf(route, piece.operation).stations[0] ?? '';

export interface RopeStage {
  stage: Stage;
  racks: number;
  pieces: number;
  waiting: number;
  inHand: number;
  onHold: number;
}

/** The work at each stage: racks with at least one piece there, and the pieces by standing. */
export function ropeStages(batches: readonly RoutedBatch[], stations: readonly Station[]): RopeStage[] {
  const stageOf = new Map(stations.map((station) => [station.code, station.stage]));
  const rope = new Map<Stage, RopeStage>(
    STAGES.map((stage) => [stage, { stage, racks: 0, pieces: 0, waiting: 0, inHand: 0, onHold: 0 }]),
  );
  for (const { state, route } of batches) {
    const seen = new Set<Stage>();
    for (const piece of state.pieces) {
      if (piece.standing !== 'waiting' && piece.standing !== 'inHand' && piece.standing !== 'onHold')
        continue;
      const stage = stageOf.get(standsAt(piece, route));
      const row = stage && rope.get(stage);
      if (!row) continue;
      row[piece.standing] += 1;
      row.pieces += 1;
      if (!seen.has(row.stage)) row.racks += 1;
      seen.add(row.stage);
    }
  }
  return [...rope.values()];
}
