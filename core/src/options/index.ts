/** What is sold of a model, which choices go together, and what of them matters where. */
export { allows, checkOptions, ruleWords, type Disagreement } from './check-options.ts';
export { OPTIONS_ASKED } from './options-schema.ts';
export {
  placeOf,
  withUsual,
  type Choices,
  type Option,
  type OptionBook,
  type OptionRule,
  type OptionValue,
  type Place,
} from './option.ts';
export {
  operationSpec,
  specDifference,
  specOf,
  type Spec,
  type SpecDifference,
  type SpecHere,
  type SpecLine,
} from './spec.ts';
export { neverSold, validateBook } from './validate-book.ts';
