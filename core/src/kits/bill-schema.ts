import { key, list, object, plainWords, whole } from '../units/json-schema.ts';

/** Parts of one instrument: more is a slip. */
export const MOST_BILL_LINES = 200;
/** Of one part in one kit. */
export const MOST_IN_A_KIT = 500;

const part = { type: 'string', pattern: '^C-\\d{1,9}$' };
/** JSON Schema of what a part is for. */
export const SLOT = plainWords(40);
const when = list(object({ option: key, values: list(key, 1, 60) }), 0, 10);

/** JSON Schema of one part as it lies in a bin. */
export const KIT_PART = object({ slot: SLOT, part, quantity: whole(1, MOST_IN_A_KIT) });

/** JSON Schema (draft-07) of the parts of a model, as they are drawn and as a file. */
export const BILL_ASKED = object({
  lines: list(
    object(
      {
        ...{ slot: SLOT, part, quantity: whole(1, MOST_IN_A_KIT), when },
        instead: list(object({ part, when }, ['part']), 0, 10),
      },
      ['slot', 'part', 'quantity'],
    ),
    0,
    MOST_BILL_LINES,
  ),
});
