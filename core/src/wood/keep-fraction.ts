import { summarise } from '../stats/descriptive.ts';

/** What a model is believed to keep of a blank before anything was weighed back. */
export interface KeepBelief {
  /** Finished weight over blank weight, within 0…1. */
  mean: number;
  sd: number;
}

export interface WeighBack {
  blankKg: number;
  finishedKg: number;
}

export interface KeepFraction extends KeepBelief {
  count: number;
}

/** The belief is worth so many pieces weighed back. Default. */
const BELIEF_WORTH = 4;

/**
 * A model's keep fraction learnt from pieces weighed before and after: the mean of belief and weighings, each weighing
 * counting once and the belief as BELIEF_WORTH of them; the spread pooled the same way (n − 1 for the weighings).
 * @throws RangeError for a piece that weighs more finished than as a blank, or nothing.
 */
export function learnKeepFraction(belief: KeepBelief, weighed: readonly WeighBack[]): KeepFraction {
  const kept = weighed.map(({ blankKg, finishedKg }) => {
    if (!(finishedKg > 0 && finishedKg <= blankKg))
      throw new RangeError(`learnKeepFraction: finished ${finishedKg} kg of a blank of ${blankKg} kg`);
    return finishedKg / blankKg;
  });
  if (kept.length === 0) return { ...belief, count: 0 };
  const { count, mean, sd } = summarise(kept);
  const all = BELIEF_WORTH + count;
  return {
    mean: (BELIEF_WORTH * belief.mean + count * mean) / all,
    sd: Math.sqrt((BELIEF_WORTH * belief.sd ** 2 + (count - 1) * sd ** 2) / (all - 1)),
    count,
  };
}
