import { screen } from '@testing-library/react';
import { openPage } from '../testing/open-page.tsx';
import BackupsPage from './BackupsPage.tsx';

const AT = Date.UTC(2026, 10, 24, 8, 0);
const BACKUPS = {
  ...{ on: true, keepDays: 14, overdue: false, trouble: null },
  backups: [
    { name: 'ample-crane-2026-11-24T080000Z.dump', atMs: AT, bytes: 2_345_678 },
    { name: 'ample-crane-2026-11-23T080000Z.dump', atMs: AT - 86_400_000, bytes: 2_300_000 },
  ],
};
const open = (told: object) =>
  openPage(<BackupsPage />, {
    'GET /api/floor': { zone: 'America/Chicago', nowMs: AT, racks: [], stations: [], stages: [] },
    'GET /api/backups': { ...BACKUPS, ...told },
  });

it('says of when the last backup is and how large, and lists those that are kept', async () => {
  open({});
  expect(await screen.findByText('The last backup is of Tue 24 Nov 02:00, 2.3 MB.')).toBeVisible();
  expect(screen.getByText(/kept for 14 days/)).toBeVisible();
  expect(screen.getAllByRole('row')).toHaveLength(3);
});

it.each<[object, RegExp]>([
  [{ overdue: true }, /2\.3 MB: the next is overdue\.$/],
  [{ backups: [], overdue: true }, /^There is no backup, and one is overdue\.$/],
  [{ backups: [] }, /^No backup yet: the first is taken within minutes of a start\.$/],
  [{ on: false, backups: [] }, /^No backups are taken: the server was started without a folder/],
])('of %j says so', async (told, sentence) => {
  open(told);
  expect(await screen.findByText(sentence)).toBeVisible();
});

it('tells why the last one failed', async () => {
  open({ trouble: 'No space left on device' });
  expect(await screen.findByText('No space left on device')).toBeVisible();
});
