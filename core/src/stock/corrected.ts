import { correctMeterReadingPct, METER_TEMPERATURE_C, type MeterLine } from '../wood/meter.ts';
import type { TakenReading } from '../wood/reading.ts';
import { believedReadings } from '../wood/sample.ts';
import type { LotReadings, LotState } from './lot.ts';

/** A reading with what it means: raw and corrected stand side by side. */
export interface CorrectedReading {
  atMs: number;
  board: number | null;
  depth: 'shell' | 'core';
  meter: string | null;
  readingPct: number;
  correctedPct: number;
  /** Below this its room could not have brought it since the look before; null: nobody knew. */
  floorPct: number | null;
  explained: boolean;
}

/** All readings of a lot by the meters' lines of today, oldest first: a new line corrects old readings too. */
export function correctedReadings(
  looks: readonly LotReadings[],
  lineOf: (meter: string | null) => MeterLine,
): CorrectedReading[] {
  return looks
    .toSorted((a, b) => a.atMs - b.atMs)
    .flatMap(({ atMs, meter, depth, woodTemperatureC, readings, floorsPct, because }) =>
      readings.map(({ board, readingPct }, i) => ({
        ...{ atMs, board, depth, meter, readingPct },
        floorPct: floorsPct?.[i] ?? null,
        explained: because !== undefined,
        correctedPct: correctMeterReadingPct({
          readingPct,
          woodTemperatureC: woodTemperatureC ?? METER_TEMPERATURE_C,
          line: lineOf(meter),
        }),
      })),
    );
}

/** Readings of a lot as the gate takes them. */
export const asTaken = (readings: readonly CorrectedReading[]): TakenReading[] =>
  readings.map(({ atMs, board, depth, readingPct, correctedPct, floorPct, explained }) => ({
    ...{ atMs, piece: board, depth, shownPct: readingPct, pct: correctedPct, floorPct, explained },
  }));

/** What may be believed of them: the rest stays in the record and leaves mean and forecast. */
export function believedOf<R extends CorrectedReading>(readings: readonly R[]): R[] {
  const { believed } = believedReadings(asTaken(readings).map((taken, i) => ({ ...taken, i })));
  return believed.flatMap(({ i }) => readings[i] ?? []);
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
    .filter((board) => board.status === 'stacked')
    .map((board) => ({ board: board.number, atMs: latest.get(board.number)?.atMs ?? -Infinity }))
    .toSorted((a, b) => (a.atMs === b.atMs ? a.board - b.board : a.atMs - b.atMs))
    .slice(0, howMany)
    .map(({ board }) => board)
    .toSorted((a, b) => a - b);
}
