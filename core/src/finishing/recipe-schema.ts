import { HARDENINGS } from './coat-cure.ts';
import { above0, atLeast0, key, list, longText, object, oneBy, orNull, text } from '../units/json-schema.ts';

/**
 * The published form of a finish recipe on its own (docs/formats/recipe.schema.json is this very object): JSON Schema,
 * draft-07. What a schema cannot say — hours that rise, steps in the route's order, a film thicker than its minimum —
 * validateRecipe says.
 */
export const RECIPE_FORMAT = 'ample-crane-recipe-1';

const LONGEST_HOURS = 20_000;
const step = (kind: string, own: object, optional: readonly string[] = []) => {
  const properties = {
    kind: { const: kind },
    key,
    name: text,
    at: key,
    touchMinutes: atLeast0(10_000),
    boothMinutes: atLeast0(10_000),
    defects: list(object({ defect: text, backTo: key }), 0, 20),
    ...own,
  };
  return object(
    properties,
    Object.keys(properties).filter((name) => !optional.includes(name)),
  );
};

const hours = object({
  recoat: above0(LONGEST_HOURS),
  sand: above0(LONGEST_HOURS),
  buff: above0(LONGEST_HOURS),
});
const neededOfCoat = {
  material: text,
  wetUm: above0(1000),
  wetSdUm: atLeast0(500),
  solidsPct: above0(100),
  maxRecoatHours: orNull(above0(LONGEST_HOURS)),
  hours,
  referenceUm: above0(10_000),
  q: { type: 'number', minimum: 1, maximum: 10 },
};
const coatSpec = object({ ...neededOfCoat, by: { enum: [...HARDENINGS] } }, Object.keys(neededOfCoat));
const mix = object({
  parts: list(object({ name: text, parts: above0(1000) }), 2, 8),
  potLifeHours: above0(10_000),
});
const lab = object({
  l: atLeast0(100),
  a: { type: 'number', minimum: -160, maximum: 160 },
  b: { type: 'number', minimum: -160, maximum: 160 },
});

const STEPS = [
  step('coat', {
    coats: { type: 'integer', minimum: 1, maximum: 60 },
    spec: coatSpec,
    mix: orNull(mix),
    transferPct: above0(100),
  }),
  step(
    'sand',
    {
      grits: list({ type: 'number', minimum: 40, maximum: 12_000 }, 0, 10),
      removalUm: atLeast0(500),
      removalSdUm: atLeast0(500),
      leavesUm: atLeast0(1000),
    },
    ['leavesUm'],
  ),
  step('treat', { waitHours: atLeast0(LONGEST_HOURS) }),
  step('cure', { until: { enum: ['recoat', 'sand', 'buff'] } }),
  step('age', {
    coldHours: above0(1000),
    warmHours: atLeast0(1000),
    cycles: { type: 'integer', minimum: 1, maximum: 20 },
    level: { enum: ['none', 'hardware only', 'light', 'heavy'] },
  }),
];

export const RECIPE_SCHEMA = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Finish recipe',
  ...object({
    format: { const: RECIPE_FORMAT },
    name: key,
    title: text,
    school: longText,
    targetUm: atLeast0(10_000),
    minimumUm: atLeast0(10_000),
    steps: list(oneBy('kind', STEPS), 1, 60),
    cautions: list(longText, 0, 12),
    colour: orNull(object({ name: text, lab, withinDeltaE: above0(100) })),
  }),
} as const;
