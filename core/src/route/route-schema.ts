import { key, longText, object, oneBy, orNull, text } from '../units/json-schema.ts';

/**
 * The published form of a route on its own (docs/formats/route.schema.json is this very object): JSON Schema, draft-07.
 * What a schema cannot say — no dead ends, joins that are fed — validateRoute says.
 */
const minutes = { type: 'number', minimum: 0, maximum: 100_000 } as const;
const kind = { type: 'string', pattern: '^[A-Z]$' } as const;
const window = object({ low: { type: 'number' }, high: { type: 'number' } });
const moisture = object({ lowPct: { type: 'number' }, highPct: { type: 'number' } });
const destination = object({
  air: object({ temperatureC: { type: 'number' }, relativeHumidityPct: { type: 'number' } }),
  tolerancePct: { type: 'number', exclusiveMinimum: 0 },
});
const hours = { type: 'number', minimum: 0, maximum: 50_000 } as const;

const checkFields = {
  key,
  name: text,
  unit: { type: 'string', minLength: 1, maxLength: 12 },
  nominal: { type: 'number' },
  lower: orNull({ type: 'number' }),
  upper: orNull({ type: 'number' }),
  firstPiece: { type: 'boolean' },
  sample: { type: 'integer', minimum: 1, maximum: 10 },
};
const check = object({ ...checkFields, every: { type: 'boolean' } }, Object.keys(checkFields));

const common = {
  key,
  name: text,
  stations: { type: 'array', items: key, minItems: 1, maxItems: 20 },
  reworkTo: orNull(key),
  caution: orNull(longText),
  next: { type: 'array', items: key, maxItems: 10 },
  needs: {
    type: 'array',
    items: { enum: ['drying', 'rest', 'glue', 'flash', 'cure', 'recoat', 'settling', 'ageing'] },
    maxItems: 8,
  },
  checks: { type: 'array', items: check, maxItems: 40 },
  yieldPct: { type: 'number', exclusiveMinimum: 0, maximum: 100 },
  risk: longText,
  costPerPiece: { type: 'number', minimum: 0, maximum: 1_000_000 },
  serial: { const: true },
  kit: { const: true },
  accepts: { const: true },
} as const;
const optional = new Set([
  'next',
  'needs',
  'checks',
  'yieldPct',
  'risk',
  'costPerPiece',
  'bedded',
  'fit',
  'ableOnly',
  'serial',
  'kit',
  'accepts',
]);
const timed = { setUpMinutes: minutes, pieceMinutes: minutes, skill: orNull(text) };
const operation = (mode: string, own: object) => {
  const properties = { ...common, mode: { const: mode }, ...own };
  return object(
    properties,
    Object.keys(properties).filter((name) => !optional.has(name)),
  );
};
const rule = oneBy('rule', [
  object({ rule: { const: 'elapsed' }, word: { enum: ['rest', 'glue', 'flash'] }, hours }),
  object(
    {
      rule: { const: 'moisture' },
      word: { const: 'drying' },
      window: moisture,
      destination,
      tauDays: { type: 'number', exclusiveMinimum: 0 },
    },
    ['rule', 'word', 'window', 'tauDays'],
  ),
  object({
    rule: { const: 'cure' },
    word: { enum: ['cure', 'recoat'] },
    material: text,
    until: { enum: ['recoat', 'sand', 'buff'] },
    referenceHours: { type: 'number', exclusiveMinimum: 0 },
    q: { type: 'number', minimum: 1, maximum: 10 },
  }),
  object(
    {
      rule: { const: 'settle' },
      word: { const: 'settling' },
      hours,
      driftLimitMm: { type: 'number', exclusiveMinimum: 0 },
      actionMm: window,
      drifts: {
        type: 'object',
        propertyNames: key,
        additionalProperties: { type: 'number', exclusiveMinimum: 0 },
        maxProperties: 40,
      },
    },
    ['rule', 'word', 'hours', 'driftLimitMm'],
  ),
  object({
    rule: { const: 'ageing' },
    word: { const: 'ageing' },
    coldHours: { type: 'number', exclusiveMinimum: 0, maximum: 1000 },
    warmHours: { type: 'number', minimum: 0, maximum: 1000 },
    cycles: { type: 'integer', minimum: 1, maximum: 20 },
    level: { enum: ['none', 'hardware only', 'light', 'heavy'] },
  }),
]);

export const ROUTE_FORMAT = 'ample-crane-route';

export const ROUTE_SCHEMA = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Route of a model and kind',
  ...object(
    {
      format: { const: ROUTE_FORMAT },
      version: { const: 1 },
      model: text,
      kind,
      revision: { type: 'integer', minimum: 1 },
      note: longText,
      operations: {
        type: 'array',
        minItems: 1,
        maxItems: 200,
        items: oneBy('mode', [
          operation('attended', {
            ...timed,
            ableOnly: { type: 'boolean' },
            coats: orNull(object({ wanted: { type: 'integer', minimum: 1, maximum: 60 }, material: text })),
          }),
          operation('load', {
            places: { type: 'integer', minimum: 1, maximum: 1000 },
            setUpMinutes: minutes,
            cycleMinutes: minutes,
            skill: orNull(text),
          }),
          operation('hold', { rule, room: text, bedded: { type: 'boolean' } }),
          operation('gate', {
            ...timed,
            gate: oneBy('kind', [
              object({ kind: { const: 'moisture' }, window: moisture, destination }, ['kind', 'window']),
              object({ kind: { const: 'inspection' }, eyes: { const: 2 } }, ['kind']),
            ]),
          }),
          operation('join', {
            ...timed,
            role: { enum: ['host', 'guest'] },
            partnerKind: kind,
            makesKind: kind,
            fit: object({ hostCheck: key, guestCheck: key, windowMm: window }),
          }),
          operation('split', {
            ...timed,
            makesKinds: { type: 'array', items: kind, minItems: 1, maxItems: 8 },
          }),
          operation('ship', timed),
        ]),
      },
    },
    ['format', 'version', 'model', 'kind', 'operations'],
  ),
} as const;
