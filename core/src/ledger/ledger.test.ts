import { replayed, takenBack, type Correction, type Ledger } from './ledger.ts';
import type { Entry } from './entry.ts';
import { refuse } from './refusal.ts';

/** A shelf: what is put on it, and taken off again; nothing can be taken that is not there. */
type OnShelf = { type: 'put'; pieces: number } | { type: 'take'; pieces: number } | Correction;
const shelf: Ledger<{ pieces: number }, OnShelf> = {
  apply(state, { body }) {
    if (body.type === 'undo') throw new Error('a correction is not applied');
    const pieces = (state?.pieces ?? 0) + (body.type === 'put' ? body.pieces : -body.pieces);
    return pieces < 0 ? refuse('not-enough', `${-pieces} too few`) : { pieces };
  },
};
const put = (pieces: number): OnShelf => ({ type: 'put', pieces });
const take = (pieces: number): OnShelf => ({ type: 'take', pieces });
const undo = (...voids: number[]): Correction => ({ type: 'undo', voids });
const log = (...bodies: OnShelf[]): Entry<OnShelf>[] =>
  bodies.map((body, i) => ({ seq: i + 1, atMs: i, filedMs: i, by: 'tamsin', body }));
const correct = (entries: Entry<OnShelf>[], body: Correction) =>
  takenBack(shelf, entries, { seq: entries.length + 1, atMs: 9, filedMs: 9, by: 'orrin', body });

describe('a ledger', () => {
  it('gives what its log comes to, corrections and what they took back left out', () => {
    expect(replayed(shelf, [])).toBeNull();
    expect(replayed(shelf, log(put(5), put(3), take(6)))).toEqual({ pieces: 2 });
    expect(replayed(shelf, log(put(5), put(3), undo(1)))).toEqual({ pieces: 3 });
    expect(replayed(shelf, log(put(5), undo(1)))).toBeNull();
  });

  it('tells what every entry made of it', () => {
    const seen: [number | undefined, number][] = [];
    replayed(shelf, log(put(5), put(3), undo(2), take(1)), (before, after) =>
      seen.push([before?.pieces, after.pieces]),
    );
    expect(seen).toEqual([
      [undefined, 5],
      [5, 4],
    ]);
  });

  it('names the entry that does not hold', () => {
    expect(replayed(shelf, log(put(5), put(3), take(6), undo(2)))).toEqual({
      ...refuse('not-enough', '1 too few'),
      seq: 3,
    });
  });

  it('takes entries back, several at once', () => {
    const entries = log(put(5), put(3), take(6));
    expect(correct(entries, undo(3))).toEqual({ pieces: 8 });
    expect(correct(entries, undo(2, 3))).toEqual({ pieces: 5 });
    expect(correct(entries, undo(1, 2, 3))).toBeNull();
  });

  it('does not take back what a later entry needs, what is not there, and nothing twice', () => {
    const entries = log(put(5), put(3), take(6));
    expect(correct(entries, undo(2))).toEqual(
      refuse('undo-needed-by-later', 'entry 3 came after and needs it (1 too few): take that back first'),
    );
    expect(correct(entries, undo(7))).toMatchObject({ code: 'nothing-to-undo' });
    const corrected = log(put(5), put(3), undo(2));
    expect(correct(corrected, undo(2))).toMatchObject({ code: 'nothing-to-undo' });
    expect(correct(corrected, undo(3))).toMatchObject({ code: 'undo-of-undo' });
  });
});
