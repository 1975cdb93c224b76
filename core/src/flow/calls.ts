import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import { spanWords } from '../routing/holds/words.ts';
import type { Constraint, StationLoad } from './station-load.ts';
import type { Station } from '../routing/route.ts';

export type CallKind = 'hold-over' | 'gate-failed' | 'late' | 'dry-station' | 'constraint';

/** One or two things that can be done about a call: file a line, or go and look. */
export interface CallAction {
  label: string;
  /** A log line to file. */
  line?: string;
  /** A page to open. */
  href?: string;
}

/** A decision that wants the manager. Gone when its cause is gone, for it is computed anew each time. */
export interface Call {
  id: string;
  kind: CallKind;
  title: string;
  /** The numbers that make it true. */
  detail: string;
  /** Instrument-days lost for each day it is left: what calls are sorted by. */
  cost: number;
  actions: CallAction[];
  /** Where the numbers come from. */
  evidence: string;
}

/** A hold as the board shows it. */
export interface HoldSight {
  batch: string;
  operation: string;
  operationName: string;
  rule: 'elapsed' | 'moisture' | 'cure' | 'settle' | 'called';
  pieces: number;
  over: boolean;
  overSinceMs: number | null;
  sentence: string;
  /** For moisture: the gate has seen readings and they do not pass. */
  failed: boolean;
  /** Pieces that would pass now, by place. */
  passing: number[];
  endMs: number | null;
  next: string | null;
}

export interface DueSight {
  batch: string;
  dueMs: number;
  earliestMs: number;
  pieces: number;
  where: string;
}

/** Work in front of a station below which it will run dry. Default, hours of the station. */
export const DRY_HOURS = 3;
const DAY_HOURS = 24;

/** The first calls, most costly first; ties by id. `time` turns an instant into the factory's words. */
export function calls(options: {
  nowMs: number;
  holds: readonly HoldSight[];
  due: readonly DueSight[];
  loads: readonly StationLoad[];
  stations: readonly Station[];
  constraint: Constraint | null;
  /** When the next rack comes to each station out of a hold, if any does. */
  arrivals: ReadonlyMap<string, { batch: string; atMs: number }>;
  /** Stations that work in this shift. */
  open: boolean;
  time: (ms: number) => string;
}): Call[] {
  const found = [
    ...options.holds.filter((hold) => hold.over).map((hold) => holdOver(hold, options.nowMs)),
    ...options.holds.filter((hold) => hold.failed).map((hold) => gateFailed(hold, options.time)),
    ...options.due.filter((row) => row.earliestMs > row.dueMs).map((row) => late(row, options.time)),
    ...dryStations(options),
    ...(options.constraint ? [constraintCall(options.constraint, options.stations)] : []),
  ];
  return found.sort((a, b) => b.cost - a.cost || a.id.localeCompare(b.id));
}

function holdOver(hold: HoldSight, nowMs: number): Call {
  const restedMs = hold.overSinceMs === null ? 0 : nowMs - hold.overSinceMs;
  const idle = hold.overSinceMs === null ? '' : ` Ready for ${spanWords(restedMs / HOUR_MS)}.`;
  return {
    id: `hold-over:${hold.batch}:${hold.operation}`,
    kind: 'hold-over',
    title: `${hold.batch} may leave ${hold.operationName}`,
    detail: `${hold.pieces} pieces. ${hold.sentence}${idle}`,
    cost: hold.pieces * (0.5 + restedMs / DAY_MS),
    actions: [{ label: hold.next ? `Release to ${hold.next}` : 'Release', line: `${hold.batch} release` }],
    evidence: `/batch/${hold.batch}`,
  };
}

function gateFailed(hold: HoldSight, time: (ms: number) => string): Call {
  const date =
    hold.endMs === null ? 'Not in this room as its air is.' : `Forecast all inside by ${time(hold.endMs)}.`;
  const { passing } = hold;
  const sort: CallAction[] =
    passing.length > 0
      ? [
          {
            label: `Release the ${passing.length} that pass`,
            line: `${hold.batch}/${passing.join(',')} release`,
          },
        ]
      : [];
  return {
    id: `gate-failed:${hold.batch}:${hold.operation}`,
    kind: 'gate-failed',
    title: `${hold.batch} does not pass its moisture gate`,
    detail: `${hold.sentence} ${date}`,
    cost: hold.pieces * 0.8,
    actions: [...sort, { label: 'See readings', href: `/batch/${hold.batch}` }],
    evidence: `/batch/${hold.batch}`,
  };
}

function late(row: DueSight, time: (ms: number) => string): Call {
  const days = (row.earliestMs - row.dueMs) / DAY_MS;
  return {
    id: `late:${row.batch}`,
    kind: 'late',
    title: `${row.batch} will be ${spanWords(days * DAY_HOURS)} late`,
    detail: `Due ${time(row.dueMs)}; by its route alone it cannot be ready before ${time(row.earliestMs)}. ${row.pieces} pieces, now at ${row.where}.`,
    cost: row.pieces * Math.min(2, days),
    actions: [{ label: 'See its route', href: `/batch/${row.batch}` }],
    evidence: `/batch/${row.batch}`,
  };
}

function dryStations(options: Parameters<typeof calls>[0]): Call[] {
  if (!options.open) return [];
  return options.loads.flatMap((load) => {
    const station = options.stations.find((candidate) => candidate.code === load.station);
    if (!station || load.hoursADay === 0) return [];
    const hoursLeft = load.hoursWaiting / station.parallel;
    if (hoursLeft >= DRY_HOURS) return [];
    const next = options.arrivals.get(station.code);
    // A station nothing is coming to, and that has nothing, is not running dry: it is not in use.
    if (!next && load.hoursWaiting === 0) return [];
    if (next && next.atMs <= options.nowMs + hoursLeft * HOUR_MS) return [];
    const gapHours = next ? (next.atMs - options.nowMs) / HOUR_MS - hoursLeft : DAY_HOURS;
    const arrival = next
      ? `the next rack, ${next.batch}, comes off hold ${options.time(next.atMs)}`
      : 'no rack is on its way off a hold';
    const pace = options.constraint?.station === station.code ? 12 : 0.15;
    return [
      {
        id: `dry-station:${station.code}`,
        kind: 'dry-station' as const,
        title: `${station.name} will run dry`,
        detail: `${hoursLeft.toFixed(1)} h of work in front of it (${load.hoursWaiting.toFixed(1)} h for ${station.parallel}); ${arrival}.`,
        cost: pace * Math.min(gapHours, DAY_HOURS),
        actions: next
          ? [{ label: `See ${next.batch}`, href: `/batch/${next.batch}` }]
          : [{ label: 'Release a batch', href: '/release' }],
        evidence: `/stage/${station.stage}`,
      },
    ];
  });
}

function constraintCall(constraint: Constraint, stations: readonly Station[]): Call {
  const station = stations.find((candidate) => candidate.code === constraint.station);
  const name = station?.name ?? constraint.station;
  const { now, daysOnTop, daysLookedAt, meanDays } = constraint;
  return {
    id: 'constraint',
    kind: 'constraint',
    title: `${name} is the constraint`,
    detail:
      `${now.hoursWaiting.toFixed(0)} h of work waiting against ${now.hoursADay.toFixed(0)} h a day; ` +
      `${meanDays.toFixed(1)} days in front of it on average, the most of any station on ${daysOnTop} of the last ${daysLookedAt} days.`,
    cost: 6 * meanDays,
    actions: [{ label: 'See the evidence', href: '/flow' }],
    evidence: '/flow',
  };
}
