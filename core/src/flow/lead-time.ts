import { countUpTo } from '../stats/grouped.ts';
import { quantile } from '../stats/descriptive.ts';
import type { Stage } from '../route/index.ts';
import { DAY_MS, MINUTE_MS } from '../units/quantities.ts';
import type { Leg, StayOnWay } from './day-moves.ts';

/**
 * Where time goes: waiting for a place (`queue`) or a person's or machine's work on it (`touch`), both in hours that are worked; resting
 * by a rule (`hold`); waiting for what it is joined with (`partner`); done over again (`sendBack`); nights and closed days in which it
 * would have waited or been worked on (`closed`).
 */
export const LEAD_PARTS = ['queue', 'touch', 'hold', 'partner', 'sendBack', 'closed'] as const;
export type LeadPart = (typeof LEAD_PARTS)[number];
export type LeadParts = Record<LeadPart, number>;

/** What each part is called, wherever it is told. */
export const LEAD_PART_WORDS: Record<LeadPart, string> = {
  queue: 'waiting for a place',
  touch: 'worked on',
  hold: 'resting by a rule',
  partner: 'waiting for its partner',
  sendBack: 'done over again',
  closed: 'nights and closed days',
};

/** One stretch of a piece's way, with how much of it went where, ms. */
export interface LeadStay {
  batch: string | null;
  operation: string;
  stage: Stage | null;
  fromMs: number;
  toMs: number;
  parts: LeadParts;
}

/** The lead time of one piece, taken apart. */
export interface LeadTimeSplit {
  fromMs: number;
  toMs: number;
  /** They add up to the lead time. */
  parts: LeadParts;
  stays: LeadStay[];
}

/** Nothing of each: what others are added to. */
export const noLeadParts = (): LeadParts => ({
  queue: 0,
  touch: 0,
  hold: 0,
  partner: 0,
  sendBack: 0,
  closed: 0,
});

/** Adds what is in one to another. */
export function addLeadParts(sum: LeadParts, more: Readonly<LeadParts>): void {
  for (const part of LEAD_PARTS) sum[part] += more[part];
}

/**
 * Takes the lead time of a piece apart, by its stays from the first to the last: every millisecond once. What it was sent back for is
 * a send-back until it stands again where that was found, whatever it did meanwhile.
 * @param options.legs its way as for `dayMoves`: its parts' routes before its own.
 * @param options.stageOf stage of an operation's usual station; null: nobody knows.
 * @param options.between minutes worked between two moments.
 * @returns null for a piece that was nowhere yet.
 */
export function leadTimeSplit(options: {
  legs: readonly Leg[];
  stageOf: (station: string) => Stage | null;
  between: (fromMs: number, toMs: number) => number;
}): LeadTimeSplit | null {
  const { legs, stageOf, between } = options;
  const stays: LeadStay[] = [];
  for (const { batch, route, stays: own } of legs) {
    const operationAt = new Map(
      route.operations.map((operation, index) => [operation.key, { operation, index }]),
    );
    /** Index of the operation it must come to again; −1: it was not sent back. */
    let foundAt = -1;
    for (const stay of own) {
      const { operation, index = Infinity } = operationAt.get(stay.operation) ?? {};
      if (index >= foundAt) foundAt = -1;
      stays.push({
        ...{ batch, operation: stay.operation, fromMs: stay.fromMs, toMs: stay.toMs },
        stage: operation?.stations[0] === undefined ? null : stageOf(operation.stations[0]),
        parts: partsOf(stay, { isDetour: foundAt >= 0, isJoin: operation?.mode === 'join', between }),
      });
      if (stay.ended === 'sent back') foundAt = Math.max(foundAt, index);
    }
  }
  const [first] = stays;
  const last = stays.at(-1);
  if (!first || !last) return null;
  const parts = noLeadParts();
  for (const stay of stays) addLeadParts(parts, stay.parts);
  return { fromMs: first.fromMs, toMs: last.toMs, parts, stays };
}

function partsOf(
  { status, fromMs, toMs }: StayOnWay,
  how: { isDetour: boolean; isJoin: boolean; between: (fromMs: number, toMs: number) => number },
): LeadParts {
  const parts = noLeadParts();
  if (how.isDetour) return { ...parts, sendBack: toMs - fromMs };
  if (status === 'onHold') return { ...parts, hold: toMs - fromMs };
  const workedMs = how.between(fromMs, toMs) * MINUTE_MS;
  const part = status === 'inHand' ? 'touch' : how.isJoin ? 'partner' : 'queue';
  return { ...parts, [part]: workedMs, closed: toMs - fromMs - workedMs };
}

/** How long things took, days. */
export interface CycleTimes {
  count: number;
  medianDays: number;
  p85Days: number;
  p95Days: number;
}

/** Median, 85th and 95th percentile of some spans by the wall clock; null where there is none. */
export function cycleTimes(spans: readonly { fromMs: number; toMs: number }[]): CycleTimes | null {
  if (spans.length === 0) return null;
  const days = spans.map(({ fromMs, toMs }) => (toMs - fromMs) / DAY_MS);
  const at = (p: number): number => quantile(days, p);
  return { count: days.length, medianDays: at(0.5), p85Days: at(0.85), p95Days: at(0.95) };
}

/** How what left stood to the day it was due. */
export interface Lateness {
  /** How many left by then, of how many. */
  inTime: number;
  count: number;
  /** Days after it was due, before it negative: the middle one, and what 85 of a hundred do not exceed. */
  medianDays: number;
  p85Days: number;
}

/** How some that left stood to when they were due; null where there is none. */
export function lateness(some: readonly { leftMs: number; dueMs: number }[]): Lateness | null {
  if (some.length === 0) return null;
  const days = some.map(({ leftMs, dueMs }) => (leftMs - dueMs) / DAY_MS);
  return {
    ...{ inTime: days.filter((late) => late <= 0).length, count: days.length },
    ...{ medianDays: quantile(days, 0.5), p85Days: quantile(days, 0.85) },
  };
}

/** What of a steady flow does not fit together when they differ by more: entries are missing. */
export const LITTLE_LIMIT = 0.15;

export interface LittleCheck {
  /** Pieces there on average, counted. */
  wip: number;
  /** Pieces there should be by what left and how long it had been there: throughput × cycle time. */
  expected: number;
  /** (expected − wip) / wip; null: nothing was there. */
  mismatch: number | null;
  fits: boolean;
}

/**
 * Little's law (J. D. C. Little, "A proof for the queuing formula L = λW", Operations Research 9, 1961) held against the log: in a steady
 * window as many are there as come in a day, times the days each stays.
 * @param options.wip pieces counted at moments spread over the window
 * @param options.throughputADay pieces that left a day @param options.cycleDays mean days they had been there, both by the same clock
 */
export function littlesLawCheck(options: {
  wip: readonly number[];
  throughputADay: number;
  cycleDays: number;
}): LittleCheck {
  const { wip: counts, throughputADay, cycleDays } = options;
  const wip = counts.length === 0 ? 0 : counts.reduce((sum, one) => sum + one, 0) / counts.length;
  const expected = throughputADay * cycleDays;
  const mismatch = wip > 0 ? (expected - wip) / wip : null;
  return {
    wip,
    expected,
    mismatch,
    fits: mismatch === null ? expected === 0 : Math.abs(mismatch) <= LITTLE_LIMIT,
  };
}

/** At a moment, how many had come to each stage or were past it, in the order of the stages. */
export interface FlowPoint {
  atMs: number;
  reached: number[];
}

/**
 * Cumulative flow: at each moment how many pieces had reached each stage. No line ever crosses the one before it, since whatever
 * reached a stage has reached all before it.
 * @param pieces for each piece when it first stood at each stage or a later one, ms, in the order of the stages; Infinity: never yet
 * @throws RangeError for a piece that reached a stage before the one in front of it
 */
export function cumulativeFlow(
  pieces: readonly (readonly number[])[],
  momentsMs: readonly number[],
): FlowPoint[] {
  const stages = Math.max(0, ...pieces.map(({ length }) => length));
  const columns = Array.from({ length: stages }, (_, stage) =>
    Float64Array.from(pieces, (piece) => piece[stage] ?? Infinity).sort(),
  );
  for (const piece of pieces)
    for (const [stage, atMs] of piece.entries())
      if (stage > 0 && atMs < (piece[stage - 1] ?? -Infinity))
        throw new RangeError(`cumulativeFlow: stage ${stage} was reached before the one in front of it`);
  return momentsMs.map((atMs) => ({ atMs, reached: columns.map((column) => countUpTo(column, atMs)) }));
}

/** Pieces that left on each of some days. */
export function throughput(
  leftOn: readonly string[],
  days: readonly string[],
): { days: { day: string; pieces: number }[]; aDay: number } {
  const counts = new Map(days.map((day) => [day, 0]));
  for (const day of leftOn) {
    const there = counts.get(day);
    if (there !== undefined) counts.set(day, there + 1);
  }
  const all = [...counts].map(([day, pieces]) => ({ day, pieces }));
  const sum = all.reduce((total, { pieces }) => total + pieces, 0);
  return { days: all, aDay: days.length === 0 ? 0 : sum / days.length };
}
