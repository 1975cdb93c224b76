import type { BatchState } from '@ample-crane/core';
import { PerRack } from './per-rack.ts';

const rack = (code: string): BatchState => ({ code }) as BatchState;

describe('what is judged of a rack', () => {
  const counted = () => {
    const kept = new PerRack<number>();
    let judged = 0;
    return (state: BatchState, nowMs: number, ...by: unknown[]): number =>
      kept.get(state, nowMs, by, () => (judged += 1));
  };

  it('is judged once in a minute, not all racks in the same second', () => {
    const kept = new PerRack<true>();
    const racks = Array.from({ length: 120 }, (_, i) => rack(`B-${i + 100}`));
    const judgedAt = (second: number): number => {
      let judged = 0;
      for (const state of racks)
        kept.get(state, second * 1000, [], () => {
          judged += 1;
          return true;
        });
      return judged;
    };
    expect(judgedAt(0)).toBe(120);
    expect(judgedAt(0)).toBe(0);
    const seconds = Array.from({ length: 60 }, (_, i) => judgedAt(i + 1));
    expect(seconds.reduce((sum, judged) => sum + judged, 0)).toBe(120);
    expect(Math.max(...seconds)).toBeLessThan(20);
  });

  it('is judged anew when the rack changed, and no other is', () => {
    const ask = counted();
    const [one, other] = [rack('B-1'), rack('B-2')];
    expect([ask(one, 0), ask(other, 0), ask({ ...one }, 0), ask(other, 0)]).toEqual([1, 2, 3, 2]);
  });

  it('is judged anew when the air of its room, or a panel, says something else', () => {
    const ask = counted();
    const state = rack('B-1');
    const air = [20];
    expect([
      ask(state, 0, air, 'P-1'),
      ask(state, 0, air, 'P-1'),
      ask(state, 0, [20], 'P-1'),
      ask(state, 0, air, 'P-1 P-2'),
      ask(state, 0, air),
    ]).toEqual([1, 1, 2, 3, 4]);
  });
});
