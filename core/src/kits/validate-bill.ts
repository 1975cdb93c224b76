import type { Option, OptionBook } from '../options/index.ts';
import type { Bill, BillLine, Given } from './bill.ts';

/** What is wrong with a bill of parts, and what is only odd about it, in sentences. */
export interface BillProblems {
  problems: string[];
  /** Nothing forbids it; somebody should look. */
  hints: string[];
}

/**
 * What is wrong with the parts of a model: parts nobody keeps, options and values that are not sold, two lines for one thing that
 * one spec can have both. A thing that some values of an option get and others do not is told as a hint.
 * @param parts codes of those that are kept
 */
export function validateBill(
  { lines }: Pick<Bill, 'lines'>,
  { options }: Pick<OptionBook, 'options'>,
  parts: ReadonlySet<string>,
): BillProblems {
  const problems = lines.flatMap((line) => [
    ...unknownParts(line, parts),
    ...[line.when ?? [], ...(line.instead ?? []).map(({ when = [] }) => when)].flatMap((when) =>
      notSold(line, when, options),
    ),
    ...(line.instead?.some(({ part }) => part === line.part)
      ? [`${line.slot}: ${line.part} cannot stand in for itself`]
      : []),
  ]);
  const bySlot = new Map<string, BillLine[]>();
  for (const line of lines) bySlot.set(line.slot, [...(bySlot.get(line.slot) ?? []), line]);
  for (const [slot, own] of bySlot)
    if (own.some((one, i) => own.slice(i + 1).some((other) => canBothBe(one, other))))
      problems.push(`${slot}: two lines can stand in one kit; say of which values each is`);
  return { problems, hints: [...bySlot].flatMap(([slot, own]) => notCovered(slot, own, options)) };
}

const unknownParts = ({ slot, part, instead = [] }: BillLine, parts: ReadonlySet<string>): string[] =>
  [part, ...instead.map((other) => other.part)]
    .filter((code) => !parts.has(code))
    .map((code) => `${slot}: there is no part ${code}`);

function notSold({ slot }: BillLine, when: readonly Given[], options: readonly Option[]): string[] {
  return when.flatMap(({ option, values }) => {
    const known = options.find(({ key }) => key === option);
    if (!known) return [`${slot}: there is no option '${option}'`];
    return values
      .filter((value) => !known.values.some(({ code }) => code === value))
      .map((value) => `${slot}: ${known.name} '${value}' is not sold`);
  });
}

/** Whether one spec can have both lines: no option parts them. */
const canBothBe = ({ when: one = [] }: BillLine, { when: other = [] }: BillLine): boolean =>
  !one.some(({ option, values }) =>
    other.some((given) => given.option === option && !given.values.some((value) => values.includes(value))),
  );

/** Values of an option for which nothing is in, where others have something. */
function notCovered(slot: string, lines: readonly BillLine[], options: readonly Option[]): string[] {
  const [first, ...more] = lines.map(({ when = [] }) => (when.length === 1 ? when[0] : undefined));
  if (!first || more.some((given) => given?.option !== first.option)) return [];
  const given = new Set([first, ...more].flatMap((one) => one?.values ?? []));
  const option = options.find(({ key }) => key === first.option);
  const bare = option?.values.filter(({ code }) => !given.has(code)).map(({ name }) => name) ?? [];
  return option && bare.length > 0 ? [`${slot}: nothing for ${option.name} ${bare.join(', ')}`] : [];
}
