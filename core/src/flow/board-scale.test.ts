import type { HoldAt, RackAt } from './board-rows.ts';
import { dayStarts, FREE_DAYS, rowToScale } from './board-scale.ts';

const ZONE = 'America/Chicago';
const at = (iso: string): number => Date.parse(iso);
/** Tuesday, 13:20 in the factory. */
const NOW = at('2026-11-24T19:20:00Z');

const hold = (batch: string, endMs: number | null, extra: { over?: boolean; operation?: string } = {}) =>
  ({
    ...{ batch, model: 'Bowline', quantity: 12, dueMs: NOW, station: 'cure', more: 0 },
    hold: {
      operation: extra.operation ?? 'cure',
      rule: 'cure',
      positions: [1],
      over: extra.over ?? false,
      endMs,
    },
  }) satisfies HoldAt<{
    operation: string;
    rule: string;
    positions: number[];
    over: boolean;
    endMs: number | null;
  }>;
const inHand = (batch: string, operation: string, dueMs = NOW): RackAt => ({
  ...{ batch, model: 'Bowline', quantity: 12, dueMs, station: 'bench', operation, operationName: operation },
  ...{ pegs: [], here: 12, done: 0, sinceMs: NOW },
});

describe('days of the factory', () => {
  it('begin at its midnight, also when the clocks are put forward', () => {
    expect(dayStarts(NOW, ZONE, 2)).toEqual([
      at('2026-11-24T06:00:00Z'),
      at('2026-11-25T06:00:00Z'),
      at('2026-11-26T06:00:00Z'),
    ]);
    // On 8 March 2026 the hour from two to three is left out.
    const [first = 0, second = 0] = dayStarts(at('2026-03-08T12:00:00Z'), ZONE, 1);
    expect((second - first) / 3_600_000).toBe(23);
  });
});

describe('a row of a board of many racks', () => {
  const days = dayStarts(NOW, ZONE, FREE_DAYS);

  it('counts racks by the day on which they come free, worked out by hand', () => {
    const holds = [
      hold('I-1', NOW - 3_600_000, { over: true }),
      hold('I-2', at('2026-11-25T05:59:00Z')), // one minute before midnight: today
      hold('I-3', at('2026-11-25T06:00:00Z')), // midnight: tomorrow
      hold('I-4', at('2026-11-27T12:00:00Z')),
      hold('I-5', at('2026-12-01T05:59:59Z')), // the last moment of the seventh day
      hold('I-6', at('2026-12-01T06:00:00Z')), // later
      hold('I-7', null),
      hold('I-8', NOW - 60_000), // its time is past, and its rule still says no: it is looked for today
    ];
    expect(rowToScale({ inHand: [], holds }, days)).toEqual({
      places: [],
      over: ['I-1'],
      free: [2, 1, 0, 1, 0, 0, 1],
      later: 1,
      open: 1,
    });
  });

  it('counts a rack once, by the hold that ends first', () => {
    const soon = at('2026-11-26T12:00:00Z');
    const twice = [hold('I-1', null), hold('I-1', soon, { operation: 'rest' }), hold('I-2', soon)];
    expect(rowToScale({ inHand: [], holds: twice }, days)).toMatchObject({
      free: [0, 0, 2, 0, 0, 0, 0],
      open: 0,
    });
    const over = [...twice, hold('I-2', soon - 1, { over: true, operation: 'rest' })];
    expect(rowToScale({ inHand: [], holds: over }, days)).toMatchObject({
      over: ['I-2'],
      free: [0, 0, 1, 0, 0, 0, 0],
    });
  });

  it('has a rack at one place, though it is in hand at two operations there', () => {
    const racks = [inHand('N-1', 'fret', NOW - 1), inHand('N-2', 'fret'), inHand('N-1', 'board', NOW - 1)];
    expect(rowToScale({ inHand: racks, holds: [] }, days).places).toEqual([
      { batch: 'N-1', dueMs: NOW - 1 },
      { batch: 'N-2', dueMs: NOW },
    ]);
  });

  it('loses no rack of five hundred', () => {
    const holds = Array.from({ length: 500 }, (_, i) =>
      hold(`I-${i}`, i % 7 === 0 ? null : NOW + (i % 300) * 3_600_000, { over: i % 11 === 0 }),
    );
    const { over, free, later, open } = rowToScale({ inHand: [], holds }, days);
    expect(over.length + free.reduce((sum, n) => sum + n, 0) + later + open).toBe(500);
    expect(over).toHaveLength(46);
  });
});
