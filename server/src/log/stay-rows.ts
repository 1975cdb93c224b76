import { isDeepStrictEqual } from 'node:util';
import {
  cameMs,
  type BatchState,
  type PieceState,
  type Standing,
  type Stay,
  type StayEnd,
  type StayStatus,
} from '@ample-crane/core';
import type { EntityManager } from 'typeorm';

/** SQL: rows of `stay` out of the JSON of `stayRow`, given as parameter `$n`. */
export const insertStays = (n: number): string => `
  INSERT INTO stay (batch, seq, positions, operation, station, status, rule, meets, person, from_at, to_at, ended, to_operation, reason, cause)
  SELECT r.* FROM jsonb_to_recordset($${n}::jsonb) AS r(batch text, seq int, positions int[], operation text, station text, status text,
         rule text, meets text, person text, from_at timestamptz, to_at timestamptz, ended text, to_operation text, reason text, cause text)`;

/** SQL: the same of `piece`; pieces that were known go where they are now. */
export const insertPieces = (n: number): string => `
  INSERT INTO piece (batch, position, standing, operation, since_at, serial, line)
  SELECT r.* FROM jsonb_to_recordset($${n}::jsonb)
         AS r(batch text, position int, standing text, operation text, since_at timestamptz, serial text, line text)
      ON CONFLICT (batch, position) DO UPDATE
      SET standing = excluded.standing, operation = excluded.operation, since_at = excluded.since_at, serial = excluded.serial, line = excluded.line`;

export const stayRow = (batch: string, { fromMs, toMs, toOperation, ...stay }: Stay): object => ({
  ...{ batch, ...stay, to_operation: toOperation },
  ...{ from_at: new Date(fromMs), to_at: new Date(toMs) },
});

/** A piece as its row says where it is. */
export interface PlacedPiece {
  position: number;
  standing: Standing;
  operation: string;
  sinceMs: number;
  /** Null: it has none. */
  serial: string | null;
  /** Line of the order it is built for; null: none. */
  line: string | null;
}

const placed = (piece: PieceState): PlacedPiece => ({
  ...{ position: piece.position, standing: piece.standing, operation: piece.operation },
  ...{ sinceMs: cameMs(piece), serial: piece.serial ?? null, line: piece.line ?? null },
});

export const placedPieces = (state: BatchState | null): PlacedPiece[] => (state?.pieces ?? []).map(placed);

/** Rows of the pieces that are not where they were. */
export function movedPieces(batch: string, before: BatchState | null, after: BatchState | null): object[] {
  return (after?.pieces ?? []).flatMap((piece, i) => {
    const was = before?.pieces[i];
    if (was && (was === piece || isDeepStrictEqual(placed(was), placed(piece)))) return [];
    const { sinceMs, ...row } = placed(piece);
    return [{ batch, ...row, since_at: new Date(sinceMs) }];
  });
}

/** Takes out what the rows of a batch say that was told anew: all its stays, and pieces it no longer has. */
export async function forgetStays(manager: EntityManager, batch: string, pieces: number): Promise<void> {
  await manager.query('DELETE FROM stay WHERE batch = $1', [batch]);
  await manager.query('DELETE FROM piece WHERE batch = $1 AND position > $2', [batch, pieces]);
}

/** What the rows say of one batch, as the log would say it. */
export interface RowsOfBatch {
  stays: Stay[];
  pieces: PlacedPiece[];
}

/** In the order of the entries that ended them. */
export async function readStays(manager: EntityManager, batch: string): Promise<Stay[]> {
  const rows = await manager.query<StayColumns[]>(
    'SELECT * FROM stay WHERE batch = $1 ORDER BY seq, positions',
    [batch],
  );
  return rows.map(stayOf);
}

/** The same of several batches at once, by batch. */
export async function readStaysOf(
  manager: EntityManager,
  batches: readonly string[],
): Promise<Map<string, Stay[]>> {
  const rows = await manager.query<StayColumns[]>(
    'SELECT * FROM stay WHERE batch = ANY($1) ORDER BY batch, seq, positions',
    [[...new Set(batches)]],
  );
  const stays = new Map<string, Stay[]>();
  for (const row of rows) {
    const own = stays.get(row.batch) ?? [];
    own.push(stayOf(row));
    stays.set(row.batch, own);
  }
  return stays;
}

export async function rowsOf(manager: EntityManager, batch: string): Promise<RowsOfBatch> {
  const pieces = await manager.query<(Omit<PlacedPiece, 'sinceMs'> & { since_at: Date })[]>(
    'SELECT position, standing, operation, since_at, serial, line FROM piece WHERE batch = $1 ORDER BY position',
    [batch],
  );
  return {
    stays: await readStays(manager, batch),
    pieces: pieces.map(({ since_at, ...piece }) => ({ ...piece, sinceMs: since_at.getTime() })),
  };
}

interface StayColumns extends Omit<Stay, 'fromMs' | 'toMs' | 'toOperation'> {
  batch: string;
  status: StayStatus;
  ended: StayEnd;
  from_at: Date;
  to_at: Date;
  to_operation: string | null;
}

function stayOf({ batch: _own, from_at, to_at, to_operation, ...stay }: StayColumns): Stay {
  return { ...stay, fromMs: from_at.getTime(), toMs: to_at.getTime(), toOperation: to_operation };
}
