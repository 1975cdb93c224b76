import type { BatchState } from '@ample-crane/core';
import type { Asks } from './entries-in-force.ts';

/** So many of a part that were laid into the bins of a batch at one moment, or put back: then negative. */
export interface PartInBin {
  batch: string;
  part: string;
  atMs: number;
  quantity: number;
}

/** What a state says of the bins of its instruments. */
export const inBins = (state: Pick<BatchState, 'code' | 'kits'> | null): PartInBin[] =>
  (state?.kits ?? []).flatMap(({ atMs, positions, parts }) =>
    parts.map(({ part, quantity }) => ({
      ...{ batch: state?.code ?? '', part, atMs, quantity: quantity * positions.length },
    })),
  );

/** The same of batches by their codes, as their states stand. */
export async function partsInBins(db: Asks, batches: readonly string[]): Promise<PartInBin[]> {
  const rows = await db.query<{ state: Pick<BatchState, 'code' | 'kits'> }[]>(
    `SELECT jsonb_build_object('code', code, 'kits', state -> 'kits') AS state
       FROM batch WHERE code = ANY($1) AND state ? 'kits'`,
    [batches],
  );
  return rows.flatMap(({ state }) => inBins(state));
}

/** Codes of the batches whose instruments have or had bins. */
export async function batchesWithBins(db: Asks): Promise<string[]> {
  const rows = await db.query<{ code: string }[]>(`SELECT code FROM batch WHERE state ? 'kits'`);
  return rows.map(({ code }) => code);
}
