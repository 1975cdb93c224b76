import {
  METRIC,
  planBlanks,
  typedIn,
  type BlankSize,
  type BlanksPlan,
  type BoardSize,
  type ChosenUnits,
  type FirstCut,
} from '@ample-crane/core';
import { shownIn } from '../fields/shown-in.ts';

/** A size of blank that is wanted; a number that is not typed yet is null. */
export interface Wanted {
  name: string;
  /** Kind letter of what it is to become. */
  kind: string;
  lengthMm: number | null;
  widthMm: number | null;
  thicknessMm: number | null;
}

/** What is lost on the way. */
export interface Allowances {
  kerfMm: number | null;
  planeMm: number | null;
  /** At each end. */
  trimMm: number | null;
  defectPct: number | null;
}

/** What somebody wants cut, as it stands on the page. */
export interface CuttingDraft {
  boards: BoardSize[];
  wanted: Wanted[];
  allow: Allowances;
}

export const USUAL_DRAFT: CuttingDraft = {
  boards: [265, 260, 270].map((widthMm, i) => ({
    lengthMm: [2400, 2400, 2300][i] ?? 0,
    widthMm,
    thicknessMm: 50,
  })),
  wanted: [
    { name: 'body half', kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45 },
    { name: 'neck', kind: 'N', lengthMm: 700, widthMm: 75, thicknessMm: 24 },
  ],
  allow: { kerfMm: 3, planeMm: 3, trimMm: 40, defectPct: 15 },
};

/** Whether what a browser kept is a draft of a cutting plan. */
export function isCuttingDraft(kept: unknown): kept is CuttingDraft {
  const { boards, wanted, allow } = (kept ?? {}) as Partial<CuttingDraft>;
  const number = (value: unknown): boolean => value === null || typeof value === 'number';
  const numbers = (one: unknown, names: readonly string[]): boolean =>
    typeof one === 'object' &&
    one !== null &&
    names.every((name) => number((one as Record<string, unknown>)[name]));
  const sides = ['lengthMm', 'widthMm', 'thicknessMm'];
  return (
    Array.isArray(boards) &&
    boards.every((board) => numbers(board, sides)) &&
    Array.isArray(wanted) &&
    wanted.length > 0 &&
    wanted.every(
      (one: Wanted) => numbers(one, sides) && typeof one.name === 'string' && typeof one.kind === 'string',
    ) &&
    numbers(allow, ['kerfMm', 'planeMm', 'trimMm', 'defectPct'])
  );
}

export type BoardLines = { boards: BoardSize[]; wrong: number[] };

/**
 * Boards as they are typed, one a line: length, width, thickness, with spaces between them, or × or ; where an inch has its fraction
 * ('94 1/2 x 10 1/4 x 2').
 * @returns the boards in mm, and the numbers of the lines, from 1, that are none
 */
export function typedBoards(text: string, units: ChosenUnits = METRIC): BoardLines {
  const boards: BoardSize[] = [];
  const wrong: number[] = [];
  for (const [i, line] of text.split(/\r?\n/).entries()) {
    if (line.trim() === '') continue;
    const parts = line.trim().split(/[;×x*]/.test(line) ? /\s*[;×x*]\s*/ : /\s+/);
    const [lengthMm, widthMm, thicknessMm, ...more] = parts.map((part) => typedIn(part, 'mm', units));
    if (more.length === 0 && lengthMm && widthMm && thicknessMm)
      boards.push({ lengthMm, widthMm, thicknessMm });
    else wrong.push(i + 1);
  }
  return { boards, wrong };
}

/** Boards as they are typed by whoever chose these units. */
export const boardsText = (boards: readonly BoardSize[], units: ChosenUnits): string =>
  boards
    .map(({ lengthMm, widthMm, thicknessMm }) =>
      [lengthMm, widthMm, thicknessMm].map((side) => shownIn(String(side), 'mm', units)).join(' x '),
    )
    .join('\n');

/** The sizes all of whose numbers are there. */
export const blanksOf = (wanted: readonly Wanted[]): (BlankSize & { kind: string })[] =>
  wanted.flatMap(({ name, kind, lengthMm, widthMm, thicknessMm }) =>
    lengthMm === null || widthMm === null || thicknessMm === null
      ? []
      : [{ name, kind, lengthMm, widthMm, thicknessMm }],
  );

/** What is lost on the way, as it is asked and told. */
export const LOSSES: readonly { name: keyof Allowances; label: string; unit: string }[] = [
  { name: 'kerfMm', label: 'Saw cut', unit: 'mm' },
  { name: 'planeMm', label: 'Planing', unit: 'mm' },
  { name: 'trimMm', label: 'Each end', unit: 'mm' },
  { name: 'defectPct', label: 'Defects', unit: '%' },
];

export type Planned = BlanksPlan | { problem: string };

/** What boards give by one way of cutting, or why that cannot be said. */
export function planned(
  boards: readonly BoardSize[],
  blanks: readonly BlankSize[],
  allow: Allowances,
  firstCut: FirstCut,
): Planned {
  const { kerfMm, planeMm, trimMm, defectPct } = allow;
  if (kerfMm === null || planeMm === null || trimMm === null || defectPct === null)
    return { problem: 'say what is lost on the way' };
  try {
    return planBlanks({
      boards: [...boards],
      blanks: [...blanks],
      firstCut,
      kerfMm,
      planeMm,
      trimMm,
      defectPct,
    });
  } catch (problem) {
    if (!(problem instanceof RangeError)) throw problem;
    const words = problem.message.replace('planBlanks: ', '');
    return {
      problem: words.replace(/^\w+/, (name) => LOSSES.find((loss) => loss.name === name)?.label ?? name),
    };
  }
}

/** The way that leaves less wood over. */
export function bestOf(plans: readonly Planned[]): number {
  const left = plans.map((result) => ('problem' in result ? Infinity : result.leftoverBoardFeet));
  return left[0] === left[1] ? -1 : left.indexOf(Math.min(...left));
}
