/** Pieces of JSON Schema (draft-07) that the published formats are made of. */

export const text = { type: 'string', minLength: 1, maxLength: 120 } as const;
export const longText = { type: 'string', maxLength: 600 } as const;
/** A code or short name as somebody else made it. */
export const name = (maxLength: number) => ({ type: 'string', minLength: 1, maxLength }) as const;
/** Words without control characters: they are printed on tags. */
export const plainWords = (maxLength: number) =>
  ({ type: 'string', minLength: 1, maxLength, pattern: '^[^\\p{Cc}]*$' }) as const;
export const key = { type: 'string', pattern: '^[a-z0-9][a-z0-9-]{0,59}$' } as const;

/** JSON Schema of a number from 0 to `maximum`. */
export const atLeast0 = (maximum: number) => ({ type: 'number', minimum: 0, maximum }) as const;
/** JSON Schema of a number above 0, up to `maximum`. */
export const above0 = (maximum: number) => ({ type: 'number', exclusiveMinimum: 0, maximum }) as const;
/** JSON Schema of a number between two, both included. */
export const between = (minimum: number, maximum: number) => ({ type: 'number', minimum, maximum }) as const;
/** JSON Schema of a whole number between two, both included. */
export const whole = (minimum: number, maximum = Number.MAX_SAFE_INTEGER) =>
  ({ type: 'integer', minimum, maximum }) as const;
/** JSON Schema of what may be null. */
export const orNull = <T extends object>(schema: T) => ({ anyOf: [schema, { type: 'null' }] });

/** Nothing else may stand in it; everything must, unless `required` says what. */
export const object = <P extends object>(
  properties: P,
  required: readonly string[] = Object.keys(properties),
) => ({
  type: 'object',
  properties,
  required: [...required],
  additionalProperties: false,
});

/** JSON Schema of a list of so many items alike. */
export const list = (items: object, minItems: number, maxItems: number) => ({
  type: 'array',
  items,
  minItems,
  maxItems,
});

/** One of several forms, told apart by a field: complaints are then about the form that was meant. */
export const oneBy = (propertyName: string, oneOf: readonly object[]) => ({
  type: 'object',
  required: [propertyName],
  discriminator: { propertyName },
  oneOf,
});
