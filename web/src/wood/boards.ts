import { FIGURE_GRADES, WOOD_COLOURS, type FigureGrade, type WoodColour } from '@ample-crane/core';
import type { Schemas } from '../api/client.ts';
import { typedNumber } from '../shared/typed.ts';

export type NewBoard = Schemas['NewBoardDto'];

/**
 * One board a line: length, width and, where they are known, its weight, figure and colour, as in `2400 200 9.6 some light`.
 * What cannot be read is named by its line.
 */
export function boardsOf(lines: string): { boards: NewBoard[]; problem: string | null } {
  const boards: NewBoard[] = [];
  for (const [i, line] of lines.split(/\r?\n/).entries()) {
    const cells = line
      .trim()
      .split(/[\s;×x]+/)
      .filter(Boolean);
    if (cells.length === 0) continue;
    const [lengthMm, widthMm, weightKg] = cells.map(typedNumber);
    if (lengthMm == null || widthMm == null || lengthMm <= 0 || widthMm <= 0)
      return { boards, problem: `line ${i + 1}: '${line.trim()}' is no length and width in mm` };
    const looks = looksOf(cells.filter((cell) => typedNumber(cell) === null));
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
