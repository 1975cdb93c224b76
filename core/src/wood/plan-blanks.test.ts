import fc from 'fast-check';
import { planBlanks, type BlankSize, type FirstCut } from './plan-blanks.ts';

const neck: BlankSize = { name: 'neck', lengthMm: 700, widthMm: 75, thicknessMm: 22 };
const body: BlankSize = { name: 'body half', lengthMm: 500, widthMm: 180, thicknessMm: 45 };
const no = { kerfMm: 0, planeMm: 0, trimMm: 0, defectPct: 0 };
const shop = { kerfMm: 3, planeMm: 3, trimMm: 40, defectPct: 15 };
const board = { lengthMm: 3000, widthMm: 200, thicknessMm: 27 };

describe('blanks from boards', () => {
  it('counts what fits by hand: 3000 − 80 of trim holds 4 necks of 703, 200 mm hold 2 of 78', () => {
    const plan = planBlanks({ boards: [board], blanks: [neck], firstCut: 'crosscut', ...shop });
    expect(plan.counts).toEqual({ neck: 8 });
    // 15 % of 8 are lost: 6.8, and nobody can use 0.8 of a blank.
    expect(plan.expected).toEqual({ neck: 6 });
    // 8 · 700 · 75 of 3000 · 200.
    expect(plan.usedPct).toBeCloseTo(70, 6);
    // 16.2 dm³ − 8 · 1.155 dm³ = 6.96 dm³ at 2.35974 dm³ a board foot.
    expect(plan.leftoverBoardFeet).toBeCloseTo(6.96 / 2.359737, 3);
  });

  it('resaws where the board is thick enough, the saw cut counted: 2 × 22 + 3 + 3 of planing fit into 50', () => {
    const count = (thicknessMm: number) =>
      planBlanks({ boards: [{ ...board, thicknessMm }], blanks: [neck], firstCut: 'rip', ...shop }).counts
        .neck;
    expect(count(50)).toBe(16);
    expect(count(49)).toBe(8);
    expect(count(20)).toBe(0);
  });

  it('mixes sizes to the most wood: 1700 mm is one neck and two body halves, not two necks and waste', () => {
    const thick = { lengthMm: 1700, widthMm: 180, thicknessMm: 45 };
    const plan = planBlanks({
      boards: [thick],
      blanks: [body, { ...neck, thicknessMm: 45 }],
      firstCut: 'crosscut',
      ...no,
    });
    expect(plan.counts).toEqual({ 'body half': 2, neck: 2 });
  });

  it('compares two ways: strips of mixed lengths against lengths of one size', () => {
    const sizes: BlankSize[] = [
      { name: 'long', lengthMm: 600, widthMm: 100, thicknessMm: 22 },
      { name: 'short', lengthMm: 400, widthMm: 90, thicknessMm: 22 },
    ];
    const cut = (firstCut: FirstCut) =>
      planBlanks({
        boards: [{ lengthMm: 1000, widthMm: 190, thicknessMm: 25 }],
        blanks: sizes,
        firstCut,
        ...no,
      }).counts;
    expect(cut('crosscut')).toEqual({ long: 0, short: 4 });
    expect(cut('rip')).toEqual({ long: 1, short: 3 });
  });

  it('never overlaps two blanks nor leaves the board (seed 3)', () => {
    const length = fc.integer({ min: 300, max: 3500 });
    const sizes = fc.array(
      fc.record({ l: fc.integer({ min: 150, max: 900 }), w: fc.integer({ min: 40, max: 260 }) }),
      {
        minLength: 1,
        maxLength: 3,
      },
    );
    let placedAtAll = 0;
    fc.assert(
      fc.property(
        length,
        fc.integer({ min: 60, max: 420 }),
        sizes,
        fc.constantFrom<FirstCut>('rip', 'crosscut'),
        (l, w, blanks, firstCut) => {
          const plan = planBlanks({
            boards: [{ lengthMm: l, widthMm: w, thicknessMm: 30 }],
            blanks: blanks.map((blank, i) => ({
              name: `b${i}`,
              lengthMm: blank.l,
              widthMm: blank.w,
              thicknessMm: 22,
            })),
            firstCut,
            ...shop,
          });
          const placed = plan.boards[0]?.placed ?? [];
          placedAtAll += placed.length;
          return placed.every(
            (a, i) =>
              a.xMm >= shop.trimMm &&
              a.xMm + a.lengthMm <= l - shop.trimMm &&
              a.yMm + a.widthMm <= w &&
              placed
                .slice(i + 1)
                .every(
                  (b) =>
                    a.xMm + a.lengthMm <= b.xMm ||
                    b.xMm + b.lengthMm <= a.xMm ||
                    a.yMm + a.widthMm <= b.yMm ||
                    b.yMm + b.widthMm <= a.yMm,
                ),
          );
        },
      ),
      { seed: 3, numRuns: 60 },
    );
    expect(placedAtAll).toBeGreaterThan(100);
  });

  it('refuses sizes that cannot be', () => {
    expect(() =>
      planBlanks({ boards: [{ ...board, widthMm: 0 }], blanks: [neck], firstCut: 'rip', ...shop }),
    ).toThrow(/widthMm of board 1/);
    expect(() => planBlanks({ boards: [], blanks: [neck], firstCut: 'rip', ...shop })).toThrow(
      /at least one board/,
    );
    expect(() =>
      planBlanks({ boards: [board], blanks: [neck], firstCut: 'rip', ...shop, defectPct: 100 }),
    ).toThrow(/defectPct/);
  });
});
