import { daysLate, STAGES, type Stage } from '@ample-crane/core';
import type { RackLine } from '../api/queries.ts';

/** A rack in one stage. `ahead`: some of its pieces are there, others are furthest behind elsewhere. */
export interface Mark {
  batch: string;
  is: 'waiting' | 'inHand' | 'onHold' | 'ahead';
  late: boolean;
}

/** The stage of a station, by its code. */
export type StageOf = (station: string) => Stage | undefined;

/** Racks in each stage where pieces of theirs that are looked at stand, in the order in which they are given. */
export function marksByStage(
  racks: readonly { line: RackLine; stations: readonly string[] }[],
  stageOf: StageOf,
): Record<Stage, Mark[]> {
  const markIn = (stage: Stage) =>
    racks.flatMap(({ line, stations }): Mark[] => {
      const there = stations.filter((station) => stageOf(station) === stage);
      if (there.length === 0) return [];
      const is = there.includes(line.station) ? line.standing : 'ahead';
      return [{ batch: line.batch, is, late: daysLate(line) !== null }];
    });
  return Object.fromEntries(STAGES.map((stage) => [stage, markIn(stage)])) as Record<Stage, Mark[]>;
}
