import fc from 'fast-check';
import { randomStream } from '../stats/random.ts';
import { controlChart } from './control-chart.ts';
import { looksVerdict, readLooks, strongestHit } from './look-chart.ts';
import type { RunRule } from './run-rules.ts';
import { judgeCheck, unitSlip, type Check } from './check.ts';
import { processCapability } from './capability.ts';
import { dimensionDrift } from './drift.ts';
import { runRuleHits } from './run-rules.ts';

const POCKET: Check = {
  key: 'pocket-width',
  name: 'Pocket width',
  unit: 'mm',
  nominal: 55.9,
  lower: 55.85,
  upper: 55.95,
  firstPiece: true,
  sample: 1,
};

describe('a chart of individuals', () => {
  // Mean 10, moving ranges 2, 2, 2, 2: σ = 2 / 1.128.
  const chart = controlChart({ values: [10, 12, 10, 8, 10] });

  it('has the limits x̄ ± 2.66 R̄, worked by hand', () => {
    expect(chart.limits.centre).toBe(10);
    expect(chart.limits.upper).toBeCloseTo(10 + 2.66 * 2, 2);
    expect(chart.limits.lower).toBeCloseTo(10 - 2.66 * 2, 2);
    expect(chart.rangeLimits).toEqual({ lower: 0, centre: 2, upper: 2 * 3.267 });
    expect(chart.sigma).toBeCloseTo(1.773, 3);
    expect(chart.ranges).toEqual([null, 2, 2, 2, 2]);
  });

  it('rests its limits on the first points when told to, so that later trouble does not widen them', () => {
    const later = controlChart({ values: [10, 12, 10, 8, 10, 30, 40], baseline: 5 });
    expect(later.limits).toEqual(chart.limits);
    expect(later.points).toHaveLength(7);
  });

  it('refuses a single point and a gap', () => {
    expect(() => controlChart({ values: [10] })).toThrow(/at least 2 points/);
    expect(() => controlChart({ values: [10, NaN, 10] })).toThrow(RangeError);
  });
});

describe('a chart of means and ranges', () => {
  // Means 2, 3, 4: centre 3. Ranges 2, 4, 6: R̄ = 4. Subgroups of 5: A2 0.577, D4 2.114.
  const subgroups = [
    [1, 1.5, 2, 2.5, 3],
    [1, 2, 3, 4, 5],
    [1, 2.5, 4, 5.5, 7],
  ];

  it('has the limits x̄ ± A2 R̄ and D4 R̄, worked by hand', () => {
    const chart = controlChart({ subgroups });
    expect(chart.points).toEqual([2, 3, 4]);
    expect(chart.limits.upper).toBeCloseTo(3 + 0.577 * 4, 6);
    expect(chart.limits.lower).toBeCloseTo(3 - 0.577 * 4, 6);
    expect(chart.rangeLimits.upper).toBeCloseTo(2.114 * 4, 6);
    expect(chart.sigma).toBeCloseTo(4 / 2.326, 6);
  });

  it('takes looks of different sizes, each with limits of its own: σ is the mean of R / d2', () => {
    // R/d2: 4/1.693 and 2/1.128; a single first piece has no range.
    const chart = controlChart({ subgroups: [[2, 4, 6], [3, 5], [11]] });
    const sigma = (4 / 1.693 + 2 / 1.128) / 2;
    expect(chart.sigma).toBeCloseTo(sigma, 9);
    const centre = (2 + 4 + 6 + 3 + 5 + 11) / 6;
    expect(chart.points).toEqual([4, 4, 11]);
    expect(chart.ranges).toEqual([4, 2, null]);
    expect(chart.pointLimits[0]?.upper).toBeCloseTo(centre + 1.023 * 1.693 * sigma, 9);
    expect(chart.pointLimits[2]?.upper).toBeCloseTo(centre + 3 * sigma, 9);
    // No look of the baseline has a range: the two neighbours give 3 / 1.128.
    const eleven = Array.from({ length: 11 }, () => 5);
    expect(controlChart({ subgroups: [[2], eleven] }).sigma).toBeCloseTo(3 / 1.128, 9);
    expect(() => controlChart({ subgroups: [[1, 2], []] })).toThrow(/subgroup 2 has no value/);
  });
});

describe('samples smaller than the subgroup vanish (11.8)', () => {
  const check: Check = {
    ...{ key: 'pocket', name: 'Pocket width', unit: 'mm', nominal: 57.25, lower: 57.17, upper: 57.33 },
    ...{ firstPiece: true, sample: 3 },
  };
  const steady = Array.from({ length: 12 }, (_, i) =>
    [57.24, 57.25, 57.26].map((value) => value + 0.002 * (i % 3)),
  );
  const verdict = (looks: number[][], rules: RunRule[] = ['beyond', 'eight-on-one-side']) => {
    const read = readLooks({ check, looks, rules, baseline: 12 });
    return { read, sentence: looksVerdict(check, read, looks.length, 8).sentence };
  };

  it('no more: a failed first piece is on the chart, and is said whatever the chart says', () => {
    const { read, sentence } = verdict([...steady, [57.4]]);
    expect(read.chart?.points.at(-1)).toBe(57.4);
    expect(read.outside).toEqual([{ at: 12, values: [57.4] }]);
    expect(sentence).toBe(
      'Outside its limits: the last look has 57.4 mm, limits 57.17–57.33 mm. 1 of 37 values were outside 57.17–57.33 mm.',
    );
    expect(verdict([...steady, [57.25]]).sentence).toMatch(/^In control: 13 looks/);
  });

  it('all of ten values are used', () => {
    const ten = [57.2, 57.21, 57.22, 57.23, 57.24, 57.25, 57.26, 57.27, 57.28, 57.29];
    const { read } = verdict([...steady, ten]);
    expect(read.chart?.points.at(-1)).toBeCloseTo(57.245, 9);
    expect(read.count).toBe(46);
  });

  it('the strongest rule is named: a point beyond the limits first', () => {
    const high = Array.from({ length: 8 }, () => [57.27, 57.28, 57.29]);
    const { read, sentence } = verdict([...steady, ...high, [57.3, 57.31, 57.32]]);
    expect(read.hits.filter(({ at }) => at === 20).length).toBeGreaterThan(1);
    expect(strongestHit([...read.hits].reverse(), 20)?.rule).toBe('beyond');
    expect(sentence).toMatch(/Drifting up|one point beyond 3 σ/);
  });

  it('ranges are judged too', () => {
    const { read, sentence } = verdict([...steady, [57.21, 57.25, 57.3]]);
    expect(read.rangeHits).toEqual([{ at: 12, side: 'above' }]);
    expect(sentence).toMatch(/^Out of control: the pieces of the last look differ too much\./);
  });

  it('no drift is told that is not different from none, and one that is comes with its odds and range', () => {
    const random = randomStream(8);
    let told = 0;
    for (let i = 0; i < 400; i += 1) {
      const looks = Array.from({ length: 30 }, () => [0, 1, 2].map(() => random.normal(57.25, 0.02)));
      if (readLooks({ check, looks, rules: [], baseline: 25 }).drift) told += 1;
    }
    // One in 500 by chance.
    expect(told).toBeLessThanOrEqual(3);
    const falling = Array.from({ length: 14 }, (_, i) =>
      [0, 1, 2].map((n) => 57.3 - 0.006 * i + 0.002 * (n - 1) + 0.001 * (i % 2)),
    );
    expect(verdict(falling, []).sentence).toBe(
      'Drifting down: pocket width will reach its lower limit in about 70 pieces (70 to 71); such a slope comes less than 1 in a million by chance.',
    );
  });
});

describe('run rules', () => {
  const limits = { lower: -3, centre: 0, upper: 3 };
  const hits = (points: number[], ...rules: Parameters<typeof runRuleHits>[1]) =>
    runRuleHits({ points, limits }, rules).map(({ rule, at, side }) => `${rule} ${at} ${side}`);

  it('call one point beyond 3 σ, and not one on the line', () => {
    expect(hits([0, 3.1, 3, -3.2], 'beyond')).toEqual(['beyond 1 above', 'beyond 3 below']);
  });

  it('call two of three beyond 2 σ on one side only', () => {
    expect(hits([2.1, 0, 2.2], 'two-of-three')).toEqual(['two-of-three 2 above']);
    expect(hits([2.1, -2.2, 0], 'two-of-three')).toEqual([]);
  });

  it('call four of five beyond 1 σ, eight on one side, six steadily down', () => {
    expect(hits([1.1, 1.2, 0, 1.3, 1.4], 'four-of-five')).toEqual(['four-of-five 4 above']);
    expect(hits(Array<number>(8).fill(-0.1), 'eight-on-one-side')).toEqual(['eight-on-one-side 7 below']);
    expect(hits(Array<number>(7).fill(-0.1), 'eight-on-one-side')).toEqual([]);
    expect(hits([5, 4, 3, 2, 1, 0], 'six-steady')).toEqual(['six-steady 5 below']);
    expect(hits([5, 4, 4, 2, 1, 0], 'six-steady')).toEqual([]);
  });

  it('says nothing of rules that are switched off', () => {
    expect(hits([9, 9, 9, 9, 9, 9, 9, 9])).toEqual([]);
  });

  it('do not depend on where the centre lies or on the unit', () => {
    const sample = fc.array(fc.integer({ min: -40, max: 40 }), { minLength: 8, maxLength: 40 });
    fc.assert(
      fc.property(sample, fc.integer({ min: -5, max: 5 }), (tenths, shift) => {
        const points = tenths.map((tenth) => tenth / 8);
        const moved = points.map((point) => 2 * point + shift);
        const movedLimits = { lower: -6 + shift, centre: shift, upper: 6 + shift };
        const all = ['beyond', 'two-of-three', 'four-of-five', 'eight-on-one-side', 'six-steady'] as const;
        expect(runRuleHits({ points: moved, limits: movedLimits }, all)).toEqual(
          runRuleHits({ points, limits }, all),
        );
      }),
      { seed: 4 },
    );
  });
});

describe('capability', () => {
  // 25 values, 24 of them at 10 and 11 by turns, mean 10.5; σ given as 0.5; limits 8…14.
  const values = [...Array.from({ length: 24 }, (_, i) => 10 + (i % 2)), 10.5];

  it('is Cp = width / 6 σ and Cpk by the nearer limit, worked by hand', () => {
    const found = processCapability({ values, sigma: 0.5, lower: 8, upper: 14 });
    expect(found).toMatchObject({ count: 25, mean: 10.5, cp: 2 });
    expect(found?.cpk).toBeCloseTo(2.5 / 1.5, 9);
  });

  it('has no Cp with one limit, and 50 % outside when the mean sits on it', () => {
    const found = processCapability({ values, sigma: 0.5, lower: 10.5, upper: null });
    expect(found).toMatchObject({ cp: null, cpk: 0 });
    expect(found?.outsidePct).toBeCloseTo(50, 4);
  });

  it('says nothing of 24 values, or of values that do not vary', () => {
    expect(processCapability({ values: values.slice(1), sigma: 0.5, lower: 8, upper: 14 })).toBeNull();
    expect(processCapability({ values, sigma: 0, lower: 8, upper: 14 })).toBeNull();
  });
});

describe('drift of a dimension', () => {
  it('is told by its trend: 0.002 mm a piece meets a limit 0.02 mm away in 10 pieces', () => {
    const noise = [0.0001, -0.0001, 0.0002, -0.0002];
    const values = Array.from({ length: 20 }, (_, i) => 55.9 + 0.002 * i + (noise[i % 4] ?? 0));
    const drift = dimensionDrift({ values, lower: 55.8, upper: 55.958 });
    expect(drift?.toward).toBe('upper');
    expect(drift?.pointsToLimit).toBeCloseTo(10, 0);
    expect(drift?.lowPoints).toBeLessThan(drift?.pointsToLimit ?? 0);
    expect(drift?.highPoints).toBeGreaterThan(drift?.pointsToLimit ?? Infinity);
  });

  it('is not seen in wandering, in few values, or where there is no limit to meet', () => {
    const wandering = Array.from({ length: 20 }, (_, i) => 55.9 + 0.01 * Math.sin(i * 2.4));
    const rising = Array.from({ length: 20 }, (_, i) => i + (i % 2) / 10);
    expect(dimensionDrift({ values: wandering, lower: 55.8, upper: 56 })).toBeNull();
    expect(dimensionDrift({ values: rising.slice(0, 9), lower: 0, upper: 30 })).toBeNull();
    expect(dimensionDrift({ values: rising, lower: 0, upper: null })).toBeNull();
  });
});

describe('a check', () => {
  it('counts its limits as inside', () => {
    expect(judgeCheck(POCKET, [55.85, 55.95]).pass).toBe(true);
    expect(judgeCheck(POCKET, [55.84, 55.9]).sentence).toBe(
      'Pocket width: 2 measured, 1 under of 55.85–55.95 mm.',
    );
    expect(judgeCheck(POCKET, []).pass).toBe(false);
  });

  it('knows inches typed as millimetres: 2.2 is 55.88 mm', () => {
    expect(unitSlip(POCKET, 2.2)).toEqual({ readIn: 'in', meant: 55.88 });
    expect(unitSlip({ unit: 'in', nominal: 2.2 }, 55.88)).toEqual({ readIn: 'mm', meant: 2.2 });
  });

  it('takes a merely bad value for what it is, and other units as they come', () => {
    expect(unitSlip(POCKET, 54)).toBeNull();
    expect(unitSlip(POCKET, 7)).toBeNull();
    expect(unitSlip({ unit: 'Hz', nominal: 180 }, 7.1)).toBeNull();
  });
});
