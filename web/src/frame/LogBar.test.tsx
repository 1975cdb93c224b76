import 'fake-indexeddb/auto';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { fakeServer, type Answer } from '../testing/fake-server.ts';
import { batch, floorOf, NOW, piece } from '../testing/tarrow.ts';
import { LogBar } from './LogBar.tsx';
import { FilingContext, useFilingState, type FilingNews } from '../shared/useFiling.ts';

const rack = batch('B-217', [piece(1), piece(2)]);
const floor = {
  ...floorOf([rack]),
  lastFiling: {
    key: 'filing-41',
    batch: 'B-217',
    sentence: 'B-217: 3 readings',
    filedMs: NOW,
    by: 'ostrander',
    correction: false,
  },
};

/** What a touch elsewhere on the page is answered. */
let tell: (news: FilingNews) => void;

function Bar() {
  const filing = useFilingState();
  tell = filing.setNews;
  return (
    <FilingContext.Provider value={filing}>
      <LogBar floor={floor} nowMs={NOW} />
    </FilingContext.Provider>
  );
}

/** The bar, and what it sent; each answer is one of the given, the last one again and again. */
function open(...answers: Answer[]) {
  const sent = fakeServer<{ key: string; line?: string; filing?: string; touchedAt?: string }>(
    { '/api/batches/B-217/rack': rack },
    answers,
  );
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Bar />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { sent, input: screen.getByLabelText('Log') };
}
const filed = {
  status: 200,
  body: { sentence: 'B-217: 2 started', entries: [], filedMs: NOW, repeated: false },
};
const away = {
  status: 503,
  body: { message: 'the database is not answering; nothing was filed', details: [] },
};

beforeEach(() => localStorage.clear());
afterEach(() => jest.restoreAllMocks());

describe('the log bar', () => {
  it('previews, files on Enter and empties itself', async () => {
    const { sent, input } = open(filed);
    await userEvent.type(input, 'B-217 start');
    expect(screen.getByRole('status')).toHaveTextContent(
      'B-217: 2 started, 2 in hand at Body mill: Enter files it',
    );
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('Filed. B-217: 2 started'));
    expect(sent).toMatchObject([{ line: 'B-217 start' }]);
    expect(input).toHaveValue('');
  });

  it('offers to take back the last thing filed, when it is one’s own', async () => {
    const { sent } = open({
      status: 200,
      body: { ...filed.body, sentence: 'Corrected: B-217 entry 2 taken back' },
    });
    expect(screen.getByText('last 14:20: B-217: 3 readings')).toBeInTheDocument();
    const back = screen.getByRole('button', { name: 'Take back B-217' });
    await userEvent.dblClick(back);
    await waitFor(() =>
      expect(screen.getByRole('status')).toHaveTextContent('Corrected: B-217 entry 2 taken back'),
    );
    // Once, however often it is pressed: the key follows from what is taken back (12.4).
    expect(sent).toMatchObject([{ key: 'undo-filing-41', filing: 'filing-41', by: 'ostrander' }]);
    expect(back).not.toBeInTheDocument();
  });

  it('keeps a line that is not understood, and sends nothing', async () => {
    const { sent, input } = open(filed);
    await userEvent.type(input, 'B-217 drill 6 done{Enter}');
    expect(screen.getByRole('status')).toHaveTextContent("'drill' is not understood");
    expect(input).toHaveValue('B-217 drill 6 done');
    expect(sent).toEqual([]);
  });

  it('goes on saying what a line would change when a touch is filed meanwhile; a refusal is told', async () => {
    const { input } = open(filed);
    await userEvent.type(input, 'B-217 start');
    act(() => tell({ tone: 'good', text: 'Filed. B-218: hold of 11 ended' }));
    expect(screen.getByRole('status')).toHaveTextContent(/B-217: 2 started.*Enter files it/);
    act(() => tell({ tone: 'refused', text: 'B-218: 2 h of rest left' }));
    expect(screen.getByRole('status')).toHaveTextContent('B-218: 2 h of rest left');
    await userEvent.type(input, ' ');
    expect(screen.getByRole('status')).toHaveTextContent(/Enter files it/);
    await userEvent.clear(input);
    act(() => tell({ tone: 'good', text: 'Filed. B-218: hold of 11 ended' }));
    expect(screen.getByRole('status')).toHaveTextContent('Filed. B-218: hold of 11 ended');
  });

  it('keeps a line that the server refuses, with the reason', async () => {
    const { input } = open({ status: 409, body: { refused: 'all places are taken', code: 'over-places' } });
    await userEvent.type(input, 'B-217 start{Enter}');
    await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('all places are taken'));
    expect(input).toHaveValue('B-217 start');
  });

  it('keeps a line while the server is away and files it under the same key when it is back', async () => {
    const { sent, input } = open(away, filed);
    await userEvent.type(input, 'B-217 start{Enter}');
    await waitFor(() => expect(screen.getByText('1 kept until the server is back')).toBeInTheDocument());
    expect(input).toHaveValue('');
    await waitFor(() =>
      expect(screen.getByRole('status')).toHaveTextContent('Filed, late: B-217: 2 started'),
    );
    expect(new Set(sent.map(({ key }) => key)).size).toBe(1);
    expect(sent.length).toBeGreaterThan(1);
    await waitFor(() => expect(screen.queryByText(/kept until/)).not.toBeInTheDocument());
  }, 15_000);
});
