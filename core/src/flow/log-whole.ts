import { groupedBy } from '../stats/grouped.ts';
import { STAGES, workMinutes, type Stage } from '../route/index.ts';
import { DAY_MS } from '../units/quantities.ts';
import { littlesLawCheck, type LittleCheck } from './lead-time.ts';
import type { LoggedStay } from './log-resources.ts';

/** A stay with the places of the pieces that were in it. */
export interface PlacedStay extends LoggedStay {
  /** 1-based places on the rack. */
  positions: readonly number[];
  /** Why they were sent back or scrapped; left out or null: nobody said. */
  reason?: string | null;
}

/** An operation at which something is not as it should be, and how often. */
export interface OddAt {
  station: string;
  operation: string;
  operationName: string;
  count: number;
  /** Of how many. */
  of: number;
  /** Racks it was so with, newest first, at most ten. */
  batches: string[];
}

/** A rack that nobody has done anything with. */
export interface Forgotten {
  batch: string;
  operation: string;
  operationName: string;
  status: 'waiting' | 'inHand';
  pieces: number;
  /** Working days. */
  days: number;
}

export interface LogWhole {
  little: (LittleCheck & { stage: Stage; throughputADay: number; cycleDays: number })[];
  /** Work that was through without ever having been in hand. */
  missingStarts: OddAt[];
  /** Work that took less than a twentieth of what the route reckons. */
  tooFast: OddAt[];
  forgotten: Forgotten[];
}

/** Faster than this share of the route's time nobody works: start and end were filed together afterwards. */
export const TOO_FAST = 0.05;
/** Nothing done for more working days: forgotten, or moved without being logged. */
export const FORGOTTEN_DAYS = 8;
const MOST_NAMED = 10;
/** Shares of what was counted below this are slips, not a habit; fewer than so many say nothing. */
const WORTH_TELLING = 0.1;
const LEAST_COUNTED = 3;

/**
 * Whether the log can be believed: Little's law stage by stage, operations whose starts are missing or filed together with their ends,
 * racks that have not moved.
 * @param options.stays everything that ended after `sinceMs`, and what goes on
 * @param options.fromMs window for what is counted; `sinceMs` lies so far before it that most came in between
 * @param options.momentsMs moments spread over the window at which pieces are counted
 * @param options.between minutes worked between two moments
 */
export function logWhole(options: {
  stays: readonly PlacedStay[];
  stageOf: (station: string) => Stage | null;
  fromMs: number;
  toMs: number;
  momentsMs: readonly number[];
  between: (fromMs: number, toMs: number) => number;
  shiftHours: number;
}): LogWhole {
  const { stays, stageOf, fromMs, toMs, momentsMs, between, shiftHours } = options;
  const ofStage = groupedBy(stays, usualStages(stageOf));
  const inWindow = stays.filter((stay) => stay.ended !== null && stay.toMs >= fromMs && stay.toMs <= toMs);
  const moments = momentsMs.toSorted((a, b) => a - b);
  return {
    little: STAGES.map((stage) => {
      const own = ofStage.get(stage) ?? [];
      const times = stageTimes(own).filter((time) => time.toMs >= fromMs && time.toMs <= toMs);
      const days = (toMs - fromMs) / DAY_MS;
      const throughputADay = days > 0 ? times.length / days : 0;
      const cycleDays =
        times.length > 0
          ? times.reduce((sum, time) => sum + (time.toMs - time.fromMs), 0) / times.length / DAY_MS
          : 0;
      const wip = piecesAt(own, moments);
      return { stage, throughputADay, cycleDays, ...littlesLawCheck({ wip, throughputADay, cycleDays }) };
    }),
    missingStarts: odd(inWindow, {
      counts: ({ status, ended }) => ended === 'passed' && status !== 'onHold',
      isOdd: ({ status }) => status === 'waiting',
    }),
    tooFast: odd(inWindow, {
      counts: ({ status, ended }) => ended === 'passed' && status === 'inHand',
      isOdd: ({ operation, pieces, span }) =>
        between(span[0], span[1]) < TOO_FAST * workMinutes(operation, pieces),
    }),
    forgotten: stays.flatMap((stay): Forgotten[] => {
      const { status, ended, batch, operation, pieces } = stay;
      if (ended !== null || status === 'onHold' || shiftHours <= 0) return [];
      const days = between(stay.fromMs, toMs) / 60 / shiftHours;
      const known = stay.route.operations.find(({ key }) => key === operation);
      if (days <= FORGOTTEN_DAYS || !known) return [];
      return [{ batch, operation, operationName: known.name, status, pieces, days }];
    }),
  };
}

/** Pieces there at each of some moments, which rise: each stay from the first moment in it to the last, so that a long log is read once. */
function piecesAt(stays: readonly PlacedStay[], momentsMs: readonly number[]): number[] {
  const change = Array.from({ length: momentsMs.length + 1 }, () => 0);
  for (const { fromMs, toMs, ended, pieces } of stays) {
    const first = firstFrom(momentsMs, fromMs);
    const behind = ended === null ? momentsMs.length : firstFrom(momentsMs, toMs);
    if (behind <= first) continue;
    change[first] = (change[first] ?? 0) + pieces;
    change[behind] = (change[behind] ?? 0) - pieces;
  }
  let there = 0;
  return momentsMs.map((_, i) => (there += change[i] ?? 0));
}

/** Place of the first of some rising moments that is not before another. */
function firstFrom(momentsMs: readonly number[], ms: number): number {
  let [low, high] = [0, momentsMs.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((momentsMs[middle] ?? Infinity) < ms) low = middle + 1;
    else high = middle;
  }
  return low;
}

type Operation = LoggedStay['route']['operations'][number];

/** Operations at which more than a few of what counts there are odd; most of them first. */
function odd(
  stays: readonly PlacedStay[],
  rules: {
    counts: (stay: PlacedStay) => boolean;
    isOdd: (one: { status: string; operation: Operation; pieces: number; span: [number, number] }) => boolean;
  },
): OddAt[] {
  const found = new Map<string, OddAt>();
  for (const stay of stays) {
    const operation = stay.route.operations.find(({ key }) => key === stay.operation);
    const [station] = operation?.stations ?? [];
    // Only what is started is in hand at all: gates, joins and shipments need no start.
    if (!operation || station === undefined || !['attended', 'load'].includes(operation.mode)) continue;
    if (!rules.counts(stay)) continue;
    const key = `${station}|${operation.key}`;
    const told: Omit<OddAt, 'of'> = {
      ...{ station, operation: operation.key, operationName: operation.name, count: 0, batches: [] },
    };
    const at = found.get(key) ?? { ...told, of: 0 };
    found.set(key, at);
    at.of += 1;
    const span: [number, number] = [stay.fromMs, stay.toMs];
    if (!rules.isOdd({ status: stay.status, operation, pieces: stay.pieces, span })) continue;
    at.count += 1;
    if (!at.batches.includes(stay.batch)) at.batches.unshift(stay.batch);
  }
  return [...found.values()]
    .filter(({ count, of }) => count >= LEAST_COUNTED && count / of >= WORTH_TELLING)
    .map((one) => ({ ...one, batches: one.batches.slice(0, MOST_NAMED) }))
    .toSorted((a, b) => b.count - a.count);
}

/** The stage in which each stay was, by the usual station of its operation; each route is looked through once. */
function usualStages(stageOf: (station: string) => Stage | null): (stay: LoggedStay) => Stage | null {
  const known = new Map<LoggedStay['route'], Map<string, Stage | null>>();
  return ({ route, operation }) => {
    let stages = known.get(route);
    if (!stages) {
      stages = new Map(
        route.operations.map(({ key, stations: [usual] }) => [
          key,
          usual === undefined ? null : stageOf(usual),
        ]),
      );
      known.set(route, stages);
    }
    return stages.get(operation) ?? null;
  };
}

/** When pieces that have left a stage had come to it, and when they left: those that are there still are left out. */
function stageTimes(own: readonly PlacedStay[]): { fromMs: number; toMs: number }[] {
  const times: { fromMs: number; toMs: number; isThere: boolean }[] = [];
  for (const stays of groupedBy(own, ({ batch }) => batch).values()) {
    const of = new Map<number, (typeof times)[number]>();
    for (const { positions, fromMs, toMs, ended } of stays)
      for (const position of positions) {
        const known = of.get(position);
        const isThere = ended === null;
        if (!known) of.set(position, { fromMs, toMs, isThere });
        else {
          known.fromMs = Math.min(known.fromMs, fromMs);
          known.toMs = Math.max(known.toMs, toMs);
          known.isThere ||= isThere;
        }
      }
    times.push(...of.values());
  }
  return times.filter(({ isThere }) => !isThere);
}

/** Somebody who files most of what they do at one time of day. */
export interface FilingHabit {
  person: string;
  /** Beginning of the quarter of an hour, 'HH:mm'. */
  at: string;
  count: number;
  of: number;
}

/** More than this share of what somebody files, all in one quarter of an hour of the day, is written up afterwards. */
const HABIT_SHARE = 0.5;
const LEAST_FILED = 20;

/** Who files most at one time of day: moments are the day's end then, not the work's. @param counts filings by person and quarter of an hour */
export function filingHabits(
  counts: readonly { person: string; at: string; count: number }[],
): FilingHabit[] {
  const all = new Map<string, number>();
  for (const { person, count } of counts) all.set(person, (all.get(person) ?? 0) + count);
  return counts
    .flatMap(({ person, at, count }) => {
      const of = all.get(person) ?? 0;
      return of >= LEAST_FILED && count > HABIT_SHARE * of ? [{ person, at, count, of }] : [];
    })
    .toSorted((a, b) => b.count - a.count);
}
