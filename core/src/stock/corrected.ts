import { correctMeterReadingPct, METER_TEMPERATURE_C, type MeterLine } from '../wood/meter.ts';
import type { LotReadings, LotState } from './lot.ts';

/** A reading with what it means: raw and corrected stand side by side. */
export interface CorrectedReading {
  atMs: number;
  board: number | null;
  depth: 'shell' | 'core';
  meter: string | null;
  readingPct: number;
  correctedPct: number;
}

/** Readings within this time of the last are one look at the stack. */
const ONE_LOOK_MS = 12 * 60 * 60 * 1000;

/** All readings of a lot by the meters' lines of today, oldest first: a new line corrects old readings too. */
export function correctedReadings(
  looks: readonly LotReadings[],
  lineOf: (meter: string | null) => MeterLine,
): CorrectedReading[] {
  return looks
    .toSorted((a, b) => a.atMs - b.atMs)
    .flatMap(({ atMs, meter, depth, woodTemperatureC, readings }) =>
      readings.map(({ board, readingPct }) => ({
        ...{ atMs, board, depth, meter, readingPct },
        correctedPct: correctMeterReadingPct({
          readingPct,
          woodTemperatureC: woodTemperatureC ?? METER_TEMPERATURE_C,
          line: lineOf(meter),
        }),
      })),
    );
}

/** The last look at a lot. */
export interface LastLook {
  /** One value for each board read apart (its core, where that was read) and one for each reading not told apart. */
  values: { board: number | null; correctedPct: number }[];
  coreMinusShellPct: number | null;
  /** Null: never read. */
  atMs: number | null;
}

/** The readings that count now: those of the last look, the latest of each board, of boards that are still there. */
export function lastLook(readings: readonly CorrectedReading[], boards: readonly number[]): LastLook {
  const here = readings.filter(({ board }) => board === null || boards.includes(board));
  const atMs = here.at(-1)?.atMs ?? null;
  const look = here.filter((reading) => atMs !== null && atMs - reading.atMs <= ONE_LOOK_MS);
  const at = (depth: 'shell' | 'core'): CorrectedReading[] => [
    ...new Map(
      look.flatMap((r) => (r.depth === depth && r.board !== null ? [[r.board, r] as const] : [])),
    ).values(),
    ...look.filter((reading) => reading.depth === depth && reading.board === null),
  ];
  const [core, shell] = [at('core'), at('shell')];
  const cored = new Set(core.map((reading) => reading.board));
  const mean = (list: CorrectedReading[]): number =>
    list.reduce((sum, r) => sum + r.correctedPct, 0) / list.length;
  return {
    values: [...core, ...shell.filter(({ board }) => board === null || !cored.has(board))].map(
      ({ board, correctedPct }) => ({ board, correctedPct }),
    ),
    coreMinusShellPct: core.length > 0 && shell.length > 0 ? mean(core) - mean(shell) : null,
    atMs,
  };
}

/** Each board's latest corrected reading, whenever it was, with when. */
export function latestByBoard(readings: readonly CorrectedReading[]): Map<number, CorrectedReading> {
  return new Map(
    readings.flatMap((reading) => (reading.board === null ? [] : [[reading.board, reading] as const])),
  );
}

/** Which boards to read next: those never read first, then those read longest ago; ties by number. */
export function boardsToRead(
  state: LotState,
  readings: readonly CorrectedReading[],
  howMany: number,
): number[] {
  const latest = latestByBoard(readings);
  return state.boards
    .filter((board) => board.standing === 'stacked')
    .map((board) => ({ board: board.number, atMs: latest.get(board.number)?.atMs ?? -Infinity }))
    .toSorted((a, b) => (a.atMs === b.atMs ? a.board - b.board : a.atMs - b.atMs))
    .slice(0, howMany)
    .map(({ board }) => board)
    .toSorted((a, b) => a - b);
}
