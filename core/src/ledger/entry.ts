import type { Lab } from '../finishing/delta-e.ts';
import type { FinishPlan } from '../finishing/recipe.ts';
import type { LoadMark } from './batch.ts';
import type { CureFact } from './records.ts';

/** Values in one entry of readings or measurements. */
export const MOST_VALUES = 500;

/** Which pieces an entry is about: named places, or so many, or (neither) all that fit. */
export interface Selection {
  /** Operation key; may be left out when only one operation fits. */
  operation?: string;
  /** Station code, as scanned at the machine. */
  station?: string;
  count?: number;
  /** 1-based places on the rack. */
  pieces?: number[];
}

/** What the server knew when it filed an entry and the reducer could not know: kept with it, so that replay agrees. */
export interface Facts {
  /** How far the pieces on hold since that moment have cured. */
  cured?: CureFact[];
  /** Material a coat took, litres. */
  litres?: number;
  /** Readings corrected by the meter's line as it stood then. */
  correctedPct?: number[];
  /** The lowest moisture each reading can honestly show, after the looks before it; null: nobody knows. */
  floorsPct?: (number | null)[];
  /** What a rule that looks past the batch (the load's first piece, the air of the booth) says against it. */
  against?: string;
}

export interface OpenBody {
  type: 'open';
  code: string;
  kind: string;
  model: string;
  routeId: string;
  quantity: number;
  dueMs: number;
  /** For instruments, one list of parent piece codes for each piece. */
  parents?: string[][];
  /** Ways chosen where the route forks; left out: the usual ones. */
  ways?: Record<string, string>;
  /** The finish it gets; left out: none. */
  finish?: FinishPlan;
}

/** More pieces join a rack of instruments that is already open. */
export interface ArriveBody {
  type: 'arrive';
  parents: string[][];
}

export interface StartBody extends Selection {
  type: 'start';
  /** Table or other place with room for several. */
  bed?: string;
  /** The load they are cut in. */
  load?: LoadMark;
  /** Code of the person who works on them; whoever files it when left out. */
  who?: string;
  /** Reason for starting against a rule: a load before its first piece is measured. */
  because?: string;
  facts?: Facts;
}

export interface DoneBody extends Selection {
  type: 'done';
  /** Reason for passing a gate, or stopping short of the coats, past the rule. */
  because?: string;
  facts?: Facts;
}

export interface ScrapBody extends Selection {
  type: 'scrap';
  reason: string;
}

export interface ReworkBody extends Selection {
  type: 'rework';
  reason: string;
  /** Operation key to go back to; the operation's own rework target when left out. */
  to?: string;
  /** What brought it about: a dull blade, a thin edge. */
  cause?: string;
  /** Whether the rest of the rack waits until they have caught up; it goes on when left out. */
  rest?: 'waits' | 'goes on';
}

export interface HoldBody extends Selection {
  type: 'hold';
  reason: string;
}

export interface EndBody extends Selection {
  type: 'end';
  /** Ageing: what was seen that made it enough. */
  seen?: string;
  /** Cure: code of the test panel it is believed on. */
  panel?: string;
  /** Reason for ending the hold though its rule says otherwise. */
  because?: string;
  facts?: Facts;
}

export interface ReadBody extends Selection {
  type: 'read';
  /** Moisture, % of oven-dry mass, as the meter showed it. */
  valuesPct: number[];
  woodTemperatureC?: number;
  /** Code of the meter; its line and the temperature correct the values. */
  meter?: string;
  depth?: 'shell' | 'core';
  /** Why values that would be set aside are to be believed. */
  because?: string;
  facts?: Facts;
}

export interface CoatBody extends Selection {
  type: 'coat';
  /** Wet film, µm, when it was taken. */
  wetUm?: number;
  /** One for each piece, when every piece was read. */
  wetUms?: number[];
  /** Which of the recipe's coats this is, counted from 1 at its operation: another one than is due is refused. */
  number?: number;
  booth?: string;
  /** The booth's room, as the server knows it. */
  room?: string;
  /** Lot of the material, or the mix it came out of. */
  lot?: string;
  /** Code of the person who sprayed; whoever files it when left out. */
  who?: string;
  /** Reason for laying it too early, too late, or though the recipe asks for no more. */
  because?: string;
  facts?: Facts;
}

/** Sanding, or a scuff between coats. */
export interface SandBody extends Selection {
  type: 'sand';
  /** Film taken off, µm, where it was read before and after; what the recipe expects when left out. */
  removalUm?: number;
  grits?: number[];
  /** Only scuffed, for the next coat to hold: takes off next to nothing. */
  scuff?: true;
}

/** A nail or hardness mark on some pieces of a cure. */
export interface MarkBody extends Selection {
  type: 'mark';
  passed: boolean;
}

/** Colour of pieces, one reading each. */
export interface ColourBody extends Selection {
  type: 'colour';
  labs: Lab[];
}

/** Pieces go into the cold, or come out of it. */
export interface AgeBody extends Selection {
  type: 'age';
  to: 'cold' | 'warm';
  /** Freezer they lie in. */
  bed?: string;
  /** Reason for taking them out before their time. */
  because?: string;
}

/** The batch goes on by another finish, or another revision of it. */
export interface RefinishBody {
  type: 'refinish';
  finish: FinishPlan;
  reason: string;
}

export interface MeasureBody extends Selection {
  type: 'measure';
  /** Action at fret 12, mm, one value for each instrument measured. */
  valuesMm: number[];
}

export interface JoinBody extends Selection {
  type: 'join';
  role: 'host' | 'guest';
  partner: string;
  /** Code of the instrument batch the pieces become. */
  makes: string;
  /** Position in the instrument batch of the first piece joined here. */
  firstPosition: number;
  /** For a host that goes on as what it is: the pieces taken in, one for each of its own. */
  takesIn?: string[];
  /** For its guest: the pieces that took them in. */
  into?: string[];
  /** Reason for joining what does not fit; `facts.against` says what was measured. */
  because?: string;
  facts?: Facts;
}

/** Pieces are parted: each becomes one piece of every batch made. */
export interface SplitBody extends Selection {
  type: 'split';
  /** Batches made, with the position of the first piece in each. */
  makes: { code: string; firstPosition: number }[];
}

/** Pieces lie in a press, carousel or on a table. */
export interface PlaceBody extends Selection {
  type: 'place';
  bed: string;
}

/** Values of one check of an operation. */
export interface CheckBody extends Selection {
  type: 'check';
  check: string;
  /** In the unit of the check. */
  values: number[];
  /** Load they were cut in. */
  load?: string;
  source?: 'typed' | 'gauge';
}

/** A part made to fit its partner: planed down, or a shim glued on. */
export interface AdjustBody extends Selection {
  type: 'adjust';
  how: 'plane' | 'shim';
  byMm: number;
}

/** This batch shall meet that one at the join; null: as the due dates say. Filed on both. */
export interface MeetBody {
  type: 'meet';
  partner: string | null;
}

/** Pieces paired by measurement with those of another batch, in place of any pairing of the two before. Filed on both. */
export interface PairBody {
  type: 'pair';
  partner: string;
  /** Gaps as they will be when the two are joined. */
  pairs: { piece: number; with: number; gapMm: number }[];
  /** What of every gap was allowed for the movement of the wood until then, mm; left out: nothing. */
  allowedMm?: number;
}

/** The batch goes on by another revision, or other ways, of its route. */
export interface RerouteBody {
  type: 'reroute';
  routeId: string;
  ways: Record<string, string>;
  reason: string;
}

export interface ShipBody extends Selection {
  type: 'ship';
  to?: string;
  /** Reason for shipping what lies outside its limits. */
  because?: string;
}

/** Takes entries of this batch back; the batch is replayed without them. */
export interface UndoBody {
  type: 'undo';
  voids: number[];
  reason?: string;
}

export type EntryBody =
  | OpenBody
  | ArriveBody
  | StartBody
  | DoneBody
  | ScrapBody
  | ReworkBody
  | HoldBody
  | EndBody
  | ReadBody
  | CoatBody
  | SandBody
  | MarkBody
  | ColourBody
  | AgeBody
  | RefinishBody
  | MeasureBody
  | JoinBody
  | SplitBody
  | PlaceBody
  | CheckBody
  | AdjustBody
  | MeetBody
  | PairBody
  | RerouteBody
  | ShipBody
  | UndoBody;

export type EntryType = EntryBody['type'];

/** One thing that happened to one batch. Never edited; a correction is another entry. */
export interface Entry {
  /** 1, 2, 3 … within the batch, without gaps. */
  seq: number;
  /** When it happened, ms. */
  atMs: number;
  /** When it was filed, ms. */
  filedMs: number;
  /** Code of the person. */
  by: string;
  body: EntryBody;
}
