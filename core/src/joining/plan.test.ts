import { applyEntry } from '../entries/reduce.ts';
import type { BatchState } from '../ledger/batch.ts';
import type { BodyOf, EntryBody } from '../entries/index.ts';
import { isRefusal } from '../ledger/refusal.ts';
import type { Route } from '../route/route.ts';
import {
  bodyRoute,
  entry,
  hoursIn,
  instrumentRoute,
  longRoute,
  neckRoute,
  openBody,
} from '../testing/tarrow.ts';
import { planJoin, type JoinPlan } from './plan.ts';

function build(route: Route, bodies: EntryBody[], from = 0): BatchState {
  let state: BatchState | null = null;
  bodies.forEach((body, i) => {
    const outcome = applyEntry(state, route, entry(i + 1, hoursIn(from + i), body));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    state = outcome.state;
  });
  return state as unknown as BatchState;
}

const milled = (route: Route, code: string, quantity: number): BatchState =>
  build(route, [openBody(route, code, quantity), { type: 'start' }, { type: 'done' }]);

const bodies = { state: milled(bodyRoute, 'B-217', 6), route: bodyRoute };
const necks = { state: milled(neckRoute, 'N-118', 4), route: neckRoute };
const plan = (options: Partial<Parameters<typeof planJoin>[0]> = {}) =>
  planJoin({ one: bodies, other: necks, made: null, madeRoute: instrumentRoute, ...options });

const good = (outcome: ReturnType<typeof plan>): JoinPlan & { made: BodyOf<'open'> | BodyOf<'arrive'> } => {
  if (isRefusal(outcome)) throw new Error(outcome.refused);
  if (!outcome.made) throw new Error('the join makes nothing');
  return { ...outcome, made: outcome.made };
};

describe('a join', () => {
  it('pairs as many as both sides have and keeps both parents', () => {
    const { makes, host, guest, made } = good(plan());
    expect(makes).toBe('I-217');
    expect(host.pieces).toEqual([1, 2, 3, 4]);
    expect(guest.pieces).toEqual([1, 2, 3, 4]);
    expect(made).toMatchObject({ type: 'open', code: 'I-217', quantity: 4 });
    expect(made.type === 'open' && made.parents?.[2]).toEqual(['B-217/03', 'N-118/03']);
  });

  it('may be said from either side', () => {
    expect(plan({ one: necks, other: bodies })).toEqual(plan());
  });

  it('leaves nobody behind: parts become instruments one for one', () => {
    const { host, made } = good(plan());
    const joined = applyEntry(bodies.state, bodyRoute, entry(4, hoursIn(5), host));
    const instruments = applyEntry(null, instrumentRoute, entry(1, hoursIn(5), made));
    if (isRefusal(joined) || isRefusal(instruments)) throw new Error('refused');
    expect(joined.state.pieces.filter((piece) => piece.standing === 'joined')).toHaveLength(4);
    expect(joined.state.pieces[2]?.joinedInto).toBe('I-217/03');
    expect(instruments.state.pieces).toHaveLength(4);
  });

  it('adds a second helping to the same rack of instruments', () => {
    const { made } = good(plan({ count: 2 }));
    const first = build(instrumentRoute, [made]);
    const second = good(plan({ count: 1, made: first }));
    expect(second.made).toEqual({ type: 'arrive', parents: [['B-217/01', 'N-118/01']] });
    expect(second.host.firstPosition).toBe(3);
  });

  it('refuses more than are there, strangers and other models', () => {
    expect(plan({ count: 5 })).toMatchObject({ refused: 'only 4 of N-118 are at Neck joint, 5 wanted' });
    expect(plan({ other: bodies })).toMatchObject({ code: 'not-joinable' });
    const other = { ...necks, state: { ...necks.state, model: 'Halyard' } };
    expect(plan({ other })).toMatchObject({ refused: expect.stringMatching(/different models/) as string });
    const early = { state: build(longRoute, [openBody(longRoute, 'B-9')]), route: longRoute };
    expect(plan({ one: early })).toMatchObject({ code: 'not-joinable' });
  });
});
