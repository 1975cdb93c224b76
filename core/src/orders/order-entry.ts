import type { Correction, Entry } from '../ledger/index.ts';
import type { Choices, Spec } from '../options/index.ts';

/** A line as it is ordered: the server adds the spec, by what is sold then. */
export interface OrderedLine {
  model: string;
  quantity: number;
  choices: Choices;
  spec: Spec;
  label?: string;
  note?: string;
  weightKg?: { low: number; high: number };
}

export interface PlaceOrderBody {
  type: 'order';
  code: string;
  customer: string | null;
  reference?: string;
  dueMs: number;
  lines: OrderedLine[];
}

/** More is wanted with the same order. */
export interface AddLineBody {
  type: 'order-add';
  line: OrderedLine;
}

/** A line is wanted otherwise. */
export interface ChangeLineBody {
  type: 'order-change';
  line: number;
  choices?: Choices;
  /** What the choices come to; with them. */
  spec?: Spec;
  quantity?: number;
  /** Null: none any more. */
  label?: string | null;
  because: string;
}

export interface OrderDueBody {
  type: 'order-due';
  dueMs: number;
  because: string;
}

export interface CancelLineBody {
  type: 'order-cancel';
  /** Null: the whole order. */
  line: number | null;
  because: string;
}

export type OrderBody =
  PlaceOrderBody | AddLineBody | ChangeLineBody | OrderDueBody | CancelLineBody | Correction;

/** One thing that happened to one order, in the same log as all else. */
export type OrderEntry = Entry<OrderBody>;
