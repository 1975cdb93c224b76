import { MINUTE_MS, type BatchState } from '@ample-crane/core';

interface Judged<T> {
  minute: number;
  by: readonly unknown[];
  value: T;
}

/**
 * What is judged of a rack, once for all who ask: anew when the rack changed, when what it is judged by did, or when the minute
 * is over. A state that a filing replaced takes its judgement with it.
 */
export class PerRack<T> {
  private readonly kept = new WeakMap<BatchState, Judged<T>>();

  /** @param by what the judgement rests on besides the rack: the same objects, or equal words, as long as it holds. */
  get(state: BatchState, nowMs: number, by: readonly unknown[], judge: () => T): T {
    const minute = Math.floor(nowMs / MINUTE_MS);
    const known = this.kept.get(state);
    if (
      known?.minute === minute &&
      known.by.length === by.length &&
      known.by.every((one, i) => one === by[i])
    )
      return known.value;
    const value = judge();
    this.kept.set(state, { minute, by, value });
    return value;
  }
}
