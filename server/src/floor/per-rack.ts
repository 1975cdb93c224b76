import { MINUTE_MS, type BatchState } from '@ample-crane/core';

interface Judged<T> {
  minute: number;
  by: readonly unknown[];
  value: T;
}

/** Minutes end for every rack at a moment of its own: five hundred of them are not judged anew all at once. */
function minuteOf(code: string, nowMs: number): number {
  let phase = 0;
  for (let i = 0; i < code.length; i += 1) phase = (phase * 31 + code.charCodeAt(i)) % 60;
  return Math.floor((nowMs + (phase * MINUTE_MS) / 60) / MINUTE_MS);
}

/**
 * What is judged of a rack, once for all who ask: anew when the rack changed, when what it is judged by did, or when its minute
 * is over. A state that a filing replaced takes its judgement with it.
 */
export class PerRack<T> {
  private readonly kept = new WeakMap<BatchState, Judged<T>>();

  /** @param by what the judgement rests on besides the rack: the same objects, or equal words, as long as it holds. */
  get(state: BatchState, nowMs: number, by: readonly unknown[], judge: () => T): T {
    const minute = minuteOf(state.code, nowMs);
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
