import { count, refuse, type Refusal } from '../ledger/index.ts';
import type { CutBody } from './lot-entry.ts';
import { boardTag, type Board, type LotState } from './lot.ts';

/** Heavier than any wood at the moisture of a workshop, kg/m³: the densest tropical woods stay below. */
const HEAVIEST_WOOD_KG_M3 = 1300;
/** Two scales differ a little, and a sawn board was weighed before its last drying. */
const WEIGHT_SLACK = 1.03;

type Sized = Pick<CutBody['blanks'][number], 'lengthMm' | 'widthMm' | 'thicknessMm' | 'weightKg'>;

/**
 * Why these blanks cannot have come from this board, with the numbers; null when they can. Blanks lie along the board:
 * their length along its length. However they are laid, each covers a point of the lattice whose steps are the smallest
 * length, width and thickness among them, so there are never more of them than points: floor(L/l) · floor(W/w) ·
 * floor(T/t). Saw cuts are not counted: this refuses what cannot be, and plans nothing.
 */
export function cannotBeCut(lot: LotState, board: Board, blanks: readonly Sized[]): Refusal | null {
  const from = `board ${boardTag(lot.code, board.number)}`;
  const boardSize = [board.lengthMm, board.widthMm, lot.thicknessMm] as const;
  const sizes = blanks.map(({ lengthMm, widthMm, thicknessMm }) => [lengthMm, widthMm, thicknessMm] as const);
  const tooBig = sizes.find((size) => size.some((mm, i) => mm > (boardSize[i] ?? 0)));
  if (tooBig)
    return refuse('bad-value', `a blank of ${mm(tooBig)} is not in ${from}, which is ${mm(boardSize)}`);
  const fits = boardSize.reduce(
    (most, whole, i) => most * Math.floor(whole / Math.min(...sizes.map((size) => size[i] ?? whole))),
    1,
  );
  if (blanks.length > fits)
    return refuse(
      'bad-value',
      `${from} is ${mm(boardSize)}: it gives ${count(fits, 'blank')} of that size at most, not ${blanks.length}`,
    );
  const wood = boardSize[0] * boardSize[1] * boardSize[2];
  const volumes = sizes.map(([length, width, thickness]) => length * width * thickness);
  if (sum(volumes) > wood)
    return refuse('bad-value', `the blanks are ${litres(sum(volumes))} of wood, ${from} is ${litres(wood)}`);
  const tooHeavy = blanks.findIndex(
    ({ weightKg }, i) => weightKg > ((volumes[i] ?? 0) / 1e9) * HEAVIEST_WOOD_KG_M3,
  );
  const heavy = blanks[tooHeavy];
  if (heavy)
    return refuse(
      'bad-value',
      `${kg(heavy.weightKg)} kg for a blank of ${mm(sizes[tooHeavy] ?? [])} is heavier than any wood (${kg(((volumes[tooHeavy] ?? 0) / 1e9) * HEAVIEST_WOOD_KG_M3)} kg at most): weigh it again`,
    );
  const weight = sum(blanks.map(({ weightKg }) => weightKg));
  if (board.weightKg !== null && weight > board.weightKg * WEIGHT_SLACK)
    return refuse(
      'bad-value',
      `the blanks weigh ${kg(weight)} kg together, ${from} weighed ${kg(board.weightKg)} kg: weigh them again`,
    );
  return null;
}

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);
const mm = (size: readonly number[]): string => `${size.join(' × ')} mm`;
const kg = (value: number): string => String(Number(value.toFixed(2)));
const litres = (mm3: number): string => `${(mm3 / 1e6).toFixed(1)} l`;
