import type { Stage } from '@ample-crane/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { OrderSummary } from '../orders/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { floorOf, NOW, rackLineOf as line, SETUP } from '../testing/tarrow.ts';
import { BoardPage } from './BoardPage.tsx';
import { byOrder } from './by-order.ts';

const DAY = 86_400_000;
const STAGE_OF: Record<string, Stage> = { wood: 'wood', 'body-mill': 'machining' };

const order = (code: string, more: Partial<OrderSummary> = {}): OrderSummary => ({
  ...{ code, customer: 'Larkfield Music', reference: null, placedMs: NOW - 9 * DAY, dueMs: NOW + 20 * DAY },
  ...{
    models: [{ model: 'Bowline', quantity: 6 }],
    pieces: 6,
    shipped: 0,
    unbegun: 0,
    earliestMs: NOW + DAY,
  },
  ...more,
});
const orders = [
  order('O-9', { earliestMs: NOW + 22.5 * DAY, shipped: 1 }),
  order('O-12'),
  order('O-20', { customer: null, unbegun: 6 }),
];
/** Of twelve bodies six are O-9's, two of them ahead at the mill, four O-12's, two nobody's; all necks are O-9's. */
const lines = [
  line('B-1', {
    ...{ station: 'wood', standing: 'onHold', stations: ['wood', 'body-mill'], dueMs: NOW + 9 * DAY },
    orders: [
      { order: 'O-9', pieces: 6, stations: ['wood', 'body-mill'] },
      { order: 'O-12', pieces: 4, stations: ['body-mill'] },
    ],
  }),
  line('N-1', { orders: [{ order: 'O-9', pieces: 12, stations: ['body-mill'] }] }),
];

it('puts a rack into the row of each order it has pieces for, where those stand; what nobody ordered comes last', () => {
  const rows = byOrder(orders, lines, (station) => STAGE_OF[station]);
  expect(rows.map(({ order: of, racks, pieces }) => [of?.code ?? null, racks, pieces])).toEqual([
    ['O-9', 2, 18],
    ['O-12', 1, 4],
    ['O-20', 0, 0],
    [null, 1, 2],
  ]);
  expect(rows[0]?.stages.wood).toEqual([{ batch: 'B-1', is: 'onHold', late: false }]);
  expect(rows[0]?.stages.machining).toEqual([
    { batch: 'N-1', is: 'waiting', late: false },
    { batch: 'B-1', is: 'ahead', late: false },
  ]);
  // All four of O-12 went ahead of the rest of their rack.
  expect(rows[1]?.stages.wood).toEqual([]);
  expect(rows[1]?.stages.machining).toEqual([{ batch: 'B-1', is: 'ahead', late: false }]);
  expect(byOrder([], [], () => undefined)).toEqual([]);
});

describe('the board by order', () => {
  const open = (at: string, book = orders) =>
    openPage(
      <BoardPage />,
      {
        'GET /api/board': { racks: 2, drawn: 2, days: [], rows: [], calls: [], putOff: [] },
        'GET /api/floor': floorOf([]),
        'GET /api/racks': lines,
        'GET /api/orders': book,
        'GET /api/setup': SETUP,
      },
      { at, path: '/' },
    );

  it('has a row for each, says what is still to leave, how late, and what is not begun', async () => {
    open('/?by=order');
    const row = within(await screen.findByRole('group', { name: 'O-9' }));
    expect(row.getByText('2 racks, 18 pieces')).toBeInTheDocument();
    expect(row.getByText('2.5 days late')).toBeInTheDocument();
    expect(row.getByText('5 of 6 to leave')).toBeInTheDocument();
    expect(row.getByRole('link', { name: 'O-9 in Machining: 2 racks, 0 late' })).toHaveAttribute(
      'href',
      '/racks?order=O-9&stage=machining',
    );
    const fresh = within(screen.getByRole('group', { name: 'O-20' }));
    expect(fresh.getByText('on no rack yet')).toBeInTheDocument();
    expect(fresh.getByText('6 not begun')).toBeInTheDocument();
    expect(
      within(screen.getByRole('group', { name: 'no order' })).getByText('1 rack, 2 pieces'),
    ).toBeVisible();
  });

  it('of those that are asked for has what is on the racks: no order that is on none', async () => {
    open('/?by=order&order=O-12');
    expect(await screen.findByRole('group', { name: 'O-12' })).toBeInTheDocument();
    expect(screen.queryByRole('group', { name: 'O-9' })).not.toBeInTheDocument();
    expect(screen.queryByRole('group', { name: 'no order' })).not.toBeInTheDocument();
  });

  it('of a long book has the orders that are due first, and all in one touch', async () => {
    open(
      '/?by=order',
      Array.from({ length: 80 }, (_, i) => order(`O-${i + 100}`)),
    );
    expect(await screen.findByRole('group', { name: 'O-159' })).toBeInTheDocument();
    expect(screen.queryByRole('group', { name: 'O-160' })).not.toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Show all 81 rows' }));
    expect(screen.getByRole('group', { name: 'O-179' })).toBeInTheDocument();
  });
});
