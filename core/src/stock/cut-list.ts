import type { BlankSize, BlanksPlan } from '../wood/plan-blanks.ts';
import type { Board } from './lot.ts';

/** A blank of a cut list; its weight is what its share of the board would weigh, null where nobody weighed the board. */
export interface ListedBlank {
  name: string;
  lengthMm: number;
  widthMm: number;
  thicknessMm: number;
  weightKg: number | null;
}

/** What one board of a lot is cut into. */
export interface ListedBoard {
  board: number;
  blanks: ListedBlank[];
}

/**
 * A cutting plan as a list, board by board: what each gives, with the weight each blank will have by its share of the wood.
 * `boards` are those that were planned, in the plan's order. Boards that give nothing are left out.
 */
export function cutListOf(options: {
  plan: BlanksPlan;
  boards: readonly Pick<Board, 'number' | 'lengthMm' | 'widthMm' | 'weightKg'>[];
  sizes: readonly BlankSize[];
  thicknessMm: number;
}): ListedBoard[] {
  const { plan, boards, sizes, thicknessMm } = options;
  return plan.boards.flatMap(({ placed }, i) => {
    const board = boards[i];
    if (!board || placed.length === 0) return [];
    const wood = board.lengthMm * board.widthMm * thicknessMm;
    const blanks = placed.flatMap(({ name, lengthMm, widthMm, layers }) => {
      const thickness = sizes.find((size) => size.name === name)?.thicknessMm ?? thicknessMm;
      const share = (lengthMm * widthMm * thickness) / wood;
      const weightKg = board.weightKg === null ? null : Math.round(100 * board.weightKg * share) / 100;
      return Array.from({ length: layers }, () => ({
        ...{ name, lengthMm, widthMm, thicknessMm: thickness, weightKg },
      }));
    });
    return [{ board: board.number, blanks }];
  });
}
