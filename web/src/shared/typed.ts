/** A number as it is typed on any keyboard; null for anything else. */
export function typedNumber(text: string): number | null {
  const cleaned = text.trim().replace(',', '.');
  return /^-?\d+(\.\d+)?$/.test(cleaned) ? Number(cleaned) : null;
}

/** Numbers with a space or semicolon between them, decimals by point or comma; null: none, or not all are numbers. */
export function typedNumbers(text: string): number[] | null {
  const words = text
    .trim()
    .split(/[\s;]+|,\s+/)
    .filter(Boolean);
  const numbers = words.flatMap((word) => typedNumber(word) ?? []);
  return numbers.length > 0 && numbers.length === words.length ? numbers : null;
}

/** A number that its field has judged already. @throws Error when it is none */
export function numberOf(text: string): number {
  const value = typedNumber(text);
  if (value === null) throw new Error(`numberOf: '${text}' is no number; its field let it through`);
  return value;
}

/** A number that may be left out, for a body that is sent: `{ ...maybe('grams', text) }`. */
export const maybe = <Name extends string>(name: Name, text: string): Partial<Record<Name, number>> =>
  text.trim() === '' ? {} : ({ [name]: numberOf(text) } as Record<Name, number>);

/** Words that may be left out, for a body that is sent. */
export const maybeWords = <Name extends string>(name: Name, text: string): Partial<Record<Name, string>> =>
  text.trim() === '' ? {} : ({ [name]: text.trim() } as Record<Name, string>);
