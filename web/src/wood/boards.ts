import type { Schemas } from '../api/client.ts';
import { typedNumber } from '../app/typed.ts';

export type NewBoard = Schemas['NewBoardDto'];

/** One board a line: length, width and, if it was weighed, its weight. What cannot be read is named by its line. */
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
    boards.push({ lengthMm, widthMm, ...(weightKg != null && weightKg > 0 ? { weightKg } : {}) });
  }
  return { boards, problem: null };
}
