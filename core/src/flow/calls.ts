import { count } from '../ledger/index.ts';
import type { Station } from '../route/index.ts';
import type { Call, CallAction, SingleCall } from './call.ts';
import { decisions } from './decisions.ts';
import { spanWords } from '../time/span-words.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import { constraintWords, type Constraint, type StationLoad } from './station-load.ts';

/** A hold as the board shows it. */
export interface HoldView {
  batch: string;
  operation: string;
  operationName: string;
  rule: 'elapsed' | 'moisture' | 'cure' | 'settle' | 'ageing' | 'called';
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

export interface DueView {
  batch: string;
  dueMs: number;
  earliestMs: number;
  pieces: number;
  where: string;
}

/** Work in front of a station below which it will run dry. Default, hours of the station. */
export const DRY_HOURS = 3;
const DAY_HOURS = 24;
/** An hour lost at the constraint is lost for the factory; elsewhere it is nearly worth nothing. */
const DRY_COST_AT_CONSTRAINT = 12;
const DRY_COST_ELSEWHERE = 0.03;

/** What wants the manager, most costly first; ties by id. `time` turns an instant into the factory's words. */
export function calls(options: {
  nowMs: number;
  holds: readonly HoldView[];
  due: readonly DueView[];
  loads: readonly StationLoad[];
  stations: readonly Station[];
  constraint: Constraint | null;
  /** When the next rack comes to each station out of a hold, if any does. */
  arrivals: ReadonlyMap<string, { batch: string; atMs: number }>;
  /** Stations that work in this shift. */
  open: boolean;
  time: (ms: number) => string;
  /** Calls made elsewhere, to stand among these by their cost. */
  others?: readonly SingleCall[];
}): Call[] {
  return decisions([
    ...(options.others ?? []),
    ...together(options.holds.filter((hold) => hold.over)).map((hold) => holdOver(hold, options.nowMs)),
    ...together(options.holds.filter((hold) => hold.failed)).map((hold) => gateFailed(hold, options.time)),
    ...options.due.filter((row) => row.earliestMs > row.dueMs).map((row) => late(row, options.time)),
    ...dryStations(options),
    ...(options.constraint ? [constraintCall(options.constraint, options.stations)] : []),
  ]);
}

/** Groups of one rack at one hold make one call: the oldest speaks for all. */
function together(holds: readonly HoldView[]): HoldView[] {
  const byPlace = new Map<string, HoldView>();
  for (const hold of holds) {
    const key = `${hold.batch}:${hold.operation}`;
    const known = byPlace.get(key);
    const { pieces, passing } = hold;
    byPlace.set(
      key,
      known ? { ...known, pieces: known.pieces + pieces, passing: [...known.passing, ...passing] } : hold,
    );
  }
  return [...byPlace.values()];
}

/** Holds of one name are one decision, whatever racks they hold. */
const about = ({
  batch,
  operationName,
  pieces,
}: HoldView): Pick<SingleCall, 'subject' | 'cause' | 'pieces'> => ({
  subject: batch,
  cause: operationName,
  pieces,
});

function holdOver(hold: HoldView, nowMs: number): SingleCall {
  const restedMs = hold.overSinceMs === null ? 0 : nowMs - hold.overSinceMs;
  const idle = hold.overSinceMs === null ? '' : ` It has waited ${spanWords(restedMs / HOUR_MS)} since.`;
  return {
    id: `hold-over:${hold.batch}:${hold.operation}`,
    kind: 'hold-over',
    ...about(hold),
    title: `${hold.batch} may leave ${hold.operationName}`,
    detail: `${count(hold.pieces, 'piece')}. ${hold.sentence}${idle}`,
    cost: hold.pieces * (0.5 + restedMs / DAY_MS),
    actions: [{ label: hold.next ? `End hold, on to ${hold.next}` : 'End hold', line: `${hold.batch} end` }],
    evidence: `/batch/${hold.batch}`,
  };
}

function gateFailed(hold: HoldView, time: (ms: number) => string): SingleCall {
  const date =
    hold.endMs === null ? 'Not in this room as its air is.' : `Forecast all inside by ${time(hold.endMs)}.`;
  const { passing } = hold;
  const sort: CallAction[] =
    passing.length > 0
      ? [
          {
            label: `End hold of the ${passing.length} that pass`,
            line: `${hold.batch}/${passing.join(',')} end`,
          },
        ]
      : [];
  return {
    id: `gate-failed:${hold.batch}:${hold.operation}`,
    kind: 'gate-failed',
    ...about(hold),
    title: `${hold.batch} does not pass its moisture gate`,
    detail: `${hold.sentence} ${date}`,
    cost: hold.pieces * 0.8,
    actions: [...sort, { label: 'See readings', href: `/batch/${hold.batch}` }],
    evidence: `/batch/${hold.batch}`,
  };
}

function late(row: DueView, time: (ms: number) => string): SingleCall {
  const days = (row.earliestMs - row.dueMs) / DAY_MS;
  return {
    id: `late:${row.batch}`,
    kind: 'late',
    subject: row.batch,
    cause: row.where,
    pieces: row.pieces,
    title: `${row.batch} will be ${spanWords(days * DAY_HOURS)} late`,
    detail: `Due ${time(row.dueMs)}; by its route alone it cannot be ready before ${time(row.earliestMs)}. ${count(row.pieces, 'piece')}, now at ${row.where}.`,
    cost: row.pieces * Math.min(2, days),
    actions: [{ label: 'See its route', href: `/batch/${row.batch}` }],
    evidence: `/batch/${row.batch}`,
  };
}

/** The wood room judges and keeps; it has no queue to run out of. */
const worksAQueue = (station: Station): boolean => station.stage !== 'wood';

function dryStations(options: Parameters<typeof calls>[0]): SingleCall[] {
  if (!options.open) return [];
  return options.stations.filter(worksAQueue).flatMap((station) => {
    const load = options.loads.find((candidate) => candidate.station === station.code);
    const next = options.arrivals.get(station.code);
    // A station nothing is coming to, and that has nothing, is not running dry: it is not in use.
    if (!load || load.hoursADay === 0 || (!next && load.hoursWaiting === 0)) return [];
    const hoursLeft = load.hoursWaiting / station.parallel;
    if (hoursLeft >= DRY_HOURS || (next && next.atMs <= options.nowMs + hoursLeft * HOUR_MS)) return [];
    return [dryStation(station, hoursLeft, next, options)];
  });
}

function dryStation(
  station: Station,
  hoursLeft: number,
  next: { batch: string; atMs: number } | undefined,
  { nowMs, constraint, time }: Parameters<typeof calls>[0],
): SingleCall {
  const empty = hoursLeft === 0;
  const gapHours = next ? (next.atMs - nowMs) / HOUR_MS - hoursLeft : DAY_HOURS;
  const front = empty ? 'Nothing waits at it' : `${hoursLeft.toFixed(1)} h of work in front of it`;
  const arrival = next
    ? `the next rack, ${next.batch}, comes off hold ${time(next.atMs)}`
    : 'no rack is on its way off a hold';
  const paces = constraint?.station === station.code;
  const worth = paces
    ? ' It is the constraint: every hour lost here is lost for good.'
    : ' It is not the constraint.';
  return {
    id: `dry-station:${station.code}`,
    kind: 'dry-station',
    subject: station.name,
    cause: null,
    pieces: 0,
    title: empty ? `${station.name} has run dry` : `${station.name} will run dry`,
    detail: `${front}; ${arrival}.${worth}`,
    cost: (paces ? DRY_COST_AT_CONSTRAINT : DRY_COST_ELSEWHERE) * Math.min(gapHours, DAY_HOURS),
    actions: next
      ? [{ label: `See ${next.batch}`, href: `/batch/${next.batch}` }]
      : [{ label: 'Open a batch', href: '/open' }],
    evidence: `/stage/${station.stage}`,
  };
}

function constraintCall(constraint: Constraint, stations: readonly Station[]): SingleCall {
  const station = stations.find((candidate) => candidate.code === constraint.station);
  const name = station?.name ?? constraint.station;
  const { now, meanDays } = constraint;
  return {
    id: 'constraint',
    kind: 'constraint',
    subject: name,
    cause: null,
    pieces: 0,
    title: constraint.signs ? `${name} is the constraint` : `${name} may be the constraint`,
    detail:
      `${now.hoursWaiting.toFixed(0)} h of work waiting against ${now.hoursADay.toFixed(0)} h a day; ` +
      constraintWords(constraint),
    cost: 6 * meanDays,
    actions: [{ label: 'See the three signs', href: '/flow/constraint' }],
    evidence: '/flow/constraint',
  };
}
