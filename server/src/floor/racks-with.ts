import type { BatchState, PieceState } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { BatchRow } from '../log/rows.ts';

/** What a piece is like: what its state must hold, in part. */
export type PieceLike = Readonly<Partial<Pick<PieceState, 'bed'>> & { load?: { code: string } }>;

/** The states of open batches with at least one piece like one of these, in order of their codes, as a transaction sees them. */
export async function racksWith(
  manager: EntityManager,
  ...pieces: readonly PieceLike[]
): Promise<BatchState[]> {
  const rows = await manager
    .getRepository(BatchRow)
    .createQueryBuilder('b')
    .where(`NOT b.closed AND b.state -> 'pieces' @> ANY(:pieces::jsonb[])`, {
      pieces: pieces.map((piece) => JSON.stringify([piece])),
    })
    .orderBy('b.code')
    .getMany();
  return rows.flatMap(({ state }) => state ?? []);
}

/** Pieces of open batches that lie in some table, press or freezer, each with its batch. */
export async function piecesIn(
  manager: EntityManager,
  beds: readonly string[],
): Promise<{ batch: string; bed: string; piece: PieceState }[]> {
  const racks = beds.length === 0 ? [] : await racksWith(manager, ...beds.map((bed) => ({ bed })));
  return racks.flatMap(({ code, pieces }) =>
    pieces.flatMap((piece) =>
      piece.bed !== undefined && beds.includes(piece.bed) ? [{ batch: code, bed: piece.bed, piece }] : [],
    ),
  );
}
