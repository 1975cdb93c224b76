import {
  heldAgainstProof,
  knownFactory,
  KNOWN_KINDS,
  provedConstraint,
  verdictOnLog,
} from './known-constraint.ts';

/** The bench does it for thirty of each. */
const SEEDS = [1, 2, 3];

describe('four weeks of a log whose constraint is known', () => {
  it.each(KNOWN_KINDS)(
    'that is %s: the signs name what one more of proves to move it, or say they are not sure',
    (kind) => {
      for (const seed of SEEDS) {
        const factory = knownFactory(kind, seed);
        const proved = provedConstraint(factory);
        // It is a constraint: one more of it brings at least a third of a rack a day.
        expect(proved[0]?.gain).toBeGreaterThan(0.3);
        const verdict = verdictOnLog(factory);
        expect([seed, verdict.code, heldAgainstProof(verdict, proved)]).toEqual([
          seed,
          expect.any(String) as string,
          'right',
        ]);
        if (kind === 'people') expect(verdict).toMatchObject({ by: 'skill', code: 'scarce' });
        if (kind === 'room') expect(verdict.code).toBe('cure room');
      }
    },
  );
});
