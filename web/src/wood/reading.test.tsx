import type { LotState } from '@ample-crane/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter, Route, Routes } from 'react-router';
import { FilingContext, useFilingState } from '../shared/useFiling.ts';
import type { Meter } from './queries.ts';
import ReadingPage from './ReadingPage.tsx';

const board = (number: number, status: 'stacked' | 'cut' = 'stacked') => ({
  ...{ number, status, lengthMm: 2400, widthMm: 180, weightKg: null, grade: null },
});
const lot = (boards = [board(1), board(2), board(3), board(4, 'cut')]) => ({
  state: {
    code: 'W-74',
    species: 'hard maple',
    thicknessMm: 27,
    boards,
    blanks: [],
    looks: [],
  } as unknown as LotState,
  judged: { readNext: [2, 3], readings: [] },
  drying: { window: { lowPct: 6, highPct: 8.5 }, nowMs: 0 },
});
const meters: Meter[] = [
  { code: 'flat-1', name: 'flat', kind: 'pinless', note: '', calibrations: [] },
  {
    ...{ code: 'pin-1', name: 'pins', kind: 'pin', note: '' },
    calibrations: [
      {
        ...{ species: 'hard maple', samples: [], fit: null, stale: false },
        line: { a: 0.5, b: 1, samples: 9, residualSdPct: 0.2, atMs: 0, by: 'venn' },
      },
    ],
  },
];

/** What was posted to the server, in order. */
let posted: { url: string; body: { entry: object } }[] = [];
let refuse = false;

function Page() {
  const filing = useFilingState();
  return (
    <FilingContext.Provider value={filing}>
      <MemoryRouter initialEntries={['/wood/read/W-74']}>
        <Routes>
          <Route path="wood/read/:code" element={<ReadingPage />} />
        </Routes>
      </MemoryRouter>
      <p role="log">{filing.news?.text}</p>
    </FilingContext.Provider>
  );
}

function open(seen = lot()): ReturnType<typeof userEvent.setup> {
  posted = [];
  globalThis.fetch = (async (request: Request) => {
    const answer = (body: object, status = 200) =>
      new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
    if (request.method === 'POST') {
      posted.push({ url: request.url, body: (await request.json()) as { entry: object } });
      return refuse
        ? answer({ refused: 'W-74 is used up: nothing of it is left to read', code: 'nothing-here' }, 409)
        : answer({ sentence: 'W-74: 2 readings', entries: [], filedMs: 0, repeated: false });
    }
    return answer(request.url.endsWith('/meters') ? meters : seen);
  }) as typeof fetch;
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={queries}>
      <Page />
    </QueryClientProvider>,
  );
  return userEvent.setup();
}

const field = () => screen.findByLabelText(/^(board \d+|every board is read)$/, { selector: 'input' });

describe('the reading sheet', () => {
  afterEach(() => (refuse = false));

  it('starts with the boards to read next, and goes on at Enter', async () => {
    const user = open();
    await user.type(await field(), '7,4{Enter}');
    expect(await screen.findByLabelText('board 3', { selector: 'input' })).toHaveFocus();
    await user.type(await field(), '7.5{Enter}');
    expect(screen.getByLabelText('board 1', { selector: 'input' })).toBeVisible();
    expect(screen.getByText(/2 of 3 read, read next: 1$/)).toBeVisible();
    expect(screen.queryByRole('button', { name: /^board 4/ })).toBeNull();
  });

  it('takes the meter that was tested on this wood, and shows what the correction does', async () => {
    const user = open();
    await user.type(await field(), '8');
    expect(screen.getByText('= 8.50 % (temperature +0.00, species line +0.50).')).toBeVisible();
    await user.clear(await field());
    await user.type(await field(), '140');
    expect(screen.getByText(/'140' is no moisture/)).toBeVisible();
    expect(screen.getByRole('button', { name: 'Next' })).toBeDisabled();
  });

  it('judges as it goes and files what was shown, not what was corrected', async () => {
    const user = open();
    for (const value of ['7', '7.1', '7.2']) await user.type(await field(), `${value}{Enter}`);
    expect(screen.getByText(/^Pass: 3 read, mean 7.6 %/)).toBeVisible();
    await user.click(screen.getByRole('button', { name: 'File 3 readings' }));
    await waitFor(() => expect(screen.getByRole('log')).toHaveTextContent('Filed. W-74: 2 readings'));
    expect(posted[0]?.body.entry).toEqual({
      ...{ type: 'lot-read', meter: 'pin-1', depth: 'shell', woodTemperatureC: 21 },
      readings: [
        { board: 2, readingPct: 7 },
        { board: 3, readingPct: 7.1 },
        { board: 1, readingPct: 7.2 },
      ],
    });
    expect(await screen.findByRole('button', { name: 'File 0 readings' })).toBeDisabled();
  });

  it('lets a slip be read again', async () => {
    const user = open();
    await user.type(await field(), '9.9{Enter}');
    const stack = within(screen.getByRole('region', { name: 'The boards' }));
    await user.click(stack.getByRole('button', { name: 'board 2, 10.4 %' }));
    expect(await field()).toHaveValue('9.9');
    await user.clear(await field());
    await user.type(await field(), '7.9{Enter}');
    expect(stack.getByRole('button', { name: 'board 2, 8.4 %' })).toBeVisible();
  });

  it('keeps everything that was typed when the server refuses it', async () => {
    refuse = true;
    const user = open();
    await user.type(await field(), '7.4{Enter}');
    await user.click(screen.getByRole('button', { name: 'File 1 reading' }));
    expect(await screen.findByRole('alert')).toHaveTextContent('used up');
    expect(screen.getByRole('button', { name: 'board 2, 7.9 %' })).toBeVisible();
  });

  it('survives a reload with the meter and the wood it was read with, and is corrected as it will be filed', async () => {
    const user = open();
    await field();
    await user.clear(screen.getByLabelText('Wood, °C'));
    await user.type(screen.getByLabelText('Wood, °C'), '11');
    await user.click(screen.getByRole('button', { name: 'Core' }));
    await user.type(await field(), '8{Enter}');
    // −0.0055 · 8 · (11 − 21) = +0.44, then the line's +0.5.
    expect(screen.getByRole('button', { name: 'board 2, 8.9 %' })).toBeVisible();
    cleanup();
    const again = open();
    expect(await screen.findByRole('button', { name: 'board 2, 8.9 %' })).toBeVisible();
    expect(screen.getByLabelText('Wood, °C')).toHaveValue('11');
    // Warmer wood: what stands there follows.
    await again.clear(screen.getByLabelText('Wood, °C'));
    await again.type(screen.getByLabelText('Wood, °C'), '21');
    expect(screen.getByRole('button', { name: 'board 2, 8.5 %' })).toBeVisible();
    await again.click(screen.getByRole('button', { name: 'File 1 reading' }));
    await waitFor(() =>
      expect(posted.at(-1)?.body.entry).toMatchObject({
        depth: 'core',
        woodTemperatureC: 21,
        meter: 'pin-1',
      }),
    );
  });

  it('says so when nothing is left to read', async () => {
    open(lot([board(1, 'cut')]));
    expect(await screen.findByText(/no board in the stack any more/)).toBeVisible();
  });
});
