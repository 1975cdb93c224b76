import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { batch, HOUR, NOW, piece } from '../testing/tarrow.ts';
import TestWorker from '../testing/worker.ts';
import MeetingPage from './MeetingPage.tsx';
import { pair } from './pair.ts';
import PairingPage from './PairingPage.tsx';
import PressesPage from './PressesPage.tsx';
import type { BedView, Coming, Meetings, Pairing, PairingSide, Presses } from './queries.ts';

const filed = { sentence: 'B-1: 2 pairs.', entries: [{ batch: 'B-1', seq: 4 }], repeated: false };
const entriesOf = (body: Record<string, unknown> | undefined): unknown => body?.['entries'];
const press = async (name: string | RegExp): Promise<void> => {
  const button = await screen.findByRole('button', { name });
  await waitFor(() => expect(button).toBeEnabled());
  await userEvent.click(button);
};

afterEach(() => jest.restoreAllMocks());

describe('two racks, paired', () => {
  beforeEach(() => {
    TestWorker.answer = pair;
  });
  const side = (code: string, values: (number | null)[], extra: Partial<PairingSide> = {}): PairingSide => ({
    batch: code,
    check: {
      ...{ key: 'w', name: 'Width', unit: 'mm', nominal: 56, lower: 55.9, upper: 56.1 },
      ...{ firstPiece: false, sample: 1 },
    },
    pieces: values.map((valueMm, i) => ({
      position: i + 1,
      valueMm,
      partner: null,
      gapMm: null,
      line: null,
    })),
    ...{ moisturePct: null, movesMm: null },
    ...extra,
  });
  const racks = (host: PairingSide, guest: PairingSide): Pairing => ({
    ...{ model: 'Bowline', joinName: 'Neck joint', windowMm: { low: 0.05, high: 0.15 }, roomEmcPct: 8 },
    ...{ host, guest },
  });
  const open = (seen: Pairing, answers: Record<string, object> = {}) =>
    openPage(
      <PairingPage />,
      {
        'GET /api/pairings/B-1/N-2': seen,
        'GET /api/batches/B-1': batch('B-1', [piece(1)]),
        'GET /api/batches/N-2': batch('N-2', [piece(1)]),
        ...answers,
      },
      { at: '/fitting/pairing/B-1/N-2', path: '/fitting/pairing/:host/:guest' },
    );

  it('are paired by what was measured: of three pockets two fit, and the third is told what it wants', async () => {
    // 56.00 − 55.90 and 56.06 − 55.96 are gaps of 0.10; 56.30 − 56.00 is 0.15 too wide at best: shim it.
    const { sent } = open(racks(side('B-1', [56, 56.06, 56.3]), side('N-2', [55.96, 55.9, 56])), {
      'POST /api/pairings/B-1/N-2': filed,
      'POST /api/log': filed,
    });
    expect(
      await screen.findByText(/^Paired by measurement 2 of 3 fit a gap of 0\.05–0\.15 mm/),
    ).toBeInTheDocument();
    const list = screen.getByRole('region', { name: 'Pair list' });
    expect(
      within(list)
        .getAllByRole('row')
        .slice(1)
        .map((row) => [...row.children].map(({ textContent }) => textContent)),
    ).toEqual([
      ['B-1/01', '56.00', 'N-2/02', '55.90', '0.100 mm'],
      ['B-1/02', '56.06', 'N-2/01', '55.96', '0.100 mm'],
    ]);
    expect(list).toHaveTextContent('N-2/03: shim the tenon by 0.20 mm for B-1/03');
    await press('Shimmed');
    await waitFor(() =>
      expect(entriesOf(sent[0]?.body)).toMatchObject([{ type: 'adjust', how: 'shim', pieces: [3] }]),
    );
    await press('File 2 pairs');
    await waitFor(() =>
      expect(sent[1]?.body).toMatchObject({
        pairs: [
          { host: 1, guest: 2 },
          { host: 2, guest: 1 },
        ],
        allow: false,
      }),
    );
  });

  it('allow for what the wood will do, and say so, unless that is switched off', async () => {
    // As measured 56.20 − 56.00 does not fit; the pocket loses 0.10 until they are joined, and it does.
    const { sent } = open(racks(side('B-1', [56.2], { movesMm: -0.1 }), side('N-2', [56], { movesMm: 0 })), {
      'POST /api/pairings/B-1/N-2': filed,
    });
    expect(await screen.findByText(/^Paired by measurement 1 of 1 fit/)).toBeInTheDocument();
    expect(
      screen.getByText(/Gaps allow −0\.100 mm for the wood until they are joined\./),
    ).toBeInTheDocument();
    expect(screen.getByRole('columnheader', { name: 'gap when joined' })).toBeInTheDocument();
    await press('File 1 pairs');
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ allow: true }));
    await userEvent.click(screen.getByRole('checkbox', { name: /^Allow for the wood/ }));
    expect(await screen.findByText(/^Paired by measurement 0 of 1 fit/)).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'File 0 pairs' })).toBeDisabled();
  });

  it('that are filed may be joined, or their pairing undone', async () => {
    const host = side('B-1', [56]);
    const paired = { ...host, pieces: host.pieces.map((one) => ({ ...one, partner: 'N-2/01', gapMm: 0.1 })) };
    const { sent } = open(racks(paired, side('N-2', [55.9])), {
      'POST /api/pairings/B-1/N-2': filed,
      'POST /api/log': { refused: 'N-2 is not at the joint yet' },
    });
    expect(await screen.findByText('1 filed with these racks')).toBeInTheDocument();
    await press('Join the 1 filed');
    expect(await screen.findByText('N-2 is not at the joint yet')).toBeInTheDocument();
    await press('Undo the pairing');
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ pairs: [] }));
  });

  it('can be stopped while they are worked on, and asked again', async () => {
    TestWorker.answer = () => undefined;
    open(racks(side('B-1', [56]), side('N-2', [55.9])));
    expect(await screen.findByText('Pairing…')).toBeInTheDocument();
    await userEvent.click(await screen.findByRole('button', { name: 'Stop' }, { timeout: 10_000 }));
    expect(screen.getByText('Stopped: nothing is paired.')).toBeInTheDocument();
    TestWorker.answer = pair;
    await press('Pair again');
    expect(await screen.findByText(/^Paired by measurement 1 of 1 fit/)).toBeInTheDocument();
  });

  it('are measured first, place by place: Enter goes on, inches are asked about', async () => {
    const { sent } = open(racks(side('B-1', [null, null, 56]), side('N-2', [])), { 'POST /api/log': filed });
    expect(
      await screen.findByText('Measure first: 1 of 3 pockets and 0 of 0 tenons are measured.'),
    ).toBeInTheDocument();
    const sheet = screen.getByRole('form', { name: 'Measure B-1' });
    const [first, second] = ['01', '02'].map((place) => screen.getByLabelText(`pocket of B-1/${place}`));
    if (!first || !second) throw new Error('no fields');
    await userEvent.type(first, '56,02{Enter}');
    expect(second).toHaveFocus();
    await userEvent.type(second, '2.205');
    expect(within(sheet).getByRole('alert')).toHaveTextContent('02: read in in? That would be 56.007 mm');
    expect(within(sheet).getByRole('button', { name: 'File 1 measured' })).toBeDisabled();
    await press('Take 56.007');
    expect(sheet).toHaveTextContent('3 measured, mean 56.009');
    await press('File 2 measured');
    await waitFor(() =>
      expect(entriesOf(sent[0]?.body)).toEqual([
        { type: 'check', check: 'w', values: [56.02, 56.007], pieces: [1, 2] },
      ]),
    );
    await waitFor(() => expect(first).toHaveValue(''));
  });
});

describe('presses and clamps', () => {
  const lying = (code: string, endMs: number | null, extra: object = {}) => ({
    ...{ batch: code, model: 'Bowline', operation: 'cure', operationName: 'Glue cure', pieces: [1, 2, 3] },
    ...{ sinceMs: NOW - 8 * HOUR, endMs },
    ...extra,
  });
  const bed = (code: string, extra: Partial<BedView> = {}): BedView => ({
    ...{ code, name: `Board press ${code}`, kind: 'press', station: 'press', stationName: 'Presses' },
    ...{ places: 8, free: 8, nextFreeMs: null, allFreeMs: null, lying: [] },
    ...extra,
  });
  const coming = (extra: Partial<Coming>): Coming => ({
    ...{ ...lying('N-5', null), state: 'next', station: 'press', inHand: true },
    ...extra,
  });
  const open = (beds: BedView[], wants: Coming[] = [], answers: Record<string, object> = {}) => {
    const presses: Presses = { nowMs: NOW, zone: 'UTC', beds, coming: wants };
    return openPage(<PressesPage />, { 'GET /api/presses': presses, 'POST /api/log': filed, ...answers });
  };

  it('say what may come out, what is free next, and what nobody noted', async () => {
    const { sent } = open(
      [
        bed('1', { free: 5, lying: [lying('N-3', NOW - HOUR)] }),
        bed('2', {
          free: 5,
          nextFreeMs: NOW + HOUR,
          allFreeMs: NOW + HOUR,
          lying: [lying('N-4', NOW + HOUR)],
        }),
      ],
      [coming({ state: 'unplaced' })],
    );
    expect(
      await screen.findByText(
        'N-3 may come out; next free is Board press 2, Tue 15:20; 3 pieces rest in no place that anybody noted.',
      ),
    ).toBeInTheDocument();
    expect(screen.getByRole('article', { name: 'Board press 2' })).toHaveTextContent(
      '5 of 8 free, all by Tue 15:20',
    );
    await press('Take out 3');
    await waitFor(() =>
      expect(entriesOf(sent[0]?.body)).toEqual([{ type: 'end', operation: 'cure', pieces: [1, 2, 3] }]),
    );
  });

  it('give early only for a reason; a refusal is told where it was asked', async () => {
    const { sent } = open([bed('2', { lying: [lying('N-4', NOW + HOUR)] })], [], {
      'POST /api/log': { refused: 'N-4 was taken out meanwhile' },
    });
    await press('Take out early');
    await press('Take out');
    expect(await screen.findByText('it stays with the pieces')).toBeInTheDocument();
    expect(sent).toEqual([]);
    await userEvent.type(screen.getByLabelText('Why so early'), 'wrong board');
    await press('Take out');
    expect(await within(screen.getByRole('article')).findByRole('alert')).toHaveTextContent(
      'N-4 was taken out meanwhile',
    );
    expect(entriesOf(sent[0]?.body)).toMatchObject([{ type: 'end', because: 'wrong board' }]);
    await press('Leave it');
    expect(screen.getByRole('button', { name: 'Take out early' })).toBeInTheDocument();
  });

  it('take what is glued: what waits is started, done and clamped in one touch, as many as there is room for', async () => {
    const { sent } = open([bed('1', { free: 2 }), bed('2')], [coming({ inHand: false })]);
    await press('Clamp 2');
    await waitFor(() =>
      expect(entriesOf(sent[0]?.body)).toEqual([
        { type: 'start', operation: 'cure', pieces: [1, 2] },
        { type: 'done', operation: 'cure', pieces: [1, 2] },
        { type: 'place', pieces: [1, 2], bed: '1' },
      ]),
    );
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Goes into' }));
    fireEvent.click(screen.getByRole('option', { name: 'Board press 2, 8 free' }));
    await waitFor(() => expect(screen.getByRole('button', { name: 'Clamp 3' })).toBeEnabled());
  });

  it('say so when there is no room, and when nothing is wanted', async () => {
    const full = open([bed('1', { free: 0 })], [coming({ state: 'unplaced' })]);
    expect(await screen.findByText('No place is free; it stands in hand clamps.')).toBeInTheDocument();
    expect(full.sent).toEqual([]);
    open([bed('1')]);
    expect(await screen.findByText('Nothing rests unplaced, and nothing is on its way.')).toBeInTheDocument();
  });
});

describe('who meets whom', () => {
  const side = (code: string, role: 'host' | 'guest') => ({
    ...{ batch: code, role, model: 'Bowline', pieces: 12, arrivesMs: NOW, lowMs: NOW, highMs: NOW + HOUR },
    ...{ dueMs: NOW, partner: null, joinName: 'Neck joint' },
  });
  const meets = (host: string, guest: string, waitHours: number) => ({
    ...{ host, guest, model: 'Bowline', meetMs: NOW + waitHours * HOUR, waits: 'host' as const, waitHours },
    ...{ misses: waitHours > 24, short: null, told: false },
  });
  const data = (
    meetings: Meetings['forecast']['meetings'],
    extra: Partial<Meetings['forecast']> = {},
  ): Meetings => ({
    ...{ nowMs: NOW, zone: 'UTC' },
    sides: [side('B-1', 'host'), side('B-2', 'host'), side('N-1', 'guest'), side('N-2', 'guest')],
    forecast: { meetings, alone: [], swaps: [], ...extra },
  });
  const open = (meetings: Meetings, answers: Record<string, object> = {}) =>
    openPage(<MeetingPage />, { 'GET /api/meetings': meetings, 'POST /api/meetings': filed, ...answers });

  it('is changed with one touch where that saves waiting', async () => {
    const swap = {
      ...{ meets: [meets('B-1', 'N-2', 2), meets('B-2', 'N-1', 3)], savesPieceHours: 604.4 },
      ...{ model: 'Bowline', laterPieceHours: -120 },
    };
    const { sent } = open(data([meets('B-1', 'N-1', 50), meets('B-2', 'N-2', 4)], { swaps: [swap] }));
    expect(
      await screen.findByText(
        '1 of 2 pairs miss each other by more than a day; 1 change of partners would save 604 piece-hours.',
      ),
    ).toBeInTheDocument();
    const change = screen.getByRole('region', { name: 'Change partners' });
    expect(change).toHaveTextContent(
      'Saves 604 piece-hours of waiting, and bodies meet 120 piece-hours sooner',
    );
    await press('Change partners');
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        by: 'ostrander',
        meets: [
          { host: 'B-1', guest: 'N-2' },
          { host: 'B-2', guest: 'N-1' },
        ],
      }),
    );
  });

  it('is looked at by model, and those alone that miss each other', async () => {
    const user = userEvent.setup();
    open(data([meets('B-1', 'N-1', 50), { ...meets('B-2', 'N-2', 4), model: 'Halyard' }]));
    const pairs = within(await screen.findByRole('region', { name: 'Pairs' }));
    const rows = (): number => pairs.getAllByRole('row').length - 1;
    expect(rows()).toBe(2);
    await user.click(screen.getByLabelText('only those that miss each other'));
    expect(rows()).toBe(1);
    expect(pairs.getByRole('link', { name: 'B-1' })).toBeInTheDocument();
    await user.click(screen.getByRole('combobox', { name: 'Model' }));
    await user.click(await screen.findByRole('option', { name: 'Halyard' }));
    expect(await pairs.findByText('No pair is like that.')).toBeInTheDocument();
    expect(screen.getAllByText('No pair is like that.')).toHaveLength(2);
  });

  it('is said by hand, and refused in words', async () => {
    const { sent } = open(data([meets('B-1', 'N-1', 50)], { alone: ['B-2'] }), {
      'POST /api/meetings': { refused: 'N-2 is of another model' },
    });
    expect(
      await screen.findByText(
        'The one pair misses each other by more than a day; no change of partners helps.',
      ),
    ).toBeInTheDocument();
    expect(screen.getByRole('region', { name: 'Alone' })).toHaveTextContent('B-2 Bowline, 12 left');
    const form = screen.getByRole('form', { name: 'Say who meets whom' });
    await userEvent.type(within(form).getByRole('combobox', { name: 'Body' }), 'b-1{Enter}');
    await press('Let them meet');
    expect(await within(form).findByText('which necks')).toBeInTheDocument();
    // A scan is its code and Enter.
    await userEvent.type(within(form).getByRole('combobox', { name: 'Neck' }), 'N-2{Enter}');
    await press('Let them meet');
    expect(await within(form).findByRole('alert')).toHaveTextContent('N-2 is of another model');
    expect(sent[0]?.body).toMatchObject({ meets: [{ host: 'B-1', guest: 'N-2' }] });
  });
});
