import { LARGEST_BATCH } from '@ample-crane/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { openPage } from '../testing/open-page.tsx';
import { batch, floorOf, piece, route, SETUP } from '../testing/tarrow.ts';
import OpenPage from './OpenPage.tsx';

afterEach(() => jest.restoreAllMocks());

const rack = batch('B-230', [piece(1)]);

const open = (answers: Record<string, object> = {}) =>
  openPage(<OpenPage />, {
    'GET /api/floor': floorOf([rack]),
    'GET /api/setup': SETUP,
    'GET /api/models/Bowline/routes': [route],
    'GET /api/recipes': { recipes: [] },
    ...answers,
  });
const press = async (): Promise<void> => {
  fireEvent.click(await screen.findByRole('button', { name: 'Open' }));
};
const type = async (label: string, value: string): Promise<void> => {
  fireEvent.change(await screen.findByLabelText(label), { target: { value } });
};

describe('opening a batch', () => {
  it('offers the usual dozen, due on a working day after the lead the works promises', async () => {
    open();
    expect(await screen.findByLabelText('Pieces')).toHaveValue('12');
    // Fifty-two days after Tuesday 24 November 2026 is Friday 15 January, when the works are closed: Monday it is.
    expect(screen.getByRole('group', { name: 'Due' })).toHaveTextContent('18 Jan 2027');
    expect(screen.getByText(/there is room for more/)).toBeInTheDocument();
  });

  it('files it, says where it went, and keeps the form for the next one', async () => {
    const { sent } = open({
      'POST /api/batches': {
        ...{ sentence: 'B-231: 8 Bowline bodies at Body mill.', repeated: false },
        entries: [{ batch: 'B-231', seq: 1 }],
      },
    });
    await type('Pieces', '8');
    await press();
    expect(await screen.findByText('B-231 is on the board.')).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'Go to B-231' })).toHaveAttribute('href', '/batch/B-231');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.path).toBe('/api/batches');
    expect(sent[0]?.body).toMatchObject({ by: 'ostrander', model: 'Bowline', kind: 'B', quantity: 8 });
    expect(String(sent[0]?.body.dueAt)).toMatch(/^2027-01-18T/);
    expect(screen.getByLabelText('Pieces')).toHaveValue('8');
  });

  it.each([
    ['Pieces', '0', `1 to ${LARGEST_BATCH}, a whole number`],
    ['Pieces', '1.5', `1 to ${LARGEST_BATCH}, a whole number`],
    ['Pieces', 'a dozen', "'a dozen' is no number"],
  ])('says at the field what is wrong: %s %s', async (label, value, words) => {
    const { sent } = open();
    await type(label, value);
    await press();
    expect(await screen.findByText(words)).toBeInTheDocument();
    expect(screen.getByLabelText(label)).toBeInvalid();
    expect(sent).toEqual([]);
  });

  it.each([
    ['23 Nov 2026', 'a day after today'],
    ['16 Jan 2027', 'the works are closed on Sat 16 Jan: Thu 14 Jan or Mon 18 Jan?'],
    ['', 'a day after today'],
  ])('says at the field what is wrong: due on %s', async (day, words) => {
    const { sent } = open();
    const due = await screen.findByRole('group', { name: 'Due' });
    fireEvent.change(due.querySelector('input') as HTMLInputElement, { target: { value: day } });
    await press();
    expect(await screen.findByText(words)).toBeInTheDocument();
    expect(due).toBeInvalid();
    expect(sent).toEqual([]);
  });

  it('says what the server refused, and loses nothing that was typed', async () => {
    open({ 'POST /api/batches': { code: 'bad-value', refused: 'Bowline B has no route any more' } });
    await type('Pieces', '7');
    await press();
    expect(await screen.findByRole('alert')).toHaveTextContent('Bowline B has no route any more');
    expect(screen.getByLabelText('Pieces')).toHaveValue('7');
    await waitFor(() => expect(screen.getByRole('button', { name: 'Open' })).toBeEnabled());
  });

  it('tells what paces the works before more is opened', async () => {
    const floor = floorOf([rack]);
    open({
      'GET /api/floor': {
        ...floor,
        stations: floor.stations.map((one) => ({ ...one, hoursWaiting: one.code === 'body-mill' ? 40 : 0 })),
        constraint: { station: 'body-mill' },
      },
    });
    const before = within((await screen.findByText('Before you open one')).closest('section') as HTMLElement);
    expect(
      before.getByText(/Body mill paces the works: 40 h of work already wait for its 9 h a day/),
    ).toBeInTheDocument();
  });
});
