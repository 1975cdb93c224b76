import type { SerialRange } from '@ample-crane/core';

export const rangeWords = ({ from, to }: SerialRange): string => `${from} ${to}`;

/** Two serials a line, the first and the last of a range; what is none is told, and left out. */
export function rangesOf(text: string): { ranges: SerialRange[]; problem: string | null } {
  const ranges: SerialRange[] = [];
  let problem: string | null = null;
  for (const [i, line] of text.split('\n').entries()) {
    const words = line
      .trim()
      .split(/[\s,;]+/)
      .filter(Boolean);
    if (words.length === 0) continue;
    const [from = '', to = from] = words.map((word) => word.toUpperCase());
    if (words.length > 2) problem ??= `line ${i + 1}: two serials, the first and the last`;
    else if (from.length !== to.length || from > to)
      problem ??= `line ${i + 1}: both are as long as each other, the first before the last`;
    else ranges.push({ from, to });
  }
  return { ranges, problem };
}
