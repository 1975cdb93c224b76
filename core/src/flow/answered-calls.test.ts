import type { Call } from './call.ts';
import { answered, type CallAnswer } from './answered-calls.ts';

const HOUR = 3_600_000;
const NOW = Date.parse('2026-11-24T19:20:00Z');
const call = (id: string, cost: number): Call => ({
  ...{ id, kind: 'late', subject: 'I-1', title: `${id} will be late`, detail: '12 pieces', cost },
  ...{ actions: [], evidence: '/batch/I-1', items: [] },
});
const answer = (of: string, extra: Partial<CallAnswer>): CallAnswer => ({
  ...{
    call: of,
    atMs: NOW - HOUR,
    by: 'ostrander',
    to: null,
    untilMs: null,
    reason: 'the customer knows',
    cost: 10,
  },
  ...extra,
});
const ids = (calls: readonly Call[]): string[] => calls.map(({ id }) => id);

describe('calls that somebody has answered', () => {
  it('are put off until their time is over', () => {
    const said = [answer('a', { untilMs: NOW + HOUR })];
    const { open, putOff } = answered([call('a', 10), call('b', 2)], said, NOW);
    expect([ids(open), ids(putOff)]).toEqual([['b'], ['a']]);
    expect(putOff[0]?.answer).toMatchObject({ by: 'ostrander', reason: 'the customer knows' });
    const then = answered([call('a', 10), call('b', 2)], said, NOW + HOUR);
    expect([ids(then.open), ids(then.putOff)]).toEqual([['a', 'b'], []]);
    expect(then.open[0]?.answer).toBeNull();
  });

  it('come back before it when they cost twice what they did', () => {
    const said = [answer('a', { untilMs: NOW + HOUR })];
    expect(ids(answered([call('a', 19.9)], said, NOW).putOff)).toEqual(['a']);
    expect(ids(answered([call('a', 20)], said, NOW).open)).toEqual(['a']);
    const ofNothing = [answer('a', { untilMs: NOW + HOUR, cost: 0 })];
    expect(ids(answered([call('a', 0)], ofNothing, NOW).putOff)).toEqual(['a']);
    expect(ids(answered([call('a', 1)], ofNothing, NOW).open)).toEqual(['a']);
  });

  it('stay with whom they were given to, also after they were put off', () => {
    const given = answered([call('a', 50)], [answer('a', { to: 'tamsin' })], NOW);
    expect(given.open[0]?.answer).toMatchObject({ to: 'tamsin', untilMs: null });
    const both = [answer('a', { to: 'tamsin', untilMs: NOW + HOUR })];
    expect(ids(answered([call('a', 10)], both, NOW).putOff)).toEqual(['a']);
    expect(answered([call('a', 10)], both, NOW + 2 * HOUR).open[0]?.answer).toMatchObject({ to: 'tamsin' });
  });

  it('are open again when they are brought back, and answers to calls that are gone say nothing', () => {
    expect(
      answered([call('a', 10)], [answer('a', {}), answer('gone', { untilMs: NOW + HOUR })], NOW),
    ).toEqual({
      open: [{ ...call('a', 10), answer: null }],
      putOff: [],
    });
  });
});
