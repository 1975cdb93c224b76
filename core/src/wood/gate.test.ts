import { gateSentence, judgeMoisture, moistureWindow } from './gate.ts';

const window = { lowPct: 6, highPct: 8.5 };
const verdict = (...readingsPct: number[]): string => judgeMoisture({ readingsPct, window }).verdict;

describe('the two schools of the gate', () => {
  it('trust a window, or take the EMC of where the wood goes: 7.7 % at 21.1 °C and 40 % RH', () => {
    expect(moistureWindow({ school: 'fixed', lowPct: 6, highPct: 8 })).toEqual({ lowPct: 6, highPct: 8 });
    const air = { temperatureC: 21.1, relativeHumidityPct: 40 };
    const { lowPct, highPct } = moistureWindow({ school: 'destination', air, tolerancePct: 1 });
    expect(lowPct).toBeCloseTo(6.7, 1);
    expect(highPct).toBeCloseTo(8.7, 1);
    expect(() => moistureWindow({ school: 'destination', air, tolerancePct: 0 })).toThrow(/above 0/);
  });
});

describe('the moisture gate', () => {
  it('passes when every reading is inside, both ends included', () => {
    expect(judgeMoisture({ readingsPct: [6, 7.1, 8.5], window, complete: true }).verdict).toBe('pass');
  });

  it('passes a sample only when its tolerance bounds lie inside too', () => {
    // k(3) = 7.656, s = 0.0577: 7.133 + 0.442 = 7.575 %.
    const close = judgeMoisture({ readingsPct: [7.1, 7.2, 7.1], window });
    expect(close).toMatchObject({ verdict: 'pass', readNext: 0 });
    expect(close.bounds?.highPct).toBeCloseTo(7.575, 2);
    const wide = judgeMoisture({ readingsPct: [7.1, 7.4, 6.9], window });
    expect(wide.verdict).toBe('unread');
    expect(gateSentence(wide, window)).toBe(
      'Read more: 3 read, mean 7.1 %, gate 6.0–8.5 %; one in 20 may be under 5.2 % (95 % sure): read 2 more.',
    );
  });

  it('says how many more to read, and when no sample will do', () => {
    const sample = [7.1, 7.4, 6.9, 7.6, 6.8];
    const { readNext } = judgeMoisture({ readingsPct: sample, window });
    expect(readNext).toBeGreaterThan(0);
    expect(judgeMoisture({ readingsPct: [6.1, 8.4, 7.2], window })).toMatchObject({
      verdict: 'unread',
      readNext: null,
    });
  });

  it('asks less of a sample when less confidence is wanted', () => {
    const readingsPct = [7.1, 7.7, 6.9, 7.3];
    expect(judgeMoisture({ readingsPct, window }).verdict).toBe('unread');
    expect(judgeMoisture({ readingsPct, window, confidence: 0.8, coverage: 0.9 }).verdict).toBe('pass');
  });

  it('makes case-hardened wood wait although every reading is inside', () => {
    const judgement = judgeMoisture({
      readingsPct: [7, 7.1, 7.2],
      window,
      complete: true,
      coreMinusShellPct: 1.6,
    });
    expect(judgement.verdict).toBe('wait');
    expect(gateSentence(judgement, window)).toMatch(/Core 1.6 above shell/);
  });

  it('sorts when some pass and some do not, and says which', () => {
    const judgement = judgeMoisture({ readingsPct: [7, 8.6, 7.2, 5.9], window });
    expect(judgement).toMatchObject({
      verdict: 'sort',
      over: 1,
      under: 1,
      inside: [1, 3],
      shareOutsidePct: 50,
    });
    expect(gateSentence(judgement, window)).toBe(
      'Sort: 4 read, mean 7.2 %, gate 6.0–8.5 %; 1 over, 1 under, 2 would pass now.',
    );
  });

  it('waits when all are too wet and rejects when all are too dry', () => {
    expect(verdict(9, 9.1, 10)).toBe('wait');
    expect(verdict(5.1, 5.2, 5.3)).toBe('reject');
  });

  it('asks for more readings before it judges', () => {
    expect(verdict()).toBe('unread');
    expect(verdict(7, 7)).toBe('unread');
    expect(gateSentence(judgeMoisture({ readingsPct: [7, 7], window }), window)).toMatch(
      /^Read more: 2 read/,
    );
  });

  it('needs no sample when every piece was read', () => {
    expect(judgeMoisture({ readingsPct: [7], window, complete: true }).verdict).toBe('pass');
    expect(judgeMoisture({ readingsPct: [9], window, complete: true }).verdict).toBe('wait');
  });

  it('refuses 140 % and an upside-down window', () => {
    expect(() => verdict(140, 7, 7)).toThrow(/0…100/);
    expect(() => judgeMoisture({ readingsPct: [7], window: { lowPct: 8, highPct: 6 } })).toThrow(/rise/);
  });
});
