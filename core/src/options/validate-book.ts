import { allows, ruleWords } from './check-options.ts';
import type { Option, OptionBook, OptionRule, OptionValue, Place } from './option.ts';

/** A catalogue longer than this is a slip. */
export const MOST_OPTIONS = 60;
export const MOST_OPTION_RULES = 300;
/** Values of one option. */
export const MOST_OPTION_VALUES = 60;
/** Steps of the search for a spec with one value, before it is given up. */
const MOST_STEPS = 20_000;

/** What a model can be built by. */
export interface HowItIsBuilt {
  /** Operations of its routes where something can be built in. */
  places: readonly Place[];
  /** Names of the recipes its parts may be finished by. */
  recipes: readonly string[];
  /** Ways its routes take: key of an operation, key of one that may follow. */
  ways: readonly (readonly [string, string])[];
}

const twice = (words: readonly string[]): string | undefined =>
  words.find((word, i) => words.indexOf(word) !== i);

/**
 * What is wrong with what is to be sold of a model, in sentences: names used twice, rules about what there is not, operations
 * that no route has, values that no customer could ever choose because the rules leave none beside them.
 */
export function validateBook(book: Pick<OptionBook, 'options' | 'rules'>, built: HowItIsBuilt): string[] {
  const { options, rules } = book;
  const problems: string[] = [];
  const key = twice(options.map((option) => option.key));
  if (key !== undefined) problems.push(`two options have the key '${key}'`);
  for (const { name, values, builtAt, shownAt } of options) {
    const code = twice(values.map((value) => value.code));
    if (code !== undefined) problems.push(`${name} has '${code}' twice`);
    if (values.length === 0) problems.push(`${name} has nothing to choose from`);
    for (const place of [...builtAt, ...shownAt])
      if (!built.places.includes(place)) problems.push(`${name}: no route has the operation '${place}'`);
    for (const value of values) problems.push(...cannotBeBuilt(name, value, built));
  }
  for (const rule of rules) problems.push(...wrongRule(rule, options));
  if (problems.length > 0) return problems;
  return neverSold(book).map(
    ({ option, value }) =>
      `${option.name} ${value} can never be chosen: the rules leave nothing that goes with it`,
  );
}

function cannotBeBuilt(
  option: string,
  { name, recipe, ways = {} }: OptionValue,
  { recipes, ways: known }: HowItIsBuilt,
): string[] {
  const unknown = Object.entries(ways).filter(
    ([fork, to]) => !known.some(([from, way]) => from === fork && way === to),
  );
  return [
    ...(recipe === undefined || recipes.includes(recipe)
      ? []
      : [`${option} ${name}: the model is not finished by a recipe '${recipe}'`]),
    ...unknown.map(([fork, to]) => `${option} ${name}: no route goes from '${fork}' to '${to}'`),
  ];
}

function wrongRule(rule: OptionRule, options: readonly Option[]): string[] {
  const said = `'${ruleWords(rule, options)}'`;
  if (rule.option === rule.other) return [`${said} is about one option only`];
  if (rule.values.length === 0) return [`${said} names no value of the other option`];
  return [[rule.option, [rule.value]] as const, [rule.other, rule.values] as const].flatMap(
    ([key, codes]) => {
      const option = options.find((one) => one.key === key);
      if (!option) return [`${said}: there is no option '${key}'`];
      return codes
        .filter((code) => !option.values.some((value) => value.code === code))
        .map((code) => `${said}: ${option.name} '${code}' is not sold`);
    },
  );
}

/**
 * Values that stand in no spec that can be sold. Looked for by backtracking, the option with the fewest values left first
 * (forward checking; Haralick & Elliott, Artificial Intelligence 14, 1980). A search that would take too long is given up, and
 * the value taken for one that is sold.
 */
export function neverSold({
  options,
  rules,
}: Pick<OptionBook, 'options' | 'rules'>): { option: Option; value: string }[] {
  return options.flatMap((option) =>
    option.values
      .filter(({ code }) => {
        const domains = new Map(options.map(({ key, values }) => [key, values.map((value) => value.code)]));
        domains.set(option.key, [code]);
        return !isPossible(domains, rules, { left: MOST_STEPS });
      })
      .map(({ name }) => ({ option, value: name })),
  );
}

type Domains = ReadonlyMap<string, readonly string[]>;

function isPossible(domains: Domains, rules: readonly OptionRule[], steps: { left: number }): boolean {
  if (steps.left <= 0) return true;
  steps.left -= 1;
  const narrowed = narrow(domains, rules);
  if (!narrowed) return false;
  const open = [...narrowed].filter(([, codes]) => codes.length > 1);
  const [next] = open.sort(([, a], [, b]) => a.length - b.length);
  if (!next) return true;
  const [key, codes] = next;
  return codes.some((code) => isPossible(new Map(narrowed).set(key, [code]), rules, steps));
}

/** Takes out what no rule leaves beside the others, until nothing changes; undefined when an option has nothing left. */
function narrow(domains: Domains, rules: readonly OptionRule[]): Map<string, readonly string[]> | undefined {
  const left = new Map(domains);
  for (let isDone = false; !isDone;) {
    isDone = true;
    for (const rule of rules) {
      const values = left.get(rule.option) ?? [];
      const others = left.get(rule.other) ?? [];
      const keptValues = values.filter((value) => others.some((other) => allows(rule, value, other)));
      const keptOthers = others.filter((other) => values.some((value) => allows(rule, value, other)));
      if (keptValues.length === 0 || keptOthers.length === 0) return undefined;
      if (keptValues.length === values.length && keptOthers.length === others.length) continue;
      left.set(rule.option, keptValues).set(rule.other, keptOthers);
      isDone = false;
    }
  }
  return left;
}
