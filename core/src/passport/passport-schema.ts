import { list, object, orNull } from '../units/json-schema.ts';

/**
 * The published form of a passport (docs/formats/passport.schema.json is this very object): JSON Schema, draft-07. Times are ISO 8601
 * in UTC; values of a set-up are in the unit that stands beside them.
 */
const words = { type: 'string' } as const;
const time = { type: 'string', format: 'date-time' } as const;
const yesNo = { type: 'boolean' } as const;
const value = orNull({ type: 'number' });
const KINDS = [
  ...['moisture', 'measure', 'coat', 'sanding', 'colour', 'ageing', 'evidence', 'slip', 'move'],
  ...['tag', 'sheet', 'shipment', 'override'],
] as const;

export const PASSPORT_FORMAT = 'ample-crane-passport';

export const PASSPORT_SCHEMA = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Passport of an instrument, or of a piece on its way to be one',
  ...object({
    format: { const: PASSPORT_FORMAT },
    version: { const: 1 },
    factory: words,
    asOf: time,
    serial: orNull(words),
    parts: list(
      object({
        piece: { type: 'string', pattern: '^[A-Z]-\\d+/\\d+$' },
        kind: words,
        model: words,
        standing: words,
        joinedInto: orNull(words),
        recipe: orNull(words),
        wood: list(
          object({
            lot: words,
            species: words,
            papers: orNull(words),
            blanks: list(words, 0, 100),
            own: yesNo,
          }),
          0,
          40,
        ),
        setUp: list(object({ key: words, name: words, unit: words, atSetUp: value, settled: value }), 0, 40),
        lines: list(
          object({
            at: time,
            operation: words,
            kind: { enum: KINDS },
            words,
            against: orNull(words),
            by: orNull(words),
          }),
          0,
          5000,
        ),
      }),
      1,
      40,
    ),
  }),
} as const;
