import { batch, board, HOUR, NOW, piece } from '../testing/tarrow.ts';
import type { Hold } from '../api/queries.ts';
import { boardRows } from './rows.ts';

const hold = (extra: Partial<Hold>): Hold => ({
  operation: 'rest',
  operationName: 'Body rest',
  rule: 'elapsed',
  word: 'rest',
  sinceMs: NOW,
  positions: [1],
  over: false,
  sentence: '',
  progress: 0,
  endMs: NOW + HOUR,
  lowMs: null,
  highMs: null,
  curedHours: null,
  neededHours: null,
  ...extra,
});
const rowOf = (batches: Parameters<typeof board>[0], code: string) => {
  const row = boardRows(board(batches)).find((candidate) => candidate.station.code === code);
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
    const row = rowOf([batch('B-217', pieces)], 'body-mill');
    expect(row.waiting).toMatchObject([{ here: 1, pegs: ['done', 'todo', 'rework', 'scrapped'] }]);
    expect(row.inHand).toMatchObject([{ here: 1, done: 1 }]);
  });

  it('puts what is due first next', () => {
    const late = batch('B-2', [piece(1)]);
    late.state.dueMs = NOW;
    const row = rowOf([batch('B-1', [piece(1)]), late], 'body-mill');
    expect(row.waiting.map((rack) => rack.batch.state.code)).toEqual(['B-2', 'B-1']);
  });

  it('orders holds by their end, those over first and those without an end last', () => {
    const resting = [piece(1, { operation: 'rest', standing: 'onHold' })];
    const racks = [
      batch('B-1', resting, { holds: [hold({ endMs: null })] }),
      batch('B-2', resting, { holds: [hold({ endMs: NOW + 9 * HOUR })] }),
      batch('B-3', resting, { holds: [hold({ over: true })] }),
      batch('B-4', resting, { holds: [hold({ endMs: null })] }),
    ];
    expect(rowOf(racks, 'wood').holds.map((at) => at.batch.state.code)).toEqual(['B-3', 'B-2', 'B-1', 'B-4']);
  });

  it('draws the groups of one rack in one hold as one bar', () => {
    const rack = batch('B-1', [piece(1), piece(2)], {
      holds: [hold({}), hold({ positions: [2], endMs: NOW + 5 * HOUR })],
    });
    expect(rowOf([rack], 'wood').holds).toMatchObject([{ more: 1 }]);
  });
});
