import type { BatchState } from '../ledger/batch.ts';
import type { EntryBody } from './kinds.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { tallyAt } from '../ledger/tally.ts';
import { entry, hoursIn, longRoute, MONDAY, openBody } from '../testing/tarrow.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { applyEntry } from './reduce.ts';

/** Files bodies one after the other, an hour apart unless told when; fails the test on a refusal. */
function after(...steps: (EntryBody | [number, EntryBody])[]): BatchState {
  let state: BatchState | null = null;
  let hour = 0;
  [openBody(longRoute, 'B-217'), ...steps].forEach((step, index) => {
    const [at, body] = Array.isArray(step) ? step : [hour + 1, step];
    hour = at;
    const outcome = applyEntry(state, longRoute, entry(index + 1, hoursIn(at), body));
    if (isRefusal(outcome)) throw new Error(`step ${index} was refused: ${outcome.refused}`);
    state = outcome.state;
  });
  return state as unknown as BatchState;
}

/** What the reducer says to one more entry. */
function refusal(state: BatchState | null, body: EntryBody, atMs = hoursIn(2000), filedMs = atMs): string {
  const outcome = applyEntry(state, longRoute, { ...entry(99, atMs, body), filedMs });
  return isRefusal(outcome) ? `${outcome.code}: ${outcome.refused}` : 'accepted';
}

const dryReadings: EntryBody = { type: 'read', valuesPct: [7.1, 7.2, 7.1] };
const milled: EntryBody[] = [dryReadings, { type: 'end' }, { type: 'start' }];

describe('a rack through the mill', () => {
  it('begins on hold, drying', () => {
    expect(tallyAt(after(), longRoute, 'dry')).toMatchObject({ onHold: 12, ahead: 0 });
  });

  it('takes as many as the tables have places when nothing is said', () => {
    expect(tallyAt(after(...milled), longRoute, 'mill')).toMatchObject({ inHand: 8, waiting: 4 });
  });

  it('counts 6 done, 1 scrapped and the rest, and always adds up', () => {
    const state = after(...milled, { type: 'done', count: 6 }, { type: 'scrap', reason: 'tear-out' });
    expect(tallyAt(state, longRoute, 'mill')).toEqual({
      before: 0,
      waiting: 4,
      inHand: 1,
      onHold: 0,
      ahead: 6,
      left: 0,
      scrapped: 1,
    });
    expect(state.pieces.find((piece) => piece.standing === 'scrapped')).toMatchObject({
      position: 7,
      scrapReason: 'tear-out',
    });
  });

  it('refuses more than are in hand, and says how many there are', () => {
    const state = after(...milled, { type: 'done', count: 4 });
    expect(refusal(state, { type: 'done', count: 6 })).toBe(
      'not-enough: only 4 of 12 are in hand at Body mill, not 6',
    );
  });

  it('refuses a load over its places', () => {
    const state = after(dryReadings, { type: 'end' });
    expect(refusal(state, { type: 'start', count: 9 })).toBe(
      'over-places: Body mill has 8 places free, not 9',
    );
    expect(refusal(after(...milled), { type: 'start', count: 1 })).toBe(
      'over-places: all 8 places at Body mill are taken',
    );
  });

  it('refuses a wrong order and says where the pieces are', () => {
    const state = after(dryReadings, { type: 'end' });
    expect(refusal(state, { type: 'done' })).toMatch(
      /^nothing-here: nothing of B-217 is in hand for this: 12 waiting at Body mill/,
    );
    expect(refusal(after(), { type: 'done' })).toBe(
      'wrong-mode: B-217 is on hold at Rest & read: end the hold',
    );
  });

  it('knows named pieces, alternative stations, and those that are neither', () => {
    const state = after(dryReadings, { type: 'end' }, { type: 'start', pieces: [3, 5], station: 'mill-2' });
    expect(state.pieces.filter((piece) => piece.station === 'mill-2').map((piece) => piece.position)).toEqual(
      [3, 5],
    );
    expect(refusal(state, { type: 'done', pieces: [4] })).toMatch(
      /B-217\/04 is waiting at Body mill, not in hand/,
    );
    expect(refusal(state, { type: 'done', pieces: [13] })).toMatch(/has no piece 13/);
    expect(refusal(state, { type: 'start', station: 'packing-2' })).toMatch(/^wrong-station/);
  });

  it('asks which operation is meant when two would fit', () => {
    const state = after(...milled, { type: 'done', count: 4 });
    // What rests may be put on hold too, so that two would fit.
    expect(refusal(state, { type: 'hold', reason: 'wrong colour' })).toMatch(
      /ambiguous: B-217 has pieces at Body rest and Body mill: say at which/,
    );
    const both = after(...milled, { type: 'done' }, [60, { type: 'end' }], {
      type: 'start',
      operation: 'mill',
    });
    expect(refusal(both, { type: 'hold', reason: 'look' })).toBe(
      'ambiguous: B-217 has pieces at Mill gate and Body mill: say at which',
    );
  });
});

describe('time', () => {
  it('refuses the future beyond two minutes of slack', () => {
    const state = after();
    expect(refusal(state, dryReadings, hoursIn(3), hoursIn(1))).toMatch(
      /^in-the-future: that is 2 h in the future/,
    );
    expect(refusal(state, dryReadings, hoursIn(2) + 60_000, hoursIn(2))).toBe('accepted');
  });

  it('refuses what would have happened before the batch existed, or before its pieces came there', () => {
    expect(refusal(after(), dryReadings, MONDAY - HOUR_MS)).toMatch(
      /^too-early: that is 2 h before B-217 was opened/,
    );
    const state = after(...milled);
    expect(refusal(state, { type: 'done' }, hoursIn(2.5))).toMatch(/^too-early: B-217\/01 came to Body mill/);
  });

  it('refuses a batch that is not there, or there already', () => {
    expect(refusal(null, dryReadings)).toMatch(/^unknown-batch/);
    expect(refusal(after(), openBody(longRoute, 'B-217'))).toMatch(/^already-open/);
  });
});

describe('holds', () => {
  const resting = (): BatchState => after(...milled, [10, { type: 'done' }]);

  it('refuses a rest that is not over, and lets it be overruled with a reason that stays', () => {
    expect(refusal(resting(), { type: 'end' }, hoursIn(20))).toBe(
      'hold-not-over: Wait: 38 h of rest left, of 2 days.',
    );
    const state = after(...milled, [10, { type: 'done' }], [20, { type: 'end', because: 'trade fair' }]);
    expect(state.overrides).toEqual([
      {
        atMs: hoursIn(20),
        by: 'ostrander',
        operation: 'rest',
        pieces: 8,
        positions: [1, 2, 3, 4, 5, 6, 7, 8],
        reason: 'trade fair',
        against: 'Wait: 38 h of rest left, of 2 days.',
      },
    ]);
  });

  it('ends the hold of those whose time has come and keeps the others', () => {
    const state = after(
      ...milled,
      [10, { type: 'done', count: 3 }],
      [20, { type: 'done' }],
      [59, { type: 'end' }],
    );
    expect(tallyAt(state, longRoute, 'rest')).toMatchObject({ onHold: 5, ahead: 3 });
  });

  it('refuses wood that does not pass its gate, in its own words', () => {
    const state = after({ type: 'read', valuesPct: [8.9, 9.1, 9.4] });
    expect(refusal(state, { type: 'end' })).toBe(
      'hold-not-over: Wait: 3 read, mean 9.1 %, gate 6.0–8.5 %; 3 over.',
    );
  });

  it('sorts: a rack read piece by piece lets go those that pass', () => {
    const values = [7, 7, 7, 7, 7, 7, 7, 7, 7, 7, 9, 9];
    const state = after({ type: 'read', valuesPct: values }, { type: 'end' });
    expect(tallyAt(state, longRoute, 'dry')).toMatchObject({ onHold: 2, ahead: 10 });
  });

  it('lets a later look overrule an earlier one', () => {
    const state = after({ type: 'read', valuesPct: [9, 9, 9] }, [100, dryReadings], { type: 'end' });
    expect(tallyAt(state, longRoute, 'dry').ahead).toBe(12);
  });

  it('holds what a person calls and gives it back as it was', () => {
    const state = after(...milled, { type: 'hold', reason: 'clamp mark', station: 'body-mill', pieces: [2] });
    expect(state.pieces[1]).toMatchObject({
      standing: 'onHold',
      called: { reason: 'clamp mark', from: 'inHand' },
    });
    const back = after(...milled, { type: 'hold', reason: 'clamp mark', pieces: [2] }, { type: 'end' });
    expect(back.pieces[1]).toMatchObject({ standing: 'inHand', called: null });
  });
});

const sprayed: (EntryBody | [number, EntryBody])[] = [
  ...milled,
  [10, { type: 'done' }],
  [60, { type: 'end' }],
  [61, dryReadings],
  [62, { type: 'done', operation: 'gate' }],
  [63, { type: 'start', operation: 'clear' }],
];

describe('finishing and after', () => {
  it('asks for all coats before it lets go', () => {
    const state = after(...sprayed, [64, { type: 'coat', wetUm: 110 }]);
    expect(refusal(state, { type: 'done', operation: 'clear' })).toBe(
      'coats-missing: 1 of 2 coats on at Clear coats',
    );
    expect(refusal(state, { type: 'coat', wetUm: -5 })).toMatch(/wet film of -5/);
  });

  it('does not pass a moisture gate unread', () => {
    const state = after(...sprayed.slice(0, 5));
    expect(refusal(state, { type: 'done', operation: 'gate' })).toMatch(/^gate-not-passed: Read it/);
  });

  const curing: (EntryBody | [number, EntryBody])[] = [
    ...sprayed,
    [64, { type: 'coat' }],
    [66, { type: 'coat' }],
    [67, { type: 'done', operation: 'clear' }],
  ];
  const cured = (referenceHours: number): EntryBody => ({
    type: 'end',
    operation: 'cure',
    facts: { cured: [{ sinceMs: hoursIn(67), referenceHours }] },
  });

  it('holds the cure by the hours the climate gave, filed with the entry', () => {
    expect(refusal(after(...curing), cured(67))).toBe(
      'hold-not-over: Wait to buff: 67 of 100 reference hours, 33 h at 21 °C to go.',
    );
    expect(refusal(after(...curing), cured(100))).toBe('accepted');
    expect(refusal(after(...curing), { type: 'end', operation: 'cure' })).toMatch(/no climate is logged/);
  });

  const settling: (EntryBody | [number, EntryBody])[] = [
    ...curing,
    [170, cured(101)],
    [171, { type: 'start', operation: 'setup' }],
    [172, { type: 'measure', station: 'setup', valuesMm: [1.7, 1.8] }],
    [173, { type: 'done', operation: 'setup' }],
  ];

  it('settles only when measured again and not drifted', () => {
    const state = after(...settling);
    const letGo: EntryBody = { type: 'end', operation: 'settle' };
    expect(refusal(state, letGo, hoursIn(200))).toMatch(/4.9 days of settling left/);
    expect(refusal(state, letGo, hoursIn(320))).toMatch(/Measure again/);
    const steady = after(...settling, [318, { type: 'measure', station: 'setup', valuesMm: [1.75, 1.83] }]);
    expect(refusal(steady, letGo, hoursIn(320))).toBe('accepted');
    const moved = after(...settling, [318, { type: 'measure', station: 'setup', valuesMm: [1.95, 2.05] }]);
    expect(refusal(moved, letGo, hoursIn(320))).toBe(
      'hold-not-over: Back to set-up: action moved +0.25 mm, limit 0.10 mm.',
    );
  });

  it('sends rework back, marks it, and clears the mark when the piece is through again', () => {
    const sent = after(...settling.slice(0, -2), {
      type: 'rework',
      operation: 'setup',
      count: 1,
      reason: 'sink-back',
    });
    expect(sent.pieces[0]).toMatchObject({
      operation: 'clear',
      standing: 'waiting',
      rework: { from: 'setup', reason: 'sink-back' },
    });
    expect(refusal(sent, { type: 'rework', operation: 'clear', reason: 'run' })).toMatch(
      /^wrong-mode: Clear coats sends nothing back/,
    );
    expect(refusal(sent, { type: 'rework', operation: 'clear', reason: 'run', to: 'setup' })).toMatch(
      /rework goes back/,
    );
  });

  it('ships from the last operation, whole or in part', () => {
    const packed = [
      ...settling,
      [318, { type: 'measure', station: 'setup', valuesMm: [1.75] }],
      [319, { type: 'end', operation: 'settle' }],
      [320, { type: 'done', operation: 'final', count: 5 }],
      [321, { type: 'ship', count: 3, to: 'order 12' }],
    ] as (EntryBody | [number, EntryBody])[];
    const state = after(...packed);
    expect(tallyAt(state, longRoute, 'ship')).toMatchObject({ left: 3, waiting: 2, before: 7 });
    expect(refusal(state, { type: 'scrap', operation: 'mill', reason: 'late find' })).toBe('accepted');
  });
});

describe('values that cannot be', () => {
  it.each([
    [{ type: 'read', valuesPct: [140] }, /140 % is no moisture reading/],
    [{ type: 'read', valuesPct: [] }, /1 to 500 readings/],
    [{ type: 'read', valuesPct: [7, 8], pieces: [1] }, /2 readings for 1 piece/],
    [{ type: 'read', valuesPct: [7], pieces: [40] }, /has no piece 40/],
    [{ type: 'measure', valuesMm: [55] }, /an action of 55 mm cannot be/],
    [{ type: 'scrap', reason: '  ' }, /scrap needs a reason/],
    [{ type: 'start', count: 1.5, operation: 'dry' }, /nothing of B-217 is waiting/],
  ] as [EntryBody, RegExp][])('%j is refused', (body, message) => {
    expect(refusal(after(), body)).toMatch(message);
  });

  it('refuses racks of nothing and racks of thousands', () => {
    expect(refusal(null, openBody(longRoute, 'B-1', 0))).toMatch(/1 to 500 pieces/);
    expect(refusal(null, openBody(longRoute, 'B-1', 5000))).toMatch(/1 to 500 pieces/);
  });
});
