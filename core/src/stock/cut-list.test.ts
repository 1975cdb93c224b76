import { planBlanks } from '../wood/plan-blanks.ts';
import { cutListOf } from './cut-list.ts';

describe('a cutting plan as a cut list (11.11)', () => {
  const sizes = [{ name: 'body half', lengthMm: 520, widthMm: 180, thicknessMm: 45 }];
  const boards = [
    { number: 3, lengthMm: 2400, widthMm: 200, weightKg: 12 },
    { number: 5, lengthMm: 400, widthMm: 200, weightKg: 2 },
    { number: 8, lengthMm: 1200, widthMm: 200, weightKg: null },
  ];
  const plan = planBlanks({
    ...{
      boards: boards.map(({ lengthMm, widthMm }) => ({ lengthMm, widthMm, thicknessMm: 50 })),
      blanks: sizes,
    },
    ...{ firstCut: 'crosscut' as const, kerfMm: 3, planeMm: 3, trimMm: 40, defectPct: 0 },
  });

  it('says what each board gives and what each blank will weigh by its share of the wood; a board too short is left out', () => {
    const list = cutListOf({ plan, boards, sizes, thicknessMm: 50 });
    expect(list.map(({ board, blanks }) => [board, blanks.length])).toEqual([
      [3, 4],
      [8, 2],
    ]);
    // 520 · 180 · 45 of 2400 · 200 · 50 mm³ of 12 kg: 2.11 kg.
    expect(list[0]?.blanks[0]).toEqual({ ...sizes[0], weightKg: 2.11 });
    expect(list[1]?.blanks[0]?.weightKg).toBeNull();
  });

  it('never weighs more than the board did', () => {
    const [first] = cutListOf({ plan, boards, sizes, thicknessMm: 50 });
    expect((first?.blanks ?? []).reduce((sum, { weightKg }) => sum + (weightKg ?? 0), 0)).toBeLessThan(12);
  });
});
