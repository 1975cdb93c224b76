import { isRefusal, pieceCode, type BatchState } from '../ledger/index.ts';
import { planJoin } from '../joining/index.ts';
import { specOf, type OptionBook } from '../options/index.ts';
import { specChange, tagHere } from '../orders/index.ts';
import { passportOf } from '../passport/index.ts';
import type { Route } from '../route/index.ts';
import { bodyRoute, entry, hoursIn, instrumentRoute, neckRoute } from '../testing/tarrow.ts';
import { filed } from '../testing/filed.ts';
import type { EntryBody } from './kinds.ts';
import { applyEntry } from './reduce.ts';

const work = { setUpMinutes: 15, pieceMinutes: 30, skill: null, caution: null, coats: null };
const [mill, join] = neckRoute.operations;
if (!mill || !join) throw new Error('the neck has no route');
/** Milled, fretted, joined. */
const neck: Route = {
  ...neckRoute,
  operations: [
    mill,
    {
      ...work,
      key: 'fret',
      name: 'Frets',
      mode: 'attended',
      stations: ['bench'],
      reworkTo: 'fret',
      costPerPiece: 4,
    },
    join,
  ],
};
const BOOK: OptionBook = {
  ...{ model: 'Bowline', revision: 1, rules: [] },
  options: [
    {
      ...{ key: 'frets', name: 'Frets', builtAt: ['N/fret'], shownAt: [], sharesRack: false },
      values: ['medium', 'jumbo'].map((code) => ({ code, name: code })),
    },
    {
      ...{ key: 'colour', name: 'Colour', builtAt: [], shownAt: ['N/mill'], sharesRack: true },
      values: ['amber', 'black'].map((code) => ({ code, name: code })),
    },
  ],
};
const MEDIUM = specOf(BOOK, {});
const JUMBO = specOf(BOOK, { frets: 'jumbo' });

const allot = (line: string | null, pieces: number[], spec = MEDIUM, because?: string): EntryBody => ({
  ...{ type: 'allot', line, pieces },
  ...(line === null ? {} : { spec }),
  ...(because === undefined ? {} : { because }),
});
const confirm = (value: string, pieces?: number[], wrong?: number[]): EntryBody => ({
  ...{ type: 'confirm', option: 'frets', value },
  ...(pieces ? { pieces } : {}),
  ...(wrong ? { wrong } : {}),
});
const start: EntryBody = { type: 'start' };
const done: EntryBody = { type: 'done' };
/** Two of three are for orders, one with other frets; all stand at the fret bench, in hand. */
const atTheBench = [allot('O-1/1', [1]), allot('O-2/1', [2], JUMBO), start, done, start];

describe('a tag', () => {
  it('says at every operation what matters there, and nothing of what is built for stock', () => {
    const { state } = filed(neck, 'N-4', atTheBench.slice(0, 2));
    const [one, two, three] = state.pieces;
    if (!one || !two || !three) throw new Error('three pieces');
    expect(tagHere(state, neck, one).map(({ name, valueName, built }) => [name, valueName, built])).toEqual([
      ['Colour', 'amber', false],
    ]);
    expect(tagHere(state, neck, three)).toEqual([]);
    const there = filed(neck, 'N-4', atTheBench).state;
    expect(tagHere(there, neck, there.pieces[1] ?? two)).toEqual([
      { option: 'frets', name: 'Frets', value: 'jumbo', valueName: 'jumbo', built: true, confirmed: null },
    ]);
  });

  it('must be confirmed where an option is built in, and the wrong one is caught there', () => {
    const { state, said } = filed(neck, 'N-4', [
      ...atTheBench,
      done,
      confirm('medium', undefined, [2]),
      done,
      confirm('jumbo', [2]),
      confirm('gold', [3]),
      done,
    ]);
    expect(said[5]).toBe(
      "unconfirmed: Frets medium of N-4/01 is not confirmed against its tag at Frets, and 1 more: say 'N-4 confirm frets medium'",
    );
    expect(said[6]).toContain(
      'stop: medium is not the frets on the tag of place 2; fetch what it says and confirm that',
    );
    expect(said[7]).toBe(
      'other-option: N-4/02 is to have Frets jumbo: something else was held against its tag',
    );
    expect(said[9]).toBe("nothing-here: N-4/03 gets no 'frets' where it stands");
    expect(said[10]).toMatch(/^N-4: 3 done/);
    expect(state.confirms?.map(({ value, right, wrong }) => [value, right, wrong])).toEqual([
      ['medium', [1], [2]],
      ['jumbo', [2], []],
    ]);
  });

  it('leaves what was held against it in the passport, the wrong one too', () => {
    const { state } = filed(neck, 'N-4', [...atTheBench, confirm('medium'), confirm('jumbo', [2])]);
    const told = passportOf(state, neck, 2).filter(({ kind }) => kind === 'tag');
    expect(told.map(({ at, words, by }) => [at, words, by])).toEqual([
      ['Frets', 'Frets medium, not what its tag says: caught there', 'ostrander'],
      ['Frets', 'Frets jumbo, as its tag says', 'ostrander'],
    ]);
    expect(passportOf(state, neck, 3).filter(({ kind }) => kind === 'tag')).toEqual([]);
  });

  it('is confirmed anew when the piece came back to be built again', () => {
    const { state } = filed(neck, 'N-4', [
      ...atTheBench,
      confirm('medium', [1]),
      confirm('jumbo', [2]),
      { type: 'rework', pieces: [1], to: 'fret', reason: 'a fret lifts' },
    ]);
    const confirmed = (place: number): unknown => {
      const piece = state.pieces[place - 1];
      return piece && tagHere(state, neck, piece)[0]?.confirmed;
    };
    expect([confirmed(1), confirmed(2)]).toEqual([null, true]);
  });

  it('is not asked of a rack that no order wants', () => {
    expect(filed(neck, 'N-4', [start, done, start, done]).said.at(-1)).toMatch(/3 done/);
    expect(filed(neck, 'N-4', [start, done, start, confirm('jumbo')]).said.at(-1)).toBe(
      "nothing-here: no piece of N-4 gets 'frets' where it stands",
    );
  });
});

describe('whose a piece is', () => {
  it('may be changed with a reason, and not to what it was not built as', () => {
    const fretted = [...atTheBench, confirm('medium', [1]), confirm('jumbo', [2]), done];
    const { said, state } = filed(neck, 'N-4', [
      ...fretted,
      allot('O-3/1', [1]),
      allot('O-3/1', [1], MEDIUM, 'O-1 can wait'),
      allot('O-3/1', [2], MEDIUM, undefined),
      allot('O-2/1', [1], JUMBO, 'refretted by hand'),
      allot(null, [2], MEDIUM, 'cancelled'),
      allot(null, [2]),
      allot('O-1/1', [9]),
    ]);
    expect(said.slice(fretted.length)).toEqual([
      'taken: N-4/01 is built for O-1/1: say why it is taken from there',
      expect.stringContaining('1 piece for O-3/1 because O-1 can wait'),
      'taken: N-4/02 is built for O-2/1: say why it is taken from there',
      expect.stringContaining('1 piece for O-2/1 because refretted by hand'),
      expect.stringContaining('1 piece back to stock because cancelled'),
      'taken: N-4/02 is built for stock already',
      'not-enough: N-4/09 never was on the rack',
    ]);
    expect(state.pieces.map(({ line }) => line)).toEqual(['O-2/1', undefined, undefined]);
  });

  it('is not given what it stands past as another, or what nobody knows, without a reason', () => {
    const fretted = [...atTheBench, confirm('medium', [1]), confirm('jumbo', [2]), done];
    const { said } = filed(neck, 'N-4', [...fretted, allot('O-1/1', [1], JUMBO), allot('O-1/1', [3], JUMBO)]);
    expect(said.slice(-2)).toEqual([
      'other-option: N-4/01: Frets medium, not jumbo; say why it is right for O-1/1',
      'other-option: N-4/03: nobody knows its Frets, jumbo is wanted; say why it is right for O-1/1',
    ]);
  });

  it('tells what a change of spec touches, what is done already and what it costs', () => {
    const milled = filed(neck, 'N-4', atTheBench.slice(0, 4)).state;
    const [open] = specChange(milled, neck, 'O-1/1', JUMBO);
    expect(open).toMatchObject({
      operations: ['Frets'],
      done: [],
      open: ['N-4/01'],
      minutesAgain: 0,
      costAgain: 0,
    });
    const fretted = filed(neck, 'N-4', [
      ...atTheBench,
      confirm('medium', [1]),
      confirm('jumbo', [2]),
      done,
    ]).state;
    // One neck again: 15 minutes of setting up, 30 of work; 4 of material.
    expect(specChange(fretted, neck, 'O-1/1', JUMBO)).toEqual([
      {
        ...{ batch: 'N-4', option: 'Frets', from: 'medium', to: 'jumbo', operations: ['Frets'] },
        ...{ done: ['N-4/01'], open: [], minutesAgain: 45, costAgain: 4 },
      },
    ]);
    expect(specChange(fretted, neck, 'O-9/1', JUMBO)).toEqual([]);
  });
});

describe('at the join', () => {
  const milled = [start, done];
  const bodies = (lines: readonly EntryBody[]): BatchState =>
    filed(bodyRoute, 'B-4', [...lines, ...milled]).state;
  const necks = (lines: readonly EntryBody[]): BatchState =>
    filed(neckRoute, 'N-4', [...lines, ...milled]).state;
  const plan = (host: BatchState, guest: BatchState, rest: { count?: number; because?: string } = {}) =>
    planJoin({
      ...{ one: { state: host, route: bodyRoute }, other: { state: guest, route: neckRoute } },
      ...{ made: null, madeRoute: instrumentRoute },
      ...rest,
    });

  it('pieces of one order meet, whatever their places, and the instrument is of that order', () => {
    const made = plan(bodies([allot('O-1/1', [1])]), necks([allot('O-1/1', [3])]));
    if (isRefusal(made) || made.made?.type !== 'open') throw new Error('they join');
    expect(made.host.pieces).toEqual([1, 2, 3]);
    expect(made.guest.pieces).toEqual([3, 1, 2]);
    const outcome = applyEntry(null, instrumentRoute, entry(1, hoursIn(9), made.made));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    const { state } = outcome;
    expect(state.pieces.map(({ line }) => line)).toEqual(['O-1/1', undefined, undefined]);
    expect(state.allotted).toEqual([{ line: 'O-1/1', spec: MEDIUM }]);
    expect(state.pieces[0]?.parents).toEqual([pieceCode('B-4', 1), pieceCode('N-4', 3)]);
  });

  it('pieces of two orders do not meet, nor one of an order and one for stock: its own other half is on its way', () => {
    const necksOfOne = necks([allot('O-1/1', [1, 2, 3])]);
    for (const other of [bodies([allot('O-2/1', [1, 2, 3])]), bodies([])]) {
      const mixed = plan(other, necksOfOne);
      expect(isRefusal(mixed) && mixed.code).toBe('not-paired');
      expect(isRefusal(mixed) && mixed.refused).toContain('are not of one order');
    }
    // Two of three are for stock on both sides: they meet, the third waits.
    const two = plan(bodies([]), necks([allot('O-1/1', [2])]));
    expect(isRefusal(two) ? two.refused : two.guest.pieces).toEqual([1, 3]);
  });

  it('a reason joins what is not of one order; the instrument is of the order of either, and the reason stays', () => {
    const made = plan(bodies([]), necks([allot('O-1/1', [2])]), { count: 3, because: 'the body split' });
    if (isRefusal(made) || made.made?.type !== 'open') throw new Error('they join');
    expect(made.made.lines).toEqual([{ line: 'O-1/1', spec: MEDIUM, pieces: [3] }]);
    expect(made.host.facts?.against).toBe('B-4/03 is built for stock, N-4/02 for O-1/1');
  });
});
