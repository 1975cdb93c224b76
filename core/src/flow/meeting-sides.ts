import { count, hasLeft, type BatchState, type PieceState } from '../ledger/index.ts';
import { operationIndex, type JoinOperation, type Route } from '../route/index.ts';
import { MISS_HOURS, type MeetingForecast, type MeetingSide } from '../fitting/meeting.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { spanWords } from '../time/span-words.ts';
import { workingClock, type WorkingClock } from '../time/working-clock.ts';
import { DAY_MS } from '../units/quantities.ts';
import type { SingleCall } from './call.ts';
import { earliestEndMs } from './due.ts';

/** A hold a batch is in, with its forecast and range. */
interface HoldEnd {
  operation: string;
  endMs: number | null;
  lowMs: number | null;
  highMs: number | null;
}

export interface MeetingRack {
  state: BatchState;
  route: Route;
  holds: readonly HoldEnd[];
}

/** One side of a meeting, with the name of its join. */
export interface NamedSide extends MeetingSide {
  joinName: string;
}

/** A range that is open to the far side is drawn no further than this, days. */
const FURTHEST_DAYS = 365;

/** The join a batch is on its way to: the first that its slowest piece has not passed; undefined when there is none. */
export function joinAhead({ state, route }: Pick<MeetingRack, 'state' | 'route'>): JoinOperation | undefined {
  const here = state.pieces.filter((piece) => !hasLeft(piece));
  if (here.length === 0) return undefined;
  const slowest = Math.min(...here.map((piece) => operationIndex(route, piece.operation)));
  return route.operations.slice(slowest).find((operation) => operation.mode === 'join');
}

/**
 * Every open batch that is on its way to a join, with its arrival by the route's own times: as its hold is forecast to
 * end, and with the ends of the hold's range.
 */
export function meetingSides(options: {
  racks: readonly MeetingRack[];
  calendar: FactoryCalendar;
  nowMs: number;
  /** The calendar laid out from now on, where racks are asked about one by one. */
  clock?: WorkingClock;
}): NamedSide[] {
  const { racks, calendar, nowMs, clock = workingClock(calendar, nowMs) } = options;
  return racks.flatMap((rack) => {
    const join = joinAhead(rack);
    if (!join) return [];
    const { state, route } = rack;
    const here = state.pieces.filter((piece) => !hasLeft(piece));
    const there = here.filter((piece) => piece.operation === join.key);
    const endOf = (hold: HoldEnd, of: 'endMs' | 'lowMs' | 'highMs'): number | null => {
      const ends = hold[of] ?? hold.endMs;
      return ends === null ? null : Math.min(ends, nowMs + FURTHEST_DAYS * DAY_MS);
    };
    const arrival = (of: 'endMs' | 'lowMs' | 'highMs'): number => {
      const holds = rack.holds.map((hold) => ({ operation: hold.operation, endMs: endOf(hold, of) }));
      return earliestEndMs({ state, route, calendar, nowMs, holds, upTo: join.key, clock }) ?? nowMs;
    };
    const arrived = there.length === here.length;
    const sinceMs = Math.max(...there.map((piece) => piece.sinceMs));
    return [
      {
        batch: state.code,
        role: join.role,
        model: state.model,
        pieces: here.length,
        ...linesOf(here),
        arrivesMs: arrived ? sinceMs : arrival('endMs'),
        lowMs: arrived ? sinceMs : arrival('lowMs'),
        highMs: arrived ? sinceMs : arrival('highMs'),
        dueMs: state.dueMs,
        partner: state.meets ?? null,
        joinName: join.name,
      },
    ];
  });
}

/** How many pieces are for each line of an order; nothing where all are for stock. */
function linesOf(pieces: readonly PieceState[]): Pick<MeetingSide, 'lines'> {
  const lines: Record<string, number> = {};
  for (const { line } of pieces) if (line !== undefined) lines[line] = (lines[line] ?? 0) + 1;
  return Object.keys(lines).length > 0 ? { lines } : {};
}

/** What a piece that waits a day longer at a join costs, against an instrument-day. */
const COST_A_PIECE_DAY = 0.08;

/** A side that comes later than this need not be decided about yet, days; the page shows it. Default. */
const DECIDE_WITHIN_DAYS = 5;

/** Calls for pairs that miss each other by more than a day, with the swap that helps where there is one. */
export function meetingCalls(
  { meetings, swaps }: MeetingForecast,
  sides: readonly NamedSide[],
  nowMs: number,
  time: (ms: number) => string,
): SingleCall[] {
  const soon = (batch: string): boolean =>
    sides.some((side) => side.batch === batch && side.arrivesMs <= nowMs + DECIDE_WITHIN_DAYS * DAY_MS);
  return meetings
    .filter(({ misses, waits, host, guest }) => misses && soon(waits === 'host' ? host : guest))
    .map((meeting): SingleCall => {
      const early = meeting.waits === 'host' ? meeting.host : meeting.guest;
      const late = meeting.waits === 'host' ? meeting.guest : meeting.host;
      const of = (batch: string) => sides.find((side) => side.batch === batch);
      const pieces = of(early)?.pieces ?? 0;
      const swap = swaps.find(({ meets }) => meets.some((one) => one.host === meeting.host));
      const help = swap
        ? ` Changing partners (${swap.meets.map((one) => `${one.host} with ${one.guest}`).join(', ')}) saves ${Math.round(swap.savesPieceHours)} piece-hours.`
        : ' No change of partners helps.';
      return {
        id: `meeting:${meeting.host}:${meeting.guest}`,
        kind: 'meeting',
        subject: early,
        cause: of(early)?.joinName ?? null,
        pieces,
        title: `${early} will wait ${spanWords(meeting.waitHours)} for ${late}`,
        detail: `${count(pieces, 'piece')} there ${time(of(early)?.arrivesMs ?? meeting.meetMs)}, ${late} ${time(meeting.meetMs)}; more than ${spanWords(MISS_HOURS)} apart.${help}`,
        cost: (pieces * COST_A_PIECE_DAY * meeting.waitHours) / 24,
        actions: [{ label: swap ? 'See the swap' : 'See the meeting', href: '/fitting/meeting' }],
        evidence: '/fitting/meeting',
      };
    });
}
