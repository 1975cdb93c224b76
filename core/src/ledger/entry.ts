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

/** What the body of every kind of entry has. The union of them all is EntryBody, of `entries`. */
export interface AnyBody extends Selection {
  type: string;
}

/** One thing that happened to one batch, or one lot. Never edited; a correction is another entry. */
export interface Entry<Body extends { type: string } = AnyBody> {
  /** 1, 2, 3 … within the batch or lot, without gaps. */
  seq: number;
  /** When it happened, ms. */
  atMs: number;
  /** When it was filed, ms. */
  filedMs: number;
  /** Code of the person. */
  by: string;
  body: Body;
}
