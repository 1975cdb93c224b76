import type { BatchState, PieceState } from '../ledger/index.ts';
import { longRoute, MONDAY } from '../testing/tarrow.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { boardRows, drawRack, type RackDrawn } from './board-rows.ts';

interface Hold {
  operation: string;
  rule: string;
  positions: number[];
  over: boolean;
  endMs: number | null;
}
const resting = (extra: Partial<Hold> = {}): Hold => ({
  operation: 'rest',
  rule: 'elapsed',
  positions: [1],
  over: false,
  endMs: MONDAY + HOUR_MS,
  ...extra,
});
const piece = (position: number, extra: Partial<PieceState> = {}): PieceState => ({
  position,
  operation: 'mill',
  standing: 'waiting',
  sinceMs: MONDAY,
  station: null,
  rework: null,
  called: null,
  joinedInto: null,
  parents: [],
  scrapReason: null,
  ...extra,
});
const rack = (
  code: string,
  pieces: PieceState[],
  options: { holds?: Hold[]; dueMs?: number } = {},
): RackDrawn<Hold> => {
  const state: BatchState = {
    code,
    kind: 'B',
    model: 'Bowline',
    routeId: longRoute.id,
    quantity: pieces.length,
    dueMs: options.dueMs ?? MONDAY + 240 * HOUR_MS,
    openedMs: MONDAY,
    lastMs: MONDAY,
    pieces,
    readings: [],
    coats: [],
    measures: [],
    overrides: [],
  };
  return drawRack({ state, route: longRoute }, options.holds ?? []);
};
const stations = ['wood', 'body-mill', 'mill-2', 'nowhere'].map((code) => ({ code }));
const rowOf = (racks: RackDrawn<Hold>[], code: string) => {
  const row = boardRows(stations, racks).find(({ station }) => station === code);
  if (!row) throw new Error('no such row');
  return row;
};

describe('a row of the board', () => {
  it('draws the same batch where it waits and where it is in hand, with its pegs as seen from there', () => {
    const pieces = [
      piece(1, { operation: 'rest', standing: 'onHold' }),
      piece(2, { standing: 'inHand', station: 'body-mill' }),
      piece(3, { rework: { from: 'rest', reason: 'chip' } }),
      piece(4, { standing: 'scrapped' }),
    ];
    const row = rowOf([rack('B-217', pieces)], 'body-mill');
    expect(row.waiting).toMatchObject([{ here: 1, pegs: ['done', 'todo', 'rework', 'scrapped'] }]);
    expect(row.inHand).toMatchObject([{ here: 1, done: 1 }]);
  });

  it('puts what is due first next', () => {
    const racks = [
      rack('B-10', [piece(1)]),
      rack('B-9', [piece(1)]),
      rack('B-2', [piece(1)], { dueMs: MONDAY }),
      rack('B-3', [piece(1, { sinceMs: MONDAY - 1 })]),
    ];
    expect(rowOf(racks, 'body-mill').waiting.map(({ batch }) => batch)).toEqual([
      'B-2',
      'B-3',
      'B-9',
      'B-10',
    ]);
  });

  it('orders holds by their end, those over first and those without an end last', () => {
    const pieces = [piece(1, { operation: 'rest', standing: 'onHold' })];
    const racks = [
      rack('B-1', pieces, { holds: [resting({ endMs: null })] }),
      rack('B-2', pieces, { holds: [resting({ endMs: MONDAY + 9 * HOUR_MS })] }),
      rack('B-3', pieces, { holds: [resting({ over: true })] }),
      rack('B-4', pieces, { holds: [resting({ endMs: null })] }),
    ];
    expect(rowOf(racks, 'wood').holds.map(({ batch }) => batch)).toEqual(['B-3', 'B-2', 'B-1', 'B-4']);
  });

  it('draws the groups of one rack in one hold as one bar', () => {
    const one = rack('B-1', [piece(1), piece(2)], {
      holds: [resting(), resting({ positions: [2], endMs: MONDAY + 5 * HOUR_MS })],
    });
    expect(rowOf([one], 'wood').holds).toMatchObject([{ more: 1 }]);
  });

  it('says which stations no open rack goes through; with nothing open every one is of use', () => {
    const used = (racks: RackDrawn<Hold>[]) =>
      boardRows(stations, racks)
        .filter((row) => row.used)
        .map(({ station }) => station);
    expect(used([])).toEqual(['wood', 'body-mill', 'mill-2', 'nowhere']);
    expect(used([rack('B-1', [piece(1)])])).not.toContain('nowhere');
  });
});
