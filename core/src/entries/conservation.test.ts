import fc from 'fast-check';
import type { BatchState } from '../ledger/batch.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { tallyAt } from '../ledger/tally.ts';
import { file, sequences } from '../testing/random-log.ts';
import { entry, hoursIn, longRoute, openBody } from '../testing/tarrow.ts';
import { applyEntry } from './reduce.ts';
import { replay } from './replay.ts';

describe('random sequences of valid and invalid entries, seed 2026', () => {
  it('conserve pieces at every operation, and replay to the same state', () => {
    const seen = { accepted: 0, refused: 0 };
    fc.assert(
      fc.property(sequences, (bodies) => {
        const { log, state, refused } = file(bodies);
        seen.accepted += log.length;
        seen.refused += refused;
        expect(replay(longRoute, log)).toEqual(state);
        if (!state) return;
        expect(state.pieces).toHaveLength(state.quantity);
        for (const { key } of longRoute.operations) {
          const tally = tallyAt(state, longRoute, key);
          const sum = Object.values(tally).reduce<number>((total, n: number) => total + n, 0);
          expect(sum).toBe(state.quantity);
        }
      }),
      { seed: 2026, numRuns: 400 },
    );
    expect(seen.accepted).toBeGreaterThan(2000);
    expect(seen.refused).toBeGreaterThan(2000);
  });

  it('never change the state they were given', () => {
    fc.assert(
      fc.property(sequences, (bodies) => {
        let state: BatchState | null = null;
        [openBody(longRoute, 'B-1'), ...bodies].forEach((next, index) => {
          if (next.type === 'undo') return;
          const before: string = JSON.stringify(state);
          const outcome = applyEntry(state, longRoute, entry(index + 1, hoursIn(index * 7), next));
          expect(JSON.stringify(state)).toBe(before);
          if (!isRefusal(outcome)) state = outcome.state;
        });
      }),
      { seed: 2027, numRuns: 60 },
    );
  });
});
