/** A number as it is typed on any keyboard; null for anything else. */
export function typedNumber(text: string): number | null {
  const cleaned = text.trim().replace(',', '.');
  return /^-?\d+(\.\d+)?$/.test(cleaned) ? Number(cleaned) : null;
}
