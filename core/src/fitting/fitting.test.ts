import fc from 'fast-check';
import { HOUR_MS } from '../units/quantities.ts';
import { meetingForecast, type MeetingSide } from './meeting.ts';
import { expectedFitShare, pairParts, type GapWindow } from './pairing.ts';

const SET: GapWindow = { low: 0.05, high: 0.15 };

/** Every assignment tried: most pairs, then the least deviation. */
function bruteForce(
  tenons: number[],
  pockets: number[],
  window: GapWindow,
): { pairs: number; total: number } {
  const middle = (window.low + window.high) / 2;
  const best = { pairs: 0, total: 0 };
  const walk = (tenon: number, taken: Set<number>, pairs: number, total: number): void => {
    if (pairs > best.pairs || (pairs === best.pairs && total < best.total))
      Object.assign(best, { pairs, total });
    if (tenon === tenons.length) return;
    walk(tenon + 1, taken, pairs, total);
    pockets.forEach((pocket, p) => {
      const gap = Math.round((pocket - (tenons[tenon] ?? 0)) * 1000) / 1000;
      if (taken.has(p) || gap < window.low - 1e-9 || gap > window.high + 1e-9) return;
      walk(tenon + 1, new Set([...taken, p]), pairs + 1, total + Math.abs(gap - middle));
    });
  };
  walk(0, new Set(), 0, 0);
  return best;
}

describe('pairing by measurement', () => {
  it('finds the one way all three fit', () => {
    // 56.00 fits 56.10 and 56.15; 56.05 only 56.15 and 56.20; 56.08 only 56.20: all three fit in one way only.
    const found = pairParts({
      tenonsMm: [56, 56.05, 56.08],
      pocketsMm: [56.2, 56.1, 56.15],
      windowMm: SET,
    });
    expect(found.pairs.map(({ tenon, pocket }) => [tenon, pocket])).toEqual([
      [2, 0],
      [0, 1],
      [1, 2],
    ]);
    expect(found.leftovers).toEqual([]);
  });

  it('equals brute force for up to 6 by 6: as many pairs, no more deviation', () => {
    const widths = fc.array(fc.integer({ min: 5590, max: 5625 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(widths, widths, (tenons, pockets) => {
        const tenonsMm = tenons.map((width) => width / 100);
        const pocketsMm = pockets.map((width) => width / 100);
        const found = pairParts({ tenonsMm, pocketsMm, windowMm: SET });
        const best = bruteForce(tenonsMm, pocketsMm, SET);
        expect(found.pairs).toHaveLength(best.pairs);
        expect(found.totalDeviationMm).toBeCloseTo(best.total, 6);
      }),
      { seed: 11, numRuns: 300 },
    );
  });

  it('equals brute force for 8 by 8', () => {
    const eight = fc.array(fc.integer({ min: 5590, max: 5620 }), { minLength: 8, maxLength: 8 });
    fc.assert(
      fc.property(eight, eight, (tenons, pockets) => {
        const tenonsMm = tenons.map((width) => width / 100);
        const pocketsMm = pockets.map((width) => width / 100);
        const found = pairParts({ tenonsMm, pocketsMm, windowMm: SET });
        const best = bruteForce(tenonsMm, pocketsMm, SET);
        expect([found.pairs.length, found.totalDeviationMm.toFixed(6)]).toEqual([
          best.pairs,
          best.total.toFixed(6),
        ]);
      }),
      { seed: 12, numRuns: 25 },
    );
  });

  it('uses every part once, and names each that is left over', () => {
    const widths = fc.array(fc.integer({ min: 5500, max: 5700 }), { minLength: 0, maxLength: 30 });
    fc.assert(
      fc.property(widths, widths, (tenons, pockets) => {
        const tenonsMm = tenons.map((width) => width / 100);
        const pocketsMm = pockets.map((width) => width / 100);
        const { pairs, leftovers } = pairParts({ tenonsMm, pocketsMm, windowMm: SET });
        const seen = (side: 'tenon' | 'pocket') =>
          [
            ...pairs.map((pair) => pair[side]),
            ...leftovers.filter((left) => left.side === side).map((left) => left.index),
          ].sort((a, b) => a - b);
        expect(seen('tenon')).toEqual(tenons.map((_, i) => i));
        expect(seen('pocket')).toEqual(pockets.map((_, i) => i));
        for (const { gapMm } of pairs) expect(gapMm >= SET.low - 1e-9 && gapMm <= SET.high + 1e-9).toBe(true);
      }),
      { seed: 13 },
    );
  });

  it('counts both ends of the window as inside, whatever binary fractions do', () => {
    const found = pairParts({ tenonsMm: [55.9, 55.9], pocketsMm: [55.95, 56.05], windowMm: SET });
    expect(found.pairs.map((pair) => pair.gapMm)).toEqual([0.05, 0.15]);
  });

  it('says what would make leftovers fit: plane a tight one by 0.1, shim a wide one by 0.3, keep a hopeless one', () => {
    const remedies = (tenonsMm: number[], pocketsMm: number[]) =>
      pairParts({ tenonsMm, pocketsMm, windowMm: SET }).leftovers.map(({ side, remedy }) => [side, remedy]);
    expect(remedies([56.05], [56.05])).toEqual([
      ['tenon', { do: 'plane', byMm: 0.1 }],
      ['pocket', { do: 'plane', byMm: 0.1 }],
    ]);
    expect(remedies([55.7], [56.1])[0]).toEqual(['tenon', { do: 'shim', byMm: 0.3 }]);
    expect(remedies([50], [56.1])[0]).toEqual(['tenon', { do: 'hold' }]);
    expect(remedies([56], [])).toEqual([['tenon', { do: 'hold' }]]);
  });

  it('pairs only parts of one line of an order, or both for stock, however well others fit', () => {
    // Each tenon fits its neighbour's pocket best; the orders say otherwise.
    const parts = { tenonsMm: [55.9, 55.9, 55.9], pocketsMm: [56, 56, 56], windowMm: SET };
    const tenonLines = ['O-1/1', 'O-2/1', null];
    const pocketLines = ['O-2/1', null, 'O-1/1'];
    const { pairs, leftovers } = pairParts({ ...parts, tenonLines, pocketLines });
    expect(pairs.map(({ tenon, pocket }) => [tenon, pocket])).toEqual([
      [1, 0],
      [2, 1],
      [0, 2],
    ]);
    expect(leftovers).toEqual([]);
    const apart = pairParts({ ...parts, tenonLines: ['O-9/1', 'O-9/1', 'O-9/1'], pocketLines });
    expect(apart.pairs).toEqual([]);
    expect(apart.leftovers.every(({ remedy }) => remedy.do === 'hold')).toBe(true);
  });

  it('refuses widths that are none, and a window the wrong way round', () => {
    expect(() => pairParts({ tenonsMm: [0], pocketsMm: [56], windowMm: SET })).toThrow(/tenon 1 is no width/);
    expect(() => pairParts({ tenonsMm: [56], pocketsMm: [NaN], windowMm: SET })).toThrow(/pocket 1/);
    expect(() => pairParts({ tenonsMm: [], pocketsMm: [], windowMm: { low: 1, high: 0 } })).toThrow(
      /wrong way/,
    );
  });
});

describe('the share that fits at random', () => {
  it('is the share of all combinations: 3 of 4', () => {
    const share = expectedFitShare({ tenonsMm: [56, 56.05], pocketsMm: [56.1, 56.15], windowMm: SET });
    expect(share?.measuredPct).toBe(100);
    const other = expectedFitShare({ tenonsMm: [56, 56.05], pocketsMm: [56.05, 56.15], windowMm: SET });
    expect(other?.measuredPct).toBe(75);
  });

  it('of populations is the normal share: gap 0.10 ± 0.05 within one σ, 68 %', () => {
    // Spreads 0.03 and 0.04 make 0.05: two values at ± 1/√2 of it have that sample spread.
    const at = (mean: number, sd: number) => [mean - sd / Math.SQRT2, mean + sd / Math.SQRT2];
    const share = expectedFitShare({ tenonsMm: at(56, 0.03), pocketsMm: at(56.1, 0.04), windowMm: SET });
    expect(share?.populationPct).toBeCloseTo(68.27, 1);
  });

  it('is not guessed from nothing, nor a population from one', () => {
    expect(expectedFitShare({ tenonsMm: [], pocketsMm: [56], windowMm: SET })).toBeNull();
    expect(expectedFitShare({ tenonsMm: [56], pocketsMm: [56.1], windowMm: SET })?.populationPct).toBeNull();
  });
});

describe('the meeting', () => {
  const side = (batch: string, hours: number, rest: Partial<MeetingSide> = {}): MeetingSide => ({
    batch,
    role: batch.startsWith('B') ? 'host' : 'guest',
    model: 'Bowline',
    pieces: 12,
    arrivesMs: hours * HOUR_MS,
    lowMs: hours * HOUR_MS,
    highMs: hours * HOUR_MS,
    dueMs: Number(batch.split('-')[1]) * HOUR_MS,
    partner: null,
    ...rest,
  });

  it('is in order of due date, and says who waits and that it misses by more than a day', () => {
    const { meetings } = meetingForecast([side('B-1', 0), side('N-1', 30), side('B-2', 9), side('N-2', 9.5)]);
    expect(meetings[0]).toMatchObject({ host: 'B-2', guest: 'N-2', waits: null, misses: false });
    expect(meetings[1]).toMatchObject({
      host: 'B-1',
      guest: 'N-1',
      waits: 'host',
      waitHours: 30,
      misses: true,
    });
  });

  it('keeps partners a person told, and offers no model the neck of another', () => {
    const { meetings, alone } = meetingForecast([
      side('B-1', 0, { partner: 'N-2' }),
      side('N-2', 0, { partner: 'B-1' }),
      side('N-1', 0),
      side('B-3', 0, { model: 'Halyard' }),
    ]);
    expect(meetings).toHaveLength(1);
    expect(meetings[0]).toMatchObject({ host: 'B-1', guest: 'N-2', told: true });
    expect(alone).toEqual(['N-1', 'B-3']);
  });

  it('leaves a handful over from an earlier meeting for the end', () => {
    const { meetings } = meetingForecast([
      side('B-1', 0),
      side('N-1', 0, { pieces: 2 }),
      side('N-2', 0),
      side('B-2', 0, { pieces: 3 }),
    ]);
    expect(meetings.map(({ host, guest }) => `${host} ${guest}`)).toEqual(['B-1 N-2', 'B-2 N-1']);
  });

  it('says how many will find no partner', () => {
    const { meetings } = meetingForecast([side('B-1', 0), side('N-1', 0, { pieces: 11 })]);
    expect(meetings[0]?.short).toEqual({ side: 'guest', pieces: 1 });
  });

  it('offers the swap that saves waiting, worked by hand', () => {
    // B-1 at 0 h would wait 50 h for N-1; B-2 at 50 h finds N-2 there since 0 h. Swapped, nobody waits.
    const { swaps } = meetingForecast([side('B-1', 0), side('N-1', 50), side('B-2', 50), side('N-2', 0)]);
    expect(swaps).toHaveLength(1);
    expect(swaps[0]).toMatchObject({ savesPieceHours: 1200, laterPieceHours: -600 });
    expect(swaps[0]?.meets.map(({ host, guest }) => `${host} ${guest}`)).toEqual(['B-1 N-2', 'B-2 N-1']);
  });

  it('never offers a swap that loses a pair', () => {
    const sides = [
      side('B-1', 0, { pieces: 12 }),
      side('N-1', 50, { pieces: 12 }),
      side('B-2', 50, { pieces: 4 }),
      side('N-2', 0, { pieces: 4 }),
    ];
    expect(meetingForecast(sides).swaps).toEqual([]);
  });

  it('meets only what is built for the same line, and offers no swap that could not be joined', () => {
    const of = (n: number) => ({ lines: { 'O-1/1': n } });
    // By due date B-1 would meet N-1; the line's neck is N-2.
    const sides = [side('B-1', 0, of(12)), side('N-1', 0), side('B-2', 0), side('N-2', 50, of(12))];
    const { meetings, swaps } = meetingForecast(sides);
    expect(meetings.map(({ host, guest }) => `${host} ${guest}`)).toEqual(['B-2 N-1', 'B-1 N-2']);
    // Changing partners would save B-1 its 50 hours: its pieces may not meet those of N-1.
    expect(swaps).toEqual([]);
    // Half of each is of one line: they may all meet.
    const half = [side('B-1', 0, of(6)), side('N-1', 0, of(6))];
    expect(meetingForecast(half).meetings).toHaveLength(1);
  });
});
