import type { Entry, EntryBody } from './kinds.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { tallyAt } from '../ledger/tally.ts';
import { entry, hoursIn, longRoute, openBody } from '../testing/tarrow.ts';
import { applyUndo, replay } from './replay.ts';

const bodies: EntryBody[] = [
  openBody(longRoute, 'B-217'),
  { type: 'read', valuesPct: [7, 7, 7] },
  { type: 'end' },
  { type: 'start' },
  { type: 'done', count: 6 },
];
const log: Entry[] = bodies.map((body, i) => entry(i + 1, hoursIn(i), body));
const undo = (...voids: number[]) => ({
  ...entry(6, hoursIn(6), { type: 'undo', voids }),
  body: { type: 'undo' as const, voids },
});

describe('a correction', () => {
  it('takes back the last thing and leaves the log as it was', () => {
    const outcome = applyUndo(longRoute, log, undo(5));
    if (isRefusal(outcome) || !outcome.state) throw new Error('the correction was refused');
    expect(tallyAt(outcome.state, longRoute, 'mill')).toMatchObject({ inHand: 8, waiting: 4, ahead: 0 });
    expect(log).toHaveLength(5);
  });

  it('names the later entry that still needs what it would take back', () => {
    expect(applyUndo(longRoute, log, undo(4))).toMatchObject({
      code: 'undo-needed-by-later',
      refused: expect.stringMatching(/^entry 5 came after and needs it/) as string,
    });
  });

  it('takes several back together', () => {
    const outcome = applyUndo(longRoute, log, undo(4, 5));
    expect(isRefusal(outcome)).toBe(false);
  });

  it('is not corrected itself, nor made twice', () => {
    const corrected = [...log, undo(5)];
    const again = (seq: number) => applyUndo(longRoute, corrected, { ...undo(seq), seq: 7 });
    expect(again(6)).toMatchObject({
      code: 'undo-of-undo',
      refused: 'entry 6 is itself a correction: file again what it took back',
    });
    expect(again(5)).toMatchObject({ code: 'nothing-to-undo', refused: 'entry 5 is already taken back' });
    expect(again(40)).toMatchObject({ refused: 'there is no entry 40 to take back' });
  });

  it('may take back the opening of a batch, and then nothing is left of it', () => {
    expect(applyUndo(longRoute, log.slice(0, 1), undo(1))).toMatchObject({ state: null });
    expect(replay(longRoute, [...log.slice(0, 1), undo(1)])).toBeNull();
  });
});
