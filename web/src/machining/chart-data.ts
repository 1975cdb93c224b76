import { looksVerdict, readLooks, type LooksRead, type RunRule } from '@ample-crane/core';
import type { Chart } from './queries.ts';

export interface ChartRead extends LooksRead {
  looks: Chart['points'];
  sentence: string;
  tone: 'good' | 'bad' | 'hold';
}

/** A chart worked out from the looks at a dimension. */
export function readChart(data: Chart, rules: readonly RunRule[]): ChartRead {
  const { check, points: looks, baseline, piecesALook } = data;
  const read = readLooks({ check, rules, baseline, looks: looks.map(({ values }) => values) });
  return { ...read, looks, ...looksVerdict(check, read, looks.length, piecesALook) };
}
