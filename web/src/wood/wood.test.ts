import { relativeHumidityForEmcPct, type Air } from '@ample-crane/core';
import { boardsOf } from './boards.ts';
import { canForesee, foresee } from './foresee.ts';
import type { Drying, Meter } from './queries.ts';
import { typedNumber } from '../shared/typed.ts';
import { correctionOf, lineWords } from './reading.ts';
import { ifItComesBack, outlookOf, readyWords, soonWords } from './words.ts';

const HOUR = 3_600_000;
const NOW = Date.UTC(2026, 10, 24, 19, 20);
const air = (emcPct: number): Air => ({
  temperatureC: 21,
  relativeHumidityPct: relativeHumidityForEmcPct({ temperatureC: 21, emcPct }),
});

/** A lot read for ten days on its way from 11 % towards 6.5 % with a time constant of 20 days. */
const drying = (extra: Partial<Drying> = {}): Drying => ({
  ...{
    subject: 'W-74',
    nowMs: NOW,
    room: 'Lumber room',
    marginPct: 0,
    thicknessMm: 25,
    species: 'white ash',
  },
  ...{ basicSpecificGravity: 0.55, tauDays: null, oldRuleMs: null, outlook: null, never: false },
  readings: [10, 7.5, 5, 2.5, 0].map((daysAgo) => {
    const pct = 6.5 + 4.5 * Math.exp(-(10 - daysAgo) / 20);
    return {
      ...{ atMs: NOW - daysAgo * 24 * HOUR, board: 1, depth: 'shell' as const, meter: null },
      ...{ readingPct: pct, correctedPct: pct },
    };
  }),
  setAside: [],
  climate: Array.from({ length: 11 * 24 }, (_, i) => ({ atMs: NOW - (11 * 24 - 1 - i) * HOUR, ...air(6.5) })),
  air: air(6.5),
  window: { lowPct: 6, highPct: 8.5 },
  ...extra,
});

describe('what the page foresees', () => {
  it('meets the date worked out by hand: 9.23 → 8.5 % towards 6.5 % takes 20 ln(2.73 / 2) days', () => {
    const foreseen = foresee({ drying: drying(), air: air(6.5) });
    if (!foreseen || foreseen.outlook === 'never') throw new Error('it gets there');
    const byHand = 20 * 24 * Math.log((4.5 * Math.exp(-0.5)) / 2);
    expect(foreseen.outlook.median / byHand).toBeCloseTo(1, 0);
    expect(foreseen.outlook.low90).toBeLessThan(byHand);
    expect(foreseen.outlook.high90).toBeGreaterThan(byHand);
  });

  it('draws a curve up to now and a fan from now past the whole interval', () => {
    const foreseen = foresee({ drying: drying(), air: air(6.5) });
    if (!foreseen || foreseen.outlook === 'never') throw new Error('it gets there');
    expect(foreseen.curve.at(-1)?.atMs).toBe(NOW);
    expect(foreseen.fan[0]?.atMs).toBe(NOW);
    expect(foreseen.untilMs).toBeGreaterThan(NOW + foreseen.outlook.high90 * HOUR);
    expect(foreseen.fan.every((point) => point.low90 <= point.median && point.median <= point.high90)).toBe(
      true,
    );
  });

  it('changes with the air asked about, and says never where it never will', () => {
    const sooner = foresee({ drying: drying(), air: air(5) });
    const asIs = foresee({ drying: drying(), air: air(6.5) });
    if (!sooner || !asIs || sooner.outlook === 'never' || asIs.outlook === 'never')
      throw new Error('both get there');
    expect(sooner.outlook.median).toBeLessThan(asIs.outlook.median);
    expect(foresee({ drying: drying(), air: air(9) })?.outlook).toBe('never');
  });

  it('has nothing to say without readings or air', () => {
    expect(canForesee(drying())).toBe(true);
    expect(canForesee(drying({ readings: [] }))).toBe(false);
    expect(foresee({ drying: drying({ readings: [] }), air: air(6.5) })).toBeNull();
    expect(foresee({ drying: drying({ climate: [] }), air: air(6.5) })).toBeNull();
  });
});

describe('a date in words', () => {
  const said = { nowMs: NOW, zone: 'UTC', emcPct: 9.2, highPct: 8.5 };

  it('carries its range, and no end where there is none', () => {
    expect(readyWords({ median: 24, low90: 12, high90: 48 }, said)).toBe(
      'Ready about Wed, nine times in ten between Wed and Thu.',
    );
    expect(readyWords({ median: 24, low90: 20.5, high90: 30 }, said)).toBe(
      'Ready about Wed 20:00, nine times in ten between Wed 16:00 and Thu 02:00.',
    );
    expect(readyWords({ median: 300, low90: 200, high90: 500 }, said)).toMatch(
      /^Ready about the week of \d+ \w+, nine times in ten between the week of \d+ \w+ and the week of /,
    );
    expect(readyWords({ median: 3000, low90: 900, high90: 9000 }, said)).toMatch(
      /^Ready about \w{3} \d{4}, /,
    );
    expect(readyWords({ median: 24, low90: 12, high90: Infinity }, said)).toMatch(/and much later\.$/);
    expect(readyWords({ median: 0, low90: 0, high90: 5 }, said)).toBe('By the forecast it is there now.');
  });

  it('says plainly when it is not in this room, and when nobody can say', () => {
    expect(readyWords('never', said)).toBe(
      'Not in this room. Its air would take the wood to 9.2 %; the gate asks 8.5 % or less.',
    );
    expect(readyWords(null, said)).toMatch(/^No date yet/);
  });

  it('comes over the wire without infinity', () => {
    expect(outlookOf({ outlook: { median: 1, low90: 0, high90: null }, never: false })).toMatchObject({
      high90: Infinity,
    });
    expect(outlookOf({ outlook: null, never: true })).toBe('never');
    expect(outlookOf({ outlook: null, never: false })).toBeNull();
  });

  it('is short in a list', () => {
    const lot = { stacked: 4, never: false, outlook: { median: 60, low90: 24, high90: 500 } };
    expect(soonWords(lot)).toBe('in 3 days (1–21)');
    expect(soonWords({ ...lot, never: true })).toBe('not in this room');
    expect(soonWords({ ...lot, stacked: 0 })).toBe('');
    expect(soonWords({ ...lot, outlook: { median: 25, low90: 0, high90: 90 } })).toBe('in 1 day (0–4)');
  });

  it('says that it counts on a room that has drifted to come back, as the call of that room does', () => {
    const outlook = { median: 60 };
    const damp = { drift: { damp: true, emcPct: 8.9, hours: 5 } } as Parameters<typeof ifItComesBack>[1];
    expect(ifItComesBack({ outlook }, damp)).toBe('if the room, too damp now, comes back');
    expect(ifItComesBack({ outlook }, { drift: null })).toBeNull();
    expect(ifItComesBack({ outlook: null }, damp)).toBeNull();
    expect(ifItComesBack({ outlook: { median: 0 } }, damp)).toBeNull();
  });
});

describe('a reading as it is typed', () => {
  const meter = (extra: Partial<Meter> = {}): Meter => ({
    ...{ code: 'pin-1', name: '', kind: 'pin', note: '', calibrations: [] },
    ...extra,
  });
  const line = { a: 0.5, b: 0.9, samples: 9, residualSdPct: 0.2, atMs: NOW, by: 'venn' };
  const tested = { species: 'hard maple', samples: [], fit: null, line, stale: false };

  it('takes point or comma and nothing else', () => {
    expect(['7.4', '7,4', ' 7 '].map(typedNumber)).toEqual([7.4, 7.4, 7]);
    expect(['', 'wet', '7.4.1', '1e3'].map(typedNumber)).toEqual([null, null, null, null]);
  });

  it('shows what temperature and the species line each do to it', () => {
    const { line: used, words } = lineWords([meter({ calibrations: [tested] })], 'pin-1', 'hard maple');
    expect(words).toMatch(/0\.90 × reading \+ 0\.50, from 9 oven-dry samples/);
    const { correctedPct, temperaturePct, linePct } = correctionOf(10, 31, used);
    expect(temperaturePct).toBeCloseTo(-0.55, 9);
    expect(linePct).toBeCloseTo(0.5 + 0.9 * 9.45 - 9.45, 9);
    expect(correctedPct).toBeCloseTo(9.005, 9);
  });

  it('says when a meter was never tested or its test is old, and leaves a pinless one its warmth', () => {
    expect(lineWords([meter()], 'pin-1', 'hard maple')).toMatchObject({
      warn: true,
      words: expect.stringMatching(/never tested/) as string,
    });
    const stale = meter({ calibrations: [{ ...tested, stale: true }] });
    expect(lineWords([stale], 'pin-1', 'hard maple').words).toMatch(/older than a year/);
    const flat = lineWords([meter({ kind: 'pinless' })], 'pin-1', 'hard maple').line;
    expect(correctionOf(10, 31, flat).correctedPct).toBe(10);
  });
});

describe('boards typed one to a line', () => {
  it('are length, width and a weight where there is one', () => {
    expect(boardsOf('2400 180 9,6\n\n2350×195').boards).toEqual([
      { lengthMm: 2400, widthMm: 180, weightKg: 9.6 },
      { lengthMm: 2350, widthMm: 195 },
    ]);
    expect(boardsOf('1200 200 5.7 some light\n1200 200 dark\n1200 200 highly figured').boards).toEqual([
      { lengthMm: 1200, widthMm: 200, weightKg: 5.7, grade: 'some', colour: 'light' },
      { lengthMm: 1200, widthMm: 200, colour: 'dark' },
      { lengthMm: 1200, widthMm: 200, grade: 'highly figured' },
    ]);
  });

  it('are inches, with their fractions, for whoever works in them; the weight stays kilograms', () => {
    const inch = { length: 'in', temperature: 'C' } as const;
    expect(boardsOf('94 1/2 x 7 1/4 9.6 some light\n96 7.5', inch).boards).toEqual([
      { lengthMm: 2400.3, widthMm: 184.15, weightKg: 9.6, grade: 'some', colour: 'light' },
      { lengthMm: 2438.4, widthMm: 190.5 },
    ]);
    expect(boardsOf('96 wide', inch).problem).toBe("line 1: '96 wide' is no length and width, in in");
  });

  it('are named by their line when they make no sense', () => {
    expect(boardsOf('2400 180\n2400 wide').problem).toBe("line 2: '2400 wide' is no length and width, in mm");
    expect(boardsOf('2400 180 wavy').problem).toBe(
      "line 1: '2400 180 wavy' has a word that is neither a figure nor a colour",
    );
    expect(boardsOf('0 180').problem).toMatch(/^line 1/);
  });
});
