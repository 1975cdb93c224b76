import { LARGEST_BATCH, LONGEST_REASON, type AskedSchema } from '../ledger/index.ts';
import type { Choices } from '../options/index.ts';
import { above0, key, list, name, object, orNull, plainWords, whole } from '../units/json-schema.ts';
import { MOST_LINES } from './order-reduce.ts';

/** A line as it is asked for: what is left out of the choices is as usual. */
export interface OrderedAsked {
  model: string;
  quantity: number;
  choices?: Choices;
  label?: string;
  note?: string;
  weightKg?: { low: number; high: number };
}

/** What can be filed on an order that is placed; what the server knows (the spec) is left to it. */
export type OrderAsked =
  | { type: 'order-add'; line: OrderedAsked }
  | {
      type: 'order-change';
      line: number;
      choices?: Choices;
      quantity?: number;
      label?: string | null;
      because: string;
      /** Racks of it stand past what changes, and that is known. */
      knowing?: boolean;
    }
  | { type: 'order-due'; dueMs: number; because: string }
  | { type: 'order-cancel'; line: number | null; because: string }
  | { type: 'undo'; seq?: number };

/** The end of the century: a day beyond it is a slip. */
export const LATEST_MS = Date.UTC(2100, 0, 1);

type Form<Asked extends OrderAsked> = { type: Asked['type']; asked: AskedSchema<Asked> };
type Forms<Asked> = Asked extends OrderAsked ? Form<Asked> : never;

const because = plainWords(LONGEST_REASON);
const choices = {
  type: 'object',
  maxProperties: 60,
  propertyNames: key,
  additionalProperties: key,
};
const label = plainWords(40);
const quantity = whole(1, LARGEST_BATCH);

/** JSON Schema of a line as it is ordered. */
export const ORDERED_LINE = object(
  {
    ...{ model: name(60), quantity, choices, label, note: plainWords(LONGEST_REASON) },
    weightKg: object({ low: above0(50), high: above0(50) }),
  },
  ['model', 'quantity'],
);

/** JSON Schema of the lines of a new order. */
export const ORDERED_LINES = list(ORDERED_LINE, 1, MOST_LINES);

/** Every kind of entry that can be asked of an order, with the JSON Schema of its fields. */
export const ORDER_FORMS: readonly Forms<OrderAsked>[] = [
  { type: 'order-add', asked: { fields: { line: ORDERED_LINE }, needs: ['line'] } },
  {
    type: 'order-change',
    asked: {
      fields: {
        ...{ line: whole(1, MOST_LINES), choices, quantity, label: orNull(label), because },
        knowing: { type: 'boolean' },
      },
      needs: ['line', 'because'],
    },
  },
  {
    type: 'order-due',
    asked: { fields: { dueMs: whole(0, LATEST_MS), because }, needs: ['dueMs', 'because'] },
  },
  {
    type: 'order-cancel',
    asked: { fields: { line: orNull(whole(1, MOST_LINES)), because }, needs: ['line', 'because'] },
  },
  { type: 'undo', asked: { fields: { seq: whole(1) }, needs: [] } },
];
