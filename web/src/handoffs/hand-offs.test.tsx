import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Schemas } from '../api/client.ts';
import { openPage } from '../testing/open-page.tsx';
import { NOW } from '../testing/tarrow.ts';
import HandOffsPage from './HandOffsPage.tsx';
import { countedSentence } from './words.ts';

afterEach(() => {
  jest.restoreAllMocks();
  sessionStorage.clear();
});

const fault = { found: 'I/assemble', foundName: 'Assembly (I)', sentBack: 2, scrapped: 1, reasons: [] };
const DATA: Schemas['HandOffsDto'] = {
  ...{ nowMs: NOW, zone: 'utc', days: 28 },
  arriving: [
    {
      ...{
        batch: 'I-188',
        model: 'Ratline',
        operation: 'assemble',
        operationName: 'Assembly',
        station: 'assembly',
      },
      ...{ positions: [1, 2, 3], pieces: ['I-188/01', 'I-188/02', 'I-188/03'], sinceMs: NOW, dueMs: NOW },
      behind: [{ key: 'buff', name: 'Sand & buff' }],
      origins: [
        { place: 'I/buff', name: 'Sand & buff' },
        { place: 'B/mill', name: 'Body mill (B)' },
      ],
    },
  ],
  counted: [
    { ...fault, caused: 'I/clear', causedName: 'Clear coats (I)', reasons: [{ reason: 'run', pieces: 3 }] },
  ],
};

it('says where most of what was found comes about, and of how many nobody said', () => {
  expect(countedSentence([])).toEqual({ tone: 'good', sentence: 'Nothing was sent back or lost.' });
  const unsaid = { ...fault, caused: null, causedName: null, sentBack: 1, scrapped: 0 };
  expect(countedSentence([...DATA.counted, unsaid]).sentence).toBe(
    '4 pieces sent back or lost; 3 of them caused at Clear coats (I); of 1 nobody said where they came about.',
  );
});

it('accepts what is good and sends back what is not, with where it was caused', async () => {
  const { sent } = openPage(
    <HandOffsPage />,
    { 'GET /api/hand-offs': DATA, 'POST /api/log': { sentence: 'I-188: 1 sent back', entries: [] } },
    { at: '/hand-offs', path: '/hand-offs' },
  );
  const rack = await screen.findByRole('region', { name: 'I-188 at Assembly' });
  const piece = (name: string): HTMLElement => within(rack).getByRole('button', { name });
  expect(piece('Accept all 3')).toBeEnabled();
  await userEvent.click(piece('02'));
  await userEvent.click(piece('Send 1 piece back'));
  await userEvent.type(within(rack).getByRole('textbox', { name: 'What is wrong' }), 'haze');
  const file = piece('Send 1 piece of I-188 back');
  // Where it was caused must be said.
  await userEvent.click(file);
  expect(sent).toEqual([]);
  await userEvent.click(within(rack).getByRole('combobox', { name: 'Caused at' }));
  await userEvent.click(screen.getByRole('option', { name: 'Body mill (B)' }));
  await userEvent.click(file);
  expect(sent[0]?.body).toMatchObject({
    entries: [
      { type: 'rework', operation: 'assemble', pieces: [2], reason: 'haze', to: 'buff', origin: 'B/mill' },
    ],
  });
  await userEvent.click(piece('01'));
  await userEvent.click(piece('Accept 1 piece'));
  expect(sent[1]?.body).toMatchObject({ entries: [{ type: 'accept', operation: 'assemble', pieces: [1] }] });
});
