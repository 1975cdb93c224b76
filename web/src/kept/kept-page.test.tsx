import 'fake-indexeddb/auto';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import KeptPage from './KeptPage.tsx';
import { openStore, type Kept } from '../outbox/store.ts';

const NOW = Date.UTC(2026, 10, 24, 19, 20);
const FLOOR = {
  'GET /api/floor': { zone: 'America/Chicago', nowMs: NOW, racks: [], stations: [], stages: [] },
  'GET /api/setup': { people: [{ code: 'venn', name: 'T. Venn', role: 'wood room', skills: [] }] },
  'GET /api/log/given-up': [],
};
const FILED = { sentence: 'done', entries: [], filedMs: NOW, repeated: false };

/** Refused filings as an earlier page left them in this browser. */
async function keep(...lines: string[]): Promise<void> {
  const store = await openStore();
  await store.clear('filings');
  for (const [i, line] of lines.entries()) {
    const kept: Omit<Kept, 'order'> = {
      ...{ key: `kept-page-${line}-${i}`, by: 'venn', path: '/api/log/line', words: line, body: { line } },
      ...{ touchedMs: NOW, offsetMs: 0, seen: {}, tries: 3, late: true },
      refused: 'Wait: 38 h of rest left',
    };
    await store.add('filings', kept as Kept);
  }
  store.close();
}

describe('what this browser keeps', () => {
  it('is nothing when the server has all', async () => {
    await keep();
    openPage(<KeptPage />, FLOOR);
    expect(await screen.findByText('Nothing is kept: the server has all that was filed here.')).toBeVisible();
  });

  it('and was refused is filed anew with a reason, of the moment it was touched', async () => {
    await keep('N-118 end', 'B-201 end');
    const { sent } = openPage(<KeptPage />, { ...FLOOR, 'POST /api/log/line': FILED });
    expect(await screen.findByText(/^2 filings that were kept are refused/)).toBeVisible();
    const first = within(screen.getByRole('article', { name: 'N-118 end' }));
    expect(first.getByText('Wait: 38 h of rest left')).toBeVisible();
    expect(await first.findByText('touched Tue 13:20 by T. Venn')).toBeVisible();
    await userEvent.type(first.getByLabelText('Reason, if it is to go on anyway'), 'dry by the other meter');
    await userEvent.click(first.getByRole('button', { name: 'File with this reason' }));
    await waitFor(() => expect(screen.queryByRole('article', { name: 'N-118 end' })).toBeNull());
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        path: '/api/log/line',
        body: { line: 'N-118 end because dry by the other meter', touchedAt: new Date(NOW).toISOString() },
      }),
    );
    expect(await screen.findByText(/^1 filing that was kept is refused/)).toBeVisible();
  });

  it('and was refused may be dropped, which the server is told', async () => {
    await keep('B-201 end');
    const { sent } = openPage(<KeptPage />, { ...FLOOR, 'POST /api/log/given-up': { key: 'x' } });
    await userEvent.click(await screen.findByRole('button', { name: 'Drop, and note it' }));
    expect(await screen.findByText(/^Nothing is kept/)).toBeVisible();
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        path: '/api/log/given-up',
        body: {
          by: 'venn',
          words: 'B-201 end',
          why: 'Wait: 38 h of rest left',
          request: { line: 'B-201 end' },
        },
      }),
    );
  });

  it('lists what was given up on any device', async () => {
    await keep();
    const given = { key: 'g', by: 'venn', words: 'N-118 read 9', why: 'no', touchedMs: NOW, givenUpMs: NOW };
    openPage(<KeptPage />, { ...FLOOR, 'GET /api/log/given-up': [given] });
    expect(
      await screen.findByRole('row', { name: /Tue 13:20 N-118 read 9 (T\. Venn|venn) no/ }),
    ).toBeVisible();
  });
});
