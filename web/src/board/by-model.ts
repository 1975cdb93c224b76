import { daysLate, type Stage } from '@ample-crane/core';
import type { RackLine } from '../api/queries.ts';
import { marksByStage, type Mark, type StageOf } from './marks.ts';

/** The open racks of one model, stage by stage. */
export interface ModelRow {
  model: string;
  racks: number;
  pieces: number;
  /** Racks that will be late. */
  late: number;
  /** The rack that is due first. */
  next: RackLine;
  /** Those in each stage, what is due first, first. */
  stages: Record<Stage, Mark[]>;
}

/** The open racks by their model, in the order of the models' names. A rack whose pieces are in two stages stands in both. */
export function byModel(lines: readonly RackLine[], stageOf: StageOf): ModelRow[] {
  const dueFirst = lines.toSorted((a, b) => a.dueMs - b.dueMs);
  return [...new Set(lines.map(({ model }) => model))].toSorted().flatMap((model) => {
    const racks = dueFirst.filter((line) => line.model === model);
    const [next] = racks;
    if (!next) return [];
    const stages = marksByStage(
      racks.map((line) => ({ line, stations: line.stations })),
      stageOf,
    );
    return [
      {
        ...{ model, next, stages, racks: racks.length },
        pieces: racks.reduce((sum, { pieces }) => sum + pieces, 0),
        late: racks.filter((line) => daysLate(line) !== null).length,
      },
    ];
  });
}
