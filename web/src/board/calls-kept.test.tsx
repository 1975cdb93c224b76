import 'fake-indexeddb/auto';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useFiling } from '../shared/useFiling.ts';
import { openPage } from '../testing/open-page.tsx';
import { Calls } from './Calls.tsx';

afterEach(() => jest.restoreAllMocks());

/** What the log bar would say. */
function News() {
  return <output aria-label="news">{useFiling().news?.text}</output>;
}

it('a call that is done for all without a line says that its lines are kept, and not that they are filed', async () => {
  const items = ['I-1', 'I-2'].map((subject) => ({
    ...{ subject, title: `${subject} may leave Cure`, detail: '12 pieces.', cost: 2, line: `${subject} end` },
    href: `/batch/${subject}`,
  }));
  const call = {
    ...{ id: 'hold-over:Cure', kind: 'hold-over' as const, subject: 'I-1', title: '2 racks may leave Cure' },
    ...{ detail: '24 pieces.', cost: 4, evidence: '/batch/I-1', items, answer: null },
    actions: [{ label: 'End all 2 holds', each: true }],
  };
  openPage(
    <>
      <News />
      <Calls board={{ calls: [call], putOff: [] }} floor={{ zone: 'UTC', shift: null }} nowMs={0} />
    </>,
    { 'POST /api/log/line': Promise.reject<object>(new TypeError('no line')) },
  );
  fireEvent.click(screen.getByRole('button', { name: 'End all 2 holds' }));
  await waitFor(() =>
    expect(screen.getByRole('status', { name: 'news' })).toHaveTextContent(
      'Filed: 0 of 2; kept until the server is back: 2',
    ),
  );
});
