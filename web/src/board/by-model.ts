import { daysLate, STAGES, type Stage } from '@ample-crane/core';
import type { RackLine } from '../api/queries.ts';

/** A rack in one stage. `ahead`: some of its pieces are there, others are furthest behind elsewhere. */
export interface Mark {
  batch: string;
  is: 'waiting' | 'inHand' | 'onHold' | 'ahead';
  late: boolean;
}

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
export function byModel(
  lines: readonly RackLine[],
  stageOf: (station: string) => Stage | undefined,
): ModelRow[] {
  const dueFirst = lines.toSorted((a, b) => a.dueMs - b.dueMs);
  return [...new Set(lines.map(({ model }) => model))].toSorted().flatMap((model) => {
    const racks = dueFirst.filter((line) => line.model === model);
    const [next] = racks;
    if (!next) return [];
    const stages = Object.fromEntries(
      STAGES.map((stage) => [stage, racks.flatMap((line) => markIn(line, stage, stageOf) ?? [])]),
    ) as Record<Stage, Mark[]>;
    return [
      {
        ...{ model, next, stages, racks: racks.length },
        pieces: racks.reduce((sum, { pieces }) => sum + pieces, 0),
        late: racks.filter((line) => daysLate(line) !== null).length,
      },
    ];
  });
}

function markIn(
  line: RackLine,
  stage: Stage,
  stageOf: (station: string) => Stage | undefined,
): Mark | undefined {
  if (!line.stations.some((station) => stageOf(station) === stage)) return undefined;
  const hindmost = stageOf(line.station) === stage;
  return { batch: line.batch, is: hindmost ? line.standing : 'ahead', late: daysLate(line) !== null };
}
