import { LARGEST_BATCH } from '@ample-crane/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { openPage } from '../testing/open-page.tsx';
import { batch, floorOf, piece, route, SETUP } from '../testing/tarrow.ts';
import OpenPage from './OpenPage.tsx';

afterEach(() => jest.restoreAllMocks());

const rack = batch('B-230', [piece(1)]);

const open = (answers: Parameters<typeof openPage>[1] = {}) =>
  openPage(<OpenPage />, {
    'GET /api/floor': floorOf([rack]),
    'GET /api/setup': SETUP,
    'GET /api/models/Bowline/routes': [route],
    'GET /api/recipes': { recipes: [] },
    ...answers,
  });
const press = async (): Promise<void> => {
  fireEvent.click(await screen.findByRole('button', { name: /^Open (body|neck)/ }));
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
    expect(await screen.findByText(/there is room for more/)).toBeInTheDocument();
  });

  it('files a rack of each part, says where they went, and keeps the form for the next ones', async () => {
    const { sent } = open({
      'POST /api/batches': {
        ...{ sentence: 'B-231: 8 Bowline bodies at Body mill.', repeated: false },
        entries: [{ batch: 'B-231', seq: 1 }],
      },
    });
    await type('Pieces', '8');
    await press();
    await waitFor(() => expect(screen.getAllByText('B-231 is on the board.')).toHaveLength(2));
    expect(screen.getAllByRole('link', { name: 'Go to B-231' })[0]).toHaveAttribute('href', '/batch/B-231');
    expect(sent.map(({ path }) => path)).toEqual(['/api/batches', '/api/batches']);
    expect(sent[0]?.body).toMatchObject({ by: 'ostrander', model: 'Bowline', kind: 'B', quantity: 8 });
    expect(sent[1]?.body).toMatchObject({ by: 'ostrander', model: 'Bowline', kind: 'N', quantity: 8 });
    expect(sent[0]?.body.key).not.toBe(sent[1]?.body.key);
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
    await waitFor(() => expect(screen.getByRole('button', { name: 'Open body and neck' })).toBeEnabled());
  });

  it('takes the usual finish of a part unless another is chosen', async () => {
    const finish = { B: { recipes: ['oil', 'lacquer'] } };
    const models = SETUP.models.map((one) => ({ ...one, finish }));
    const { sent } = open({
      'GET /api/setup': { ...SETUP, models },
      'POST /api/batches': { sentence: 'B-231: 12.', repeated: false, entries: [{ batch: 'B-231', seq: 1 }] },
    });
    await press();
    await waitFor(() => expect(sent.map(({ body }) => body.kind)).toEqual(['B', 'N']));
    expect(sent[0]?.body).not.toHaveProperty('recipe');
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Finish of the body' }));
    fireEvent.click(screen.getByRole('option', { name: 'lacquer' }));
    await waitFor(() => expect(screen.getByRole('button', { name: 'Open body and neck' })).toBeEnabled());
    await press();
    await waitFor(() => expect(sent[2]?.body).toMatchObject({ kind: 'B', recipe: 'lacquer' }));
    await waitFor(() => expect(sent[3]?.body.kind).toBe('N'));
    expect(sent[3]?.body).not.toHaveProperty('recipe');
  });

  it('opens one part alone, and none without a part', async () => {
    const { sent } = open({ 'POST /api/batches': { refused: 'the numbers are at an end' } });
    fireEvent.click(await screen.findByRole('checkbox', { name: 'body' }));
    fireEvent.click(screen.getByRole('checkbox', { name: 'neck' }));
    fireEvent.click(screen.getByRole('button', { name: 'Open' }));
    expect(await screen.findByText('at least one part of it')).toBeInTheDocument();
    expect(sent).toEqual([]);
    fireEvent.click(screen.getByRole('checkbox', { name: 'neck' }));
    fireEvent.click(screen.getByRole('button', { name: 'Open neck' }));
    await waitFor(() => expect(sent.map(({ body }) => body.kind)).toEqual(['N']));
  });

  it('asks no more for what was opened before another part was refused', async () => {
    open({
      'POST /api/batches': ({ kind }: Record<string, unknown>) =>
        kind === 'B'
          ? { sentence: 'B-231: 12.', repeated: false, entries: [{ batch: 'B-231', seq: 1 }] }
          : { refused: 'no route for a neck' },
    });
    await press();
    expect(await screen.findByText('no route for a neck')).toBeInTheDocument();
    expect(screen.getByText('B-231 is on the board.')).toBeInTheDocument();
    expect(screen.getByRole('checkbox', { name: 'body' })).not.toBeChecked();
    expect(screen.getByRole('checkbox', { name: 'neck' })).toBeChecked();
  });

  it('tells what paces the works before more is opened', async () => {
    const floor = floorOf([rack]);
    open({
      'GET /api/floor': {
        ...floor,
        stations: floor.stations.map((one) => ({ ...one, hoursWaiting: one.code === 'body-mill' ? 40 : 0 })),
        constraint: { station: 'body-mill', signs: { skill: null, agree: 3, days: 20 } },
      },
    });
    const before = within(await screen.findByRole('region', { name: 'What it brings' }));
    expect(
      await before.findByText(
        /Body mill paces the works: 40 h of work wait for its 9 h a day\. This brings it \d+\.\d h more/,
      ),
    ).toBeInTheDocument();
  });
});
