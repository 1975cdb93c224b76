import { gateSentence, judgeMoisture } from './gate.ts';

const window = { lowPct: 6, highPct: 8.5 };
const verdict = (...readingsPct: number[]): string => judgeMoisture({ readingsPct, window }).verdict;

describe('the moisture gate', () => {
  it('passes when every reading is inside, both ends included', () => {
    expect(verdict(6, 7.1, 8.5)).toBe('pass');
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

  it('keeps and flags what a pin meter does not resolve', () => {
    const judgement = judgeMoisture({ readingsPct: [7, 7.2, 31], window });
    expect(judgement.doubtful).toBe(1);
    expect(gateSentence(judgement, window)).toMatch(/1 outside what the meter resolves/);
  });

  it('refuses 140 % and an upside-down window', () => {
    expect(() => verdict(140, 7, 7)).toThrow(/0…100/);
    expect(() => judgeMoisture({ readingsPct: [7], window: { lowPct: 8, highPct: 6 } })).toThrow(/rise/);
  });
});
