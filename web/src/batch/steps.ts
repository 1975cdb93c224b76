import { operationIndex } from '@ample-crane/core';
import type { BatchDetail } from '../api/queries.ts';
import { sayTime } from '../shared/time.ts';
import type { StripStep } from '../devices/Strip.tsx';

const KINDS: Record<string, StripStep['kind']> = { hold: 'hold', join: 'join', gate: 'gate' };

/** The route of a batch as a strip: when each operation was last passed, where pieces stand, what was sent back. */
export function stripSteps(batch: BatchDetail, nowMs: number): StripStep[] {
  const { state, route, entries, zone } = batch;
  const pieces = (state?.pieces ?? []).filter(
    (p) => p.standing !== 'scrapped' && p.standing !== 'joined' && p.standing !== 'shipped',
  );
  const reached = Math.max(-1, ...(state?.pieces ?? []).map((piece) => reachedBy(piece, batch)));
  return route.operations.map((operation, i) => {
    const here = pieces.filter((piece) => piece.operation === operation.key).length;
    const passed = entries.find(
      (e) =>
        !e.voided &&
        e.operation === operation.key &&
        (e.type === 'done' || e.type === 'end' || e.type === 'join' || e.type === 'ship'),
    );
    const sentBack = pieces.find((piece) => piece.rework?.from === operation.key);
    return {
      key: operation.key,
      name: operation.name,
      kind: KINDS[operation.mode] ?? 'work',
      state: here > 0 ? 'here' : i <= reached ? 'done' : 'ahead',
      here,
      time: passed && here === 0 ? sayTime(passed.atMs, zone, nowMs) : null,
      reworkTo: sentBack ? operationIndex(route, sentBack.operation) : null,
    };
  });
}

/** The last operation a piece is through; one that left as good is through them all. */
function reachedBy(piece: { standing: string; operation: string }, batch: BatchDetail): number {
  if (piece.standing === 'joined' || piece.standing === 'shipped') return batch.route.operations.length - 1;
  return operationIndex(batch.route, piece.operation) - 1;
}
