import { planBlanks, type LotState } from '@ample-crane/core';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { CutList } from './CutList.tsx';
import type { Drying, Room } from './queries.ts';
import { WhatIf } from './WhatIf.tsx';
import { WoodProposal } from './WoodProposal.tsx';

const now = { temperatureC: 21, relativeHumidityPct: 40 };
const drying = { room: 'Wood room', air: now, window: { lowPct: 6, highPct: 8.5 } } as unknown as Drying;
const room = { room: 'Wood room', air: now, emcPct: 7.7, drift: null } as unknown as Room;
const gauges = (): (string | null)[] =>
  screen.getAllByRole('img').map((gauge) => gauge.getAttribute('aria-label'));

describe('the room of a lot (small: the gauge and the words tell of one moment)', () => {
  it('is shown as it is; what is only asked has a gauge of its own', () => {
    const props = { drying, room, onAir: () => undefined, answer: '' };
    const { rerender } = render(<WhatIf {...props} air={now} />);
    expect(gauges()).toEqual(['Its air takes the wood to 7.7 %; the gate is 6.0 to 8.5 %']);
    rerender(<WhatIf {...props} air={{ temperatureC: 21, relativeHumidityPct: 65 }} />);
    expect(gauges()).toEqual([
      'Its air takes the wood to 7.7 %; the gate is 6.0 to 8.5 %',
      expect.stringMatching(/^That air would take the wood to 1\d\.\d %/),
    ]);
  });
});

describe('the cut list (11.11)', () => {
  const board = (number: number, status: 'to-cut' | 'stacked') => ({
    ...{ number, status, lengthMm: 1200, widthMm: 200, weightKg: 6, grade: null },
  });
  const boards = [board(1, 'to-cut'), board(2, 'to-cut'), board(3, 'stacked')];
  const lot = { code: 'W-7', thicknessMm: 50, boards, blanks: [] } as unknown as LotState;
  const sizes = [{ name: 'body half', kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45 }];
  const plan = planBlanks({
    ...{ boards: boards.map((one) => ({ ...one, thicknessMm: 50 })), blanks: sizes },
    ...{ firstCut: 'crosscut' as const, kerfMm: 3, planeMm: 3, trimMm: 40, defectPct: 0 },
  });

  it('is filed whole, with the weights that were typed; boards that may not be cut are left out and said', async () => {
    const { sent } = openPage(<CutList lot={lot} plan={plan} sizes={sizes} boards={boards} />, {
      'POST /api/lots/W-7/cut-list': { sentence: 'W-7: cut', entries: [], filedMs: 0, repeated: false },
    });
    expect(screen.getByText(/^1 board of the plan is not to be cut yet/)).toBeInTheDocument();
    const first = screen.getByLabelText('Weights of board 1');
    expect(first).toHaveValue('2.11 2.11');
    await userEvent.clear(first);
    await userEvent.type(first, '2,05');
    expect(screen.getByText('2 weights above 0')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: /^File the cuts/ })).toBeDisabled();
    await userEvent.type(first, ' 2.1');
    await userEvent.click(screen.getByRole('button', { name: 'File the cuts of 2 boards: 4 blanks' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        cuts: [
          { board: 1, matched: true, pieces: [{ kind: 'B', weightKg: 2.05 }, { weightKg: 2.1 }] },
          { board: 2, matched: true, pieces: [{ weightKg: 2.11 }, { weightKg: 2.11 }] },
        ],
      }),
    );
  });
});

describe('the cut list by keyboard', () => {
  const boards = [1, 2].map((number) => ({
    ...{ number, status: 'to-cut' as const, lengthMm: 1200, widthMm: 200, weightKg: 6, grade: null },
  })) as unknown as LotState['boards'];
  const lot = { code: 'W-7', thicknessMm: 50, boards, blanks: [] } as unknown as LotState;
  const sizes = [{ name: 'body half', kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45 }];
  const plan = planBlanks({
    ...{ boards: boards.map((one) => ({ ...one, thicknessMm: 50 })), blanks: sizes },
    ...{ firstCut: 'crosscut' as const, kerfMm: 3, planeMm: 3, trimMm: 40, defectPct: 0 },
  });

  it('goes on with Enter, is filed with Ctrl and Enter, in the order in which the boards go to the saw', async () => {
    const user = userEvent.setup();
    const { sent } = openPage(<CutList lot={lot} plan={plan} sizes={sizes} boards={boards} />, {
      'POST /api/lots/W-7/cut-list': { sentence: 'W-7: cut', entries: [], filedMs: 0, repeated: false },
    });
    await user.click(screen.getByRole('button', { name: 'board 2 earlier' }));
    const [second, first] = [1, 2].map((n) => screen.getByLabelText(`Weights of board ${n}`));
    await user.type(first as HTMLElement, '{Enter}');
    expect(second).toHaveFocus();
    await user.keyboard('{Enter}');
    expect(sent).toEqual([]);
    await user.keyboard('{Control>}{Enter}{/Control}');
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ cuts: [{ board: 2 }, { board: 1 }] }));
  });
});

describe('the wood proposed for a rack that was opened (11.10)', () => {
  const unit = (n: number, extra: object = {}) => ({
    ...{ id: `W-7/${n}.1+2`, blanks: [`W-7/${n}.1`, `W-7/${n}.2`], lot: 'W-7', kind: 'B', weightKg: 4 },
    ...{ grade: 'some', colour: 'light', moisturePct: 7 + n / 10, species: 'red alder' },
    ...extra,
  });
  const choice = {
    ...{ batch: 'B-9', model: 'Halyard', kind: 'B', quantity: 3, taken: [], along: [] },
    demand: { pieces: [1, 3, 4], finishedKg: { low: 3.2, high: 3.6 } },
    wished: [
      { line: 'O-1/2', pieces: [2], finishedKg: { low: 3, high: 3.2 } },
      { line: 'O-3/1', pieces: [5], finishedKg: { low: 2.5, high: 2.7 } },
    ],
    wanting: 5,
    units: [unit(1), unit(2), unit(3)],
    chosen: {
      chosen: [1, 3, 2].map((piece, i) => ({
        ...{ piece, blank: `W-7/${i + 1}.1+2`, finishedKg: [3.4, 3.5, 3.15][i], chamberKg: 0 },
      })),
      missing: [{ batch: 'B-9', pieces: [4, 5] }],
    },
  };

  it('says weight, figure, colour, moisture and pairs, and is taken with one touch', async () => {
    const { sent } = openPage(<WoodProposal batch="B-9" />, {
      'GET /api/stock/choice/B-9': choice,
      'POST /api/stock/take': { sentence: 'W-7: took 4', entries: [], filedMs: 0, repeated: false },
    });
    expect(
      await screen.findByText(
        'Take these 3: 3.40–3.50 kg finished, wanted 3.20–3.60; O-1/2 3.15 kg, wished 3.00–3.20; no blank for O-3/1, wished 2.50–2.70 kg; 2 still missing.',
      ),
    ).toBeInTheDocument();
    expect(
      screen.getByText('3 book-matched pairs, figure some, colour light, 7.1–7.3 % moisture, of W-7.'),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Take these 3 for B-9' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        batch: 'B-9',
        blanks: ['W-7/1.1', 'W-7/1.2', 'W-7/2.1', 'W-7/2.2', 'W-7/3.1', 'W-7/3.2'],
        pieces: [1, 1, 3, 3, 2, 2],
      }),
    );
  });
});
