/**
 * Why an entry was not accepted. Refusals are values: the code is for programs, the sentence for people on the floor.
 * The sentences are made here and not at the edge, since the browser's preview and the server's answer must be one.
 */
export type RefusalCode =
  | 'unknown-batch'
  | 'already-open'
  | 'unknown-operation'
  | 'not-enough'
  | 'nothing-here'
  | 'ambiguous'
  | 'wrong-station'
  | 'wrong-mode'
  | 'over-places'
  | 'hold-not-over'
  | 'gate-not-passed'
  | 'coats-missing'
  | 'bad-value'
  | 'key-used'
  | 'in-the-future'
  | 'too-early'
  | 'not-joinable'
  | 'not-paired'
  | 'implausible'
  | 'first-piece'
  | 'checks-missing'
  | 'outside-limits'
  | 'serial-missing'
  | 'second-eyes'
  | 'unconfirmed'
  | 'other-option'
  | 'other-order'
  | 'kit-missing'
  | 'not-accepted'
  | 'open-rework'
  | 'no-papers'
  | 'taken'
  | 'no-way'
  | 'in-use'
  | 'route-problem'
  | 'nothing-to-undo'
  | 'undo-of-undo'
  | 'undo-needed-by-later';

export interface Refusal {
  refused: string;
  code: RefusalCode;
  /** The field of the entry that is wrong, where it is one: a form says it there. */
  at?: string;
}

/**
 * An answer that says no: by a code that programs read, and a sentence for the person.
 * @param at the field of the entry that is wrong, where it is one
 */
export const refuse = (code: RefusalCode, refused: string, at?: string): Refusal => ({
  code,
  refused,
  ...(at === undefined ? {} : { at }),
});

/** Whether an answer is a refusal and not what was asked for. */
export function isRefusal(value: unknown): value is Refusal {
  return typeof value === 'object' && value !== null && 'refused' in value;
}

/** '1 piece', '3 pieces'; `many` where the plural is not made by an s. */
export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
