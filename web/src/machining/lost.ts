/** Pieces named as 'B-217/3, 5' or, in a load of one batch, '3 5'; or what is not understood. */
export function lostPieces(
  text: string,
  parts: readonly { batch: string; pieces: readonly number[] }[],
): { pieces: { batch: string; pieces: number[] }[] } | { problem: string } {
  const found = new Map<string, number[]>();
  let batch = parts.length === 1 ? parts[0]?.batch : undefined;
  for (const word of text.split(/[\s,]+/).filter(Boolean)) {
    const [head, tail] = word.includes('/') ? word.split('/') : [undefined, word];
    if (head !== undefined)
      batch = parts.find((part) => part.batch.toLowerCase() === head.toLowerCase())?.batch;
    const place = Number(tail);
    if (batch === undefined)
      return { problem: `${head ?? word}: say which batch, as ${parts[0]?.batch ?? 'B-1'}/3` };
    const part = parts.find((one) => one.batch === batch);
    if (!Number.isInteger(place) || !part?.pieces.includes(place))
      return { problem: `${batch}/${tail ?? ''} is not in this load` };
    found.set(batch, [...(found.get(batch) ?? []), place]);
  }
  return { pieces: [...found].map(([code, pieces]) => ({ batch: code, pieces })) };
}
