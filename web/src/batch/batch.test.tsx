import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import type { BatchDetail } from '../api/queries.ts';
import { FilingContext, useFilingState } from '../shared/useFiling.ts';
import { fakeServer, type Answer } from '../testing/fake-server.ts';
import { batch, HOUR, NOW, piece, route } from '../testing/tarrow.ts';
import { Actions } from './Actions.tsx';
import { stripSteps } from './steps.ts';

const entry = (
  seq: number,
  type: string,
  operation: string,
  extra: Partial<BatchDetail['entries'][number]> = {},
) => ({
  seq,
  type,
  operation,
  atMs: NOW - HOUR,
  filedMs: NOW,
  by: 'venn',
  byName: 'T. Venn',
  words: type,
  station: null,
  pieces: 1,
  voided: false,
  ...extra,
});

function detail(pieces: Parameters<typeof batch>[1], entries: BatchDetail['entries'] = []): BatchDetail {
  const { state, seq } = batch('B-217', pieces);
  return {
    code: 'B-217',
    nowMs: NOW,
    zone: 'UTC',
    seq,
    state,
    route,
    holds: [],
    entries,
    climate: [],
    earliestMs: null,
  };
}

describe('the strip of a batch', () => {
  it('says what is done and when, where pieces stand, and what lies ahead', () => {
    const steps = stripSteps(
      detail([piece(1, { operation: 'rest', standing: 'onHold' })], [entry(2, 'done', 'mill')]),
      NOW,
    );
    expect(steps.map(({ name, state, here, time }) => [name, state, here, time])).toEqual([
      ['Body mill', 'done', 0, 'Tue 13:20'],
      ['Body rest', 'here', 1, null],
      ['Neck joint', 'ahead', 0, null],
    ]);
  });

  it('does not count what was taken back, and draws rework from where it was found', () => {
    const sent = piece(1, { rework: { from: 'rest', reason: 'chip' } });
    const steps = stripSteps(detail([sent], [entry(2, 'done', 'mill', { voided: true })]), NOW);
    expect(steps[0]).toMatchObject({ state: 'here', time: null });
    expect(steps[1]).toMatchObject({ reworkTo: 0 });
  });

  it('is done to the end when all pieces have left', () => {
    const steps = stripSteps(detail([piece(1, { operation: 'join', standing: 'joined' })]), NOW);
    expect(steps.every(({ state }) => state === 'done')).toBe(true);
  });
});

describe('what can be logged by pressing', () => {
  function Panel({ seen }: { seen: BatchDetail }) {
    const filing = useFilingState();
    return (
      <FilingContext.Provider value={filing}>
        <Actions batch={seen} />
        <output>{filing.news?.text}</output>
      </FilingContext.Provider>
    );
  }
  function open(seen: BatchDetail, ...answers: Answer[]): { entries: object[] }[] {
    const sent = fakeServer<{ entries: object[] }>(
      { '/api/batches/B-217/partners': [{ batch: 'N-118', kind: 'N' }] },
      answers,
    );
    render(
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter>
          <Panel seen={seen} />
        </MemoryRouter>
      </QueryClientProvider>,
    );
    return sent;
  }
  const filed = { status: 200, body: { sentence: 'done', entries: [], filedMs: NOW, repeated: false } };
  const press = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }));
  afterEach(() => jest.restoreAllMocks());

  it('files so many of what is in hand', async () => {
    const sent = open(detail([piece(1, { standing: 'inHand' }), piece(2, { standing: 'inHand' })]), filed);
    await userEvent.type(screen.getByLabelText('Pieces'), '3');
    await press('Done');
    expect(await screen.findByText('1 to 2, a whole number')).toBeInTheDocument();
    expect(sent).toEqual([]);
    await userEvent.clear(screen.getByLabelText('Pieces'));
    await userEvent.type(screen.getByLabelText('Pieces'), '1');
    await press('Done');
    await waitFor(() => expect(sent[0]?.entries).toEqual([{ type: 'done', operation: 'mill', count: 1 }]));
  });

  it('asks for the reason before it scraps', async () => {
    const sent = open(detail([piece(1, { standing: 'inHand' })]), filed);
    await press('Scrap');
    expect(await screen.findByText('say why first')).toBeInTheDocument();
    expect(screen.getByLabelText('Reason')).toHaveFocus();
    await userEvent.type(screen.getByLabelText('Reason'), 'tear-out');
    await press('Scrap');
    await waitFor(() =>
      expect(sent.map(({ entries }) => entries)).toEqual([
        [{ type: 'scrap', operation: 'mill', reason: 'tear-out' }],
      ]),
    );
  });

  it('offers to go on against a hold only after it was refused, and only with a reason', async () => {
    const refused = { status: 409, body: { refused: 'Wait: 38 h of rest left', code: 'hold-not-over' } };
    const sent = open(detail([piece(1, { operation: 'rest', standing: 'onHold' })]), refused, filed);
    await press('End hold');
    await waitFor(() => expect(screen.getByRole('alert')).toHaveTextContent('Wait: 38 h of rest left'));
    await press(/Go on anyway/);
    expect(await screen.findByText('to go on anyway, say why')).toBeInTheDocument();
    expect(sent).toHaveLength(1);
    await userEvent.type(screen.getByLabelText('Reason'), 'fair');
    await press(/Go on anyway/);
    await waitFor(() =>
      expect(sent[1]?.entries).toEqual([{ type: 'end', operation: 'rest', because: 'fair' }]),
    );
  });

  it('joins with a rack that stands at the join', async () => {
    const sent = open(detail([piece(1, { operation: 'join' })]), filed);
    await userEvent.click(await screen.findByRole('button', { name: 'Join' }));
    expect(await screen.findByText('with which')).toBeInTheDocument();
    expect(sent).toEqual([]);
    await userEvent.click(screen.getByLabelText('With'));
    await userEvent.click(screen.getByRole('option', { name: 'N-118' }));
    await press('Join');
    await waitFor(() => expect(sent[0]?.entries).toEqual([{ type: 'join', partner: 'N-118' }]));
  });
});
