import fc from 'fast-check';
import { isRefusal, replayed } from '../ledger/index.ts';
import { UNCORRECTED } from '../wood/meter.ts';
import { boardsToRead, correctedReadings, latestByBoard } from './corrected.ts';
import { blankMoisturePct, judgeLot, lotSentence } from './judge.ts';
import type { LotBody, LotEntry } from './lot-entry.ts';
import { applyLotEntry, lotLedger } from './lot-reduce.ts';
import { lotWords } from './lot-words.ts';
import { isUsedUp, type LotState } from './lot.ts';

const HOUR = 3_600_000;
const NOON = Date.UTC(2026, 5, 1, 12);

const received = (boards = 4): LotBody => ({
  type: 'receive',
  code: 'W-74',
  species: 'hard maple',
  papersNeeded: false,
  thicknessMm: 50,
  boardFeet: 60,
  supplier: 'yard 3, 118',
  papers: null,
  endsSealed: true,
  dryness: 'kiln-dried',
  room: 'Wood room',
  boards: Array.from({ length: boards }, () => ({ lengthMm: 2400, widthMm: 180 })),
});
const entry = (seq: number, body: LotBody): LotEntry => ({
  seq,
  atMs: NOON + seq * HOUR,
  filedMs: NOON + seq * HOUR,
  by: 'venn',
  body,
});
const passing = (boards: number[], because?: string): LotBody => ({
  type: 'to-cut',
  boards,
  facts: { passing: [1, 2], sentence: 'Sort: 4 read.', papersMissing: false },
  ...(because ? { because } : {}),
});
const half = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45, weightKg: 2.1 };
const cut = (board: number, extra: object = {}): LotBody => ({
  type: 'cut',
  board,
  blanks: [half, half],
  matched: true,
  ...extra,
});
const readings = (...values: [number | null, number][]): LotBody => ({
  type: 'lot-read',
  meter: null,
  woodTemperatureC: 21,
  depth: 'shell',
  readings: values.map(([board, readingPct]) => ({ board, readingPct })),
});

/** The lot after all that, or the first refusal's sentence. */
function after(...bodies: LotBody[]): LotState | string {
  let state: LotState | null = null;
  for (const [i, body] of bodies.entries()) {
    const outcome = applyLotEntry(state, entry(i + 1, body));
    if (isRefusal(outcome)) return outcome.refused;
    state = outcome;
  }
  if (!state) throw new Error('nothing was filed');
  return state;
}
const lot = (...bodies: LotBody[]): LotState => {
  const state = after(received(), ...bodies);
  if (typeof state === 'string') throw new Error(state);
  return state;
};

describe('a lot of lumber', () => {
  it('is received board by board, drying in its room', () => {
    expect(lot()).toMatchObject({
      code: 'W-74',
      room: 'Wood room',
      boards: [{ number: 1, status: 'stacked' }, {}, {}, {}],
    });
    expect(after(received(0))).toMatch(/1 to 500 boards/);
  });

  it('keeps readings as they were shown and refuses only what no meter can say', () => {
    expect(lot(readings([1, 7.4], [2, 31])).looks[0]?.readings).toHaveLength(2);
    expect(after(received(), readings([1, 140]))).toMatch(/140 % is no moisture/);
    expect(after(received(), readings([9, 7]))).toMatch(/no board 9/);
    expect(after(received(), readings([1, 7], [1, 8]))).toMatch(/twice/);
    expect(after(received(), { ...readings([1, 7]), woodTemperatureC: 300 } as LotBody)).toMatch(/300 °C/);
  });

  it('sends the boards that pass to cut, and others only for a reason that stays with the lot', () => {
    expect(lot(passing([1, 2])).boards.map((b) => b.status)).toEqual([
      'to-cut',
      'to-cut',
      'stacked',
      'stacked',
    ]);
    expect(after(received(), passing([1, 3]))).toMatch(/^3 do not pass the gate/);
    expect(lot(passing([1, 3], 'thin stock')).overrides).toEqual([
      {
        atMs: NOON + 2 * HOUR,
        by: 'venn',
        what: 'sent 1 board to cut past the gate: 3',
        because: 'thin stock',
      },
    ]);
    expect(after(received(), passing([1]), passing([1]))).toMatch(/board 1 is to-cut/);
  });

  it('keeps protected wood back until its papers are noted', () => {
    const unpapered = {
      ...passing([1]),
      facts: { passing: [1], sentence: '', papersMissing: true },
    } as LotBody;
    expect(after(received(), unpapered)).toMatch(/needs papers/);
  });

  it('believes no wood that cannot have come from the board, and says the numbers', () => {
    const cuts = (count: number, blank: object = {}): LotState | string =>
      after(
        { ...received(), boards: [{ lengthMm: 2388, widthMm: 200, weightKg: 9 }] } as LotBody,
        passing([1]),
        cut(1, { matched: false, blanks: Array.from({ length: count }, () => ({ ...half, ...blank })) }),
      );
    // 2388 / 520 is 4.6 blanks along, 200 / 180 one across.
    expect(cuts(4)).toMatchObject({ blanks: [{}, {}, {}, {}] });
    expect(cuts(5)).toBe('board W-74/1 is 2388 × 200 × 50 mm: it gives 4 blanks of that size at most, not 5');
    expect(cuts(12)).toMatch(/4 blanks of that size at most, not 12/);
    expect(cuts(12, { widthMm: 65, weightKg: 0.7 })).toMatchObject({ blanks: { length: 12 } });
    expect(cuts(1, { lengthMm: 2400 })).toMatch(/2400 × 180 × 45 mm is not in board W-74\/1, which is 2388/);
    expect(cuts(1, { thicknessMm: 54 })).toMatch(/is not in board/);
    expect(cuts(1, { weightKg: 19 })).toMatch(
      /19 kg for a blank of 520 × 180 × 45 mm is heavier than any wood \(5.48 kg/,
    );
    expect(cuts(4, { weightKg: 2.6 })).toBe(
      'the blanks weigh 10.4 kg together, board W-74/1 weighed 9 kg: weigh them again',
    );
  });

  it('cuts a board that may be cut into blanks that keep their parent, and no other without a reason', () => {
    const state = lot(passing([1]), cut(1));
    expect(state.blanks.map((b) => [b.id, b.board, b.matchedWith])).toEqual([
      ['W-74/1.1', 1, 'W-74/1.2'],
      ['W-74/1.2', 1, 'W-74/1.1'],
    ]);
    expect(after(received(), cut(1))).toMatch(/not to be cut yet/);
    expect(lot(cut(1, { because: 'sample' })).overrides).toHaveLength(1);
    expect(after(received(), passing([1]), cut(1), cut(1))).toMatch(/already cut/);
    expect(after(received(), passing([1]), cut(1, { blanks: [half] }))).toMatch(/two halves/);
  });

  it('does not part a matched pair without a reason', () => {
    const take = (blanks: string[], because?: string): LotBody => ({
      type: 'take',
      blanks,
      batch: 'B-9',
      ...(because ? { because } : {}),
    });
    const start = [received(), passing([1]), cut(1)];
    expect(after(...start, take(['W-74/1.1']))).toMatch(/book-matched pair with W-74\/1.2/);
    expect(lot(...start.slice(1), take(['W-74/1.1', 'W-74/1.2'])).blanks.map((b) => b.batch)).toEqual([
      'B-9',
      'B-9',
    ]);
    const parted = lot(...start.slice(1), take(['W-74/1.1'], 'the other half is checked'));
    expect(parted.blanks[1]).toMatchObject({ matchedWith: null, status: 'stock' });
    expect(after(...start, take(['W-74/1.1', 'W-74/1.2']), take(['W-74/1.1', 'W-74/1.2']))).toMatch(
      /taken for B-9/,
    );
  });

  it('takes no readings once it is used up', () => {
    const scrap: LotBody = { type: 'lot-scrap', boards: [1, 2, 3, 4], blanks: [], reason: 'beetle' };
    expect(isUsedUp(lot(scrap))).toBe(true);
    expect(after(received(), scrap, readings([1, 7]))).toMatch(/used up/);
    const one: LotBody = { type: 'lot-scrap', boards: [2], blanks: [], reason: 'split' };
    expect(after(received(), one, readings([2, 7]))).toMatch(/W-74\/2 is used up/);
  });

  it('is replayed without what was taken back, and says what came after and needs it', () => {
    const log = [received(), passing([1]), cut(1)].map((body, i) => entry(i + 1, body));
    const back = replayed(lotLedger, [...log, entry(4, { type: 'undo', voids: [3] })]);
    expect(back && !isRefusal(back) ? back.blanks : null).toEqual([]);
    expect(replayed(lotLedger, [...log, entry(4, { type: 'undo', voids: [2] })])).toMatchObject({ seq: 3 });
  });

  it('keeps which piece each blank becomes, until it is given back (11.10)', () => {
    const taken = after(received(), passing([1, 2]), cut(1), {
      type: 'take',
      blanks: ['W-74/1.1', 'W-74/1.2'],
      batch: 'B-201',
      pieces: [3, 3],
    });
    if (typeof taken === 'string') throw new Error(taken);
    expect(taken.blanks.map(({ id, piece }) => [id, piece])).toEqual([
      ['W-74/1.1', 3],
      ['W-74/1.2', 3],
    ]);
    const back = after(
      received(),
      passing([1, 2]),
      cut(1),
      { type: 'take', blanks: ['W-74/1.1', 'W-74/1.2'], batch: 'B-201', pieces: [3, 3] },
      { type: 'give-back', blanks: ['W-74/1.1', 'W-74/1.2'] },
    );
    expect(typeof back === 'string' ? back : back.blanks.map((blank) => 'piece' in blank)).toEqual([
      false,
      false,
    ]);
    expect(
      after(received(), passing([1]), cut(1), {
        type: 'take',
        blanks: ['W-74/1.1', 'W-74/1.2'],
        batch: 'B-201',
        pieces: [3],
      }),
    ).toBe('2 blanks for 1 piece');
  });

  it('hands the colour of a board on to its blanks (11.10)', () => {
    const sorted = after(
      received(),
      { type: 'sort', boards: [{ board: 1, colour: 'light' }] },
      passing([1]),
      cut(1),
    );
    expect(typeof sorted === 'string' ? sorted : sorted.blanks.map(({ colour }) => colour)).toEqual([
      'light',
      'light',
    ]);
  });

  it('never loses a board: stacked, to cut, cut and scrapped add up whatever is filed (seed 12)', () => {
    const number = fc.integer({ min: 1, max: 5 });
    const body: fc.Arbitrary<LotBody> = fc.oneof(
      number.map((n) => passing([n], 'why not')),
      number.map((n) => cut(n)),
      number.map((n): LotBody => ({ type: 'lot-scrap', boards: [n], blanks: [], reason: 'x' })),
      number.map((n): LotBody => ({ type: 'take', blanks: [`W-74/${n}.1`], batch: 'B-1', because: 'x' })),
      number.map((n): LotBody => ({ type: 'give-back', blanks: [`W-74/${n}.1`] })),
    );
    let accepted = 0;
    fc.assert(
      fc.property(fc.array(body, { minLength: 12, maxLength: 25 }), (bodies) => {
        let state = lot();
        bodies.forEach((next, i) => {
          const outcome = applyLotEntry(state, entry(i + 2, next));
          if (isRefusal(outcome)) return;
          accepted += 1;
          state = outcome;
        });
        const blanksOf = (board: number): number => state.blanks.filter((b) => b.board === board).length;
        return (
          state.boards.length === 4 &&
          state.boards.every((b) => blanksOf(b.number) === (b.status === 'cut' ? 2 : 0))
        );
      }),
      { seed: 12, numRuns: 80 },
    );
    expect(accepted).toBeGreaterThan(200);
  });
});

describe('readings of a lot', () => {
  const state = lot(readings([1, 8], [2, 9]), readings([1, 7.5]), {
    ...readings([1, 8.4]),
    depth: 'core',
  } as LotBody);

  it('are corrected by the meter’s line of today, old ones too', () => {
    const lines = (b: number) => correctedReadings(state.looks, () => ({ a: 0, b }));
    expect(lines(1).map((r) => r.correctedPct)).toEqual([8, 9, 7.5, 8.4]);
    expect(lines(0.5).map((r) => [r.readingPct, r.correctedPct])[1]).toEqual([9, 4.5]);
  });

  it('count by each board’s last, its core where that was read, and are compared on the same board', () => {
    const { judgement } = judgeLot(state, { window: { lowPct: 6, highPct: 8.5 }, lineOf: () => UNCORRECTED });
    // Board 1 by its core, 8.4, board 2 as read, 9; core against shell on board 1 alone.
    expect(judgement.meanPct).toBeCloseTo(8.7, 9);
    expect(judgement.coreMinusShellPct).toBeCloseTo(8.4 - 7.5, 9);
  });

  it('say which boards to read next: never read first, then read longest ago', () => {
    const all = correctedReadings(state.looks, () => UNCORRECTED);
    expect(boardsToRead(state, all, 3)).toEqual([2, 3, 4]);
    expect(latestByBoard(all).get(1)?.depth).toBe('core');
  });
});

describe('a lot at the gate', () => {
  const window = { lowPct: 6, highPct: 8.5 };
  const judge = (state: LotState) => judgeLot(state, { window, lineOf: () => UNCORRECTED });

  it('passes whole when its sample proves it, and lets only read boards go while it does not', () => {
    expect(judge(lot(readings([1, 7.1], [2, 7.2], [3, 7.1])))).toMatchObject({
      passing: [1, 2, 3, 4],
      failing: [],
    });
    const mixed = judge(lot(readings([1, 7.1], [2, 9], [3, 7.3])));
    expect(mixed.judgement.verdict).toBe('sort');
    expect(mixed).toMatchObject({ passing: [1, 3], failing: [2] });
  });

  it('needs no bound once every stacked board was read, and asks for boards never read first', () => {
    expect(judge(lot(readings([1, 6.1], [2, 7.2], [3, 8.4], [4, 7]))).judgement.verdict).toBe('pass');
    expect(judge(lot(readings([1, 6.1], [2, 7.2], [3, 8.4]))).readNext).toEqual([1, 2, 3, 4]);
    expect(judge(lot()).readNext).toEqual([1, 2, 3]);
  });

  it('lets nothing go that is case-hardened', () => {
    const core = { ...readings([1, 8.4], [2, 8.3]), depth: 'core' } as LotBody;
    expect(judge(lot(readings([1, 6.3], [2, 6.2], [3, 6.3], [4, 6.1]), core))).toMatchObject({ passing: [] });
  });

  it('says what is left once nothing dries any more', () => {
    const say = (...bodies: LotBody[]): string => {
      const state = lot(...bodies);
      return lotSentence(state, judge(state), window);
    };
    const free = (boards: number[]): LotBody => passing(boards, 'all of them');
    expect(say()).toMatch(/^Read it/);
    expect(say(free([1, 2, 3, 4]))).toBe('Cut it: 4 boards to cut, 0 blanks in stock.');
    const rest: LotBody = { type: 'lot-scrap', boards: [2, 3, 4], blanks: [], reason: 'x' };
    expect(say(free([1, 2, 3, 4]), cut(1), rest)).toBe('Cut up: 2 blanks in stock.');
    expect(say({ ...rest, boards: [1, 2, 3, 4] })).toBe('Used up.');
  });

  it('gives a blank its board’s moisture, or else its lot’s', () => {
    const { readings: all } = judge(lot(readings([1, 7], [2, 8])));
    expect(blankMoisturePct(all, 2)).toBe(8);
    expect(blankMoisturePct(all, 4)).toBe(7.5);
    expect(blankMoisturePct([], 4)).toBeNull();
  });
});

describe('what was done, in words', () => {
  it.each<[LotBody, string]>([
    [received(), 'received 4 boards of hard maple, 50 mm'],
    [readings([1, 7.2], [2, 7.4]), '2 readings at the shell, mean 7.30 % as shown'],
    [{ type: 'move', room: 'Wood room' }, 'moved to Wood room'],
    [{ type: 'sort', boards: [{ board: 1, weightKg: 9 }] }, 'sorted 1 board'],
    [passing([1, 2], 'in a hurry'), '2 boards sent to cut because in a hurry'],
    [cut(1), 'cut board 1 into a matched pair'],
    [cut(1, { blanks: [half, half, half], matched: false }), 'cut board 1 into 3 blanks'],
    [{ type: 'weigh', blank: 'W-74/1.1', weightKg: 2 }, 'W-74/1.1 weighs 2 kg'],
    [{ type: 'take', blanks: ['W-74/1.1'], batch: 'B-9' }, 'took 1 blank for B-9'],
    [{ type: 'give-back', blanks: ['W-74/1.1', 'W-74/1.2'] }, 'gave 2 blanks back'],
    [
      { type: 'lot-scrap', boards: [3], blanks: ['W-74/1.1'], reason: 'split' },
      'scrapped board 3, W-74/1.1: split',
    ],
    [{ type: 'papers', reference: 'licence 7' }, 'papers noted: licence 7'],
    [{ type: 'undo', voids: [4] }, 'took back 1 entry: 4'],
  ])('%j', (body, words) => {
    expect(lotWords(body)).toBe(words);
  });
});

describe('moving, sorting and weighing', () => {
  it('keeps where a lot has been, and refuses a move to where it is', () => {
    const moved = lot({ type: 'move', room: 'Lumber room' });
    expect(moved.moves.map(({ room }) => room)).toEqual(['Wood room', 'Lumber room']);
    expect(after(received(), { type: 'move', room: 'Wood room' })).toMatch(/already in Wood room/);
  });

  it('changes only what was said of a board', () => {
    const state = lot(
      { type: 'sort', boards: [{ board: 2, weightKg: 9.5, grade: 'figured' }] },
      { type: 'sort', boards: [{ board: 2, weightKg: 9.4 }] },
    );
    expect(state.boards[1]).toMatchObject({ weightKg: 9.4, grade: 'figured' });
    expect(state.boards[0]).toMatchObject({ weightKg: null, grade: null });
    expect(after(received(), { type: 'sort', boards: [{ board: 2, weightKg: -1 }] })).toMatch(
      /no weight of a board/,
    );
  });

  it('weighs a blank again after hollowing, and keeps its board’s figure', () => {
    const state = lot({ type: 'sort', boards: [{ board: 1, grade: 'figured' }] }, passing([1]), cut(1), {
      type: 'weigh',
      blank: 'W-74/1.2',
      weightKg: 1.7,
    });
    expect(state.blanks.map(({ weightKg, grade }) => [weightKg, grade])).toEqual([
      [2.1, 'figured'],
      [1.7, 'figured'],
    ]);
    expect(after(received(), { type: 'weigh', blank: 'W-74/9.1', weightKg: 1 })).toMatch(
      /no blank W-74\/9.1/,
    );
  });

  it('refuses what happened before the lot came, or has not happened yet', () => {
    const early = { ...entry(2, { type: 'move', room: 'Lumber room' }), atMs: NOON };
    expect(applyLotEntry(lot(), early)).toMatchObject({ code: 'too-early' });
    const ahead = { ...entry(2, { type: 'move', room: 'Lumber room' }), atMs: NOON + 99 * HOUR };
    expect(applyLotEntry(lot(), ahead)).toMatchObject({ code: 'in-the-future' });
  });
});
