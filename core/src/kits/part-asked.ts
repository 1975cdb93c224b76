import { LONGEST_REASON, type AskedSchema } from '../ledger/index.ts';
import { above0, orNull, plainWords, whole } from '../units/json-schema.ts';
import type { NewPartBody, PartBody } from './part-entry.ts';
import { HEAVIEST_PART_G, LONGEST_LEAD_DAYS, MOST_OF_A_PART } from './part-reduce.ts';

type Asks<Body> = Body extends { type: 'part-count' }
  ? Omit<Body, 'believed'>
  : Body extends { type: 'undo' }
    ? { type: 'undo'; seq?: number }
    : Body;

/** What can be filed on a part that is kept. */
export type PartAsked = Asks<Exclude<PartBody, NewPartBody>>;

/** A part that is to be kept, as it is asked for: its code is the factory's to give. */
export type NewPartAsked = Omit<NewPartBody, 'code'>;

type Form<Asked extends PartAsked> = { type: Asked['type']; asked: AskedSchema<Asked> };
type Forms<Asked> = Asked extends PartAsked ? Form<Asked> : never;

/** The end of the century: a day beyond it is a slip. */
const LATEST_MS = Date.UTC(2100, 0, 1);
const because = plainWords(LONGEST_REASON);
const quantity = whole(1, MOST_OF_A_PART);
const words = {
  ...{ name: plainWords(80), unit: plainWords(20), supplier: plainWords(80) },
  leadDays: whole(0, LONGEST_LEAD_DAYS),
};
const weightG = above0(HEAVIEST_PART_G);
const of = whole(1);
const expectedMs = whole(0, LATEST_MS);

/** A part that is to be kept, with the JSON Schema of its fields. */
export const NEW_PART: { type: 'part'; asked: AskedSchema<NewPartAsked> } = {
  type: 'part',
  asked: { fields: { ...words, weightG }, needs: ['name', 'unit', 'supplier', 'leadDays'] },
};

/** Every kind of entry that can be asked of a part, with the JSON Schema of its fields. */
export const PART_FORMS: readonly Forms<PartAsked>[] = [
  { type: 'part-change', asked: { fields: { ...words, weightG: orNull(weightG) }, needs: [] } },
  { type: 'part-receive', asked: { fields: { quantity, of }, needs: ['quantity'] } },
  { type: 'part-count', asked: { fields: { quantity: whole(0, MOST_OF_A_PART) }, needs: ['quantity'] } },
  {
    type: 'part-adjust',
    asked: {
      fields: { quantity: whole(-MOST_OF_A_PART, MOST_OF_A_PART), because },
      needs: ['quantity', 'because'],
    },
  },
  {
    type: 'part-order',
    asked: {
      fields: { quantity, expectedMs, reference: plainWords(60) },
      needs: ['quantity', 'expectedMs'],
    },
  },
  {
    type: 'part-expect',
    asked: {
      fields: { of, expectedMs: orNull(expectedMs), because },
      needs: ['of', 'expectedMs', 'because'],
    },
  },
  { type: 'undo', asked: { fields: { seq: whole(1) }, needs: [] } },
];
