import { screen } from '@testing-library/react';
import { openPage } from '../testing/open-page.tsx';
import ChangesPage from './ChangesPage.tsx';
import { LastChange } from './LastChange.tsx';
import { afterWords, beforeWords, changeTitle, type Change } from './words.ts';

const AT = Date.UTC(2026, 10, 24, 19, 20);
const change = (told: Partial<Change>): Change => ({
  ...{ id: '1', atMs: AT, by: 'ostrander', setting: 'wood gate', name: '' },
  ...{ before: null, after: null },
  ...told,
});
const GATE = change({
  before: { school: 'fixed', lowPct: 6, highPct: 8.5 },
  after: {
    school: 'destination',
    air: { temperatureC: 21, relativeHumidityPct: 42 },
    tolerancePct: 1,
  },
});
const ROOM = change({
  ...{ id: '2', setting: 'room', name: 'Wood room', by: 'venn' },
  ...{ before: { lowPct: 6, highPct: 8 }, after: { lowPct: 6.5, highPct: 7.5 } },
});
const ANSWERS = {
  'GET /api/setup/changes': [GATE, ROOM],
  'GET /api/setup': { people: [{ code: 'ostrander', name: 'M. Ostrander', role: 'production', skills: [] }] },
  'GET /api/floor': { zone: 'America/Chicago', nowMs: AT, racks: [], stations: [], stages: [] },
};

describe('a changed setting in words', () => {
  it.each<[Partial<Change>, string, string | null, string | null]>([
    [
      GATE,
      'How dry lumber must be',
      'a window we trust, 6.0–8.5 %',
      'the EMC of 21.0 °C and 42 % RH ± 1.0 %',
    ],
    [ROOM, 'Air of Wood room', 'EMC 6.0–8.0 %', 'EMC 6.5–7.5 %'],
    [
      { setting: 'run rules', before: { rules: ['beyond'] }, after: { rules: [] } },
      'Run rules of the charts',
      'one point beyond 3 σ',
      'none',
    ],
    [
      {
        setting: 'machine',
        name: 'mill-z',
        after: { name: 'Old mill', station: 'body-mill', url: 'http://m:1' },
      },
      'Machine mill-z',
      null,
      'Old mill at body-mill, asked at http://m:1',
    ],
    [
      { setting: 'station', name: 'attic', before: { code: 'attic', name: 'Attic' } },
      'Station attic',
      'Attic in use',
      null,
    ],
    [
      { setting: 'weigh-back', name: 'B-152/14', before: { blankKg: 3.91, finishedKg: 2.09 } },
      'Weight of B-152/14',
      'counted: 3.91 kg as a blank, 2.09 kg finished',
      null,
    ],
    [
      {
        ...{ setting: 'species', name: 'stone pine' },
        after: {
          ...{ basicSpecificGravity: 0.43, radialShrinkagePct: 3.4, tangentialShrinkagePct: 6.7 },
          papersNeeded: true,
        },
      },
      'Species stone pine',
      null,
      'specific gravity 0.43, shrinks 3.4 % radially and 6.7 % tangentially, papers needed',
    ],
  ])('%#: %j', (told, title, before, after) => {
    const said = change(told);
    expect([changeTitle(said), beforeWords(said), afterWords(said)]).toEqual([title, before, after]);
  });
});

it('the page lists who changed what, newest first', async () => {
  openPage(<ChangesPage />, ANSWERS);
  expect(await screen.findByText('2 changes; the last on Tue 24 Nov 13:20.')).toBeVisible();
  expect(await screen.findByText('M. Ostrander')).toBeVisible();
  const rows = screen.getAllByRole('row').slice(1);
  expect(rows[0]).toHaveTextContent(/M\. Ostrander.*How dry lumber must be.*a window we trust/);
  expect(rows[1]).toHaveTextContent(/venn.*Air of Wood room.*EMC 6\.0–8\.0 %.*EMC 6\.5–7\.5 %/);
});

it('the page of works where nothing was changed says so', async () => {
  openPage(<ChangesPage />, { ...ANSWERS, 'GET /api/setup/changes': [] });
  expect(await screen.findByText('Nothing was changed since the works were set up.')).toBeVisible();
  expect(screen.queryByRole('table')).toBeNull();
});

it('stands under its setting, of that one only', async () => {
  openPage(<LastChange setting="room" name="Wood room" />, ANSWERS);
  expect(
    await screen.findByText(/^Changed Tue 24 Nov 13:20 by venn; before: EMC 6\.0–8\.0 %\./),
  ).toBeVisible();
});
