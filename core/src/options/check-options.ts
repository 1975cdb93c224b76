import type { Choices, Option, OptionBook, OptionRule, OptionValue } from './option.ts';

/** Why a spec cannot be sold. */
export interface Disagreement {
  /** Keys of the options that disagree: two where a rule speaks, one where a choice is missing or unknown. */
  options: [string] | [string, string];
  sentence: string;
}

const either = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} or ${names.at(-1) ?? ''}`;

const valueOf = (option: Option | undefined, code: string): OptionValue | undefined =>
  option?.values.find((value) => value.code === code);

const nameOf = (option: Option | undefined, code: string): string => valueOf(option, code)?.name ?? code;

/** Whether a rule has nothing against two values; `value` that of its option, `other` that of its other one. */
export function allows(rule: OptionRule, value: string, other: string): boolean {
  if (value !== rule.value) return true;
  return rule.values.includes(other) === (rule.kind === 'needs');
}

/** 'Colour natural needs Figure some or strong'. */
export function ruleWords(rule: OptionRule, options: readonly Option[]): string {
  const option = options.find(({ key }) => key === rule.option);
  const other = options.find(({ key }) => key === rule.other);
  const when = `${option?.name ?? rule.option} ${nameOf(option, rule.value)}`;
  const values = either(rule.values.map((code) => nameOf(other, code)));
  const verb = rule.kind === 'needs' ? 'needs' : 'does not go with';
  return `${when} ${verb} ${other?.name ?? rule.other} ${values}`;
}

/**
 * Holds what was chosen against what is sold: every option has a value that is sold, none is unknown, no rule is broken. Rules
 * are independent of each other and of their order; each broken one is told once.
 * @returns nothing when the spec can be sold
 */
export function checkOptions(
  choices: Choices,
  { options, rules }: Pick<OptionBook, 'options' | 'rules'>,
): Disagreement[] {
  const known = new Map(options.map((option) => [option.key, option]));
  const chosen = new Map(Object.entries(choices));
  const strange = [...chosen.keys()].flatMap((key): Disagreement[] =>
    known.has(key) ? [] : [{ options: [key], sentence: `there is no option '${key}'` }],
  );
  const unsold = options.flatMap((option): Disagreement[] => {
    const code = chosen.get(option.key);
    if (code === undefined) return [{ options: [option.key], sentence: `${option.name}: nothing is chosen` }];
    if (valueOf(option, code)) return [];
    const sold = either(option.values.map(({ code: one }) => one));
    return [{ options: [option.key], sentence: `${option.name} '${code}' is not sold: it is ${sold}` }];
  });
  const broken = rules.flatMap((rule): Disagreement[] => {
    const [value, other] = [chosen.get(rule.option), chosen.get(rule.other)];
    if (value === undefined || other === undefined || allows(rule, value, other)) return [];
    const is = known.get(rule.other);
    return [
      {
        options: [rule.option, rule.other],
        sentence: `${ruleWords(rule, options)}: ${is?.name ?? rule.other} is ${nameOf(is, other)}`,
      },
    ];
  });
  return [...strange, ...unsold, ...broken];
}
