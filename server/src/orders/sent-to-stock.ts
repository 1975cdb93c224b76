import { hasLeft, type BodyOf, type EntryBody } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { entriesInForce } from '../log/entries-in-force.ts';
import type { Rack } from '../log/facts.service.ts';

/** A rack whose state may not be there: all of it was taken back. */
export interface RackSeen {
  route: Rack['route'];
  state: Rack['state'] | null;
}

/** Pieces of one rack that a cancellation sent back to stock, with the line they were built for. */
export interface SentToStock {
  batch: string;
  line: string;
  pieces: number[];
}

/** What a filing sent back to stock, as it was told apart before. @param filing its key */
export async function sentToStock(manager: EntityManager, filing: string): Promise<SentToStock[]> {
  const sent = await entriesInForce(manager, { type: 'allot', filing });
  const lines = new Map<string, SentToStock>();
  for (const { batch, seq, positions, body } of sent) {
    if (body.line !== null) continue;
    const earlier = await entriesInForce(manager, { type: 'allot', batch });
    for (const position of positions) {
      const line = earlier.findLast((one) => one.seq < seq && one.positions.includes(position))?.body.line;
      if (line === undefined || line === null) continue;
      const there = lines.get(`${batch} ${line}`) ?? { batch, line, pieces: [] };
      there.pieces.push(position);
      lines.set(`${batch} ${line}`, there);
    }
  }
  return [...lines.values()];
}

/** Entries that give such pieces to their lines again: those that nobody else was given since, and that are still here. */
export const givenBack = (
  sent: readonly SentToStock[],
  racks: readonly RackSeen[],
): { batch: string; body: EntryBody }[] =>
  sent.flatMap(({ batch, line, pieces }) => {
    const state = racks.find((rack) => rack.state?.code === batch)?.state;
    const free = (state?.pieces ?? []).flatMap((piece) =>
      pieces.includes(piece.position) && piece.line === undefined && !hasLeft(piece) ? [piece.position] : [],
    );
    const body: BodyOf<'allot'> = {
      type: 'allot',
      pieces: free,
      line,
      because: 'its cancellation was taken back',
    };
    return free.length === 0 ? [] : [{ batch, body }];
  });
