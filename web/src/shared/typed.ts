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
