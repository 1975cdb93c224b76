import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import {
  boothOpenings,
  piecesThatFit,
  sprayFirst,
  sprayFirstWords,
  sprayWindow,
  type BoothAhead,
  type NextCoat,
} from './spraying.ts';

const at = (hour: number, minute = 0): number => Date.UTC(2026, 10, 24, hour, minute);
const DAMP = ['73 % RH, at most 70'];
const hours = (shut: readonly number[], from = 15, to = 24): BoothAhead['ahead'] =>
  Array.from({ length: to - from }, (_, i) => ({
    atMs: at(from + i),
    verdict: shut.includes(from + i) ? 'blush' : 'spray',
    against: shut.includes(from + i) ? DAMP : [],
  }));
const open = { verdict: 'spray' as const, against: [] };
/** At 14:53; damp from 15:00 to 19:00. */
const booth: BoothAhead = { name: 'Booth 3', judged: open, ahead: hours([15, 16, 17, 18]) };
const NOW = at(14, 53);
function spray(ahead: BoothAhead, minutes: number, askedMs: number) {
  const openings = boothOpenings(ahead, NOW);
  if (!openings) throw new Error('its air is logged');
  return sprayWindow(openings, minutes, askedMs);
}

describe('spraying in one go', () => {
  it('of 6 min fits into the 7 before a booth closes, of 11 min only after it opens again', () => {
    expect(spray(booth, 6, NOW)).toEqual({
      fromMs: NOW,
      closesMs: at(15),
      closesAgainst: DAMP,
      kept: null,
      openMinutes: 7,
    });
    expect(spray(booth, 11, NOW)).toEqual({
      fromMs: at(19),
      closesMs: null,
      closesAgainst: [],
      kept: { sinceMs: at(15), against: DAMP },
      openMinutes: 7,
    });
  });

  it('may end at the very minute at which the booth closes', () => {
    expect(spray(booth, 7, NOW)).toMatchObject({ fromMs: NOW, kept: null });
  });

  it('that would begin while the booth is closed waits for it, and passes openings too short for it', () => {
    expect(spray(booth, 5, at(16, 10))).toMatchObject({
      fromMs: at(19),
      kept: { sinceMs: at(15) },
      openMinutes: 0,
    });
    // Open from 19:00 to 20:00 only, and again from 22:00.
    const twice = { ...booth, ahead: hours([15, 16, 17, 18, 20, 21]) };
    expect(spray(twice, 60, NOW)).toMatchObject({ fromMs: at(19), closesMs: at(20) });
    expect(spray(twice, 61, NOW)).toMatchObject({ fromMs: at(22), closesMs: null });
    expect(spray(twice, 61, at(19, 30))).toMatchObject({
      fromMs: at(22),
      kept: { sinceMs: at(20) },
      openMinutes: 30,
    });
  });

  it('has no date where the forecast holds no opening for it, and is not held by what nobody forecast', () => {
    const shut = { ...booth, ahead: hours([15, 16, 17, 18, 19, 20, 21, 22, 23]) };
    expect(spray(shut, 11, NOW)).toMatchObject({ fromMs: null, closesMs: null });
    expect(spray(shut, 11, at(24))).toMatchObject({ fromMs: at(24), kept: null });
    expect(spray({ ...booth, ahead: [] }, 50, at(20))).toMatchObject({ fromMs: at(20) });
  });

  it('is not told of where nobody logs the air', () => {
    expect(boothOpenings({ ...booth, judged: null }, NOW)).toBeUndefined();
  });

  it('goes by what the air says now until the first hour forecast', () => {
    const damp = { ...booth, judged: { verdict: 'blush' as const, against: ['76 % RH, at most 70'] } };
    const opens = { ...damp, ahead: hours([]) };
    expect(spray(opens, 11, NOW)).toMatchObject({
      fromMs: at(15),
      kept: { sinceMs: NOW, against: ['76 % RH, at most 70'] },
    });
  });
});

describe('what to spray first in a booth that closes', () => {
  const coat = (batch: string, minutes: number, pieces = 1, fromMs: number | null = NOW): NextCoat => ({
    ...{ batch, minutes, pieces, fromMs },
    number: 3,
  });
  const time = (ms: number): string => new Date(ms).toISOString().slice(11, 16);
  const first = (...coats: NextCoat[]): string => {
    const found = sprayFirst(coats, at(16), NOW);
    return found ? sprayFirstWords(found, NOW, time) : 'nothing';
  };

  it('is the most urgent coat that fits, whatever stands before it', () => {
    // 67 minutes are left.
    expect(first(coat('I-1', 68), coat('I-2', 60), coat('I-3', 10))).toBe(
      'Spray I-2 first: its coat 3 takes 1 h and fits before that.',
    );
  });

  it('is what can be done of a large one, where none fits: 5 min a piece, 13 of 30 in 67', () => {
    expect(first(coat('I-1', 70), coat('I-2', 150, 30))).toBe(
      'Coat 3 of I-2 takes 2.5 h: 13 of its 30 pieces fit before that.',
    );
    expect(first(coat('I-1', 70))).toBe('Coat 3 of I-1 takes 1.2 h and does not fit before that: hold it.');
  });

  it('counts the last piece that ends at the very minute: 5.5 min each, 2 of 6 in 11', () => {
    const six = { pieces: 6, minutes: 33 };
    expect([10.9, 11, 16.5, 32.9, 33, Infinity].map((left) => piecesThatFit(six, left))).toEqual([
      1, 2, 3, 5, 6, 6,
    ]);
    expect(piecesThatFit({ pieces: 6, minutes: 0 }, 0)).toBe(6);
  });

  it('leaves out what cures beyond that, and begins with the coat below', () => {
    expect(first(coat('I-1', 5, 1, at(16)), coat('I-2', 5, 1, null))).toBe('nothing');
    expect(first(coat('I-1', 30, 1, at(15, 40)))).toBe(
      'Coat 3 of I-1, from 15:40, takes 30 min and does not fit before that: hold it.',
    );
    expect(first(coat('I-1', 20, 1, at(15, 40)))).toBe(
      'Spray I-1 first, from 15:40: its coat 3 takes 20 min and fits before that.',
    );
    expect(sprayFirst([coat('I-1', 5)], NOW - MINUTE_MS, NOW)).toBeNull();
    expect(sprayFirst([coat('I-1', 0)], NOW + HOUR_MS, NOW)).toMatchObject({ fit: 1 });
  });
});
