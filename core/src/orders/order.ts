import type { Choices, Spec } from '../options/index.ts';

/** So many alike, with one spec. */
export interface OrderLine {
  /** 1-based; 'O-12/1' on paper. */
  number: number;
  model: string;
  quantity: number;
  choices: Choices;
  /** What the choices come to, by what was sold when they were made. */
  spec: Spec;
  /** Name on its label; null: none. */
  label: string | null;
  note: string | null;
  /** What the finished instrument should weigh; null: as the model does. */
  weightKg: { low: number; high: number } | null;
  /** Why it is not built any more; null: it is. */
  cancelled: string | null;
  /** When it was added to the order; absent: it was placed with it. */
  addedMs?: number;
}

/** A change that was decided on, with its reason: kept for ever. */
export interface OrderChange {
  atMs: number;
  by: string;
  /** Line it is of; null: the whole order. */
  line: number | null;
  what: string;
  because: string;
}

/** What the log has made of one order. */
export interface OrderState {
  code: string;
  /** To whom; null: built for stock. */
  customer: string | null;
  /** Their own number for it. */
  reference: string | null;
  placedMs: number;
  dueMs: number;
  lines: OrderLine[];
  changes: OrderChange[];
}

/** 'O-12/1': order and line, as its pieces carry it. */
export const lineCode = (order: string, line: number): string => `${order}/${line}`;

const LINE = /^(O-\d{1,9})\/(\d{1,3})$/;

/** Order and line of 'O-12/1'; undefined when it is none. */
export function orderOfLine(code: string): { order: string; line: number } | undefined {
  const [, order, line] = LINE.exec(code) ?? [];
  return order === undefined || line === undefined ? undefined : { order, line: Number(line) };
}

/** Lines that are to be built. */
export const wantedLines = ({ lines }: OrderState): OrderLine[] =>
  lines.filter(({ cancelled }) => cancelled === null);
