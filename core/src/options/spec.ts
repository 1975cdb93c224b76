import { placeOf, withUsual, type Choices, type OptionBook, type Place } from './option.ts';

/** One option as it was chosen, and where that matters. */
export interface SpecLine {
  option: string;
  name: string;
  value: string;
  valueName: string;
  builtAt: Place[];
  shownAt: Place[];
}

/** What is to be built, as it stood when it was ordered or last changed: it travels with the piece. */
export interface Spec {
  /** Revision of what was sold. */
  revision: number;
  lines: SpecLine[];
  /** Name that goes on its label. */
  label?: string;
}

/** A line of a spec as one operation sees it. */
export interface SpecHere extends Pick<SpecLine, 'option' | 'name' | 'value' | 'valueName'> {
  /** It is built in here, and confirmed against the tag. */
  built: boolean;
}

/** Choices as a spec that can travel: what nothing is chosen for has its usual value. @throws for a value that is not sold */
export function specOf(book: OptionBook, choices: Choices, label?: string): Spec {
  const chosen = new Map(Object.entries(withUsual(book, choices)));
  return {
    revision: book.revision,
    lines: book.options.map(({ key, name, values, builtAt, shownAt }) => {
      const value = values.find(({ code }) => code === chosen.get(key));
      if (!value) throw new RangeError(`specOf: ${name} has no value '${chosen.get(key) ?? ''}'`);
      return { option: key, name, value: value.code, valueName: value.name, builtAt, shownAt };
    }),
    ...(label === undefined ? {} : { label }),
  };
}

/**
 * What of a spec matters at an operation, what is built in there first.
 * @param operation its key, and the kind letter of the route it is of
 */
export function operationSpec(
  { lines }: Pick<Spec, 'lines'>,
  operation: { kind: string; key: string },
): SpecHere[] {
  const here = placeOf(operation.kind, operation.key);
  const seen = lines.flatMap(({ builtAt, shownAt, option, name, value, valueName }) => {
    const built = builtAt.includes(here);
    return built || shownAt.includes(here) ? [{ option, name, value, valueName, built }] : [];
  });
  return [...seen.filter(({ built }) => built), ...seen.filter(({ built }) => !built)];
}

/** An option that two specs have otherwise. */
export interface SpecDifference {
  option: string;
  name: string;
  /** Null: nobody knows, or it was not sold then. */
  from: string | null;
  /** Null: not sold any more. */
  to: string | null;
  /** Operations that build in the one or the other. */
  builtAt: Place[];
}

/** What differs between two specs, in the order in which the second has it. */
export function specDifference(
  before: Pick<Spec, 'lines'> | null,
  after: Pick<Spec, 'lines'>,
): SpecDifference[] {
  const was = new Map((before?.lines ?? []).map((line) => [line.option, line]));
  const changed = after.lines.flatMap((line): SpecDifference[] => {
    const old = was.get(line.option);
    was.delete(line.option);
    if (old?.value === line.value) return [];
    const builtAt = [...new Set([...line.builtAt, ...(old?.builtAt ?? [])])];
    const { option, name, valueName } = line;
    return [{ option, name, builtAt, from: old?.valueName ?? null, to: valueName }];
  });
  const gone = [...was.values()].map(({ option, name, valueName, builtAt }) => ({
    ...{ option, name, builtAt, from: valueName, to: null },
  }));
  return [...changed, ...gone];
}
