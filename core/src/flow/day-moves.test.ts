import fc from 'fast-check';
import { hasLeft } from '../ledger/index.ts';
import { staysOf } from '../stays/index.ts';
import { file, sequences } from '../testing/random-log.ts';
import { hoursIn, longRoute } from '../testing/tarrow.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { dayMoves, stayNow, type StayOnWay } from './day-moves.ts';
import { endOfRouteMs } from './due.ts';

/** A factory that never closes, so that hours add up by hand. */
const add = (fromMs: number, minutes: number): number => fromMs + minutes * MINUTE_MS;
const ROUND_THE_CLOCK = { add, between: (fromMs: number, toMs: number) => (toMs - fromMs) / MINUTE_MS };
const ALWAYS = { zone: 'UTC', shifts: [], closedDays: [], overtime: [] };
const ofKeys = (...keys: string[]) => ({
  ...longRoute,
  operations: longRoute.operations.filter(({ key }) => keys.includes(key)),
});
const stay = (
  operation: string,
  status: StayOnWay['status'],
  [from, to]: [number, number],
  more: Partial<StayOnWay> = {},
): StayOnWay => ({
  ...{ operation, status, rule: null, fromMs: hoursIn(from), toMs: hoursIn(to) },
  ...{ ended: 'passed', reason: null, ...more },
});
const inHours = (ms: number): number => Math.round((ms / HOUR_MS) * 1000) / 1000;

/** Two pieces rest 48 h, and have 40 min of work at each of set-up, inspection and packing. */
const route = ofKeys('rest', 'setup', 'final', 'ship');
const way = [
  stay('rest', 'onHold', [0, 60], { rule: 'elapsed' }),
  stay('setup', 'waiting', [60, 70], { ended: 'started' }),
  stay('setup', 'inHand', [70, 71]),
  stay('final', 'waiting', [71, 73], { ended: 'sent back', reason: 'fret buzz' }),
  stay('setup', 'waiting', [73, 75]),
];

describe('why an earliest day moved', () => {
  const told = { pieces: 2, nowMs: hoursIn(75), endMs: hoursIn(77), add };

  it('is told by hand: 27 hours of one that rested too long, waited, and was sent back', () => {
    const { startMs, moves } = dayMoves({
      ...told,
      legs: [{ batch: 'I-1', route, stays: way }],
      fromMs: hoursIn(0),
    });
    expect(inHours(startMs - hoursIn(0))).toBe(50);
    expect(
      moves.map(({ cause, operation, movedMs, reason }) => [cause, operation, inHours(movedMs), reason]),
    ).toEqual([
      ['hold', 'rest', 12, null],
      ['waiting', 'setup', 12, null],
      ['waiting', 'final', 2, null],
      ['sent back', 'final', 0.667, 'fret buzz'],
      ['work', 'setup', 0.333, null],
    ]);
  });

  it('begins with the order: what was there before is not why, what no rack had is', () => {
    const late = dayMoves({ ...told, legs: [{ batch: 'I-1', route, stays: way }], fromMs: hoursIn(-30) });
    expect(late.moves[0]).toMatchObject({ cause: 'not begun', batch: null, movedMs: 30 * HOUR_MS });
    const given = dayMoves({ ...told, legs: [{ batch: 'I-1', route, stays: way }], fromMs: hoursIn(72) });
    expect(given.moves.map(({ cause, movedMs }) => [cause, inHours(movedMs)])).toEqual([
      ['waiting', 2],
      ['waiting', 1],
      ['sent back', 0.667],
    ]);
  });

  it('goes on from what a part was in to what the instrument was in', () => {
    const { moves, startMs } = dayMoves({
      ...{ pieces: 2, fromMs: hoursIn(0), nowMs: hoursIn(60), endMs: hoursIn(62), add },
      legs: [
        {
          batch: 'B-1',
          route: ofKeys('rest'),
          stays: [stay('rest', 'onHold', [0, 50], { rule: 'elapsed' })],
        },
        {
          batch: 'I-1',
          route: ofKeys('setup', 'final', 'ship'),
          stays: [stay('setup', 'waiting', [50, 60])],
        },
      ],
    });
    expect(inHours(startMs - hoursIn(0))).toBe(50);
    expect(moves).toMatchObject([
      { cause: 'waiting', batch: 'I-1', movedMs: 10 * HOUR_MS },
      { cause: 'hold', batch: 'B-1', movedMs: 2 * HOUR_MS },
    ]);
  });

  it('of one nobody has begun is that nobody has', () => {
    const { moves, startMs } = dayMoves({
      ...{ ...told, fromMs: hoursIn(0), endMs: hoursIn(125) },
      legs: [{ batch: null, route, stays: [] }],
    });
    expect(inHours(startMs - hoursIn(0))).toBe(50);
    expect(moves).toMatchObject([{ cause: 'not begun', movedMs: 75 * HOUR_MS }]);
  });

  it('adds up to the moment, whatever happened to a piece, from what the route said when it was opened', () => {
    fc.assert(
      fc.property(sequences, fc.integer({ min: -99, max: 999 }), (bodies, forecast) => {
        const { log, state } = file(bodies);
        const nowMs = hoursIn(2000);
        for (const piece of state?.pieces ?? []) {
          const open = stayNow(piece, nowMs);
          if (hasLeft(piece) || !open) continue;
          const own = staysOf(longRoute, log).filter(({ positions }) => positions.includes(piece.position));
          const fromMs = log[0]?.atMs ?? 0;
          const endMs = nowMs + forecast * HOUR_MS;
          const { startMs, moves } = dayMoves({
            ...{ legs: [{ batch: 'B-1', route: longRoute, stays: [...own, open] }] },
            ...{ pieces: 12, fromMs, nowMs, endMs, add },
          });
          const planned = endOfRouteMs({
            route: longRoute,
            pieces: 12,
            fromMs,
            calendar: ALWAYS,
            clock: ROUND_THE_CLOCK,
          });
          expect(startMs).toBeCloseTo(planned, 0);
          expect(moves.reduce((sum, { movedMs }) => sum + movedMs, 0)).toBeCloseTo(endMs - startMs, 0);
        }
      }),
      { numRuns: 100 },
    );
  });
});
