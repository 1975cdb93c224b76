import { key, list, name, object, plainWords } from '../units/json-schema.ts';
import { MOST_OPTION_RULES, MOST_OPTION_VALUES, MOST_OPTIONS } from './validate-book.ts';

const place = { type: 'string', pattern: '^[A-Z]/[a-z0-9][a-z0-9-]{0,59}$' };
const byWord = (values: object) => ({
  type: 'object',
  maxProperties: 30,
  propertyNames: { type: 'string', minLength: 1, maxLength: 60 },
  additionalProperties: values,
});

const value = object({ code: key, name: plainWords(60), recipe: name(60), ways: byWord(key) }, [
  'code',
  'name',
]);

const option = object({
  ...{ key, name: plainWords(60), values: list(value, 1, MOST_OPTION_VALUES) },
  ...{ builtAt: list(place, 0, 20), shownAt: list(place, 0, 40), sharesRack: { type: 'boolean' } },
});

const rule = object({
  kind: { enum: ['needs', 'excludes'] },
  ...{ option: key, value: key, other: key, values: list(key, 1, MOST_OPTION_VALUES) },
});

/** JSON Schema (draft-07) of what is sold of a model, as it is drawn and as a file. */
export const OPTIONS_ASKED = object({
  options: list(option, 0, MOST_OPTIONS),
  rules: list(rule, 0, MOST_OPTION_RULES),
});
