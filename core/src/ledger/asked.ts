import { list, whole } from '../units/json-schema.ts';

type Fields<Asked extends { type: string }> = Exclude<keyof Asked, 'type'>;

/** What may be asked to be filed as one kind of entry: JSON Schema (draft-07) of its fields besides `type`. */
export interface AskedSchema<Asked extends { type: string }> {
  readonly fields: { readonly [F in Fields<Asked>]-?: object };
  /** Those that must be there; all others may be left out. */
  readonly needs: readonly Fields<Asked>[];
  /** Never there: it carries the type. */
  readonly of?: Asked;
}

const MOST_PIECES = 500;
/** Longest reason, cause or remark that is kept with an entry. */
export const LONGEST_REASON = 200;

/** Which pieces it is about. */
export const SELECTED = {
  operation: { type: 'string', minLength: 1, maxLength: 60 },
  station: { type: 'string', minLength: 1, maxLength: 60 },
  count: whole(1, MOST_PIECES),
  pieces: list(whole(1), 1, MOST_PIECES),
} as const;
