import type { Stage } from '@ample-crane/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { floorOf, NOW, rackLineOf as line, SETUP } from '../testing/tarrow.ts';
import { BoardPage } from './BoardPage.tsx';
import { byModel } from './by-model.ts';

const DAY = 86_400_000;
const STAGE_OF: Record<string, Stage> = { wood: 'wood', 'body-mill': 'machining', 'neck-fit': 'fitting' };

/** Of three Bowlines one is late, and one has pieces at the mill while the others still rest. */
const lines = [
  line('B-1'),
  line('B-2', { standing: 'inHand', dueMs: NOW + DAY, earliestMs: NOW + 2 * DAY, people: ['venn'] }),
  line('B-3', { station: 'wood', standing: 'onHold', stations: ['wood', 'body-mill'], pieces: 8 }),
  line('B-4', { model: 'Halyard', station: 'neck-fit', stations: ['neck-fit'] }),
];

it('puts each rack into every stage where it has pieces, what is due first, first', () => {
  const [bowline, halyard, ...more] = byModel(lines, (station) => STAGE_OF[station]);
  expect(more).toEqual([]);
  expect(bowline).toMatchObject({ model: 'Bowline', racks: 3, pieces: 32, late: 1 });
  expect(bowline?.next.batch).toBe('B-2');
  expect(bowline?.stages).toEqual({
    wood: [{ batch: 'B-3', is: 'onHold', late: false }],
    machining: [
      { batch: 'B-2', is: 'inHand', late: true },
      { batch: 'B-1', is: 'waiting', late: false },
      { batch: 'B-3', is: 'ahead', late: false },
    ],
    ...{ fitting: [], finishing: [], assembly: [] },
  });
  expect(halyard).toMatchObject({ model: 'Halyard', racks: 1, late: 0 });
  expect(byModel([], () => undefined)).toEqual([]);
});

describe('the board by model', () => {
  const open = (at: string) =>
    openPage(
      <BoardPage />,
      {
        'GET /api/board': { racks: 4, drawn: 3, days: [], rows: [], calls: [], putOff: [] },
        'GET /api/floor': floorOf([]),
        'GET /api/racks': lines,
        'GET /api/setup': SETUP,
      },
      { at, path: '/' },
    );
  const models = (): (string | null)[] =>
    screen.getAllByRole('group').flatMap((group) => group.getAttribute('aria-label'));

  it('has a row for each, and leads to the racks of a model in a stage, as they are asked for', async () => {
    open('/?by=model&late=yes');
    const row = within(await screen.findByRole('group', { name: 'Bowline' }));
    expect(row.getByText('1 rack, 12 pieces')).toBeInTheDocument();
    expect(row.getByText('1 of 1 late')).toBeInTheDocument();
    expect(row.getByRole('link', { name: 'Bowline in Machining: 1 rack, 1 late' })).toHaveAttribute(
      'href',
      '/racks?late=yes&model=Bowline&stage=machining',
    );
    expect(screen.getByText('3 of 4 racks')).toBeInTheDocument();
  });

  it('is chosen on the board, as is what it shows; all is brought back in one touch', async () => {
    const user = userEvent.setup();
    open('/');
    await user.click(await screen.findByRole('button', { name: 'What the board shows' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'What the board shows' }));
    await user.click(dialog.getByRole('button', { name: 'by model' }));
    await user.click(dialog.getByRole('combobox', { name: 'Model' }));
    await user.click(await screen.findByRole('option', { name: 'Halyard' }));
    await user.keyboard('{Escape}');
    expect(models()).toContain('Halyard');
    expect(models()).not.toContain('Bowline');
    await user.click(screen.getByRole('button', { name: 'Show all' }));
    expect(models()).toEqual(expect.arrayContaining(['Bowline', 'Halyard']));
    expect(screen.queryByRole('button', { name: 'Show all' })).not.toBeInTheDocument();
  });

  it('says so when no rack is like what is asked', async () => {
    open('/?by=model&person=nobody');
    expect(await screen.findByText('No open rack is like that.')).toBeInTheDocument();
  });
});
