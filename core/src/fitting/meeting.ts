import { HOUR_MS } from '../units/quantities.ts';

/** A batch of bodies or necks on its way to a join. */
export interface MeetingSide {
  batch: string;
  role: 'host' | 'guest';
  model: string;
  /** Pieces still on their way or at the join. */
  pieces: number;
  /** So many of them for each line of an order, by its code: those of two lines do not meet. Absent: all are for stock. */
  lines?: Readonly<Record<string, number>>;
  /** Forecast arrival at the join with its range, ms; the arrival itself where it is already there. */
  arrivesMs: number;
  lowMs: number;
  highMs: number;
  dueMs: number;
  /** The batch it was told to meet; null: nobody has said. */
  partner: string | null;
}

export interface Meeting {
  host: string;
  guest: string;
  model: string;
  /** When the later of the two is there. */
  meetMs: number;
  /** Who waits, and how long; null when both come together within an hour. */
  waits: 'host' | 'guest' | null;
  waitHours: number;
  /** One side waits more than a day for the other. */
  misses: boolean;
  /** Pieces that will find no partner: more bodies than necks, or the reverse. */
  short: { side: 'host' | 'guest'; pieces: number } | null;
  /** Told by a person, not by the order of due dates. */
  told: boolean;
}

/** Two meetings whose guests change places. */
export interface Swap {
  model: string;
  /** Hosts whose guests change places, each with the guest it would get. */
  meets: { host: string; guest: string; meetMs: number }[];
  /** Waiting saved over all pieces, piece-hours. */
  savesPieceHours: number;
  /** Change of the sum of all meeting times; negative: earlier, piece-hours. */
  laterPieceHours: number;
}

export interface MeetingForecast {
  /** In order of meeting; ties by host. */
  meetings: Meeting[];
  /** Batches nobody is there to meet. */
  alone: string[];
  /** Best first. */
  swaps: Swap[];
}

/** Waiting beyond this is a miss, hours. Default. */
export const MISS_HOURS = 24;
/** Arrivals this close are together, hours. */
const TOGETHER_HOURS = 1;
/** A handful left over from an earlier meeting is no partner for a full rack: at least this share of its pieces. */
const LEAST_SHARE = 0.5;
/** A swap that saves less is not worth moving racks for, piece-hours. Default. */
const LEAST_SAVING_PIECE_HOURS = 24;

interface Couple {
  host: MeetingSide;
  guest: MeetingSide;
  told: boolean;
}

/**
 * Who meets whom, when, and who waits. Partners told by a person stay; the others meet in order of due date (then code)
 * within their model, racks of about the same size first and what is left over after them. A swap changes the guests of two
 * meetings of one model; it is offered when it saves waiting and makes nothing later in sum than it was.
 */
export function meetingForecast(sides: readonly MeetingSide[]): MeetingForecast {
  const couples = coupled(sides);
  const met = new Set(couples.flatMap(({ host, guest }) => [host.batch, guest.batch]));
  return {
    meetings: couples.map(meetingOf).sort((a, b) => a.meetMs - b.meetMs || codes.compare(a.host, b.host)),
    alone: sides.filter((side) => !met.has(side.batch)).map((side) => side.batch),
    swaps: swapsAmong(couples),
  };
}

const codes = new Intl.Collator('en', { numeric: true });
const inOrder = (a: MeetingSide, b: MeetingSide): number =>
  a.dueMs - b.dueMs || codes.compare(a.batch, b.batch);

function coupled(sides: readonly MeetingSide[]): Couple[] {
  const couples: Couple[] = [];
  const free = new Map(sides.toSorted(inOrder).map((side) => [side.batch, side]));
  const couple = (host: MeetingSide, guest: MeetingSide, told: boolean): void => {
    couples.push({ host, guest, told });
    free.delete(host.batch);
    free.delete(guest.batch);
  };
  /** Of one model, in order; of what is free now. */
  const freeOf = (role: MeetingSide['role'], model: string): MeetingSide[] =>
    [...free.values()].filter((side) => side.role === role && side.model === model);
  for (const host of [...free.values()].filter((side) => side.role === 'host')) {
    const guest = host.partner === null ? undefined : free.get(host.partner);
    if (guest?.partner === host.batch && guest.model === host.model) couple(host, guest, true);
  }
  for (const model of new Set([...free.values()].map((side) => side.model)))
    for (const share of [LEAST_SHARE, 0]) {
      const guests = freeOf('guest', model);
      for (const host of freeOf('host', model)) {
        const at = guests.findIndex(
          (side) => pairsOf(host, side) >= share * Math.max(host.pieces, side.pieces),
        );
        for (const guest of at < 0 ? [] : guests.splice(at, 1)) couple(host, guest, false);
      }
    }
  return couples;
}

function meetingOf({ host, guest, told }: Couple): Meeting {
  const apartHours = (guest.arrivesMs - host.arrivesMs) / HOUR_MS;
  const waitHours = Math.abs(apartHours);
  const short = host.pieces - guest.pieces;
  return {
    host: host.batch,
    guest: guest.batch,
    model: host.model,
    meetMs: Math.max(host.arrivesMs, guest.arrivesMs),
    waits: waitHours < TOGETHER_HOURS ? null : apartHours > 0 ? 'host' : 'guest',
    waitHours,
    misses: waitHours > MISS_HOURS,
    short: short === 0 ? null : { side: short > 0 ? 'guest' : 'host', pieces: Math.abs(short) },
    told,
  };
}

/** Pieces of both that may meet: those of one line, and those for stock. */
function pairsOf(host: MeetingSide, guest: MeetingSide): number {
  const [own, other] = [host.lines ?? {}, guest.lines ?? {}];
  const stock = (side: MeetingSide): number =>
    side.pieces - Object.values(side.lines ?? {}).reduce((sum, n) => sum + n, 0);
  return Object.entries(own).reduce(
    (sum, [line, n]) => sum + Math.min(n, other[line] ?? 0),
    Math.min(stock(host), stock(guest)),
  );
}
const meetMs = (host: MeetingSide, guest: MeetingSide): number => Math.max(host.arrivesMs, guest.arrivesMs);
/** Waiting of all pieces of both sides until they meet, piece-hours. */
const waiting = (host: MeetingSide, guest: MeetingSide): number =>
  (host.pieces * (meetMs(host, guest) - host.arrivesMs) +
    guest.pieces * (meetMs(host, guest) - guest.arrivesMs)) /
  HOUR_MS;
/** Meeting time of every piece of the host, piece-hours: what a swap must not raise in sum. */
const meetingSum = (host: MeetingSide, guest: MeetingSide): number =>
  (host.pieces * meetMs(host, guest)) / HOUR_MS;

function swapsAmong(couples: readonly Couple[]): Swap[] {
  const swaps: Swap[] = [];
  couples.forEach((one, i) => {
    for (const other of couples.slice(i + 1)) {
      if (one.host.model !== other.host.model) continue;
      const saves =
        waiting(one.host, one.guest) +
        waiting(other.host, other.guest) -
        waiting(one.host, other.guest) -
        waiting(other.host, one.guest);
      const later =
        meetingSum(one.host, other.guest) +
        meetingSum(other.host, one.guest) -
        meetingSum(one.host, one.guest) -
        meetingSum(other.host, other.guest);
      const pairsLost =
        pairsOf(one.host, one.guest) +
        pairsOf(other.host, other.guest) -
        pairsOf(one.host, other.guest) -
        pairsOf(other.host, one.guest);
      if (pairsLost > 0 || saves < LEAST_SAVING_PIECE_HOURS || later > 0) continue;
      swaps.push({
        model: one.host.model,
        meets: [
          { host: one.host.batch, guest: other.guest.batch, meetMs: meetMs(one.host, other.guest) },
          { host: other.host.batch, guest: one.guest.batch, meetMs: meetMs(other.host, one.guest) },
        ],
        savesPieceHours: saves,
        laterPieceHours: later,
      });
    }
  });
  return swaps.sort((a, b) => b.savesPieceHours - a.savesPieceHours || hostsOf(a).localeCompare(hostsOf(b)));
}

const hostsOf = ({ meets }: Swap): string => meets.map(({ host }) => host).join();
