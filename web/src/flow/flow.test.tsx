import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Flow } from '../api/queries.ts';
import { floorOf } from '../testing/tarrow.ts';
import { openPage } from '../testing/open-page.tsx';
import FlowPage from './FlowPage.tsx';
import { stationDays, throughputCsv } from './throughput.ts';

const [wood, mill] = floorOf([]).stations;
if (!wood || !mill) throw new Error('the board has stations');

/** Three days that are over and today: the mill let go 6, 0 and 9 pieces, and 4 so far. */
const flow: Flow = {
  fromDay: '2026-11-19',
  toDay: '2026-11-24',
  days: ['2026-11-19', '2026-11-20', '2026-11-23', '2026-11-24'],
  stations: [wood, { ...mill, hoursWaiting: 27, hoursADay: 9, days: 3 }],
  throughput: [
    { day: '2026-11-19', station: 'body-mill', good: 6, scrapped: 1, reworked: 0 },
    { day: '2026-11-23', station: 'body-mill', good: 9, scrapped: 0, reworked: 2 },
    { day: '2026-11-24', station: 'body-mill', good: 4, scrapped: 0, reworked: 0 },
  ],
  load: [
    { day: '2026-11-20', station: 'body-mill', hoursWaiting: 18, days: 2 },
    { day: '2026-11-23', station: 'body-mill', hoursWaiting: 36, days: 4 },
  ],
  constraint: {
    station: 'body-mill',
    now: { station: 'body-mill', hoursWaiting: 27, hoursADay: 9, days: 3 },
    daysOnTop: 3,
    daysLookedAt: 3,
    meanDays: 3,
  },
};

afterEach(() => jest.restoreAllMocks());

describe('good pieces a day', () => {
  it('count every working day, those without a piece too, and leave today out of the mean', () => {
    const [none, milled] = stationDays(flow);
    expect(none).toMatchObject({ total: 0, mean: 0 });
    expect(none?.days).toHaveLength(4);
    expect(milled).toMatchObject({ total: 19, scrapped: 1, reworked: 2, mean: 5 });
    expect(milled?.days.map(({ good }) => good)).toEqual([6, 0, 9, 4]);
  });

  it('go out as a sheet with a row for each station and day', () => {
    const lines = throughputCsv(stationDays(flow)).trim().split(/\r?\n/);
    expect(lines).toHaveLength(1 + 2 * 4);
    expect(lines[0]).toBe('day,station,good,scrapped,sent_back');
    expect(lines).toContain('2026-11-23,Body mill,9,0,2');
  });
});

describe('the flow page', () => {
  it('says which station is the constraint, why, and what left it; another is chosen by its name', async () => {
    openPage(<FlowPage />, { 'GET /api/flow': flow });
    expect(
      await screen.findByText(/Body mill is the constraint by load: .* on 3 of 3 days/),
    ).toBeInTheDocument();
    expect(screen.getByText(/27 h of work wait against 9 h a day: 3\.0 working days/)).toBeInTheDocument();
    expect(
      screen.getByText(
        'Body mill: 19 good pieces left it in the last 3 working days and today so far, 5.0 a full day; 1 scrapped and 2 sent back.',
      ),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    expect(screen.getByRole('row', { name: /23 Nov 9 0 2/ })).toBeInTheDocument();
    const all = within(screen.getByRole('region', { name: 'All stations' }));
    await userEvent.click(all.getByRole('button', { name: 'Wood room' }));
    expect(screen.getByText(/^Wood room: 0 good pieces left it/)).toBeInTheDocument();
  });

  it('says that no constraint shows, and what is wrong when the server does not answer', async () => {
    openPage(<FlowPage />, { 'GET /api/flow': { ...flow, constraint: null } });
    expect(await screen.findByText(/^No constraint shows/)).toBeInTheDocument();
  });
});
