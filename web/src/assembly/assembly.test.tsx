import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { LimitScale } from '../devices/LimitScale.tsx';
import { openPage } from '../testing/open-page.tsx';
import { NOW } from '../testing/tarrow.ts';
import BenchesPage from './BenchesPage.tsx';
import type { BenchLine, Leaving, Sheet } from './queries.ts';
import { rangesOf } from './ranges.ts';
import SerialsPage from './SerialsPage.tsx';
import SheetPage from './SheetPage.tsx';
import ShippingPage from './ShippingPage.tsx';
import { benchSentence, leavingSentence } from './words.ts';

afterEach(() => {
  jest.restoreAllMocks();
  sessionStorage.clear();
});

const line = (piece: string, change: Partial<BenchLine> = {}): BenchLine => ({
  ...{ piece, batch: piece.split('/')[0] ?? '', position: Number(piece.split('/')[1]), model: 'Bowline' },
  ...{
    serial: 'BW26328017',
    operation: 'settle',
    operationName: 'Settling',
    settling: true,
    standing: 'onHold',
  },
  ...{ sinceMs: NOW, endsMs: NOW, dueMs: NOW, verdict: 'wait', words: 'Settles: 2 days left.', by: [] },
  ...change,
});

describe('what the benches say first', () => {
  it('is what went wrong, then what is to be read, then what may go on', () => {
    expect(
      benchSentence([
        line('I-1/08', { verdict: 'back' }),
        line('I-2/01', { verdict: 'adjust' }),
        line('I-2/02', { verdict: 'measure' }),
        line('I-2/03', { verdict: 'pass' }),
        line('I-2/04', { verdict: 'pass' }),
      ]),
    ).toEqual({
      tone: 'bad',
      sentence:
        'I-1/08 moved on the shelf: back to set-up; I-2/01 is outside limits; 1 instrument to read; 2 instruments may go on.',
    });
    expect(benchSentence([line('I-1/01')])).toEqual({
      ...{ tone: 'hold', sentence: '1 instrument settling, none is due for its second look.' },
    });
    expect(
      benchSentence(['1', '2', '3', '4'].map((n) => line(`I-1/${n}`, { verdict: 'adjust' }))).sentence,
    ).toBe('I-1/1, I-1/2, I-1/3 and 1 more are outside limits.');
    expect(benchSentence([]).tone).toBe('good');
  });

  it('names what may not leave, and why', () => {
    const leaving = (piece: string, against: string | null = null) => ({ piece, against }) as Leaving;
    expect(leavingSentence([leaving('I-1/01'), leaving('I-1/02', 'it has no serial')])).toEqual({
      ...{ tone: 'wait', sentence: '1 instrument may leave; I-1/02 may not: it has no serial.' },
    });
    expect(leavingSentence([leaving('I-1/01')]).sentence).toBe('1 instrument may leave.');
    expect(leavingSentence([]).tone).toBe('hold');
  });
});

describe('the benches', () => {
  it('are told apart by place, with how many stand there', async () => {
    const lines = [
      line('I-1/08', { verdict: 'back', words: 'Back to set-up: bass side moved +0.16 mm' }),
      line('I-2/01', { settling: false, operationName: 'Set-up', verdict: 'adjust', endsMs: null }),
      line('I-3/01', {
        settling: false,
        operationName: 'Final inspection',
        verdict: 'measure',
        endsMs: null,
      }),
    ];
    openPage(<BenchesPage />, { 'GET /api/bench': { nowMs: NOW, zone: 'utc', lines } });
    await userEvent.click(await screen.findByRole('button', { name: 'Settling shelf 1' }));
    expect(screen.getByText('I-1/08 moved on the shelf: back to set-up.')).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'I-1/08' })).toHaveAttribute('href', '/assembly/bench/I-1/8');
    expect(screen.queryByRole('link', { name: 'I-2/01' })).not.toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Inspection 1' }));
    expect(screen.getByText('1 instrument to read.')).toBeInTheDocument();
  });
});

const check = (
  key: string,
  name: string,
  nominal: number,
  lower: number,
  upper: number | null,
  unit = 'mm',
) => ({
  ...{ key, name, unit, nominal, lower, upper, firstPiece: false, sample: 1, every: true },
});
const sheet = (change: Partial<Sheet> = {}): Sheet => ({
  ...{ nowMs: NOW, zone: 'utc', piece: 'I-7/02', batch: 'I-7', position: 2, model: 'Bowline', serial: 'BW1' },
  ...{ operation: 'setup', operationName: 'Set-up', mode: 'attended', caution: null, reworkTo: 'setup' },
  ...{ givesSerial: false, eyes: 1, standing: 'inHand', sinceMs: NOW, endsMs: null, verdict: 'measure' },
  ...{
    words: 'Still to read: all of it.',
    by: [],
    values: {},
    before: {},
    drifts: {},
    turns: [],
    sheets: [],
    parts: [],
  },
  ...{ practice: { scaleMm: 648, saddleMmPerTurn: 0.5 }, others: { relief: [0.2, 0.21, 0.24] } },
  checks: [
    check('relief', 'Neck relief', 0.22, 0.15, 0.3),
    check('action-bass', 'Action, bass side', 1.9, 1.5, 2.2),
    check('taps', 'Pickups tap', 1, 1, null, 'yes'),
  ],
  ...change,
});
const openSheet = (answer: Sheet, more: Record<string, object> = {}) =>
  openPage(
    <SheetPage />,
    { 'GET /api/bench/I-7/2': answer, 'GET /api/bench': { nowMs: NOW, zone: 'utc', lines: [] }, ...more },
    { at: '/assembly/bench/I-7/2', path: '/assembly/bench/:batch/:position' },
  );

describe('the sheet of an instrument', () => {
  it('follows what is typed with a verdict and what to turn, and files it as one entry', async () => {
    const { sent } = openSheet(sheet(), {
      'POST /api/log': { sentence: 'I-7: /2 Passes', entries: [], filedMs: NOW },
    });
    const form = await screen.findByRole('form', { name: 'Bench sheet' });
    const [relief, action] = within(form).getAllByRole('textbox');
    expect(screen.getByText('Still to read: all of it.')).toBeInTheDocument();
    await userEvent.type(relief as HTMLElement, '0,2');
    expect(screen.getByText('Still to read: action, bass side; pickups tap.')).toBeInTheDocument();
    await userEvent.type(action as HTMLElement, '2.3');
    expect(screen.getByText('Adjust: action, bass side 2.3 mm, limits 1.5–2.2 mm.')).toBeInTheDocument();
    // 0.4 over 1.9 at fret 12: 0.8 at the saddle, 1.6 turns.
    expect(screen.getByText(/lower its saddle by about 0\.80 mm, 6 quarter turns/)).toBeInTheDocument();
    await userEvent.clear(action as HTMLElement);
    await userEvent.type(action as HTMLElement, '1.9');
    await userEvent.click(within(form).getByRole('button', { name: 'Yes' }));
    expect(
      screen.getByText('Passes: 2 values inside their limits, 1 looked at and right.'),
    ).toBeInTheDocument();
    await userEvent.click(within(form).getByRole('button', { name: 'File sheet of I-7/02' }));
    expect(sent[0]?.body).toMatchObject({
      batch: 'I-7',
      entries: [
        {
          type: 'sheet',
          operation: 'setup',
          pieces: [2],
          values: { relief: 0.2, 'action-bass': 1.9, taps: 1 },
        },
      ],
    });
  });

  it('files nothing of what is no number, and says so at the field', async () => {
    const { sent } = openSheet(sheet());
    const form = await screen.findByRole('form', { name: 'Bench sheet' });
    const [relief, action] = within(form).getAllByRole('textbox');
    await userEvent.type(relief as HTMLElement, '0.2');
    await userEvent.type(action as HTMLElement, 'high{Enter}');
    expect(await screen.findByText("'high' is no number")).toBeInTheDocument();
    expect(sent).toEqual([]);
  });

  it('on the shelf holds the second look against the first, and offers the way back', async () => {
    openSheet(
      sheet({
        ...{ mode: 'hold', operation: 'settle', operationName: 'Settling', verdict: 'back', endsMs: NOW - 1 },
        ...{
          words: 'Back to set-up: bass side moved.',
          before: { 'action-bass': 1.9 },
          values: { 'action-bass': 2.05 },
        },
        drifts: { 'action-bass': 0.1 },
        checks: [check('action-bass', 'Action, bass side', 1.9, 1.5, 2.2)],
      }),
      { 'GET /api/batches/I-7': { route: { operations: [] } } },
    );
    expect(await screen.findByText('+0.15 since')).toBeInTheDocument();
    expect(screen.getByText('1.5–2.2 mm, may move 0.10 mm')).toBeInTheDocument();
    expect(screen.getByRole('textbox', { name: 'What is wrong' })).toHaveValue('moved while it settled');
  });
});

describe('a value between its limits', () => {
  const drawn = (value: number | null, before: number | null = null) => {
    const outside = value !== null && value > 2;
    const { container, unmount } = render(
      <LimitScale
        lower={1}
        upper={2}
        nominal={1.5}
        value={value}
        outside={outside}
        before={before}
        others={[1.2, 1.4]}
        words="action"
      />,
    );
    const marks = {
      inside: container.querySelectorAll('circle.is').length,
      out: container.querySelectorAll('path.out').length,
      was: container.querySelectorAll('.was').length,
      others: container.querySelectorAll('.other').length,
    };
    unmount();
    return marks;
  };
  it('is round inside, a diamond outside, and shows what it was', () => {
    expect(drawn(1.5)).toEqual({ inside: 1, out: 0, was: 0, others: 2 });
    expect(drawn(2.4, 1.9)).toEqual({ inside: 0, out: 1, was: 1, others: 2 });
    expect(drawn(null)).toMatchObject({ inside: 0, out: 0 });
  });
});

describe('shipping', () => {
  const leaving = (position: number, against: string | null = null, line: string | null = null) => ({
    ...{
      piece: `I-7/0${position}`,
      batch: 'I-7',
      position,
      serial: `BW${position}`,
      model: 'Bowline',
      sinceMs: NOW,
      dueMs: NOW,
    },
    ...{ against, line },
  });
  const LEDGER = { nowMs: NOW, zone: 'utc', lines: [], more: false };

  it('takes the rack with one tick, and wants a reason only where a rule speaks against one that is ticked', async () => {
    const { sent } = openPage(<ShippingPage />, {
      'GET /api/leaving': [leaving(1), leaving(2), leaving(3, 'I-7/03 has no serial yet')],
      'GET /api/shipments': LEDGER,
      'POST /api/shipments': { sentence: '2 shipped', entries: [], filedMs: NOW },
    });
    await userEvent.click(await screen.findByRole('checkbox', { name: /^I-7 Bowline/ }));
    expect(screen.getByRole('button', { name: 'Ship 2' })).toBeEnabled();
    expect(screen.queryByLabelText('Why they leave all the same')).not.toBeInTheDocument();
    await userEvent.click(screen.getByRole('checkbox', { name: /BW3/ }));
    expect(screen.getByLabelText('Why they leave all the same')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('checkbox', { name: /BW3/ }));
    await userEvent.type(screen.getByLabelText('To whom'), 'Harbour Strings');
    await userEvent.click(screen.getByRole('button', { name: 'Ship 2' }));
    expect(sent[0]?.body).toMatchObject({ pieces: ['I-7/01', 'I-7/02'], to: 'Harbour Strings' });
    expect(sent[0]?.body).not.toHaveProperty('because');
    expect(sent[0]?.body).not.toHaveProperty('order');
  });

  it('goes by the order the instruments are built for, and says when that is two', async () => {
    const { sent } = openPage(<ShippingPage />, {
      'GET /api/leaving': [leaving(1, null, 'O-4/1'), leaving(2, null, 'O-4/2'), leaving(3, null, 'O-9/1')],
      'GET /api/shipments': LEDGER,
      'POST /api/shipments': { sentence: '2 shipped', entries: [], filedMs: NOW },
    });
    await userEvent.click(
      await screen.findByRole('checkbox', { name: /^I-7 Bowline, 3 here for O-4, O-9$/ }),
    );
    expect(screen.getByText(/^They are built for O-4 and O-9: ship them apart/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('checkbox', { name: /BW3/ }));
    expect(screen.getByText('O-4, unless you say another')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('To whom'), 'Harbour Strings');
    await userEvent.click(screen.getByRole('button', { name: 'Ship 2' }));
    expect(sent[0]?.body).toMatchObject({ order: 'O-4' });
  });
});

describe('serials', () => {
  it('reads ranges of paper, two serials a line', () => {
    expect(rangesOf('tw001 tw040\n\nTW050')).toEqual({
      ...{
        ranges: [
          { from: 'TW001', to: 'TW040' },
          { from: 'TW050', to: 'TW050' },
        ],
        problem: null,
      },
    });
    expect(rangesOf('TW040 TW001').problem).toMatch(/line 1: .*the first before the last/);
    expect(rangesOf('TW1 TW2 TW3').problem).toMatch(/two serials/);
  });

  it('cannot be made by a pattern that would repeat', async () => {
    const serials = {
      ...{ pattern: 'TW{all:6}', letters: [], onPaper: [], problems: [], given: 12 },
      next: [{ model: 'Bowline', serial: 'TW000013', problem: null }],
    };
    openPage(<SerialsPage />, {
      ...{ 'GET /api/serials': serials, 'POST /api/serials/preview': { problems: [], next: serials.next } },
      'GET /api/setup/changes': [],
    });
    const pattern = await screen.findByRole('textbox', { name: 'Pattern' });
    expect(screen.getByText('TW000013')).toBeInTheDocument();
    await userEvent.clear(pattern);
    await userEvent.type(pattern, 'TW');
    expect(screen.getByText(/^It cannot be used: it would repeat at once/)).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Make serials so' })).toBeDisabled();
    await userEvent.click(screen.getByRole('button', { name: /^\{all:6\}/ }));
    expect(pattern).toHaveValue('TW{all:6}');
  });
});
