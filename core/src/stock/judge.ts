import { count } from '../ledger/index.ts';
import { gateSentence, type MoistureJudgement, type MoistureWindow } from '../wood/gate.ts';
import type { MeterLine } from '../wood/meter.ts';
import { judgeSample, ONE_LOOK_MS } from '../wood/sample.ts';
import {
  asTaken,
  believedOf,
  boardsToRead,
  correctedReadings,
  latestByBoard,
  type CorrectedReading,
} from './corrected.ts';
import type { LotState } from './lot.ts';

/** The line of a meter for this lot's species, as it stands today. */
export type LineOf = (meter: string | null) => MeterLine;

export interface LotJudgement {
  judgement: MoistureJudgement;
  /** Stacked boards that may be sent to cut now. */
  passing: number[];
  /** Stacked boards that were read at the last look and do not pass. */
  failing: number[];
  /** Which boards to read next. */
  readNext: number[];
  readings: CorrectedReading[];
  /** When the last look was; null: never. */
  readMs: number | null;
  /** How far the wettest of twenty boards lies above the mean, % moisture: the forecast waits for it. */
  marginPct: number;
}

/** One-sided 95 % of a normal spread. */
const NINETEEN_IN_TWENTY = 1.645;
/** Offered to read next when the sample is done: one board in eight, at least a handful. */
const NEXT_LOOK_SHARE = 1 / 8;
const HANDFUL = 5;

/** A lot against the gate, by its last look and the meters' lines of today. */
export function judgeLot(state: LotState, options: { window: MoistureWindow; lineOf: LineOf }): LotJudgement {
  const { window, lineOf } = options;
  const readings = correctedReadings(state.looks, lineOf);
  const stacked = state.boards.flatMap((board) => (board.status === 'stacked' ? [board.number] : []));
  const { judgement, sample, passing: single } = judgeSample(asTaken(readings), stacked, window);
  const read = new Set(sample.readings.map(({ piece }) => piece));
  const passing = judgement.verdict === 'pass' ? stacked : judgement.verdict === 'wait' ? [] : single;
  const more = judgement.readNext ?? stacked.length;
  const nextLook = Math.max(HANDFUL, Math.ceil(stacked.length * NEXT_LOOK_SHARE));
  return {
    judgement,
    passing,
    failing: stacked.filter((board) => read.has(board) && !passing.includes(board)),
    readNext: boardsToRead(state, believedOf(readings), more > 0 ? more : nextLook),
    readings,
    readMs: sample.lastMs,
    marginPct: NINETEEN_IN_TWENTY * judgement.sdPct,
  };
}

/** A lot in one sentence: its verdict while boards are drying, what is left of it after. */
export function lotSentence(state: LotState, judged: LotJudgement, window: MoistureWindow): string {
  const boardsWith = (which: string): number => state.boards.filter((board) => board.status === which).length;
  if (boardsWith('stacked') > 0) return gateSentence(judged.judgement, window);
  const blanks = state.blanks.filter((blank) => blank.status === 'stock').length;
  if (boardsWith('to-cut') > 0)
    return `Cut it: ${count(boardsWith('to-cut'), 'board')} to cut, ${count(blanks, 'blank')} in stock.`;
  return blanks > 0 ? `Cut up: ${count(blanks, 'blank')} in stock.` : 'Used up.';
}

/** The latest believed moisture of a blank: its board's, or else the mean of its lot's boards as last read; null: never read. */
export function blankMoisturePct(readings: readonly CorrectedReading[], board: number): number | null {
  const believed = believedOf(readings);
  const own = latestByBoard(believed).get(board);
  if (own) return own.correctedPct;
  const lastMs = believed.at(-1)?.atMs ?? 0;
  const look = believed.filter(({ atMs }) => lastMs - atMs <= ONE_LOOK_MS);
  return look.length > 0 ? look.reduce((sum, { correctedPct }) => sum + correctedPct, 0) / look.length : null;
}
