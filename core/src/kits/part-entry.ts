import type { Correction, Entry } from '../ledger/index.ts';

/** What is known of a part, as it is typed. */
export interface PartWords {
  name: string;
  unit: string;
  supplier: string;
  leadDays: number;
  weightG?: number;
}

export interface NewPartBody extends PartWords {
  type: 'part';
  code: string;
}

export interface ChangePartBody extends Partial<Omit<PartWords, 'weightG'>> {
  type: 'part-change';
  /** Null: nobody knows. */
  weightG?: number | null;
}

/** A delivery came in. */
export interface ReceivePartBody {
  type: 'part-receive';
  quantity: number;
  /** Purchase it is of; left out: the oldest first, more than was ordered besides. */
  of?: number;
}

/** Somebody counted what is there: what was believed before does not count. */
export interface CountPartBody {
  type: 'part-count';
  quantity: number;
  /** What should have been there, as it was filed. */
  believed?: number;
}

/** Broken, lost, found, taken for something else. */
export interface AdjustPartBody {
  type: 'part-adjust';
  quantity: number;
  because: string;
}

export interface OrderPartBody {
  type: 'part-order';
  quantity: number;
  expectedMs: number;
  reference?: string;
}

/** A delivery comes another day, or not at all. */
export interface ExpectPartBody {
  type: 'part-expect';
  of: number;
  /** Null: it will not come. */
  expectedMs: number | null;
  because: string;
}

export type PartBody =
  | NewPartBody
  | ChangePartBody
  | ReceivePartBody
  | CountPartBody
  | AdjustPartBody
  | OrderPartBody
  | ExpectPartBody
  | Correction;

/** One thing that happened to one part, in the same log as all else. */
export type PartEntry = Entry<PartBody>;
