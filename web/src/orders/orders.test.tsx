import { daysLate } from '@ample-crane/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { NOW } from '../testing/tarrow.ts';
import OrderPage from './OrderPage.tsx';
import OptionsPage from './OptionsPage.tsx';
import type { LineWeight, OptionBook, Order, OrderLine, OrderSummary } from './queries.ts';
import {
  bookSentence,
  isDoubtful,
  modelsWords,
  orderSentence,
  placeWords,
  termsWords,
  touchWords,
  weightWords,
} from './words.ts';

afterEach(() => {
  jest.restoreAllMocks();
  sessionStorage.clear();
});

const DAY = 24 * 3_600_000;
const summary = (change: Partial<OrderSummary>): OrderSummary => ({
  ...{ code: 'O-1', customer: 'Odile', reference: null, placedMs: NOW - DAY, dueMs: NOW + 9 * DAY },
  ...{ models: [{ model: 'Halyard', quantity: 2 }], pieces: 2, shipped: 0, unbegun: 1, earliestMs: NOW },
  ...change,
});

describe('what the order book says first', () => {
  it('is how much is to leave, and what cannot be in time', () => {
    const late = summary({ earliestMs: NOW + 11 * DAY, shipped: 1 });
    expect(bookSentence([summary({}), late])).toEqual({
      tone: 'bad',
      sentence: '2 orders, 3 instruments still to leave, 2 of them not begun. 1 order cannot be in time.',
    });
    expect(daysLate(late)).toBe(2);
    expect(bookSentence([summary({ earliestMs: null })]).tone).toBe('good');
    expect(
      modelsWords([
        { model: 'Halyard', quantity: 2 },
        { model: 'Bowline', quantity: 1 },
      ]),
    ).toBe('2 × Halyard, 1 × Bowline');
  });

  it('says of one order when it could be ready, where its pieces wait, and what a change touches', () => {
    const say = (ms: number): string => `day ${(ms - NOW) / DAY}`;
    expect(orderSentence({ earliestMs: NOW + 3 * DAY, dueMs: NOW + 2 * DAY }, say)).toEqual({
      tone: 'bad',
      sentence: 'Late: ready day 3 at the earliest, by routes and holds alone; due day 2.',
    });
    expect(orderSentence({ earliestMs: null, dueMs: NOW }, say).tone).toBe('good');
    const place = { standing: 'onHold', operation: 'Cure', holdEndMs: NOW + DAY } as const;
    expect(placeWords(place, say)).toBe('on hold at Cure, over day 1');
    const touch = { batch: 'N-4', option: 'Frets', from: 'medium', to: 'jumbo', operations: ['Frets'] };
    expect(touchWords({ ...touch, done: [], open: ['N-4/01'], minutesAgain: 0, costAgain: 0 })).toBe(
      'N-4 at Frets: not built in yet on 1 piece',
    );
    expect(touchWords({ ...touch, done: ['N-4/01'], open: [], minutesAgain: 45, costAgain: 4 })).toBe(
      'N-4 at Frets: built in already on N-4/01, 45 min of work again, 4.00 of material',
    );
  });
});

describe('what an instrument will weigh', () => {
  const weight: LineWeight = {
    ...{ line: 'O-1/1', piece: 'B-4/01', weighed: false, kg: 3.42, sdKg: 0.07, lowKg: 3.3, highKg: 3.53 },
    ...{ insideShare: 0.884, chamberKg: 0.08 },
    terms: [
      { what: 'body B-4/01', kg: 1.98, sdKg: 0.06, from: 'blank' },
      { what: 'kit', kg: 1.1, sdKg: 0.03, from: 'reckoned' },
    ],
  };

  it('is said with how sure it is, what chambering would do, and what it is made of', () => {
    expect(weightWords(weight)).toBe(
      'B-4/01 will weigh 3.42 kg (3.30 to 3.53): 88 of 100 such are inside; chamber 0.08 kg out of the body',
    );
    expect(termsWords(weight)).toBe('body B-4/01 1.98 of its blank, kit 1.10 reckoned');
    expect(weightWords({ ...weight, piece: null, insideShare: null, chamberKg: 0 })).toBe(
      'What is not begun will weigh 3.42 kg (3.30 to 3.53)',
    );
    expect(weightWords({ ...weight, weighed: true, insideShare: 0 })).toBe('B-4/01 weighs 3.42 kg: outside');
    expect([isDoubtful(weight), isDoubtful({ insideShare: 0.6 })]).toEqual([false, true]);
  });
});

const BOOK: OptionBook = {
  ...{ model: 'Halyard', revision: 1, places: [{ place: 'N/fret', name: 'Frets (N)' }] },
  ...{ recipes: ['thin lacquer'], ways: [{ fork: 'rest', to: 'copy', name: 'Copy-router after Rest (B)' }] },
  options: [
    {
      ...{ key: 'frets', name: 'Frets', builtAt: ['N/fret'], shownAt: [], sharesRack: false },
      values: ['medium', 'jumbo'].map((code) => ({ code, name: code })),
    },
    {
      ...{ key: 'colour', name: 'Colour', builtAt: [], shownAt: [], sharesRack: true },
      values: ['blue', 'black'].map((code) => ({ code, name: code })),
    },
  ],
  rules: [{ kind: 'excludes', option: 'frets', value: 'jumbo', other: 'colour', values: ['black'] }],
};
const line = (number: number, change: Partial<OrderLine> = {}): OrderLine => ({
  ...{ number, code: `O-1/${number}`, model: 'Halyard', quantity: 1, label: null, note: null },
  ...{ choices: { frets: 'medium', colour: 'blue' }, weightKg: null, cancelled: null, places: [] },
  options: [{ option: 'frets', name: 'Frets', value: 'medium', valueName: 'medium' }],
  ...{ unbegun: [], shipped: 0, earliestMs: NOW + DAY },
  ...change,
});
const ORDER: Order = {
  ...{ code: 'O-1', customer: 'Odile', reference: 'H77', placedMs: NOW, dueMs: NOW + 9 * DAY, seq: 1 },
  ...{ nowMs: NOW, zone: 'utc', changes: [], earliestMs: NOW + DAY },
  lines: [line(1), line(2, { choices: { frets: 'medium', colour: 'black' } })],
};

async function choose(name: string, value: RegExp | string): Promise<void> {
  await userEvent.click(await screen.findByRole('combobox', { name }));
  await userEvent.click(await screen.findByRole('option', { name: value }));
}

describe('a change of a line', () => {
  it('is not offered against a rule, wants to be known where it is built in, and tells why', async () => {
    const touches = [
      { batch: 'N-4', option: 'Frets', from: 'medium', to: 'jumbo', operations: ['Frets'], done: ['N-4/01'] },
    ].map((one) => ({ ...one, open: [], minutesAgain: 45, costAgain: 0 }));
    const { sent } = openPage(
      <OrderPage />,
      {
        'GET /api/orders/O-1': ORDER,
        'GET /api/options': [BOOK],
        'GET /api/orders/O-1/touches': touches,
        'POST /api/orders/O-1/entries': { sentence: 'O-1: line 1 changed', entries: [] },
      },
      { at: '/orders/O-1', path: '/orders/:code' },
    );
    // The second line is black: jumbo does not go with it.
    await choose('Line', /^O-1\/2/);
    await choose('Option of O-1/2', 'Frets');
    await choose('What it is to be', 'jumbo');
    expect(screen.getByRole('alert')).toHaveTextContent('Frets jumbo does not go with Colour black');
    await choose('Line', /^O-1\/1/);
    await choose('Option of O-1/1', 'Frets');
    await choose('What it is to be', 'jumbo');
    expect(await screen.findByText(/built in already on N-4\/01, 45 min of work again/)).toBeInTheDocument();
    const change = screen.getByRole('button', { name: 'Change O-1/1' });
    await userEvent.type(screen.getByRole('textbox', { name: 'Why' }), 'they rang');
    expect(change).toBeDisabled();
    await userEvent.click(screen.getByRole('checkbox', { name: /built in already/ }));
    await userEvent.click(change);
    expect(sent[0]).toMatchObject({
      path: '/api/orders/O-1/entries',
      body: {
        entry: {
          type: 'order-change',
          line: 1,
          choices: { frets: 'jumbo' },
          because: 'they rang',
          knowing: true,
        },
      },
    });
  });
});

describe('what is sold', () => {
  it('gets another value and loses an option with its rules; nothing is sold so before it is said', async () => {
    const { sent } = openPage(
      <OptionsPage />,
      { 'GET /api/options': [BOOK], 'PUT /api/options/Halyard': { ...BOOK, revision: 2 } },
      { at: '/orders/options/Halyard', path: '/orders/options/:model?' },
    );
    const sell = await screen.findByRole('button', { name: 'Sell it so from now on' });
    expect(sell).toBeDisabled();
    await userEvent.type(
      screen.getByRole('textbox', { name: /^Another value of Frets/ }),
      'Narrow, tall{Enter}',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Sell no Colour any more' }));
    expect(
      within(screen.getByRole('region', { name: 'What goes together' })).getByText(/^Everything goes/),
    ).toBeInTheDocument();
    await userEvent.click(sell);
    const body = sent[0]?.body ?? {};
    expect(body).toMatchObject({ revision: 1, rules: [] });
    expect((body.options as { values: object[] }[])[0]?.values.at(-1)).toEqual({
      code: 'narrow-tall',
      name: 'Narrow, tall',
    });
  });

  it('is built by a recipe and a way of its own, once that is said', async () => {
    const { sent } = openPage(
      <OptionsPage />,
      { 'GET /api/options': [BOOK], 'PUT /api/options/Halyard': { ...BOOK, revision: 2 } },
      { at: '/orders/options/Halyard', path: '/orders/options/:model?' },
    );
    const form = await screen.findByRole('form', { name: 'How a value is built' });
    const pick = async (label: string, option: string): Promise<void> => {
      await userEvent.click(within(form).getByRole('combobox', { name: label }));
      await userEvent.click(await screen.findByRole('option', { name: option }));
    };
    await pick('Option', 'Colour');
    await pick('Value', 'black');
    await pick('Finished by', 'thin lacquer');
    await pick('Goes by', 'Copy-router after Rest (B)');
    await userEvent.click(within(form).getByRole('button', { name: 'Build it so' }));
    expect(await screen.findByText('black · thin lacquer · Copy-router after Rest (B)')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Sell it so from now on' }));
    const [, colour] = sent[0]?.body['options'] as OptionBook['options'];
    expect(colour?.values[1]).toEqual({
      ...{ code: 'black', name: 'black', recipe: 'thin lacquer', ways: { rest: 'copy' } },
    });
  });
});
