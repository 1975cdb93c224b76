import { expectedFitShare, pairParts, summarise, type Pairing, type PartsToPair } from '@ample-crane/core';
import type { Pairing as Seen, PairingSide } from './queries.ts';

export type PairQuestion = PartsToPair;

export interface PairAnswer {
  pairing: Pairing;
  share: ReturnType<typeof expectedFitShare>;
}

/** Which measured pieces are asked about, and their widths as they will be when they are joined. */
export interface Asked {
  question: PairQuestion;
  /** Places on the racks, in the order of the question's lists. */
  tenons: number[];
  pockets: number[];
}

const measured = ({ pieces }: PairingSide): { position: number; valueMm: number; line: string | null }[] =>
  pieces.flatMap(({ position, valueMm, line }) => (valueMm === null ? [] : [{ position, valueMm, line }]));

/** The measured pieces of two racks as a question; `moving`: allow for what the wood will do until they are joined. */
export function askedOf(seen: Seen, moving: boolean): Asked {
  const [pockets, tenons] = [measured(seen.host), measured(seen.guest)];
  const by = (side: PairingSide): number => (moving ? (side.movesMm ?? 0) : 0);
  return {
    question: {
      pocketsMm: pockets.map(({ valueMm }) => valueMm + by(seen.host)),
      tenonsMm: tenons.map(({ valueMm }) => valueMm + by(seen.guest)),
      windowMm: seen.windowMm,
      tenonLines: tenons.map(({ line }) => line),
      pocketLines: pockets.map(({ line }) => line),
    },
    tenons: tenons.map(({ position }) => position),
    pockets: pockets.map(({ position }) => position),
  };
}

export const pair = (question: PairQuestion): PairAnswer => ({
  pairing: pairParts(question),
  share: expectedFitShare(question),
});

/** Mean and spread of what is measured so far. */
export function runningWords(values: readonly number[]): string {
  if (values.length === 0) return 'nothing measured';
  const { mean, sd, min, max } = summarise(values);
  return `${values.length} measured, mean ${mean.toFixed(3)} mm, spread ${sd.toFixed(3)} mm, ${min.toFixed(2)} to ${max.toFixed(2)} mm`;
}
