import { screen, within } from '@testing-library/react';
import { batch, floorOf, HOUR, NOW, piece, rowsOf } from '../testing/tarrow.ts';
import { openPage } from '../testing/open-page.tsx';
import StagePage from './StagePage.tsx';

afterEach(() => jest.restoreAllMocks());

const waiting = batch('B-217', [piece(1), piece(2)]);
const late = batch('B-218', [
  piece(1, { standing: 'inHand', station: 'body-mill', sinceMs: NOW - 2 * HOUR }),
]);
const racks = [waiting, { ...late, state: { ...late.state, dueMs: NOW - 48 * HOUR } }];
const floor = {
  ...floorOf(racks),
  stages: [
    { stage: 'machining' as const, racks: 2, waiting: 2, inHand: 1, onHold: 0, oldestMs: null, hours: 6 },
  ],
};

const ANSWERS = { 'GET /api/floor': floor, 'GET /api/stages/machining': rowsOf(racks) };

describe('the page of a stage', () => {
  it('shows its racks station by station: in hand first, then what is next, late ones marked', async () => {
    openPage(<StagePage />, ANSWERS, { at: '/stage/machining', path: '/stage/:stage' });
    expect(await screen.findByText('2 racks · 2 pieces waiting · 1 in hand · 0 on hold')).toBeInTheDocument();
    const mill = within(screen.getByRole('region', { name: 'Body mill' }));
    const rows = mill.getAllByRole('row');
    expect(rows[0]).toHaveTextContent(/in hand · Body mill.*Bowline, 1 of 1 here/);
    expect(rows[1]).toHaveTextContent(/next · Body mill.*Bowline, 2 of 2 here/);
    expect(within(rows[0] as HTMLElement).getByRole('link')).toHaveAttribute('href', '/batch/B-218');
    expect(rows[0]).toHaveTextContent('−2 d');
    expect(screen.getByText('No hold here is over now.')).toBeInTheDocument();
  });

  it('says so when there is no such stage', async () => {
    openPage(<StagePage />, ANSWERS, { at: '/stage/painting', path: '/stage/:stage' });
    expect(
      await screen.findByText("There is no stage 'painting'. Press 0 for the board."),
    ).toBeInTheDocument();
  });
});
