import { applyEntry } from '../entries/reduce.ts';
import { checkCalls } from '../flow/check-calls.ts';
import { holdContext } from '../holds/context.ts';
import { settle } from '../holds/settle.ts';
import type { BatchState } from '../ledger/batch.ts';
import type { EntryBody } from '../entries/index.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { lineEffect } from '../logline/describe.ts';
import { ACTION_CHECK, YES_NO, type Check } from '../machining/check.ts';
import type { Operation, Route } from '../route/route.ts';
import { bodyRoute, entry, hoursIn, openBody } from '../testing/tarrow.ts';
import { checksDue } from './checks-due.ts';

const check = (key: string, extra: Partial<Check>): Check => ({
  ...{ key, name: key, unit: 'mm', nominal: 57.25, lower: 57.17, upper: 57.33 },
  ...{ firstPiece: false, sample: 3 },
  ...extra,
});
const work = (key: string, checks: Check[]): Operation => ({
  ...{ key, name: key, mode: 'attended', stations: ['set-up'], setUpMinutes: 0, pieceMinutes: 5 },
  ...{ skill: null, coats: null, reworkTo: 'pocket', caution: null, checks },
});
const route: Route = {
  ...bodyRoute,
  operations: [
    work('pocket', [check('pocket-width', {})]),
    work('set-up', [
      check(ACTION_CHECK, { nominal: 1.75, lower: 1.5, upper: 2, every: true }),
      check('plays', { unit: YES_NO, nominal: 1, lower: 1, upper: null, every: true }),
    ]),
    {
      ...{ key: 'ship', name: 'Ship', mode: 'ship', stations: ['packing'], setUpMinutes: 0, pieceMinutes: 1 },
      ...{ skill: null, reworkTo: null, caution: null },
    },
  ],
};

/** Files one after the other, an hour apart; gives the state and what each answered. */
function filed(...bodies: EntryBody[]): { state: BatchState; said: string[] } {
  let state: BatchState | null = null;
  const said: string[] = [];
  [openBody(route, 'B-7', 4), ...bodies].forEach((body, i) => {
    const outcome = applyEntry(state, route, entry(i + 1, hoursIn(i), body));
    if (isRefusal(outcome)) said.push(`${outcome.code}: ${outcome.refused}`);
    else {
      state = outcome.state;
      said.push(lineEffect({ state, route, steps: [{ body, effect: outcome.effect }] }));
    }
  });
  if (!state) throw new Error('nothing was filed');
  return { state, said: said.slice(1) };
}
const widths = (...values: number[]): EntryBody => ({ type: 'check', check: 'pocket-width', values });
const start: EntryBody = { type: 'start' };
const done: EntryBody = { type: 'done' };

describe('values outside their limits are silent (11.4)', () => {
  it('no more: the answer says it, and what it means', () => {
    const { said } = filed(
      start,
      { ...widths(60.1), pieces: [2] } as EntryBody,
      widths(57.2, 57.3, 57.25, 57.4),
    );
    expect(said[1]).toBe(
      'B-7: pocket-width: 60.1 mm, outside 57.17–57.33 mm: it may not go on without a reason, 4 in hand at pocket',
    );
    expect(said[2]).toBe(
      'B-7: pocket-width: 4 measured, 1 over of 57.17–57.33 mm: it may not go on without a reason, 4 in hand at pocket',
    );
  });

  it('the piece does not pass without a reason, here or later, and a call names it until it does', () => {
    const measured: EntryBody[] = [start, widths(57.2, 60.1, 57.25, 57.3)];
    const { state, said } = filed(...measured, done, { type: 'done', pieces: [1, 3, 4] });
    expect(said[2]).toBe(
      'outside-limits: pocket-width of B-7/02 is 60.1 mm, limits 57.17–57.33 mm: send back what is wrong, or give a reason',
    );
    expect(state.pieces.map(({ operation }) => operation)).toEqual(['set-up', 'pocket', 'set-up', 'set-up']);
    expect(checkCalls([{ state, route }])).toMatchObject([
      {
        kind: 'outside-limits',
        title: '1 piece of B-7 is outside limits',
        detail: expect.stringMatching(/^B-7\/02: pocket-width 60\.1 mm, limits 57\.17–57\.33 mm\./) as string,
      },
    ]);
    const passed = filed(...measured, { type: 'done', because: 'shimmed, seen by brandt' });
    expect(passed.state.overrides[0]).toMatchObject({
      reason: 'shimmed, seen by brandt',
      against: expect.stringMatching(/^pocket-width of B-7\/02 is 60\.1 mm/) as string,
    });
    expect(checkCalls([{ state: passed.state, route }])).toEqual([]);
    // Measured late, the piece is stopped where it is now.
    const late = filed(
      start,
      { type: 'done', because: 'gauge away' },
      start,
      {
        ...widths(60.1),
        pieces: [1],
      } as EntryBody,
      { type: 'done', because: 'seen' },
    );
    expect(late.state.overrides.at(-1)?.against).toMatch(/^pocket-width of B-7\/01 is 60\.1 mm/);
  });

  it('sent back it is measured anew: what was read before does not count for it', () => {
    const { state, said } = filed(
      start,
      widths(57.2, 60.1, 57.25, 57.3),
      { type: 'rework', pieces: [2], reason: 'too wide', to: 'pocket' },
      { type: 'start', pieces: [2] },
      { type: 'done', pieces: [2] },
      { ...widths(57.3), pieces: [2] } as EntryBody,
      { type: 'done', pieces: [2] },
    );
    expect(said[4]).toBe('checks-missing: pocket is not measured yet: pocket-width of 0 of 1');
    expect(state.pieces[1]?.operation).toBe('set-up');
  });
});

describe('operations that measure need their measurements (11.5)', () => {
  const atSetUp: EntryBody[] = [start, widths(57.2, 57.3, 57.25), done, start];

  it('before they are done: what is missing is named, an override needs a reason', () => {
    const { said, state } = filed(
      ...atSetUp,
      done,
      { type: 'measure', valuesMm: [1.7, 1.8], pieces: [1, 2] },
      done,
    );
    expect(said[4]).toBe('checks-missing: set-up is not measured yet: action of 0 of 4, plays of 0 of 4');
    expect(said[6]).toBe('checks-missing: set-up is not measured yet: action of 2 of 4, plays of 0 of 4');
    const due = checksDue(state, { operation: route.operations[1] as Operation, pieces: state.pieces });
    expect(due[0]).toMatchObject({ measured: 2, wanted: 4, open: [3, 4] });
    const forced = filed(...atSetUp, { type: 'done', because: 'the fair opens' });
    expect(forced.state.overrides.at(-1)?.against).toMatch(/^set-up is not measured yet/);
  });

  it('a sample will do where the check says so, and one yes stands for all that are there', () => {
    const { state, said } = filed(
      ...atSetUp,
      { type: 'measure', valuesMm: [1.7, 1.8, 1.6, 1.9] },
      {
        type: 'check',
        check: 'plays',
        values: [1],
      },
      done,
    );
    expect(said[5]).toMatch(/^B-7: plays: yes, inside must be yes/);
    expect(state.checks?.at(-1)).toMatchObject({ positions: [1, 2, 3, 4], values: [1, 1, 1, 1] });
    expect(state.pieces.every(({ operation }) => operation === 'ship')).toBe(true);
    expect(filed(...atSetUp, { type: 'check', check: 'plays', values: [0.5] }).said.at(-1)).toBe(
      'bad-value: plays is answered by yes or no',
    );
  });

  it('an instrument with an action of 4 mm is not shipped', () => {
    const { said } = filed(
      ...atSetUp,
      { type: 'measure', valuesMm: [1.7, 4, 1.6, 1.9] },
      { type: 'check', check: 'plays', values: [1] },
      { type: 'done', pieces: [2] },
    );
    expect(said[4]).toMatch(/action: 4 measured, 1 over of 1\.5–2 mm: it may not go on without a reason/);
    expect(said[6]).toMatch(/^outside-limits: action of B-7\/02 is 4 mm, limits 1\.5–2 mm/);
  });
});

describe('settling judges absolute limits as well as drift, piece by piece (11.4)', () => {
  const rule = {
    ...{ rule: 'settle' as const, word: 'settling' as const, hours: 144, driftLimitMm: 0.1 },
    actionMm: { low: 1.5, high: 2 },
  };
  const judged = (before: number[], after: number[], positions = [1, 2, 3]) => {
    const { state } = filed();
    const set = (atMs: number, valuesMm: number[]) => ({
      ...{ atMs, operation: 'set-up', positions: positions.slice(0, valuesMm.length), valuesMm },
    });
    const measures = [set(hoursIn(0), before), set(hoursIn(146), after)];
    const group = { sinceMs: hoursIn(1), positions };
    return settle.isOver(rule, { ...holdContext({ ...state, measures }, group, hoursIn(147)), climate: [] });
  };

  it('although the mean has not moved', () => {
    expect(judged([1.7, 1.8, 1.75], [1.9, 1.6, 1.75]).sentence).toBe(
      'Back to set-up: /1 moved +0.20 mm, limit 0.10 mm; /2 moved −0.20 mm, limit 0.10 mm.',
    );
    expect(judged([1.98, 1.8, 1.75], [2.05, 1.8, 1.75])).toMatchObject({
      sentence: 'Back to set-up: action of /1 is 2.05 mm, limits 1.50–2.00 mm.',
      rejected: true,
    });
    expect(judged([1.7, 1.8, 1.75], [1.72, 1.81, 1.8])).toMatchObject({ over: true });
  });

  it('and asks for those nobody measured again', () => {
    const again = judged([1.7, 1.8, 1.75], [1.72, 1.81]);
    expect(again.sentence).toMatch(/^Measure again: .* the action of \/3 is not yet/);
    expect(again).not.toHaveProperty('rejected');
  });
});
