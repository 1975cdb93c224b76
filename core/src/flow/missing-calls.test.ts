import { applyEntry } from '../entries/reduce.ts';
import type { BatchState } from '../ledger/batch.ts';
import type { EntryBody } from '../entries/index.ts';
import { isRefusal } from '../ledger/refusal.ts';
import type { Route } from '../route/route.ts';
import { bodyRoute, entry, hoursIn, openBody } from '../testing/tarrow.ts';
import { pairCalls, uncutPieces, woodCalls } from './missing-calls.ts';

const FIT = { hostCheck: 'pocket-width', guestCheck: 'heel-width', windowMm: { low: 0, high: 0.1 } };
const route: Route = {
  ...bodyRoute,
  operations: bodyRoute.operations.map((operation) =>
    operation.mode === 'join' ? { ...operation, fit: FIT } : operation,
  ),
};

function rack(...bodies: EntryBody[]): { state: BatchState; route: Route } {
  let state: BatchState | null = null;
  [openBody(route, 'B-1', 3), ...bodies].forEach((body, i) => {
    const outcome = applyEntry(state, route, entry(i + 1, hoursIn(i), body));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    state = outcome.state;
  });
  return { state: state as unknown as BatchState, route };
}
const milled: EntryBody[] = [{ type: 'start' }, { type: 'done' }];

describe('what is missing is a call, not a silence (11.10)', () => {
  it('of wood: until a rack is cut, and only for pieces that have none', () => {
    expect(uncutPieces(rack())).toBe(3);
    expect(uncutPieces(rack({ type: 'start' }))).toBe(0);
    const one = { batch: 'B-1', pieces: 12, wooded: 4 };
    expect(woodCalls([one, { batch: 'B-2', pieces: 12, wooded: 12 }])).toMatchObject([
      {
        title: 'B-1 has no wood for 8 of its 12 pieces',
        actions: [{ label: 'Choose wood for B-1', href: '/wood/choose/B-1' }],
      },
    ]);
    expect(woodCalls([{ ...one, wooded: 12 }])).toEqual([]);
  });

  it('of pairs: where pieces wait to be joined by measurement and nobody paired them', () => {
    const waiting = rack(...milled);
    expect(pairCalls(waiting)).toMatchObject([
      {
        title: '3 of B-1 wait at Neck joint without a pair',
        detail: expect.stringMatching(/^3 of them have no pocket width measured/) as string,
        actions: [{ href: '/fitting/pairing/B-1' }],
      },
    ]);
    const measured = rack(...milled);
    measured.state.checks = [
      {
        ...{ atMs: hoursIn(3), operation: 'mill', check: 'pocket-width' },
        ...{ positions: [1, 2, 3], values: [56, 56, 56] },
      },
    ] as never;
    expect(pairCalls(measured)[0]?.detail).toMatch(/^All of them are measured/);
    const paired = structuredClone(measured);
    for (const piece of paired.state.pieces) piece.partner = { piece: `N-1/0${piece.position}`, gapMm: 0.05 };
    expect(pairCalls(paired)).toEqual([]);
    expect(pairCalls(rack())).toEqual([]);
  });
});
