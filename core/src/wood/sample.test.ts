import { randomStream } from '../stats/random.ts';
import type { ClimateSample } from '../units/climate.ts';
import { readingFloors } from './drying/floors.ts';
import { gateSentence } from './gate.ts';
import type { TakenReading } from './reading.ts';
import { believedReadings, judgeSample, sampleOf } from './sample.ts';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const window = { lowPct: 6, highPct: 8.5 };
const rack = Array.from({ length: 14 }, (_, i) => i + 1);

const reading = (
  atMs: number,
  piece: number | null,
  pct: number,
  extra: Partial<TakenReading> = {},
): TakenReading => ({
  ...{ atMs, piece, depth: null, shownPct: pct, pct, floorPct: null, explained: false },
  ...extra,
});
const named = (atMs: number, ...values: number[]): TakenReading[] =>
  values.map((pct, i) => reading(atMs, i + 1, pct));
const unnamed = (atMs: number, ...values: number[]): TakenReading[] =>
  values.map((pct) => reading(atMs, null, pct));
const say = (readings: TakenReading[], pieces = rack): string =>
  gateSentence(judgeSample(readings, pieces, window).judgement, window);

/** Fourteen pieces, all far too wet. */
const wet = named(0, 9.1, 9.2, 9.8, 9.4, 9.5, 9.1, 9.3, 9.6, 9.2, 9.4, 9.5, 9.7, 9.3, 9.2);

describe('the moisture gate passes on three anonymous numbers (11.2)', () => {
  it('no more: readings that name no piece replace no named one', () => {
    const judged = judgeSample([...wet, ...unnamed(DAY, 7.2, 7.3, 7.1)], rack, window);
    expect(judged.judgement).toMatchObject({ verdict: 'wait', count: 14, over: 14, leftOut: 3 });
    expect(say([...wet, ...unnamed(DAY, 7.2, 7.3, 7.1)])).toBe(
      'Wait: 14 read, mean 9.4 %, gate 6.0–8.5 %; 14 over. 3 readings name no piece and replace none.',
    );
  });

  it('they count for so many unknown pieces, and the bound carries the rest', () => {
    const some = [...named(0, 7.1, 7.2), ...unnamed(HOUR, 7.3, 7.1)];
    expect(sampleOf(some, rack)).toMatchObject({ complete: false, leftOut: 0 });
    expect(judgeSample(some, rack, window).judgement).toMatchObject({ count: 4, verdict: 'pass' });
    // Scattered as widely as the window the bound of so few does not hold, and it says how many more.
    expect(say([...named(0, 6.4, 8.2), ...unnamed(HOUR, 7.3, 7.1)])).toMatch(/^Read more: 4 read/);
    expect(sampleOf([...named(0, 7.1), ...unnamed(HOUR, 7, 7.2, 7.1)], [1, 2, 3])).toMatchObject({
      complete: true,
      leftOut: 1,
    });
  });

  it('a later reading of a piece counts, whatever else was read since', () => {
    const dried = [...wet, ...named(20 * DAY, ...Array<number>(14).fill(7.4)), reading(21 * DAY, 3, 7.6)];
    const { judgement } = judgeSample(dried, rack, window);
    expect(judgement).toMatchObject({ verdict: 'pass', count: 14 });
    expect(judgement.meanPct).toBeCloseTo((13 * 7.4 + 7.6) / 14, 9);
    // One piece nobody read again stays as wet as it was.
    expect(
      judgeSample(
        dried.filter(({ piece, atMs }) => piece !== 5 || atMs === 0),
        rack,
        window,
      ).judgement,
    ).toMatchObject({ verdict: 'sort', over: 1 });
  });

  it('two bad boards are set aside by what the meter showed, and leave the mean until confirmed', () => {
    const boards = [
      ...named(0, 7.1, 7.2, 7.3, 7.1),
      reading(0, 5, 6.1, { shownPct: 34 }),
      reading(0, 6, 4.2),
    ];
    const judged = judgeSample(boards, [1, 2, 3, 4, 5, 6], window);
    expect(judged.judgement).toMatchObject({ verdict: 'unread', count: 4 });
    expect(judged.judgement.meanPct).toBeCloseTo(7.175, 9);
    expect(judged.passing).toEqual([1, 2, 3, 4]);
    expect(say(boards, [1, 2, 3, 4, 5, 6])).toMatch(
      /^Not yet: 4 read.* Read again: 34\.0 % on 5 is outside what the meter resolves; 4\.2 % on 6 is outside/,
    );
    // Read again and nearly the same, or explained, they count.
    expect(judgeSample([...boards, reading(HOUR, 6, 4.4)], [1, 2, 3, 4, 6], window).judgement.under).toBe(1);
    const explained = boards.map((one) => (one.piece === 6 ? { ...one, explained: true } : one));
    expect(judgeSample(explained, [1, 2, 3, 4, 6], window).judgement.under).toBe(1);
    // Read again and quite another value, the first stays aside and the new one counts.
    expect(judgeSample([...boards, reading(HOUR, 6, 7.2)], [1, 2, 3, 4, 6], window).judgement).toMatchObject({
      verdict: 'pass',
      count: 5,
    });
  });

  it('core is compared with the shell of the same board', () => {
    const shells = [reading(0, 1, 6.3, { depth: 'shell' }), reading(0, 2, 7.9, { depth: 'shell' })];
    const core = reading(HOUR, 2, 8.4, { depth: 'core' });
    // By the means core would lie 1.3 above shell; on board 2 it is 0.5.
    expect(sampleOf([...shells, core], [1, 2]).coreMinusShellPct).toBeCloseTo(0.5, 9);
    expect(sampleOf([...shells, { ...core, piece: null }], [1, 2]).coreMinusShellPct).toBeNull();
  });
});

describe('a fall no room could cause', () => {
  const climate: ClimateSample[] = Array.from({ length: 24 * 30 }, (_, i) => ({
    ...{ atMs: i * HOUR, temperatureC: 21, relativeHumidityPct: 36 },
  }));
  const wood = { thicknessMm: 45, species: { basicSpecificGravity: 0.5 }, tauDays: 20 };
  const floors = (atMs: number, pieces: (number | null)[]) =>
    readingFloors({ before: wet, pieces, depth: null, atMs, climate, wood });

  it('is told by the dry edge of the forecast less twice the scatter, from the piece’s own last look', () => {
    const [one, three, any, never] = floors(DAY, [1, 3, null, 20]);
    // In a day at most a few tenths of a percent of 9.1 % go, with twice 0.3 of noise.
    expect(one).toBeGreaterThan(7.7);
    expect(one).toBeLessThan(8.6);
    expect(three).toBeCloseTo((one ?? 0) + 0.7, 0);
    expect(any).toBeCloseTo(one ?? 0, 9);
    expect(never).toBeNull();
    expect(floors(25 * DAY, [1])[0]).toBeLessThan(7.2);
    expect(readingFloors({ before: [], pieces: [1], depth: null, atMs: 0, climate, wood })).toEqual([null]);
  });

  it('says "read again" with the numbers, and is believed once another look shows it', () => {
    const floorsPct = floors(DAY, rack);
    const fallen = rack.map((piece, i) => reading(DAY, piece, 7.2, { floorPct: floorsPct[i] ?? null }));
    expect(say([...wet, ...fallen])).toMatch(
      /^Wait: 14 read, mean 9\.4 %.* Read again: 7\.2 % on 1 fell faster than its room dries \(8\.\d % at the lowest\); .*; and 12 more\.$/,
    );
    const again = rack.map((piece) => reading(DAY + HOUR, piece, 7.3, { floorPct: 8.4 }));
    expect(judgeSample([...wet, ...fallen, ...again], rack, window).judgement.verdict).toBe('pass');
  });

  it('is not seen in honest drying: of 300 readings over five weeks at most one in fifty is set aside', () => {
    const random = randomStream(11);
    let doubted = 0;
    for (let i = 0; i < 100; i += 1) {
      const tauDays = random.logNormal(20, 0.5);
      const at = (day: number): number => 7 + 2.5 * Math.exp(-day / tauDays) + random.normal(0, 0.3);
      const taken: TakenReading[] = [reading(0, 1, at(0))];
      for (const day of [3, 8, 15]) {
        const [floorPct = null] = readingFloors({
          ...{ before: taken, pieces: [1], depth: null, atMs: day * DAY, climate, wood },
        });
        taken.push(reading(day * DAY, 1, at(day), { floorPct }));
      }
      doubted += believedReadings(taken).setAside.length;
    }
    expect(doubted).toBeLessThanOrEqual(6);
  });
});
