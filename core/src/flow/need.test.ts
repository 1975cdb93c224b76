import { applyEntry } from '../entries/reduce.ts';
import { isRefusal } from '../ledger/refusal.ts';
import {
  bodyRoute,
  entry,
  hoursIn,
  instrumentRoute,
  longRoute,
  MONDAY,
  neckRoute,
  openBody,
} from '../testing/tarrow.ts';
import { neededBy } from './need.ts';

/** Every day from 0 to 24: what is reckoned is plain hours. */
const calendar = {
  ...{ zone: 'UTC', closedDays: [], overtime: [] },
  shifts: [
    { name: 'day', weekdays: [1, 2, 3, 4, 5, 6, 7], start: '00:00', end: '12:00', breaks: [] },
    { name: 'night', weekdays: [1, 2, 3, 4, 5, 6, 7], start: '12:00', end: '24:00', breaks: [] },
  ],
};
/** Due in forty days. */
const DUE = hoursIn(24 * 40);
const opened = (route: typeof longRoute, quantity: number) => {
  const outcome = applyEntry(null, route, entry(1, MONDAY, openBody(route, 'B-1', quantity)));
  if (isRefusal(outcome)) throw new Error(outcome.refused);
  return outcome.state;
};

describe('what each station must let go in time', () => {
  it('is what has work there that must be done by then; what is due later, or is past it, is not', () => {
    const state = opened(longRoute, 8);
    const rack = { state, route: longRoute, then: null };
    const needed = neededBy({ racks: [rack], calendar, byMs: hoursIn(5000) });
    // Once at each station, however many operations it has there, and none for the rests.
    expect(needed.get('body-mill')).toBe(8);
    expect(new Set(needed.values())).toEqual(new Set([8]));
    expect(neededBy({ racks: [rack], calendar, byMs: MONDAY - 1 }).size).toBe(0);
    const milled = {
      ...state,
      pieces: state.pieces.map((piece, i) => (i < 3 ? { ...piece, operation: 'gate' } : piece)),
    };
    expect(
      neededBy({ racks: [{ ...rack, state: milled }], calendar, byMs: hoursIn(5000) }).get('body-mill'),
    ).toBe(5);
  });

  it('goes on with what a body becomes: it must be milled the earlier, the longer that takes', () => {
    const state = opened(bodyRoute, 4);
    const body = { state, route: bodyRoute };
    const alone = neededBy({ racks: [{ ...body, then: null }], calendar, byMs: DUE - 3_600_000 });
    const withThen = neededBy({
      racks: [{ ...body, then: instrumentRoute }],
      calendar,
      byMs: DUE - 3_600_000,
    });
    expect(alone.get('clear')).toBeUndefined();
    expect(withThen.get('body-mill')).toBe(4);
    expect(withThen.get('clear')).toBe(4);
    // A neck has to be milled as early, and is counted no second time where it is part of the body.
    const neck = { state: { ...opened(neckRoute, 4) }, route: neckRoute, then: instrumentRoute };
    const both = neededBy({
      racks: [{ ...body, then: instrumentRoute }, neck],
      calendar,
      byMs: DUE - 3_600_000,
    });
    expect([both.get('body-mill'), both.get('clear')]).toEqual([8, 4]);
  });
});
