import { METRIC, type ChosenUnits } from '@ample-crane/core';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { UnitsContext } from '../shared/units.ts';
import { openPage } from '../testing/open-page.tsx';
import { SETUP } from '../testing/tarrow.ts';
import { boardsText, isCuttingDraft, planned, typedBoards, USUAL_DRAFT } from './cutting.ts';
import YieldPage from './YieldPage.tsx';

const INCH = { ...METRIC, length: 'in' as const };

describe('boards as they are typed', () => {
  it.each([
    ['2400 265 50', [2400, 265, 50]],
    ['2400 x 265 x 50', [2400, 265, 50]],
    ['2400×265,5×50', [2400, 265.5, 50]],
  ])('%s', (line, [lengthMm, widthMm, thicknessMm]) => {
    expect(typedBoards(line)).toEqual({ boards: [{ lengthMm, widthMm, thicknessMm }], wrong: [] });
  });

  it('are inches for who reads inches, with their fractions where a × stands between them', () => {
    // 94 1/2 in are 2400.3 mm, 10 1/4 in are 260.35 mm, 2 in are 50.8 mm.
    const { boards, wrong } = typedBoards('94 1/2 x 10 1/4 x 2\n96 10 2', INCH);
    expect(wrong).toEqual([]);
    expect(boards[0]?.lengthMm).toBeCloseTo(2400.3, 6);
    expect(boards[0]?.widthMm).toBeCloseTo(260.35, 6);
    expect(boards[1]?.thicknessMm).toBeCloseTo(50.8, 6);
    expect(typedBoards(boardsText(boards, INCH), INCH).boards[0]?.lengthMm).toBeCloseTo(2400.3, 0);
  });

  it('that are none are told by their lines; empty ones do not count', () => {
    const { boards, wrong } = typedBoards('2400 265 50\n\nlunch\n2400 265\n2400 265 0\n1 2 3 4');
    expect(boards).toHaveLength(1);
    expect(wrong).toEqual([3, 4, 5, 6]);
  });
});

it('a draft that a browser kept is believed when it is one', () => {
  expect(isCuttingDraft(USUAL_DRAFT)).toBe(true);
  expect(isCuttingDraft(JSON.parse(JSON.stringify(USUAL_DRAFT)))).toBe(true);
  for (const kept of [null, {}, { ...USUAL_DRAFT, wanted: [] }, { ...USUAL_DRAFT, allow: { kerfMm: 'x' } }])
    expect(isCuttingDraft(kept)).toBe(false);
});

it('what cannot be planned is said with the name of its field', () => {
  const { boards, allow } = USUAL_DRAFT;
  const blanks = [{ name: 'neck', lengthMm: 700, widthMm: 75, thicknessMm: 24 }];
  expect(planned(boards, blanks, { ...allow, defectPct: 120 }, 'rip')).toEqual({
    problem: expect.stringMatching(/^Defects must be/) as string,
  });
  expect(planned(boards, blanks, { ...allow, kerfMm: null }, 'rip')).toEqual({
    problem: 'say what is lost on the way',
  });
});

describe('the page', () => {
  const open = (units: ChosenUnits) =>
    openPage(
      <UnitsContext value={units}>
        <YieldPage />
      </UnitsContext>,
      { 'GET /api/setup': SETUP, 'GET /api/lots': [] },
    );
  afterEach(() => sessionStorage.clear());

  it('keeps what is typed over a reload, and tells a line that is no board', async () => {
    const { unmount } = open(METRIC);
    const boards = await screen.findByLabelText(/^One line each: length x width x thickness, mm/);
    expect(boards).toHaveValue('2400 x 265 x 50\n2400 x 260 x 50\n2300 x 270 x 50');
    await userEvent.clear(boards);
    await userEvent.type(boards, '3000 300 50{Enter}wide');
    expect(screen.getByText('line 2: three sizes, each above 0')).toBeInTheDocument();
    expect(screen.getByText('1 board')).toBeInTheDocument();
    const length = screen.getByLabelText('length of blank 1, mm');
    await userEvent.clear(length);
    await userEvent.type(length, '600');
    unmount();
    open(METRIC);
    expect(await screen.findByLabelText('length of blank 1, mm')).toHaveValue('600');
    expect(screen.getByLabelText(/^One line each/)).toHaveValue('3000 x 300 x 50');
  });

  it('asks in inches whoever reads inches', async () => {
    open(INCH);
    expect(await screen.findByLabelText('length of blank 2, in')).toHaveValue('27.5591');
    const width = screen.getByLabelText('width of blank 2, in');
    await userEvent.clear(width);
    await userEvent.type(width, '2 3/16');
    expect(width).toHaveValue('2 3/16');
    expect(screen.getByLabelText('Saw cut, in')).toBeInTheDocument();
  });
});
