import type { BatchState } from './batch.ts';
import { madeOf } from './made-of.ts';
import { pieceAt, pieceCode } from './batch.ts';

/** An instrument of a body and a neck; the body of a top that was parted from a wedge, with a back from the same. */
const PARENTS: Record<string, string[]> = {
  'I-1/02': ['B-1/03', 'N-1/01'],
  'B-1/03': ['T-1/03', 'K-1/03'],
  'N-1/01': [],
  'T-1/03': ['P-1/03'],
  'K-1/03': ['P-1/03'],
  'P-1/03': ['X-9/01'],
};
const stateOf = (batch: string): BatchState | undefined => {
  const own = Object.entries(PARENTS).filter(([piece]) => pieceAt(piece).batch === batch);
  if (own.length === 0) return undefined;
  const pieces = own.map(([piece, parents]) => ({ position: pieceAt(piece).position, parents }));
  return { pieces } as unknown as BatchState;
};
const told = (piece: string): string[] =>
  madeOf(pieceAt(piece), stateOf).map(({ batch, position }) => pieceCode(batch, position));

describe('what a piece was made of', () => {
  it('is told with it, part by part, once each; what nobody knows is left out', () => {
    expect(told('I-1/2')).toEqual(['I-1/02', 'B-1/03', 'T-1/03', 'P-1/03', 'K-1/03', 'N-1/01']);
    expect(told('N-1/01')).toEqual(['N-1/01']);
    expect(told('I-1/07')).toEqual([]);
    expect(told('Z-4/01')).toEqual([]);
  });

  it('is by a name that is read with or without its noughts; what is no name is no place', () => {
    expect(pieceAt('B-217/03')).toEqual({ batch: 'B-217', position: 3 });
    expect(pieceAt('B-217/3')).toEqual(pieceAt(pieceCode('B-217', 3)));
    expect(pieceAt('B-217').position).toBeNaN();
  });
});
