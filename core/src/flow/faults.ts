/** Pieces that were sent back or scrapped, where that was found and where it came about. */
export interface Fault {
  /** Operation it was found at, with the kind: 'I/assemble'. */
  found: string;
  /** Operation that caused it; null: nobody said. */
  caused: string | null;
  lost: boolean;
  reason: string;
  pieces: number;
}

/** What one operation found of what one caused. */
export interface FoundAndCaused {
  found: string;
  caused: string | null;
  sentBack: number;
  scrapped: number;
  /** Most frequent first. */
  reasons: { reason: string; pieces: number }[];
}

/** Faults counted by where they were found and where they were caused; most pieces first, then by place. */
export function foundAndCaused(faults: readonly Fault[]): FoundAndCaused[] {
  const pairs = new Map<string, FoundAndCaused & { by: Map<string, number> }>();
  for (const { found, caused, lost, reason, pieces } of faults) {
    const id = `${found}|${caused ?? ''}`;
    const pair = pairs.get(id) ?? {
      ...{ found, caused, sentBack: 0, scrapped: 0, reasons: [] },
      by: new Map<string, number>(),
    };
    pairs.set(id, pair);
    if (lost) pair.scrapped += pieces;
    else pair.sentBack += pieces;
    pair.by.set(reason, (pair.by.get(reason) ?? 0) + pieces);
  }
  return [...pairs.values()]
    .map(({ by, ...pair }) => ({
      ...pair,
      reasons: [...by]
        .map(([reason, pieces]) => ({ reason, pieces }))
        .toSorted((a, b) => b.pieces - a.pieces || a.reason.localeCompare(b.reason)),
    }))
    .toSorted(
      (a, b) =>
        b.sentBack + b.scrapped - a.sentBack - a.scrapped ||
        a.found.localeCompare(b.found) ||
        (a.caused ?? '').localeCompare(b.caused ?? ''),
    );
}
