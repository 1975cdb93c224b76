import { YES_NO, type Check } from '../machining/check.ts';
import { judgeSetup } from './setup.ts';
import { setupAdvice } from './setup-advice.ts';
import { settleDrift } from './settling.ts';

const check = (
  key: string,
  name: string,
  unit: string,
  nominal: number,
  lower: number | null,
  upper: number | null,
): Check => ({
  ...{ key, name, unit, nominal, lower, upper, firstPiece: false, sample: 1, every: true },
});
const relief = check('relief', 'Neck relief', 'mm', 0.22, 0.15, 0.3);
const bass = check('action-bass', 'Action, bass side', 'mm', 1.9, 1.5, 2);
const treble = check('action-treble', 'Action, treble side', 'mm', 1.6, 1.5, 2);
const nut = check('nut', 'Nut clearance', 'mm', 0.45, 0.35, 0.55);
const string1 = check('intonation-1', 'Intonation, string 1', 'cents', 0, -3, 3);
const taps = check('taps', 'Pickups tap', YES_NO, 1, 1, null);
const SHEET = [relief, bass, treble, nut, string1, taps];
const good = {
  relief: 0.22,
  'action-bass': 1.9,
  'action-treble': 1.6,
  nut: 0.45,
  'intonation-1': 1,
  taps: 1,
};

describe('a bench sheet', () => {
  it('passes with every value inside, limits included', () => {
    expect(judgeSetup(good, SHEET)).toMatchObject({
      verdict: 'pass',
      sentence: 'Passes: 5 values inside their limits, 1 looked at and right.',
    });
    expect(judgeSetup({ ...good, relief: 0.3, 'action-bass': 1.5, 'intonation-1': -3 }, SHEET).verdict).toBe(
      'pass',
    );
    expect(judgeSetup({ relief: 0.2 }, [relief]).sentence).toBe('Passes: 1 value inside its limits.');
  });

  it('names what is outside with its limits, and what a look said no to', () => {
    const judged = judgeSetup({ ...good, relief: 0.35, 'action-treble': 2.3, taps: 0 }, SHEET);
    expect(judged.sentence).toBe(
      'Adjust: neck relief 0.35 mm, limits 0.15–0.3 mm; action, treble side 2.3 mm, limits 1.5–2 mm; pickups tap: no.',
    );
    expect(judged.items.filter(({ inside }) => inside === false).map((item) => item.check.key)).toEqual([
      ...['relief', 'action-treble', 'taps'],
    ]);
  });

  it('asks for what is not read yet, unless something is wrong already', () => {
    const { nut: _nut, taps: _taps, ...some } = good;
    expect(judgeSetup(some, SHEET)).toMatchObject({
      verdict: 'measure',
      sentence: 'Still to read: nut clearance; pickups tap.',
    });
    expect(judgeSetup({ relief: 0.4 }, SHEET).verdict).toBe('adjust');
    expect(judgeSetup({}, SHEET).sentence).toMatch(/; and 2 more\.$/);
    expect(judgeSetup({}, []).sentence).toBe('Passes: nothing is asked here.');
  });
});

describe('what to turn', () => {
  const advice = (change: object) => setupAdvice({ ...good, ...change }, SHEET).map(({ words }) => words);

  it('is nothing where all is inside', () => {
    expect(advice({})).toEqual([]);
  });

  it('is the rod first, and nothing else as long as relief is out', () => {
    expect(advice({ relief: 0.35, 'action-bass': 2.4 })).toEqual([
      'Relief is high: tighten the rod a quarter turn, wait ten minutes, measure all of it again. Action and intonation move with it.',
    ]);
    expect(advice({ relief: 0.1 })[0]).toMatch(/^Relief is low: loosen the rod/);
  });

  it('is twice the height at the saddle: 2.3 for 1.9 wanted is 0.4 at fret 12, 0.8 mm or 1.6 turns of 0.5 mm', () => {
    expect(advice({ 'action-bass': 2.3 })).toEqual([
      'Action, bass side is high: lower its saddle by about 0.80 mm, 6 quarter turns of its screws.',
    ]);
    expect(advice({ 'action-treble': 1.45 })).toEqual([
      'Action, treble side is low: raise its saddle by about 0.30 mm, 2 quarter turns of its screws.',
    ]);
  });

  it('is the saddle back for a sharp string: 8 cents on 648 mm are 8 · 648 · ln 2 / 1200 = 3.0 mm', () => {
    expect(advice({ 'intonation-1': 8 })).toEqual([
      'Intonation, string 1 is sharp: move its saddle back by about 3.0 mm.',
    ]);
    const bassGuitar = setupAdvice({ 'intonation-1': -8 }, [string1], { scaleMm: 864, saddleMmPerTurn: 0.5 });
    expect(bassGuitar[0]?.words).toMatch(/flat: move its saddle forward by about 4\.0 mm/);
  });

  it('is the file or a shim for the nut; weight and looks cannot be turned', () => {
    expect(advice({ nut: 0.6 })).toEqual([
      'Nut clearance is high: file its slots by 0.15 mm at most, a stroke at a time.',
    ]);
    expect(advice({ nut: 0.3 })[0]).toMatch(/shim the nut by about 0\.15 mm/);
    expect(advice({ taps: 0 })).toEqual([]);
  });

  it('first-order in the shift: the string then lies within a tenth of a cent for 3 cents', () => {
    const scale = 648;
    const back = (3 * scale * Math.LN2) / 1200;
    // Open and fretted length both grow by the shift: the octave narrows by about what it was sharp.
    const narrowed =
      1200 * Math.log2((scale / 2 + back) / (scale / 2)) - 1200 * Math.log2((scale + back) / scale);
    expect(Math.abs(narrowed - 3)).toBeLessThan(0.1);
  });
});

describe('the second look', () => {
  const limits = [
    { check: bass, drift: 0.1 },
    { check: treble, drift: 0.1 },
    { check: relief, drift: null },
  ];
  const before = { 'action-bass': 1.9, 'action-treble': 1.6, relief: 0.22 };

  it('passes what moved by its limit and no more', () => {
    expect(
      settleDrift(before, { 'action-bass': 2, 'action-treble': 1.6, relief: 0.25 }, limits),
    ).toMatchObject({
      ...{ verdict: 'pass', words: [] },
    });
  });

  it('sends back what moved too far, and what lies outside although it hardly moved', () => {
    expect(
      settleDrift(before, { 'action-bass': 1.78, 'action-treble': 1.6, relief: 0.31 }, limits).words,
    ).toEqual([
      'action, bass side moved −0.12 mm, limit 0.10 mm',
      'neck relief is 0.31 mm, limits 0.15–0.3 mm',
    ]);
    const both = settleDrift(before, { 'action-bass': 2.05, 'action-treble': 1.6, relief: 0.2 }, limits);
    expect(both.verdict).toBe('back');
    expect(both.words).toHaveLength(2);
  });

  it('waits for what is not read, and judges what has no first look by its limits', () => {
    expect(settleDrift(before, { 'action-bass': 1.9 }, limits)).toMatchObject({
      ...{ verdict: 'measure', words: ['action, treble side', 'neck relief'] },
    });
    expect(settleDrift({}, { 'action-bass': 1.9, 'action-treble': 1.6, relief: 0.2 }, limits)).toMatchObject({
      ...{ verdict: 'pass', items: [{ before: null, drift: null }, {}, {}] },
    });
  });
});
