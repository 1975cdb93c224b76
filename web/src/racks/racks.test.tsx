import { daysLate } from '@ample-crane/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { RackLine } from '../api/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { NOW, rackLineOf as line } from '../testing/tarrow.ts';
import RacksPage from './RacksPage.tsx';
import { waitsFor } from './words.ts';

const DAY = 86_400_000;
const ZONE = 'America/Chicago';

const hold = (more: object) => ({ word: 'cure', over: false, endMs: null, ...more }) as RackLine['hold'];

describe('what a rack waits for', () => {
  const words = (more: Partial<RackLine>): string => waitsFor(line('B-1', more), ZONE, NOW);
  it('is its turn, the work, or its hold with its end', () => {
    expect(words({})).toBe('its turn at Body mill');
    expect(words({ standing: 'inHand' })).toBe('the work at Body mill');
    const onHold = (more: object): string => words({ standing: 'onHold', hold: hold(more) });
    expect(onHold({ over: true })).toBe('cure, over: it may leave');
    expect(onHold({})).toBe('cure, nobody can say until when');
    expect(onHold({ endMs: NOW + 3_600_000, lowMs: NOW + 3_600_000, highMs: NOW + 3_600_000 })).toBe(
      'cure, until Tue 09:20',
    );
    expect(words({ standing: 'onHold' })).toBe('Body mill');
    expect(words({ over: ['settle'] })).toBe('its turn at Body mill; others may leave their hold');
    expect(words({ over: ['cure'], standing: 'onHold', hold: hold({ over: true }) })).toBe(
      'cure, over: it may leave',
    );
  });
});

it('a rack is late by the days between its due date and the earliest it can be through', () => {
  expect(daysLate(line('B-1'))).toBeNull();
  expect(daysLate(line('B-1', { earliestMs: NOW + 7.5 * DAY }))).toBe(2.5);
  expect(daysLate(line('B-1', { earliestMs: null }))).toBeNull();
});

describe('the list of racks', () => {
  const station = (code: string, name: string, stage: string) => ({ code, name, stage });
  const open = (racks: RackLine[], at = '/racks') =>
    openPage(
      <RacksPage />,
      {
        'GET /api/racks': racks,
        'GET /api/floor': {
          ...{ nowMs: NOW, zone: ZONE, racks: [], stages: [] },
          stations: [
            station('body-mill', 'Body mill', 'machining'),
            station('colour', 'Colour', 'finishing'),
          ],
        },
        'GET /api/setup': { people: [{ code: 'venn', name: 'T. Venn', role: 'finish' }] },
      },
      { at, path: '/racks' },
    );
  const racks = [
    line('B-1'),
    line('B-2', { model: 'Halyard', people: ['venn'], standing: 'inHand' }),
    line('I-3', {
      station: 'colour',
      stations: ['colour', 'body-mill'],
      operationName: 'Colour',
      earliestMs: NOW + 8 * DAY,
      here: 4,
    }),
  ];
  const codes = (): string[] =>
    screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => within(row).getAllByRole('gridcell')[0]?.textContent ?? '');

  it('says in one sentence which are late, and shows all', async () => {
    open(racks);
    expect(await screen.findByText('1 of 3 racks will be late, I-3 most: 3.0 days.')).toBeInTheDocument();
    expect(codes()).toEqual(['B-1', 'B-2', 'I-3']);
    expect(screen.getByText('Colour, 4 of 12')).toBeInTheDocument();
    expect(screen.getByText('pieces 36')).toBeInTheDocument();
  });

  it.each([
    ['/racks?stage=finishing', ['I-3']],
    // Some of I-3 are still being cut.
    ['/racks?stage=machining', ['B-1', 'B-2', 'I-3']],
    ['/racks?model=Halyard', ['B-2']],
    ['/racks?person=venn', ['B-2']],
    ['/racks?late=yes', ['I-3']],
    ['/racks?stage=machining&model=Bowline', ['B-1', 'I-3']],
  ])('opens at %s narrowed to what is asked for', async (at, shown) => {
    open(racks, at);
    await screen.findByRole('grid', { name: 'All racks' });
    expect(codes()).toEqual(shown);
  });

  it('is narrowed by hand, and says so where nothing is left', async () => {
    open(racks);
    await userEvent.click(await screen.findByRole('combobox', { name: 'In the hands of' }));
    await userEvent.click(screen.getByRole('option', { name: 'T. Venn' }));
    expect(codes()).toEqual(['B-2']);
    await userEvent.click(screen.getByRole('checkbox', { name: 'late ones only' }));
    expect(screen.getAllByText('No rack is like that.')).toHaveLength(2);
  });
});
