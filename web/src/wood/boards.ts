import {
  FIGURE_GRADES,
  METRIC,
  signIn,
  typedIn,
  WOOD_COLOURS,
  type ChosenUnits,
  type FigureGrade,
  type WoodColour,
} from '@ample-crane/core';
import type { Schemas } from '../api/client.ts';
import { typedNumber } from '../shared/typed.ts';

export type NewBoard = Schemas['NewBoardDto'];

/** A word or a number of a line; a fraction belongs to what stands before it. */
const CELL = /\d+\s+\d+\/\d+|[^\s;×x]+/g;

/**
 * One board a line: length, width and, where they are known, its weight in kg, figure and colour, as in `2400 200 9.6 some light`;
 * in inches a fraction belongs to the number before it, as in `94 1/2 7 1/4 9.6`.
 * What cannot be read is named by its line.
 */
export function boardsOf(
  lines: string,
  units: ChosenUnits = METRIC,
): { boards: NewBoard[]; problem: string | null } {
  const boards: NewBoard[] = [];
  for (const [i, line] of lines.split(/\r?\n/).entries()) {
    const cells = [...line.matchAll(CELL)].map(([cell]) => cell);
    if (cells.length === 0) continue;
    const [lengthMm, widthMm] = cells.slice(0, 2).map((cell) => typedIn(cell, 'mm', units));
    if (lengthMm == null || widthMm == null || lengthMm <= 0 || widthMm <= 0)
      return {
        boards,
        problem: `line ${i + 1}: '${line.trim()}' is no length and width, in ${signIn('mm', units)}`,
      };
    const weightKg = typedNumber(cells[2] ?? '');
    const looks = looksOf(cells.slice(2).filter((cell) => typedNumber(cell) === null));
    if (looks === null)
      return {
        boards,
        problem: `line ${i + 1}: '${line.trim()}' has a word that is neither a figure nor a colour`,
      };
    boards.push({ lengthMm, widthMm, ...(weightKg != null && weightKg > 0 ? { weightKg } : {}), ...looks });
  }
  return { boards, problem: null };
}

/** Figure and colour by their words, in any order; null: a word that is neither. */
function looksOf(words: readonly string[]): { grade?: FigureGrade; colour?: WoodColour } | null {
  const said = words.join(' ').toLowerCase();
  const colour = WOOD_COLOURS.find((one) => words.some((word) => word.toLowerCase() === one));
  const figure = (colour ? said.replace(colour, '') : said).replaceAll(/\s+/g, ' ').trim();
  const grade = FIGURE_GRADES.find((one) => one === figure);
  if (figure !== '' && !grade) return null;
  return { ...(grade ? { grade } : {}), ...(colour ? { colour } : {}) };
}
