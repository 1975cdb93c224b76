import { pieceAt, type BatchState, type PieceAt } from './batch.ts';

/**
 * A piece and all it was made of: itself first, then each part as it was joined, every part before what that was made of. What nobody
 * knows the batch of is left out with its parts; nothing is told twice.
 */
export function madeOf(piece: PieceAt, stateOf: (batch: string) => BatchState | undefined): PieceAt[] {
  const told = new Set<string>();
  const found: PieceAt[] = [];
  const tell = (one: PieceAt): void => {
    const name = `${one.batch}/${one.position}`;
    const known = stateOf(one.batch)?.pieces.find(({ position }) => position === one.position);
    if (!known || told.has(name)) return;
    told.add(name);
    found.push(one);
    for (const parent of known.parents) tell(pieceAt(parent));
  };
  tell(piece);
  return found;
}
