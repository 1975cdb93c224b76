import fc from 'fast-check';
import { activePeriods, momentaryConstraint, momentarySpans } from './active-periods.ts';
import { constraintSigns, type Resource } from './constraint-signs.ts';
import { constraintVerdict, type ConstraintSigns } from './constraint-verdict.ts';
import { saturated } from './saturation.ts';

const interval = (station: string, fromMs: number, toMs: number) => ({ station, fromMs, toMs });

describe('active periods', () => {
  it('are what lies over or against each other at one station', () => {
    const spans = [
      interval('a', 4, 6),
      interval('b', 0, 2),
      interval('a', 0, 2),
      interval('a', 2, 3),
      interval('a', 5, 5),
    ];
    expect(activePeriods(spans)).toEqual([interval('a', 0, 3), interval('b', 0, 2), interval('a', 4, 6)]);
    expect(() => activePeriods([interval('a', 3, 2)])).toThrow('a is busy from 3 to 2');
    expect(activePeriods([])).toEqual([]);
  });
});

describe('the momentary constraint', () => {
  // a is busy 0–10, b 8–20, c 2–4 and 22–24: a paces to 10, b from there, nobody at 20–22, then c.
  const day = [interval('a', 0, 10), interval('b', 8, 20), interval('c', 2, 4), interval('c', 22, 24)];

  it('is the station whose active period is the longest, by hand', () => {
    expect(momentarySpans(day).map(({ station, fromMs, toMs }) => [station, fromMs, toMs])).toEqual([
      // b's period is longer than a's: from its beginning on it paces.
      ['a', 0, 8],
      ['b', 8, 20],
      ['c', 22, 24],
    ]);
  });

  it('shifts while the periods of the one and the next lie over each other: both have a share of that', () => {
    // Of 24: a alone 0–8; shifting 8–10 for both; b alone 10–20; c alone 22–24.
    expect(momentaryConstraint(day)).toEqual([
      { station: 'b', soleShare: 10 / 24, shiftingShare: 2 / 24 },
      { station: 'a', soleShare: 8 / 24, shiftingShare: 2 / 24 },
      { station: 'c', soleShare: 2 / 24, shiftingShare: 0 },
    ]);
    expect(momentaryConstraint([])).toEqual([]);
  });

  it('gives every moment of activity to exactly one station, the one that is busy longest then', () => {
    const spans = fc.array(
      fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.nat(60), fc.integer({ min: 1, max: 20 })),
      { maxLength: 25 },
    );
    fc.assert(
      fc.property(spans, (drawn) => {
        const intervals = drawn.map(([station, from, length]) => interval(station, from, from + length));
        const periods = activePeriods(intervals);
        const told = momentarySpans(intervals);
        for (let at = 0.5; at < 90; at += 1) {
          const active = periods.filter(({ fromMs, toMs }) => fromMs <= at && at < toMs);
          const longest = Math.max(...active.map(({ fromMs, toMs }) => toMs - fromMs));
          const own = told.filter(({ fromMs, toMs }) => fromMs <= at && at < toMs);
          expect(own).toHaveLength(active.length > 0 ? 1 : 0);
          const [one] = own;
          if (one) expect(one.period.toMs - one.period.fromMs).toBe(longest);
        }
        for (const { soleShare, shiftingShare } of momentaryConstraint(intervals))
          expect(soleShare + shiftingShare).toBeLessThanOrEqual(1 + 1e-9);
      }),
    );
  });
});

describe('what can take no more', () => {
  it('is full when all its places are taken; a change of racks is no pause while something waits', () => {
    const busy = [
      { fromMs: 0, toMs: 10 },
      { fromMs: 4, toMs: 12 },
      { fromMs: 14, toMs: 20 },
      { fromMs: 13, toMs: 20 },
    ];
    const full = (waiting: { fromMs: number; toMs: number }[]) =>
      saturated({ station: 'a', capacity: 2, busy, waiting, handOverMs: 4 });
    expect(full([])).toEqual([interval('a', 4, 10), interval('a', 14, 20)]);
    expect(full([{ fromMs: 3, toMs: 14 }])).toEqual([interval('a', 4, 20)]);
    expect(full([{ fromMs: 11, toMs: 14 }])).toHaveLength(2);
    expect(saturated({ station: 'a', capacity: 1, busy, waiting: [] })).toEqual([
      interval('a', 0, 12),
      interval('a', 13, 20),
    ]);
    expect(() => full.length && saturated({ station: 'a', capacity: 0, busy, waiting: [] })).toThrow(
      '0 places',
    );
  });
});

describe('the signs', () => {
  it('are reckoned by hand: a bench of one place, 8 h a day for two days', () => {
    const hour = 3_600_000;
    const bench: Resource = {
      ...{ code: 'a', by: 'station', capacity: 1, hoursThere: 16, hoursOffered: 20 },
      busy: [{ fromMs: 0, toMs: 12 * hour }],
      // Four hours of work wait for eight hours, eight hours for the other eight: six on average, three quarters of a day.
      waiting: [
        { fromMs: 0, toMs: 8 * hour, hours: 4 },
        { fromMs: 8 * hour, toMs: 16 * hour, hours: 8 },
      ],
    };
    const idle: Resource = { ...bench, code: 'b', busy: [], waiting: [], hoursOffered: 4 };
    expect(constraintSigns({ resources: [bench, idle], windowMs: 16 * hour, days: 2 })).toEqual([
      { code: 'a', by: 'station', loadShare: 1.25, soleShare: 0.75, shiftingShare: 0, queueDays: 0.75 },
      { code: 'b', by: 'station', loadShare: 0.25, soleShare: 0, shiftingShare: 0, queueDays: 0 },
    ]);
  });
});

describe('the verdict', () => {
  const signs = (code: string, loadShare: number, soleShare: number, queueDays: number): ConstraintSigns => ({
    ...{ code, by: 'station', loadShare, soleShare, shiftingShare: 0, queueDays },
  });

  it('names what all three signs name, and what would come next', () => {
    const verdict = constraintVerdict([
      signs('a', 0.8, 0.1, 0.4),
      signs('b', 1.1, 0.7, 6),
      signs('c', 0.5, 0, 0.1),
    ]);
    expect(verdict).toMatchObject({
      ...{ code: 'b', by: 'station', agree: ['load', 'active', 'queue'], next: 'a', shiftingWith: null },
      leaders: { load: 'b', active: 'b', queue: 'b' },
    });
    expect(verdict.sureness).toBeGreaterThan(0.9);
  });

  it('is not sure where the signs name different ones, and says which would be', () => {
    const verdict = constraintVerdict([
      signs('a', 1, 0.1, 3),
      signs('b', 0.9, 0.4, 1),
      signs('c', 0.95, 0.3, 2.9),
    ]);
    expect(verdict.code).toBeNull();
    expect(verdict.leaders).toEqual({ load: 'a', active: 'b', queue: 'a' });
  });

  it('tells that two pace by turns', () => {
    const verdict = constraintVerdict([
      signs('a', 1, 0.45, 3),
      signs('b', 0.9, 0.35, 1),
      signs('c', 0.5, 0.1, 0.2),
    ]);
    expect(verdict).toMatchObject({ code: 'a', shiftingWith: 'b' });
  });

  it('is nobody where nothing waits and nobody is busy, and refuses what is no number', () => {
    expect(constraintVerdict([signs('a', 0.3, 0.2, 0.1)])).toMatchObject({ code: null, sureness: 0 });
    expect(constraintVerdict([])).toMatchObject({ code: null, next: null });
    expect(() => constraintVerdict([signs('a', NaN, 0, 0)])).toThrow('load of a is NaN');
  });
});
