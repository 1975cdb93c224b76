import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { NOW } from '../testing/tarrow.ts';
import BillsPage from './BillsPage.tsx';
import PartPage from './PartPage.tsx';
import PickPage from './PickPage.tsx';
import type { Kits, PartWithLog, Pick, PickLine, RackAhead, Shortage } from './queries.ts';
import { StoreSheet } from './StoreSheet.tsx';
import { givenWords, kitsSentence, partSentence, pickSentence, shortageWords } from './words.ts';

afterEach(() => {
  jest.restoreAllMocks();
  sessionStorage.clear();
});

const DAY = 24 * 3_600_000;
const say = (ms: number): string => `day ${(ms - NOW) / DAY}`;
const shortage = (change: Partial<Shortage> = {}): Shortage => ({
  ...{ part: 'C-116', name: 'Bridge', unit: 'piece', supplier: 'Brazier', leadDays: 24, onHand: 0 },
  ...{ onOrder: 60, short: 7, toOrder: 0, hereByMs: null, orderByMs: null },
  racks: [{ rack: 'I-188', slot: 'bridge', short: 7, pieces: 7, wantMs: NOW + DAY, comesMs: NOW + 6 * DAY }],
  ...change,
});
const rack = (change: Partial<RackAhead> = {}): RackAhead => ({
  ...{ batch: 'I-188', model: 'Ratline', wantMs: NOW + DAY, dueMs: NOW + 20 * DAY, where: 'Cure', short: [] },
  bins: [
    { piece: 'I-188/01', position: 1, bin: '11', standing: 'whole' },
    { piece: 'I-188/02', position: 2, bin: null, standing: 'none' },
  ],
  ...change,
});
const kits = (change: Partial<Kits> = {}): Kits => ({
  ...{ nowMs: NOW, zone: 'utc', ahead: [rack()], shortages: [], standIns: [], without: [] },
  ...change,
});
const line = (change: Partial<PickLine> = {}): PickLine => ({
  ...{ slot: 'tuners', part: 'C-101', name: 'Tuners', unit: 'set', wanted: 1, there: 0, onHand: 9 },
  instead: [],
  ...change,
});
const PICK: Pick = {
  ...{ nowMs: NOW, piece: 'I-188/02', batch: 'I-188', position: 2, model: 'Ratline', line: 'O-7/1' },
  ...{ label: null, bin: null, standing: 'none', otherwise: null, operationName: 'Assembly', parts: [] },
  lines: [
    line(),
    line({
      ...{ slot: 'nut', part: 'C-125', name: 'Nut, bone', onHand: 0 },
      instead: [{ part: 'C-126', name: 'Nut, composite', onHand: 4 }],
    }),
    line({ slot: 'pickups', part: 'C-110', name: 'Single coil', wanted: 2 }),
    line({ slot: 'bridge', part: 'C-116', name: 'Bridge', onHand: 0 }),
  ],
};

describe('what is said first', () => {
  it('of the kits ahead: what will stand, what is to be picked, what is to be ordered', () => {
    expect(kitsSentence(kits(), 10)).toEqual({
      tone: 'wait',
      sentence: '1 kit to pick or to fill within 10 days.',
    });
    const short = [{ part: 'C-116', name: 'Bridge', slot: 'bridge', short: 7, comesMs: null }];
    const late = kits({ ahead: [rack({ short })], shortages: [shortage({ toOrder: 7 })] });
    expect(kitsSentence(late, 10).sentence).toBe(
      'I-188 will stand for bridge. 1 kit to pick or to fill within 10 days; 1 part to order.',
    );
    const whole = kits({
      ahead: [rack({ bins: [{ piece: 'x', position: 1, bin: null, standing: 'whole' }] })],
    });
    expect(kitsSentence(whole, 3)).toEqual({ tone: 'good', sentence: 'Every kit is picked within 3 days.' });
  });

  it('of a shortage: what is to be ordered by when, or that it only comes late', () => {
    expect(shortageWords(shortage(), NOW, say)).toBe('all of it ordered; comes late, the last day 6');
    const order = { toOrder: 7, orderByMs: NOW + 2 * DAY };
    expect(shortageWords(shortage(order), NOW, say)).toBe('order 7 by day 2');
    expect(shortageWords(shortage({ ...order, orderByMs: NOW - DAY }), NOW, say)).toBe(
      'order 7: by its lead time since day -1',
    );
  });

  it('of a bin: what is not on the shelf, counting what may stand in', () => {
    expect(pickSentence(PICK).sentence).toMatch(/^Not on the shelf: bridge\./);
    expect(pickSentence({ ...PICK, lines: [line()] })).toMatchObject({
      sentence: '1 part to lay in, all of them on the shelf.',
    });
    expect(pickSentence({ ...PICK, lines: [line({ there: 1 })], bin: '14' })).toEqual({
      tone: 'good',
      sentence: 'Whole: it may be taken in hand. Bin 14.',
    });
    const otherwise = {
      ...PICK,
      standing: 'otherwise',
      otherwise: "picked for Pickups 'single', the tag says twin",
    };
    expect(pickSentence(otherwise as Pick).sentence).toMatch(/the tag says twin: put it back first/);
  });

  it('of a line of a bill: when it is in the kit', () => {
    const nameOf = (option: string, value?: string): string => value ?? option;
    expect(givenWords([{ option: 'pickups', values: ['twin', 'soap'] }], nameOf)).toBe(
      'pickups twin or soap',
    );
    expect(givenWords(undefined, nameOf)).toBe('');
  });
});

const onPick = (pick: Pick) =>
  openPage(
    <PickPage />,
    {
      'GET /api/kits/I-188/2': pick,
      'GET /api/batches/I-188': { state: null },
      'POST /api/log': { sentence: 'I-188: 1 kit picked', entries: [] },
    },
    { at: '/kits/I-188/2', path: '/kits/:batch/:position' },
  );

describe('a bin', () => {
  it('is ticked part by part, by touch or by scan; what is missing is said before it is filed', async () => {
    const { sent } = onPick(PICK);
    const file = await screen.findByRole('button', { name: 'File the bin: 0 of 4' });
    expect(file).toBeDisabled();
    await userEvent.click(screen.getByRole('checkbox', { name: 'tuners laid in' }));
    const scan = screen.getByRole('textbox', { name: /^Scan a part/ });
    await userEvent.type(scan, 'c-999{Enter}');
    expect(screen.getByText('C-999 does not go into this bin')).toBeInTheDocument();
    await userEvent.type(scan, 'c-126{Enter}');
    await userEvent.type(scan, 'C-110{Enter}');
    expect(screen.getByText(/^Without bridge: it cannot be taken in hand/)).toBeInTheDocument();
    // The bridge is not there: it cannot be ticked, it can be counted.
    expect(screen.getByRole('link', { name: 'count it' })).toHaveAttribute('href', '/kits/parts/C-116');
    await userEvent.type(screen.getByRole('textbox', { name: 'Written on the bin' }), '31');
    await userEvent.click(screen.getByRole('button', { name: 'File the bin: 3 of 4' }));
    expect(sent[0]?.body).toMatchObject({
      batch: 'I-188',
      entries: [
        {
          ...{ type: 'kit', pieces: [2], bin: '31' },
          parts: [
            { slot: 'tuners', part: 'C-101', quantity: 1 },
            { slot: 'nut', part: 'C-126', quantity: 1 },
            { slot: 'pickups', part: 'C-110', quantity: 2 },
          ],
        },
      ],
    });
  });

  it('that was picked for another spec offers to be put back, and nothing else', async () => {
    const parts = [{ slot: 'tuners', part: 'C-101', name: 'Tuners', quantity: 1 }];
    const { sent } = onPick({ ...PICK, standing: 'otherwise', otherwise: 'picked for another', parts });
    expect(await screen.findByText(/picked for another: put it back first/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: /^File the bin/ })).toBeNull();
    await userEvent.type(screen.getByRole('textbox', { name: 'Why all of it goes back' }), 'twin coils');
    await userEvent.click(screen.getByRole('button', { name: 'Put 1 part back on the shelf' }));
    expect(sent[0]?.body).toMatchObject({
      entries: [{ type: 'kit-back', pieces: [2], because: 'twin coils' }],
    });
  });
});

const PART: PartWithLog = {
  ...{ code: 'C-116', name: 'Bridge', unit: 'piece', supplier: 'Brazier', leadDays: 24, weightG: 290 },
  ...{
    openedMs: NOW - 90 * DAY,
    countedMs: NOW - DAY,
    seq: 3,
    onHand: 5,
    onOrder: 60,
    nowMs: NOW,
    zone: 'utc',
  },
  coming: [
    { number: 3, quantity: 60, orderedMs: NOW - 20 * DAY, expectedMs: NOW + 6 * DAY, reference: 'T5088' },
  ],
  entries: [{ seq: 3, atMs: NOW - DAY, byName: 'A. Quill', words: '5 counted', voided: false }],
};

describe('a sheet of the store', () => {
  it('says what is wrong with it before it is filed, and files the good rows when that is ticked', async () => {
    const { sent } = openPage(<StoreSheet parts={[PART]} />, {
      'POST /api/parts/sheet': { sentence: 'Store: 1 part counted', entries: [], problems: [] },
    });
    const sheet = screen.getByRole('textbox', { name: 'CSV, or pasted cells' });
    await userEvent.click(sheet);
    await userEvent.paste('code,counted\nC-116,4\nC-999,2');
    expect(screen.getByRole('status')).toHaveTextContent(
      '1 part counted or new; row 3, code: there is no part C-999',
    );
    const file = screen.getByRole('button', { name: 'File the sheet' });
    expect(file).toBeDisabled();
    await userEvent.click(screen.getByRole('checkbox', { name: /^File the 1 good rows/ }));
    await userEvent.click(file);
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ sheet: 'code,counted\nC-116,4\nC-999,2', goodRowsOnly: true }),
    );
    // What was filed is gone from the form.
    await waitFor(() => expect(sheet).toHaveValue(''));
  });
});

describe('a part', () => {
  it('says what is there and who waits for it, and files what happened at the shelf', async () => {
    expect(partSentence(PART, undefined, NOW, say)).toEqual({
      tone: 'good',
      sentence: '5 pieces there, 60 on order, the next day 6. No rack will stand for it.',
    });
    const { sent } = openPage(
      <PartPage />,
      {
        'GET /api/parts/C-116': PART,
        'GET /api/kits': kits({ shortages: [shortage()] }),
        'POST /api/parts/C-116/entries': { sentence: 'C-116: 4 counted', entries: [] },
      },
      { at: '/kits/parts/C-116', path: '/kits/parts/:code' },
    );
    expect(await screen.findByText(/I-188 lacks 7 .*: all of it ordered; comes late/)).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Counted' }), '4');
    await userEvent.click(screen.getByRole('button', { name: 'So many are there' }));
    expect(sent[0]?.body).toMatchObject({ entry: { type: 'part-count', quantity: 4 } });
    const purchase = screen.getByRole('region', { name: 'Purchase 3' });
    await userEvent.type(within(purchase).getByRole('textbox', { name: 'Why' }), 'sold out');
    await userEvent.click(within(purchase).getByRole('button', { name: 'Another day' }));
    expect(sent[1]?.body).toMatchObject({ entry: { type: 'part-expect', of: 3, because: 'sold out' } });
  });
});

describe('a bill', () => {
  it('loses a line, and is picked so only when that is said', async () => {
    const bill = {
      ...{ model: 'Halyard', revision: 1, hints: [] },
      lines: [
        { slot: 'tuners', part: 'C-101', quantity: 1, when: [{ option: 'metal', values: ['black'] }] },
        { slot: 'screws', part: 'C-124', quantity: 1 },
      ],
    };
    const metal = {
      ...{ key: 'metal', name: 'Hardware', builtAt: [], shownAt: [], sharesRack: false },
      values: [{ code: 'black', name: 'black' }],
    };
    const book = { model: 'Halyard', revision: 1, options: [metal], rules: [], places: [] };
    const { sent } = openPage(
      <BillsPage />,
      {
        ...{ 'GET /api/bills': [bill], 'GET /api/parts': [PART], 'GET /api/options': [book] },
        'PUT /api/bills/Halyard': { ...bill, revision: 2 },
      },
      { at: '/kits/bills/Halyard', path: '/kits/bills/:model?' },
    );
    expect(await screen.findByText('Hardware black')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Take screws C-124 out' }));
    await userEvent.click(screen.getByRole('button', { name: 'Pick it so from now on' }));
    expect(sent[0]?.body).toMatchObject({ revision: 1, lines: [{ slot: 'tuners' }] });
  });
});
