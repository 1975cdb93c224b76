import userEvent from '@testing-library/user-event';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Board } from '../api/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { useFiling } from '../shared/useFiling.ts';
import { SETUP } from '../testing/tarrow.ts';
import { Calls } from './Calls.tsx';

afterEach(() => jest.restoreAllMocks());

type Call = Board['calls'][number];

const call = (id: string, extra: Partial<Call> = {}): Call => ({
  ...{
    id,
    kind: 'hold-over',
    subject: id,
    title: `${id} may leave Cure`,
    detail: 'Its cure is over.',
    cost: 2,
  },
  ...{ evidence: `/batch/${id}`, items: [], answer: null },
  actions: [
    { label: 'End hold, on to Buff', line: `${id} end` },
    { label: 'See it', href: `/batch/${id}` },
  ],
  ...extra,
});
const together = (...racks: string[]): Call =>
  call('hold-over:Cure', {
    title: `${racks.length} racks may leave Cure`,
    cost: 8.5,
    actions: [{ label: `End all ${racks.length} holds`, each: true }],
    items: racks.map((subject) => ({
      ...{
        subject,
        title: `${subject} may leave Cure`,
        detail: '12 pieces.',
        cost: 2,
        line: `${subject} end`,
      },
      href: `/batch/${subject}`,
    })),
  });
const filed = { sentence: 'hold of 12 ended', entries: [], repeated: false, filedMs: 0 };
const NOW = Date.parse('2026-11-24T19:20:00Z');
const floor = { zone: 'America/Chicago', shift: { name: 'A', endMs: Date.parse('2026-11-24T21:30:00Z') } };
/** What the log bar would say. */
function News() {
  return <output aria-label="news">{useFiling().news?.text}</output>;
}
const shown = (calls: Call[], putOff: Call[] = []) => (
  <>
    <News />
    <Calls board={{ calls, putOff }} floor={floor} nowMs={NOW} />
  </>
);
const open = (calls: Call[], answer: object | Promise<object> = filed, putOff: Call[] = []) =>
  openPage(shown(calls, putOff), {
    'POST /api/log/line': answer,
    'POST /api/calls/answers': { call: 'I-1' },
    'GET /api/setup': { ...SETUP, people: [{ code: 'tamsel', name: 'V. Tamsel', skills: [] }] },
  });
const lines = (sent: { body: Record<string, unknown> }[]) => sent.map(({ body }) => body.line);

describe('the calls of the board', () => {
  it('say that nothing wants anybody, or how many decisions there are and what stands behind them', () => {
    const { change } = open([]);
    expect(screen.getByText('nothing wants you now')).toBeInTheDocument();
    change(shown([call('I-1')]));
    expect(screen.getByText('1 decision')).toBeInTheDocument();
    change(shown([together('I-1', 'I-2', 'I-3'), call('I-9')]));
    expect(screen.getByText('2 decisions on 4 racks and things')).toBeInTheDocument();
    expect(screen.getByText(/Each day it is left costs 8\.5 instrument-days\./)).toBeInTheDocument();
  });

  it('file what one offers in one touch', async () => {
    const { sent } = open([call('I-1')]);
    expect(screen.getByRole('link', { name: 'See it' })).toHaveAttribute('href', '/batch/I-1');
    fireEvent.click(screen.getByRole('button', { name: 'End hold, on to Buff' }));
    await waitFor(() => expect(sent).toMatchObject([{ path: '/api/log/line', body: { by: 'ostrander' } }]));
    expect(lines(sent)).toEqual(['I-1 end']);
  });

  it('do it for all in one touch, each as a filing of its own, in order', async () => {
    const { sent } = open([together('I-2', 'I-1', 'I-3')]);
    fireEvent.click(screen.getByRole('button', { name: 'End all 3 holds' }));
    await waitFor(() => expect(lines(sent)).toEqual(['I-2 end', 'I-1 end', 'I-3 end']));
    expect(new Set(sent.map(({ body }) => body.key)).size).toBe(3);
    await waitFor(() => expect(screen.queryByRole('progressbar')).not.toBeInTheDocument());
  });

  it('do it for those that are ticked; what comes later is not ticked for anybody', async () => {
    const { sent, change } = open([together('I-1', 'I-2', 'I-3')]);
    fireEvent.click(screen.getByRole('button', { name: 'See all 3' }));
    fireEvent.click(await screen.findByRole('checkbox', { name: 'I-2 may leave Cure' }));
    change(shown([together('I-1', 'I-2', 'I-3', 'I-4')]));
    expect(screen.getByRole('checkbox', { name: 'I-4 may leave Cure' })).not.toBeChecked();
    fireEvent.click(screen.getByRole('button', { name: 'Only the 2 chosen' }));
    await waitFor(() => expect(lines(sent)).toEqual(['I-1 end', 'I-3 end']));
    await waitFor(() => expect(screen.queryByRole('progressbar')).not.toBeInTheDocument());
    for (const rack of ['I-1', 'I-3'])
      fireEvent.click(screen.getByRole('checkbox', { name: `${rack} may leave Cure` }));
    expect(screen.getByRole('button', { name: 'Only the 0 chosen' })).toBeDisabled();
  });

  it('say what came of all: filed, or refused with the first reason', async () => {
    const news = () => screen.getByRole('status', { name: 'news' });
    const { change } = open([together('I-1', 'I-2', 'I-3')]);
    fireEvent.click(screen.getByRole('button', { name: 'End all 3 holds' }));
    await waitFor(() => expect(news()).toHaveTextContent(/^Filed: 3 of 3$/));
    change(<></>);
    open([together('I-4', 'I-5')], { refused: 'nothing of it is on hold', code: 'nothing-here' });
    fireEvent.click(screen.getByRole('button', { name: 'End all 2 holds' }));
    await waitFor(() =>
      expect(screen.getAllByRole('status', { name: 'news' }).at(-1)).toHaveTextContent(
        "Filed: 0 of 2; refused: 2, the first 'I-4 end': nothing of it is on hold",
      ),
    );
  });

  it('show how far many are, and stop between two', async () => {
    let answer: (filed: object) => void = () => undefined;
    const { sent } = open(
      [together('I-1', 'I-2', 'I-3')],
      new Promise<object>((resolve) => (answer = resolve)),
    );
    fireEvent.click(screen.getByRole('button', { name: 'End all 3 holds' }));
    expect(await screen.findByRole('progressbar', { name: '0 of 3 filed' })).toBeInTheDocument();
    await waitFor(() => expect(sent).toHaveLength(1));
    fireEvent.click(screen.getByRole('button', { name: 'Stop' }));
    answer(filed);
    await waitFor(() => expect(screen.queryByRole('progressbar')).not.toBeInTheDocument());
    expect(lines(sent)).toEqual(['I-1 end']);
  });

  it('are seen as long as they are few; the others stand by kind behind a touch', () => {
    const many = Array.from({ length: 10 }, (_, i) => call(`I-${i}`));
    const less = [1, 2].map((i) => call(`T${i}`, { kind: 'cutter', title: `Change T${i} soon` }));
    open([...many, ...less, call('Booth 2', { kind: 'booth', title: 'Booth 2 wants new filters' })]);
    expect(screen.getAllByRole('article')).toHaveLength(10);
    const rest = within(screen.getByRole('group', { name: 'Less costly' }));
    expect(rest.getAllByRole('button').map((button) => button.textContent)).toEqual([
      '2 cutter changes',
      '1 booth',
    ]);
    fireEvent.click(rest.getByRole('button', { name: '2 cutter changes' }));
    expect(rest.getByText('Change T2 soon')).toBeInTheDocument();
    expect(rest.queryByText('Booth 2 wants new filters')).not.toBeInTheDocument();
    fireEvent.click(rest.getByRole('button', { name: '2 cutter changes' }));
    expect(rest.queryByText('Change T2 soon')).not.toBeInTheDocument();
  });

  it('are put off until a time, with a reason, and say when they come back', async () => {
    const { sent } = open([call('I-1')]);
    fireEvent.click(screen.getByRole('button', { name: 'Not now: I-1 may leave Cure' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'I-1 may leave Cure' }));
    fireEvent.mouseDown(dialog.getByRole('combobox', { name: 'Put off until' }));
    expect(screen.getAllByRole('option').map((option) => option.textContent)).toEqual([
      'not put off',
      'in an hour: Tue 24 Nov 14:20',
      'at the end of the shift: Tue 24 Nov 15:30',
      'tomorrow morning: Wed 25 Nov 07:00',
      'in a week: Tue 1 Dec 07:00',
    ]);
    fireEvent.click(screen.getByRole('option', { name: /^tomorrow morning/ }));
    fireEvent.click(dialog.getByRole('button', { name: 'Put it off' }));
    expect(await dialog.findByText('whoever reads it wants to know')).toBeInTheDocument();
    expect(sent).toEqual([]);
    fireEvent.change(dialog.getByLabelText('Why it can wait'), { target: { value: 'buff is full' } });
    fireEvent.click(dialog.getByRole('button', { name: 'Put it off' }));
    await waitFor(() =>
      expect(sent).toMatchObject([
        {
          path: '/api/calls/answers',
          body: { call: 'I-1', by: 'ostrander', until: '2026-11-25T13:00:00.000Z', reason: 'buff is full' },
        },
      ]),
    );
    await waitFor(() => expect(screen.queryByRole('dialog')).not.toBeInTheDocument());
  });

  it('are given to somebody, and say whose they are', async () => {
    const answer = {
      call: 'I-2',
      atMs: NOW,
      by: 'tamsel',
      to: 'tamsel',
      untilMs: null,
      reason: 'you know it',
      cost: 2,
    };
    const { sent } = open([call('I-1'), call('I-2', { answer })]);
    expect(await screen.findByText('V. Tamsel has it, from V. Tamsel: you know it.')).toBeInTheDocument();
    fireEvent.click(screen.getByRole('button', { name: 'Not now: I-1 may leave Cure' }));
    await userEvent.type(await screen.findByRole('combobox', { name: 'Give to' }), 'tams{Enter}');
    fireEvent.click(screen.getByRole('button', { name: 'Give it' }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ call: 'I-1', to: 'tamsel', reason: '' }));
    expect(sent[0]?.body).not.toHaveProperty('until');
  });

  it('that were put off stand behind a touch, with who, until when and why, and are brought back', async () => {
    const answer = {
      ...{ call: 'I-1', atMs: NOW, by: 'tamsel', to: null, untilMs: Date.parse('2026-11-25T13:00:00Z') },
      ...{ reason: 'buff is full', cost: 2 },
    };
    const { sent } = open([], filed, [call('I-1', { answer })]);
    expect(screen.queryByText('I-1 may leave Cure')).not.toBeInTheDocument();
    fireEvent.click(screen.getByRole('button', { name: '1 put off' }));
    expect(await screen.findByText('until Wed 25 Nov 07:00, by V. Tamsel: buff is full')).toBeInTheDocument();
    fireEvent.click(screen.getByRole('button', { name: 'Bring it back' }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ call: 'I-1', reason: '' }));
    expect(sent[0]?.body).not.toHaveProperty('until');
  });
});
