import { applyEntry } from '../entries/reduce.ts';
import { applyLogged, applyUndo, replay } from '../entries/replay.ts';
import { latestValues } from '../joining/fit.ts';
import { planJoin, planSplit } from '../joining/plan.ts';
import type { BatchState } from '../ledger/batch.ts';
import type { EntryBody } from '../entries/index.ts';
import { isRefusal } from '../ledger/refusal.ts';
import type { Check } from '../machining/check.ts';
import type { Operation, Route } from '../route/route.ts';
import { workedRoute } from '../route/ways.ts';
import {
  bodyRoute,
  branchingRoute,
  entry,
  hollowRoutes,
  hoursIn,
  neckRoute,
  openBody,
} from '../testing/tarrow.ts';

const width = (key: string, nominal: number): Check => ({
  key,
  name: key,
  unit: 'mm',
  nominal,
  lower: nominal - 0.05,
  upper: nominal + 0.05,
  firstPiece: true,
  sample: 1,
});
const fit = { hostCheck: 'pocket', guestCheck: 'tenon', windowMm: { low: 0.05, high: 0.15 } };
const fitted = (route: Route, check: Check): Route => ({
  ...route,
  operations: route.operations.map((operation): Operation => {
    if (operation.mode === 'join') return { ...operation, fit };
    return { ...operation, checks: [check] };
  }),
});
const bodies = fitted(bodyRoute, width('pocket', 56));
const necks = fitted(neckRoute, width('tenon', 55.9));

/** A batch after some entries, one an hour; the first refusal stops it. */
function filed(route: Route, code: string, quantity: number, ...entries: EntryBody[]): BatchState {
  let state: BatchState | null = null;
  [openBody(route, code, quantity), ...entries].forEach((body, i) => {
    const outcome = applyLogged(state, route, entry(i + 1, hoursIn(i), body));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    state = outcome.state;
  });
  if (!state) throw new Error('nothing was filed');
  return state;
}
const refusal = (state: BatchState, route: Route, body: EntryBody): string => {
  const outcome = applyEntry(state, route, entry(50, hoursIn(50), body));
  return isRefusal(outcome) ? outcome.refused : 'accepted';
};
const milled: EntryBody[] = [{ type: 'start' }, { type: 'done', because: 'measured at the bench' }];

describe('a check', () => {
  it('keeps its values by place, and the newest one counts', () => {
    const state = filed(
      bodies,
      'B-1',
      3,
      { type: 'check', check: 'pocket', values: [56, 56.01, 56.02] },
      { type: 'check', check: 'pocket', values: [56.04], pieces: [2], source: 'gauge', load: 'L-1' },
    );
    expect([...latestValues(state, 'pocket')]).toEqual([
      [1, 56],
      [2, 56.04],
      [3, 56.02],
    ]);
    expect(state.checks?.[1]).toMatchObject({ operation: 'mill', source: 'gauge', load: 'L-1' });
  });

  it('refuses inches typed as mm and says what they would be; and what is no width', () => {
    const state = filed(bodies, 'B-1', 3);
    expect(refusal(state, bodies, { type: 'check', check: 'pocket', values: [2.205] })).toBe(
      '2.205 was read in inches: pocket is about 56 mm, and 2.205 in are 56.007 mm',
    );
    expect(refusal(state, bodies, { type: 'check', check: 'pocket', values: [NaN] })).toMatch(/is no pocket/);
    expect(refusal(state, bodies, { type: 'check', check: 'pocket', values: [-56] })).toMatch(/is no pocket/);
  });

  it('takes lengths that were said with their unit for checks of lengths alone', () => {
    const state = filed(bodies, 'B-1', 3);
    const body: EntryBody = { type: 'check', check: 'pocket', values: [56.007], unit: 'mm' };
    expect(latestValues(filed(bodies, 'B-1', 3, { ...body, pieces: [2] }), 'pocket').get(2)).toBe(56.007);
    const inOther = (unit: string): Route => ({
      ...bodies,
      operations: bodies.operations.map((operation) => ({
        ...operation,
        ...(operation.checks ? { checks: operation.checks.map((one) => ({ ...one, unit })) } : {}),
      })),
    });
    expect(refusal(state, inOther('Hz'), body)).toBe('pocket is told in Hz, not in mm or inches');
    expect(refusal(state, inOther('yes'), { ...body, values: [1] })).toBe('pocket is answered by yes or no');
  });

  it('refuses a check the route does not have, another number of values than pieces, and pieces that are gone', () => {
    const state = filed(bodies, 'B-1', 3, { type: 'start' }, { type: 'scrap', pieces: [2], reason: 'knot' });
    expect(refusal(state, bodies, { type: 'check', check: 'height', values: [3] })).toBe(
      "B-1 has no check 'height': it has pocket",
    );
    expect(refusal(state, bodies, { type: 'check', check: 'pocket', values: [56], pieces: [1, 3] })).toBe(
      '1 value for 2 pieces',
    );
    expect(refusal(state, bodies, { type: 'check', check: 'pocket', values: [56], pieces: [2] })).toMatch(
      /B-1\/02 is not on the rack/,
    );
  });
});

describe('a load', () => {
  const load = { code: 'L-1', program: 'bowline-b/mill r2', firstPiece: true };
  const started: EntryBody = { type: 'start', bed: 'table-1', load };

  it('marks its pieces while they are on the table, and no longer', () => {
    const state = filed(bodies, 'B-1', 3, started, { type: 'done', pieces: [1] });
    expect(state.pieces.map(({ bed, load: mark }) => [bed, mark?.code])).toEqual([
      [undefined, undefined],
      ['table-1', 'L-1'],
      ['table-1', 'L-1'],
    ]);
  });

  it('is not done while its first piece has not passed, unless there is a reason that stays', () => {
    const state = filed(bodies, 'B-1', 3, started);
    const facts = { against: 'the first piece of L-1 is not measured' };
    expect(refusal(state, bodies, { type: 'done', facts })).toBe(facts.against);
    const outcome = applyEntry(
      state,
      bodies,
      entry(9, hoursIn(9), { type: 'done', facts, because: 'gauge away' }),
    );
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    expect(outcome.state.overrides[0]).toMatchObject({
      reason: 'gauge away',
      against: facts.against,
      pieces: 3,
    });
  });
});

describe('a press', () => {
  it('holds the pieces placed in it until they go on', () => {
    const route = workedRoute(branchingRoute);
    const state = filed(route, 'B-1', 4, { type: 'place', bed: 'press-1', pieces: [1, 2] });
    expect(state.pieces.map(({ bed }) => bed)).toEqual(['press-1', 'press-1', undefined, undefined]);
    const out = applyEntry(
      state,
      route,
      entry(9, hoursIn(9), { type: 'end', pieces: [1], because: 'clamp slipped' }),
    );
    if (isRefusal(out)) throw new Error(out.refused);
    expect(out.state.pieces[0]?.bed).toBeUndefined();
    expect(out.state.overrides[0]?.reason).toBe('clamp slipped');
  });

  it('takes nothing that waits', () => {
    expect(refusal(filed(bodies, 'B-1', 4), bodies, { type: 'place', bed: 'press-1' })).toMatch(
      /on hold or in hand/,
    );
  });
});

describe('pairing', () => {
  const widths = (check: string, ...values: number[]): EntryBody => ({ type: 'check', check, values });
  const pairs = (partner: string, ...told: [number, number][]): EntryBody => ({
    type: 'pair',
    partner,
    pairs: told.map(([piece, other]) => ({ piece, with: other, gapMm: 0.1 })),
  });
  const host = (...more: EntryBody[]) =>
    filed(bodies, 'B-1', 3, ...milled, widths('pocket', 56, 56.03, 56.06), ...more);
  const guest = (...more: EntryBody[]) =>
    filed(necks, 'N-2', 3, ...milled, widths('tenon', 55.96, 55.9, 55.93), ...more);
  const join = (one: BatchState, other: BatchState, rest: { count?: number; because?: string } = {}) =>
    planJoin({
      one: { state: one, route: bodies },
      other: { state: other, route: necks },
      made: null,
      madeRoute: { ...bodyRoute, kind: 'I', id: 'bowline-i-1' },
      ...rest,
    });

  it('is kept by the join, in whatever order the pieces stand', () => {
    const plan = join(
      host(pairs('N-2', [1, 2], [2, 3], [3, 1])),
      guest(pairs('B-1', [2, 1], [3, 2], [1, 3])),
    );
    if (isRefusal(plan)) throw new Error(plan.refused);
    expect(plan.host.pieces).toEqual([1, 2, 3]);
    expect(plan.guest.pieces).toEqual([2, 3, 1]);
    expect(plan.made).toMatchObject({
      parents: [
        ['B-1/01', 'N-2/02'],
        ['B-1/02', 'N-2/03'],
        ['B-1/03', 'N-2/01'],
      ],
    });
  });

  it('is checked again at the join: what does not fit is refused, or joined for a reason that stays', () => {
    const plan = join(host(), guest());
    expect(plan).toMatchObject({ code: 'not-paired' });
    expect(isRefusal(plan) && plan.refused).toBe(
      'B-1/01 with N-2/01: a gap of 0.04 mm, wanted is 0.05–0.15 mm: pair them again, or say why',
    );
    const forced = join(host(), guest(), { because: 'shimmed by hand' });
    if (isRefusal(forced)) throw new Error(forced.refused);
    const joined = applyEntry(host(), bodies, entry(20, hoursIn(20), forced.host));
    if (isRefusal(joined)) throw new Error(joined.refused);
    expect(joined.state.overrides.at(-1)).toMatchObject({ reason: 'shimmed by hand', pieces: 3 });
  });

  it('makes a piece wait for its partner, and frees one whose partner was lost', () => {
    const away = host(pairs('N-9', [1, 5]));
    const two = join(away, guest(), { because: 'trial' });
    expect(isRefusal(two) ? two.refused : two.host.pieces).toEqual([2, 3]);
    expect(join(away, guest(), { count: 3 })).toMatchObject({ code: 'not-paired' });
    const lost = guest(pairs('B-1', [2, 1]), { type: 'scrap', pieces: [2], reason: 'twist' });
    const plan = join(host(pairs('N-2', [1, 2])), lost, { because: 'trial' });
    expect(isRefusal(plan) ? plan.refused : plan.host.pieces).toEqual([1, 2]);
  });

  it('offers the pairs that are filed, and the rest only when they are counted in (11.13)', () => {
    const [body, neck] = [host(pairs('N-2', [1, 2], [3, 1])), guest(pairs('B-1', [2, 1], [1, 3]))];
    const plan = join(body, neck);
    if (isRefusal(plan)) throw new Error(plan.refused);
    expect([plan.host.pieces, plan.guest.pieces]).toEqual([
      [1, 3],
      [2, 1],
    ]);
    const all = join(body, neck, { count: 3, because: 'the last one is eased' });
    if (isRefusal(all)) throw new Error(all.refused);
    expect(all.host.pieces).toEqual([1, 3, 2]);
  });

  it('takes planing and shims: the width goes on as it must be now, until it is measured again (11.13)', () => {
    const planed = guest({ type: 'adjust', how: 'plane', byMm: 0.18, pieces: [1] });
    expect(latestValues(planed, 'tenon').get(1)).toBeCloseTo(55.78, 9);
    expect(planed.checks?.at(-1)).toMatchObject({ source: 'reckoned', operation: 'mill' });
    const shimmed = guest({ type: 'adjust', how: 'shim', byMm: 0.1, pieces: [2] });
    expect(latestValues(shimmed, 'tenon').get(2)).toBeCloseTo(56, 9);
    expect(
      latestValues(host({ type: 'adjust', how: 'plane', byMm: 0.1, pieces: [1] }), 'pocket').get(1),
    ).toBeCloseTo(56.1, 9);
    expect(refusal(guest(), necks, { type: 'adjust', how: 'plane', byMm: 9, pieces: [1] })).toBe(
      '9 mm cannot be planed off: above 0 to 2 mm',
    );
    const unmeasured = filed(necks, 'N-2', 3, ...milled);
    expect(refusal(unmeasured, necks, { type: 'adjust', how: 'shim', byMm: 0.1, pieces: [1] })).toBe(
      'N-2/01 is not measured: measure it first, then say what was done to it',
    );
    // Measured again, what is read counts.
    const again = guest(
      { type: 'adjust', how: 'plane', byMm: 0.18, pieces: [1] },
      { type: 'check', check: 'tenon', values: [55.8], pieces: [1] },
    );
    expect(latestValues(again, 'tenon').get(1)).toBe(55.8);
  });

  it('with 12 bodies and 11 necks says what is missing', () => {
    const again: EntryBody[] = [
      { type: 'start', operation: 'mill' },
      { type: 'done', operation: 'mill', because: 'measured at the bench' },
    ];
    const twelve = filed(bodies, 'B-1', 12, ...milled, ...again);
    const eleven = filed(necks, 'N-2', 11, ...milled, ...again);
    const plan = join(twelve, eleven, { count: 12 });
    expect(isRefusal(plan) && plan.refused).toBe('only 11 of N-2 are at Neck joint, 12 wanted');
  });

  it('is replaced by a new one with the same batch, and stands in the way of one with another', () => {
    const again = host(pairs('N-2', [1, 2], [2, 1]), pairs('N-2', [3, 3]));
    expect(again.pieces.map(({ partner }) => partner?.piece)).toEqual([undefined, undefined, 'N-2/03']);
    expect(refusal(again, bodies, pairs('N-7', [3, 1]))).toMatch(
      /paired with N-2\/03: undo that pairing first/,
    );
    expect(refusal(again, bodies, pairs('N-2', [1, 1], [1, 2]))).toBe('a piece is paired twice');
  });
});

describe('a host that takes its guest in', () => {
  const [sides, tops, , wedges] = hollowRoutes;
  if (!sides || !tops || !wedges) throw new Error('no hollow routes');

  it('goes on as what it is, and keeps both parents', () => {
    const backs = hollowRoutes[2] ?? tops;
    const host = filed(sides, 'S-1', 2);
    const plan = planJoin({
      one: { state: filed(backs, 'K-4', 2), route: backs },
      other: { state: host, route: sides },
      made: null,
      madeRoute: null,
    });
    if (isRefusal(plan)) throw new Error(plan.refused);
    expect(plan).toMatchObject({ makes: 'S-1', made: null });
    const outcome = applyEntry(host, sides, entry(9, hoursIn(9), plan.host));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    expect(outcome.state.pieces.map(({ operation, parents }) => [operation, parents])).toEqual([
      ['top-on', ['K-4/01']],
      ['top-on', ['K-4/02']],
    ]);
    const guest = applyEntry(filed(backs, 'K-4', 2), backs, entry(9, hoursIn(9), plan.guest));
    expect(isRefusal(guest) ? guest.refused : guest.state.pieces.map(({ joinedInto }) => joinedInto)).toEqual(
      ['S-1/01', 'S-1/02'],
    );
  });

  it('parts a wedge into top and back, each a batch of its own with the wedge as parent', () => {
    const state = filed(wedges, 'P-7', 3);
    const made = new Map([
      ['T', { state: null, route: tops }],
      ['K', { state: null, route: hollowRoutes[2] ?? tops }],
    ]);
    const plan = planSplit({ side: { state, route: wedges }, selection: { count: 2 }, made });
    if (isRefusal(plan)) throw new Error(plan.refused);
    expect(plan.made.map(({ code, body }) => [code, body.parents])).toEqual([
      ['T-7', [['P-7/01'], ['P-7/02']]],
      ['K-7', [['P-7/01'], ['P-7/02']]],
    ]);
    const outcome = applyEntry(state, wedges, entry(9, hoursIn(9), plan.parted));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    expect(outcome.state.pieces.map(({ standing, partedInto }) => [standing, partedInto])).toEqual([
      ['parted', ['T-7/01', 'K-7/01']],
      ['parted', ['T-7/02', 'K-7/02']],
      ['waiting', undefined],
    ]);
    const five = planSplit({ side: { state, route: wedges }, selection: { count: 5 }, made });
    expect(isRefusal(five) && five.refused).toBe('only 3 of P-7 can be parted at Resaw, not 5');
  });
});

describe('a move to another revision or other ways', () => {
  const open: EntryBody = openBody(branchingRoute, 'B-1', 2);
  const move = (ways: Record<string, string>, reason = 'mill is down'): EntryBody => ({
    type: 'reroute',
    routeId: branchingRoute.id,
    ways,
    reason,
  });
  const log = (...bodies: EntryBody[]) => bodies.map((body, i) => entry(i + 1, hoursIn(i), body));
  const dried: EntryBody = { type: 'end', because: 'dry by the other meter' };

  it('goes on by the other way, replays to the same, and can be taken back', () => {
    const entries = log(open, move({ dry: 'copy' }), dried);
    const state = replay(branchingRoute, entries);
    if (!state || isRefusal(state)) throw new Error('it does not replay');
    expect(state.pieces.map(({ operation }) => operation)).toEqual(['copy', 'copy']);
    expect(state.moves).toMatchObject([{ reason: 'mill is down' }]);
    const back = applyUndo(branchingRoute, entries.slice(0, 2), {
      ...entry(3, hoursIn(5), open),
      body: { type: 'undo', voids: [2] },
    });
    expect(isRefusal(back) ? back.refused : back.state?.ways).toBeUndefined();
  });

  it('is chosen at the opening, too', () => {
    const state = replay(branchingRoute, log({ ...open, ways: { dry: 'copy' } } as EntryBody, dried));
    expect(state && !isRefusal(state) && state.pieces[0]?.operation).toBe('copy');
  });

  it('is refused without a reason, or for pieces that stand where it does not lead', () => {
    const entries = log(open, dried);
    const refused = (body: EntryBody) => {
      const outcome = replay(branchingRoute, [...entries, entry(3, hoursIn(4), body)]);
      return outcome && isRefusal(outcome) ? outcome.refused : 'accepted';
    };
    expect(refused(move({ dry: 'copy' }, ' '))).toMatch(/needs a reason/);
    expect(refused(move({ dry: 'copy' }))).toMatch(
      /B-1\/01 stands at 'mill', which revision 1 by these ways/,
    );
  });

  it('puts what waits on hold where the newer revision rests, and refuses it for what is in hand', () => {
    const newer: Route = {
      ...branchingRoute,
      id: 'bowline-b-10',
      revision: 2,
      operations: branchingRoute.operations.map((operation): Operation =>
        operation.key === 'mill'
          ? {
              key: 'mill',
              name: 'Acclimatise',
              mode: 'hold',
              stations: ['wood'],
              room: 'wood-1',
              reworkTo: null,
              caution: null,
              rule: { rule: 'elapsed', word: 'rest', hours: 24 },
              next: ['rest'],
            }
          : operation,
      ),
    };
    const book = (id: string): Route => (id === newer.id ? newer : branchingRoute);
    const to: EntryBody = { type: 'reroute', routeId: newer.id, ways: {}, reason: 'new revision' };
    const state = replay(book, log(open, dried, to));
    expect(state && !isRefusal(state) && state.pieces[0]).toMatchObject({
      standing: 'onHold',
      operation: 'mill',
    });
    const held = replay(book, log(open, dried, { type: 'start' }, to));
    expect(held && isRefusal(held) && held.refused).toMatch(/in hand at Acclimatise, which is a hold/);
  });
});
