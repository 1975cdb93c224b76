import { dayStarts, FREE_DAYS, rowToScale } from '@ample-crane/core';
import { screen, within } from '@testing-library/react';
import type { Board, Floor, Rack } from '../api/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { batch, floorOf, HOUR, NOW, piece, rowsOf } from '../testing/tarrow.ts';
import { BoardPage } from './BoardPage.tsx';

afterEach(() => jest.restoreAllMocks());

const inHand = batch('B-216', [
  piece(1, { standing: 'inHand', station: 'body-mill' }),
  piece(2, { standing: 'inHand', station: 'body-mill' }),
  piece(3, { standing: 'scrapped', scrapReason: 'knot' }),
]);
const waiting = Array.from({ length: 3 }, (_, i) => batch(`B-${220 + i}`, [piece(1), piece(2)]));
const late: Rack = { ...waiting[0]!, state: { ...waiting[0]!.state, dueMs: NOW - 48 * HOUR } };

/** Pieces that rest until so many hours from now. */
function resting(code: string, hours: number): Rack {
  const hold: Rack['holds'][number] = {
    ...{ operation: 'rest', operationName: 'Body rest', rule: 'elapsed', word: 'rest', sinceMs: NOW - HOUR },
    ...{
      positions: [1],
      over: false,
      sentence: 'it rests',
      rejected: false,
      progress: 0.5,
      endMs: NOW + hours * HOUR,
    },
    ...{ lowMs: null, highMs: null, curedHours: null, neededHours: null },
  };
  return batch(code, [piece(1, { operation: 'rest', standing: 'onHold' })], { holds: [hold] });
}

const DAYS = dayStarts(NOW, 'UTC', FREE_DAYS);
const boardOf = (racks: readonly Rack[], calls: Board['calls'] = []): Board => ({
  racks: racks.length,
  drawn: racks.length,
  days: DAYS,
  rows: rowsOf(racks).map((row) => ({
    ...row,
    moreWaiting: 0,
    moreInHand: 0,
    moreHolds: 0,
    used: true,
    scale: rowToScale(row, DAYS),
  })),
  calls,
  putOff: [],
});
const open = (board: Board, floor: Floor) =>
  openPage(<BoardPage />, {
    'GET /api/board': board,
    'GET /api/floor': floor,
  });
const station = async (name: string) => within(await screen.findByRole('group', { name }));

describe('the board', () => {
  it('draws each rack where it is: waiting, in hand with how many are done, on hold until when', async () => {
    const racks = [inHand, ...waiting.slice(1), resting('B-230', 24)];
    open(boardOf(racks), floorOf(racks));
    const mill = await station('Body mill');
    expect(mill.getByRole('link', { name: /B-216.*Bowline, in hand at Body mill/ })).toHaveAttribute(
      'href',
      '/batch/B-216',
    );
    // Of three pieces one is scrapped: none of two is done.
    expect(mill.getByText('0/2')).toBeInTheDocument();
    expect(mill.getAllByRole('link', { name: /2 waiting at Body mill/ })).toHaveLength(2);
    const wood = await station('Wood room');
    expect(wood.getByRole('link', { name: 'B-230, on hold, rest, Wed 14:20' })).toBeInTheDocument();
  });

  it('marks what is late, and what paces the works', async () => {
    const racks = [late];
    const { constraint: _none, ...floor } = floorOf(racks);
    open(boardOf(racks), {
      ...floor,
      stations: floor.stations.map((one) =>
        one.code === 'body-mill' ? { ...one, hoursWaiting: 31.5 } : one,
      ),
      constraint: { station: 'body-mill' } as Floor['constraint'],
    });
    const row = await screen.findByRole('group', { name: 'Body mill' });
    expect(row).toHaveClass('constraint');
    expect(row).toHaveTextContent('31.5 h waiting, 9 a day');
    expect(within(row).getByText('−2 d')).toBeInTheDocument();
  });

  it('leads to the stage where there is more than it draws', async () => {
    const holds = [24, 30, 40].map((hours, i) => resting(`B-${240 + i}`, hours));
    const board = boardOf([...waiting, ...holds]);
    const rows = board.rows.map((row) =>
      row.station === 'body-mill' ? { ...row, moreWaiting: 17, moreInHand: 2 } : { ...row, moreHolds: 5 },
    );
    open({ ...board, rows }, floorOf(waiting));
    const mill = await station('Body mill');
    expect(mill.getByRole('link', { name: '17 more waiting at Body mill' })).toHaveAttribute(
      'href',
      '/stage/machining',
    );
    expect(mill.getByRole('link', { name: '2 more in hand at Body mill' })).toHaveTextContent('+2');
    // Two of three holds are drawn on a low screen; the third and the five not told stand behind a number.
    expect((await station('Wood room')).getByRole('link', { name: /6 more on hold/ })).toHaveTextContent(
      '+6 later',
    );
  });

  it('names stations no rack goes through in one line, and offers to open a batch on an empty floor', async () => {
    const board = boardOf([inHand]);
    const rows = board.rows.map((row) => ({ ...row, used: row.station === 'body-mill' }));
    open({ ...board, rows }, floorOf([inHand]));
    expect(await screen.findByText('No open rack goes through Wood room, Neck fit.')).toBeInTheDocument();
    expect(screen.queryByRole('group', { name: 'Neck fit' })).not.toBeInTheDocument();
  });

  it('offers to open a batch where nothing is open', async () => {
    open(boardOf([]), floorOf([]));
    expect(await screen.findByRole('link', { name: 'Open a first batch' })).toHaveAttribute('href', '/open');
    expect(screen.getByText('nothing wants you now')).toBeInTheDocument();
  });
});
