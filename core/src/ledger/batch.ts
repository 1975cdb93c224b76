import type { Lab } from '../finishing/delta-e.ts';
import type { FinishPlan } from '../finishing/recipe.ts';
import type { CheckSet } from '../machining/check.ts';
import type {
  Acceptance,
  AgeTurn,
  Allotted,
  Coat,
  Confirm,
  Freed,
  KitTurn,
  MarkSet,
  MeasureSet,
  ReadingSet,
  Rest,
  Sanding,
  Sheet,
  Shipment,
} from './records.ts';

/** Where a piece stands. The last four are final: it has left the route. */
export type Standing = 'waiting' | 'inHand' | 'onHold' | 'scrapped' | 'joined' | 'parted' | 'shipped';

/** A load of a machine, as its pieces carry it while they are on the table. */
export interface LoadMark {
  /** 'L-31'. */
  code: string;
  /** Name and revision of the program. */
  program: string;
  /** The table was set up for it: the first piece is measured before the load is done. */
  firstPiece: boolean;
}

/** One body, neck or instrument; its identity is batch code and position (B-217/03). */
export interface PieceState {
  /** 1-based place on the rack. */
  position: number;
  /** Key of the operation it stands at, or left the route at. */
  operation: string;
  standing: Standing;
  /** When it came into this standing, ms. */
  sinceMs: number;
  /** Station it is in hand at; null otherwise. */
  station: string | null;
  /** Code of the person who has it in hand, or had when it was stopped; absent: nobody. */
  who?: string;
  /** When it came back into a hold that had lain under a person's own, ms; absent: at `sinceMs`. */
  resumedMs?: number;
  /** Set when sent back, cleared when it is through the operation that sent it. */
  rework: { from: string; reason: string; cause?: string } | null;
  /**
   * Set when a person called the hold; null while a rule holds it. `from` is the standing it returns to, by itself when the
   * pieces of `waitsFor` have caught up.
   */
  called: {
    reason: string;
    from: 'waiting' | 'inHand' | 'onHold';
    waitsFor?: number[];
    /** When it came onto the hold it rested in, which goes on meanwhile; absent: it did not rest. */
    restedSinceMs?: number;
  } | null;
  /** For joined parts: the instrument piece they became. */
  joinedInto: string | null;
  /** For instruments: the pieces they were made from. */
  parents: string[];
  /** Why it was scrapped. */
  scrapReason: string | null;
  /** Table, press or carousel it lies in; absent: in none, or nobody said. */
  bed?: string;
  /** Load it is cut in; absent: none. */
  load?: LoadMark;
  /**
   * The part it was paired with by measurement; absent: not paired. `gapMm` as it will be when they are joined; `allowedMm` of
   * it was allowed for the movement of the wood until then (absent: nothing).
   */
  partner?: { piece: string; gapMm: number; allowedMm?: number };
  /** Set when it is sent back: coats logged before so many do not count for it any more. */
  coatsFrom?: number;
  /** Set when it is sent back, ms: what was measured of it before does not count for it any more. */
  measuredFromMs?: number;
  /** For parts that were split: the pieces it became. */
  partedInto?: string[];
  /** For instruments: its serial; absent: it has none yet. */
  serial?: string;
  /** Line of the order it is built for, 'O-12/1'; its spec stands in `allotted`. Absent: none, it is built for stock. */
  line?: string;
}

/** A gate or hold that was passed by decision, with the reason; shown for ever. */
export interface RouteMove {
  atMs: number;
  by: string;
  from: string;
  to: string;
  reason: string;
}

export interface Override {
  atMs: number;
  by: string;
  operation: string;
  pieces: number;
  /** Places it is about; absent: filed before they were kept. */
  positions?: number[];
  reason: string;
  /** What the rule said at that moment. */
  against: string;
}

/** A batch as the log has made it so far. */
export interface BatchState {
  code: string;
  kind: string;
  model: string;
  routeId: string;
  quantity: number;
  dueMs: number;
  openedMs: number;
  /** When the last entry happened. */
  lastMs: number;
  pieces: PieceState[];
  readings: ReadingSet[];
  coats: Coat[];
  measures: MeasureSet[];
  overrides: Override[];
  /** Ways chosen where the route forks: key of the fork → key of the first operation taken; absent: the usual ones. */
  ways?: Readonly<Record<string, string>>;
  /** Measurements of checks; absent: none. */
  checks?: CheckSet[];
  /** The batch it was told to meet at its join; absent: nobody said. */
  meets?: string;
  /** Moves to another revision or other ways, with their reasons. */
  moves?: RouteMove[];
  /** What the recipe it was given asks of its coats and sandings; absent: no recipe. */
  finish?: FinishPlan;
  sandings?: Sanding[];
  marks?: MarkSet[];
  colours?: ColourSet[];
  ageing?: AgeTurn[];
  /** Holds its coated pieces came onto, in order of time. */
  rests?: Rest[];
  /** Cures that were ended, with what they were ended on. */
  freed?: Freed[];
  /** What went wrong on it: the piece may be whole again since. */
  slips?: Slip[];
  /** Bench sheets, in order of time; absent: none. */
  sheets?: Sheet[];
  /** What left; absent: nothing. */
  shipments?: Shipment[];
  /** Lines of orders its pieces are or were built for, with what each is to be; absent: none. */
  allotted?: Allotted[];
  /** What was held against the tags, in order of time; absent: nothing. */
  confirms?: Confirm[];
  /** What was accepted where it is handed over; absent: nothing. */
  accepted?: Acceptance[];
  /** What was laid into the bins of its instruments, in order of filing; absent: nothing. */
  kits?: KitTurn[];
}

/** Colour of pieces as a meter read it. */
export interface ColourSet {
  atMs: number;
  operation: string;
  positions: number[];
  /** One for each place. */
  labs: Lab[];
}

/** A slip that sent pieces back, with its cause or origin and where it was found. */
export interface Slip {
  atMs: number;
  by: string;
  operation: string;
  to: string;
  positions: number[];
  reason: string;
  /** What brought it about, and the operation that did ('B/colour'): one of the two is known. */
  cause?: string;
  origin?: string;
}

/** 'B-217/03': batch and 1-based place, by which a piece is known for ever. */
export const pieceCode = (batch: string, position: number): string =>
  `${batch}/${String(position).padStart(2, '0')}`;

/** A piece by its batch and its 1-based place on the rack. */
export interface PieceAt {
  batch: string;
  position: number;
}

/** Batch and place of 'B-217/03'; 'B-217/3' is the same. The place of what is no piece is not a number. */
export function pieceAt(piece: string): PieceAt {
  const [batch = '', place] = piece.split('/');
  return { batch, position: Number(place) };
}

const FINAL: ReadonlySet<Standing> = new Set<Standing>(['scrapped', 'joined', 'parted', 'shipped']);

/** It is scrapped, joined, parted or shipped: nothing more is done to it here. */
export const hasLeft = (piece: PieceState): boolean => FINAL.has(piece.standing);

/** No piece is left to work on. */
export const isClosed = (state: BatchState): boolean => state.pieces.every(hasLeft);

/** Pieces on hold at one operation since the same moment, under the same rule or call. */
export interface HoldGroup {
  operation: string;
  sinceMs: number;
  called: string | null;
  positions: number[];
}

/** The holds a batch is in, oldest first; ties by operation key. */
export function holdGroups(state: BatchState): HoldGroup[] {
  const groups = new Map<string, HoldGroup>();
  for (const piece of state.pieces) {
    if (piece.standing !== 'onHold') continue;
    const called = piece.called?.reason ?? null;
    const id = `${piece.operation}|${piece.sinceMs}|${called ?? ''}`;
    const group = groups.get(id) ?? {
      operation: piece.operation,
      sinceMs: piece.sinceMs,
      called,
      positions: [],
    };
    group.positions.push(piece.position);
    groups.set(id, group);
  }
  return [...groups.values()].sort((a, b) => a.sinceMs - b.sinceMs || a.operation.localeCompare(b.operation));
}
