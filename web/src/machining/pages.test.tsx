import { firstComeLoads, planLoads, type Check, type LoadsQuestion } from '@ample-crane/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { CALENDAR, floorOf, HOUR } from '../testing/tarrow.ts';
import { CheckSheet } from './CheckSheet.tsx';
import ChecksPage from './ChecksPage.tsx';
import MillPage, { FirstMill } from './MillPage.tsx';
import ProgramsPage from './ProgramsPage.tsx';
import type { Cycle, Dimension, LoadView, Machine, Mill, Program } from './queries.ts';

/** Tuesday 24 November 2026, 7:00: the shift began an hour ago. */
const NOW = Date.UTC(2026, 10, 24, 7);
const filed = { sentence: 'B-1: 8 started.', entries: [{ batch: 'B-1', seq: 4 }], repeated: false };

/**
 * Table 1 is free and set up for p, table 2 is set up for q and its load is off at 8:00. First come, first served gives table 1
 * to B-2: both tables are set up anew, and B-1, needed at 9:00, is off at 9:30.
 */
const question = {
  nowMs: NOW,
  calendar: CALENDAR,
  tables: [
    { code: '1', places: 8, freeMs: NOW, program: 'p r1' },
    { code: '2', places: 8, freeMs: NOW + HOUR, program: 'q r1' },
  ],
  programs: ['p r1', 'q r1'].map((name) => ({
    ...{ name, setUpMinutes: 30, loadMinutes: 10, cycleMinutes: 50 },
    tools: name === 'p r1' ? [{ tool: 'T4', minutes: 12 }] : [],
  })),
  waiting: [
    { batch: 'B-2', program: 'q r1', pieces: 8, sinceMs: NOW - 3 * HOUR, neededMs: NOW + 30 * HOUR },
    { batch: 'B-1', program: 'p r1', pieces: 8, sinceMs: NOW - HOUR, neededMs: NOW + 2 * HOUR },
  ],
  cutters: [{ tool: 'T4', usedMinutes: 395, lifeMinutes: 400, changeMinutes: 0 }],
} satisfies LoadsQuestion;
const width: Check = {
  ...{ key: 'pocket-width', name: 'Pocket width', unit: 'mm', nominal: 57.25, lower: 57.17, upper: 57.33 },
  ...{ firstPiece: true, sample: 1 },
};
const load = (extra: Partial<LoadView> = {}): LoadView => ({
  ...{ code: 'L-41', program: 'q r1', firstPiece: true, startedMs: NOW - HOUR, endMs: NOW + HOUR },
  ...{ parts: [{ batch: 'B-9', model: 'Bowline', pieces: [1, 2] }], against: null, checks: [width] },
  ...{ measured: [], caution: null },
  ...extra,
});
const waiting = ({ batch, program, pieces, sinceMs, neededMs }: LoadsQuestion['waiting'][number]) => ({
  ...{ batch, model: 'Bowline', kind: 'B', operation: 'mill', operationName: 'Body mill', program },
  ...{ pieces: Array.from({ length: pieces }, (_, i) => i + 1), sinceMs, neededMs, dueMs: NOW },
  caution: null,
});
const mill = (extra: Partial<Mill> = {}): Mill => ({
  ...{ nowMs: NOW, zone: 'UTC', station: 'body-mill', stationName: 'Body mill', question },
  ...{ plan: planLoads(question), firstCome: firstComeLoads(question) },
  tables: [
    { code: '1', name: 'Table 1', places: 8, program: 'p r1', load: null },
    { code: '2', name: 'Table 2', places: 8, program: 'q r1', load: load() },
  ],
  waiting: question.waiting.map(waiting),
  cutters: [
    {
      ...{ station: 'body-mill', tool: 'T4', lifeMinutes: 400, changeMinutes: 0, cost: 60 },
      ...{ usedMinutes: 395, changedMs: null, costPerPiece: { low: 0.225, high: 0.225 } },
    },
  ],
  ...extra,
});
const cycle = (extra: Partial<Cycle> = {}): Cycle => ({
  ...{ id: '7', path: '2', program: 'q r1', startedMs: NOW - HOUR, endedMs: NOW },
  ...{ cutMinutes: 48.2, heldMinutes: 0, outcome: 'complete' as const, note: '' },
  load: { code: 'L-41', pieces: 2 },
  ...extra,
});
const machine = (open: Cycle[], extra: Partial<Machine> = {}): Machine => ({
  ...{ code: 'm', name: 'Mill', station: 'body-mill', seenMs: NOW, trouble: null, open, real: [] },
  paths: [{ path: '2', execution: 'FEED_HOLD', program: 'q r1', sinceMs: NOW - HOUR }],
  ...extra,
});

const open = (own: Mill, machines: Machine[] = [], answers: Record<string, object> = {}) =>
  openPage(
    <MillPage />,
    {
      'GET /api/mill': [{ code: 'body-mill', name: 'Body mill' }],
      'GET /api/mill/body-mill': own,
      'GET /api/machines': machines,
      ...answers,
    },
    { at: '/mill/body-mill', path: '/mill/:station' },
  );
const press = async (name: string | RegExp): Promise<void> => {
  const button = await screen.findByRole('button', { name });
  await waitFor(() => expect(button).toBeEnabled());
  await userEvent.click(button);
};
const table = (name: string): HTMLElement => screen.getByRole('region', { name });

afterEach(() => jest.restoreAllMocks());

describe('the day of a mill', () => {
  it('is worth what its plan saves against first come, first served', async () => {
    open(mill());
    expect(
      await screen.findByText('2 loads, 0 set-ups, all off by Tue 09:00, nothing late.'),
    ).toBeInTheDocument();
    expect(
      screen.getByText(
        'Proposed: 2 set-ups fewer and 4 piece-hours less late than first come, first served.',
      ),
    ).toBeInTheDocument();
    expect(within(table('Table 1')).getByRole('article', { name: 'Load of 8 of B-1' })).toHaveTextContent(
      'Tue 07:00 – Tue 08:00',
    );
    expect(within(table('Table 2')).getByRole('article', { name: 'Load of 8 of B-2' })).toHaveTextContent(
      'Tue 08:00 – Tue 09:00',
    );
    expect(screen.getByText(/Change before the load of B-1: it would pass its life\./)).toBeInTheDocument();
  });

  it('is moved by hand and told what that costs, until the proposed one is wanted back', async () => {
    open(mill());
    await press('To Table 2: 8 of B-1');
    // B-1 is set up on table 2 at 8:00 and off at 9:30, half an hour late; B-2 needs another set-up after it.
    expect(
      screen.getByText('2 loads, 2 set-ups, all off by Tue 11:00, 4 piece-hours late.'),
    ).toBeInTheDocument();
    expect(screen.getByText('Moved by hand.')).toBeInTheDocument();
    expect(table('Table 1')).toHaveTextContent('No load planned. Drop one here.');
    await press('Sooner: 8 of B-2');
    expect(
      screen.getByText('2 loads, 1 set-up, all off by Tue 10:30, 12 piece-hours late.'),
    ).toBeInTheDocument();
    await press('Back to the proposed plan');
    expect(screen.getByText(/^2 loads, 0 set-ups/)).toBeInTheDocument();
  });

  it('says what waits past its time, and for which nobody wrote a program', async () => {
    const [first] = question.waiting;
    if (!first) throw new Error('nothing waits');
    const late = { ...waiting(first), program: null, neededMs: NOW - 26 * HOUR };
    open(mill({ waiting: [late], plan: planLoads({ ...question, waiting: [] }) }));
    expect(
      await screen.findByText('Nothing waits for the mill that a program is written for.'),
    ).toBeInTheDocument();
    const list = table('Waiting for the mill');
    expect(list).toHaveTextContent('no program written yet');
    expect(list).toHaveTextContent('Mon 05:00already past');
  });

  it('opens with the first mill, or says that there is none', async () => {
    openPage(<FirstMill />, { 'GET /api/mill': [] });
    expect(await screen.findByText('No station has tables yet.')).toBeInTheDocument();
  });
});

describe('a load', () => {
  it('that is first on a free table starts with one touch, and is refused in words', async () => {
    const { sent } = open(mill(), [], { 'POST /api/loads': { refused: 'B-1/03 is on hold' } });
    await press('Start this load');
    expect(await within(table('Table 1')).findByRole('alert')).toHaveTextContent('B-1/03 is on hold');
    expect(sent[0]).toMatchObject({
      path: '/api/loads',
      body: { by: 'ostrander', table: '1', parts: [{ batch: 'B-1', count: 8 }] },
    });
    expect(within(table('Table 2')).queryByRole('button', { name: /^Start/ })).not.toBeInTheDocument();
  });

  it('ends with all done, unless pieces are named that are in it, and why they are lost', async () => {
    const { sent } = open(mill(), [], { 'POST /api/loads/L-41/end': filed });
    const lost = await screen.findByLabelText('Not good (pieces)');
    const end = screen.getByRole('button', { name: 'End L-41' });
    expect(end).toBeEnabled();
    await userEvent.type(lost, '3');
    await userEvent.click(end);
    expect(await screen.findByText('B-9/3 is not in this load')).toBeInTheDocument();
    await userEvent.clear(lost);
    await userEvent.type(lost, '2');
    await userEvent.click(end);
    expect(await screen.findByText('a piece is lost for a reason')).toBeInTheDocument();
    expect(sent).toEqual([]);
    await userEvent.type(screen.getByLabelText('Why'), 'tear-out at the horn');
    await userEvent.click(end);
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        scrap: [{ batch: 'B-9', pieces: [2], reason: 'tear-out at the horn' }],
      }),
    );
    expect(sent[0]?.body).not.toHaveProperty('because');
  });

  it('whose first piece has not passed ends only although, because', async () => {
    const against = 'the first piece has not been measured';
    const tables = [{ ...mill().tables[1], load: load({ against }) } as Mill['tables'][number]];
    const { sent } = open(mill({ tables }), [], { 'POST /api/loads/L-41/end': filed });
    expect(await screen.findByText(`Not to go on yet: ${against}.`)).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('End it although, because'), 'gauge is away');
    await press('End L-41');
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ scrap: [], because: 'gauge is away' }));
  });

  it('that should be off says since when', async () => {
    const tables = [{ ...mill().tables[1], load: load({ endMs: NOW - HOUR }) } as Mill['tables'][number]];
    open(mill({ tables }));
    expect(await screen.findByText('was to be off Tue 06:00')).toBeInTheDocument();
  });
});

describe('the first piece, measured', () => {
  const openSheet = (answers: Record<string, object> = {}) => {
    const done = jest.fn();
    return { done, ...openPage(<CheckSheet load={load()} onDone={done} />, answers) };
  };
  const field = (): HTMLElement => screen.getByLabelText('Pocket width *');

  it('is judged while it is typed, in inches is asked about, and is filed of the piece that was chosen', async () => {
    const { sent, done } = openSheet({ 'POST /api/log': filed });
    await userEvent.type(field(), '57,4');
    expect(screen.getByText(/outside$/)).toBeInTheDocument();
    await userEvent.clear(field());
    await userEvent.type(field(), '2.254');
    expect(screen.getByRole('button', { name: /^File/ })).toBeDisabled();
    await press('Take 57.2516');
    expect(screen.getByText(/, inside$/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('combobox', { name: 'Piece' }));
    await userEvent.click(screen.getByRole('option', { name: 'B-9/02' }));
    await press('File 1 of 1');
    await waitFor(() => expect(done).toHaveBeenCalled());
    expect(sent[0]?.body).toMatchObject({
      batch: 'B-9',
      entries: [
        {
          ...{ type: 'check', check: 'pocket-width', values: [57.2516], pieces: [2] },
          ...{ load: 'L-41', source: 'typed' },
        },
      ],
    });
  });

  it('may come from the gauge, and says so; what the gauge cannot tell is said', async () => {
    const gauge = 'POST /api/checks/Bowline/B/pocket-width/gauge';
    const { sent } = openSheet({ [gauge]: { value: 57.22 }, 'POST /api/log': filed });
    await press('Gauge: Pocket width');
    await waitFor(() => expect(field()).toHaveValue('57.22'));
    await press('File 1 of 1');
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ entries: [{ source: 'gauge' }] }));
  });

  it('stays typed when it is refused', async () => {
    const { done } = openSheet({ 'POST /api/log': { refused: 'L-41 has ended' } });
    await userEvent.type(field(), '57.2');
    await press('File 1 of 1');
    expect(await screen.findByRole('alert')).toHaveTextContent('L-41 has ended');
    expect(field()).toHaveValue('57.2');
    expect(done).not.toHaveBeenCalled();
  });
});

describe('what a machine tells', () => {
  it('is a proposal: a complete cycle ends its load, or counts for nothing', async () => {
    const { sent } = open(mill(), [machine([cycle()])], { 'POST /api/machines/cycles/7/settle': filed });
    expect(await screen.findByText('It must be L-41, 2 pieces.')).toBeInTheDocument();
    expect(table('Machine')).toHaveTextContent('feed hold since Tue 06:00');
    await press('End L-41: all 2 good');
    await press('Counts for nothing');
    await waitFor(() => expect(sent.map(({ body }) => body['as'])).toEqual(['load', 'nothing']));
  });

  it('is doubted when a cycle broke off', async () => {
    open(mill(), [machine([cycle({ outcome: 'broken off', heldMinutes: 3.04, note: 'alarm 7' })])]);
    expect(
      await screen.findByText(/broken off Tue 07:00, 48.2 min cut, 3.0 min held; alarm 7/),
    ).toBeInTheDocument();
    const own = table('Machine');
    expect(own).toHaveTextContent('It was L-41: look at its 2 pieces, then run it again, or end it');
    expect(within(own).getByRole('button', { name: 'End L-41 all the same' })).toBeEnabled();
  });

  it('that cuts what nobody logged is offered as the load that was planned there', async () => {
    const running = cycle({ path: '1', program: 'p r1', outcome: 'running', endedMs: null, load: null });
    const { sent } = open(mill(), [machine([running])], { 'POST /api/loads': filed });
    await press('It is the load of 8 of B-1');
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ table: '1', parts: [{ batch: 'B-1', count: 8 }] }),
    );
    // While it runs nobody can say that it counts for nothing.
    expect(screen.queryByRole('button', { name: 'Counts for nothing' })).not.toBeInTheDocument();
  });

  it('is its own trouble, with when it was last heard', async () => {
    open(mill(), [machine([], { trouble: 'it does not answer', seenMs: NOW - HOUR })]);
    expect(await screen.findByText('it does not answer; last heard Tue 06:00')).toBeInTheDocument();
  });
});

describe('a cutter', () => {
  it('is changed for a reason; past its life that is known', async () => {
    const [cutter] = mill().cutters;
    if (!cutter) throw new Error('no cutter');
    const { sent } = open(mill({ cutters: [{ ...cutter, usedMinutes: 431 }] }), [], {
      'POST /api/mill/body-mill/cutter-changes': filed,
    });
    const cutters = await screen.findByRole('region', { name: 'Cutters' });
    expect(cutters).toHaveTextContent('431 of 400 min');
    expect(cutters).toHaveTextContent('0.23 a piece');
    await press('Changed it');
    expect(within(cutters).getByLabelText('Why')).toHaveValue('at its life');
    await press('Log the change');
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ tool: 'T4', reason: 'at its life' }));
    await waitFor(() => expect(within(cutters).queryByLabelText('Why')).not.toBeInTheDocument());
  });
});

describe('programs', () => {
  const program = (revision: number, extra: Partial<Program> = {}): Program => ({
    ...{ model: 'Bowline', kind: 'B', operation: 'mill', revision, setUpMinutes: 30, loadMinutes: 10 },
    ...{ cycleMinutes: 50, tools: [{ tool: 'T4', minutes: 12 }], note: 'as it was', person: 'L. Ostrander' },
    madeAt: new Date(NOW).toISOString(),
    ...extra,
  });
  const real = [{ program: 'bowline-b/mill r2', minutes: 52.31, cycles: 9 }];
  const openPrograms = (answers: Record<string, object> = {}) =>
    openPage(<ProgramsPage />, {
      'GET /api/programs': [program(1), program(2, { cycleMinutes: 52 })],
      'GET /api/mill': [{ code: 'body-mill', name: 'Body mill' }],
      'GET /api/mill/body-mill/cutter-changes': [
        {
          ...{ station: 'body-mill', tool: 'T4', usedMinutes: 398.4, reason: 'dull', person: 'R. Venn' },
          at: new Date(NOW).toISOString(),
        },
      ],
      'GET /api/machines': [machine([], { real })],
      'GET /api/floor': floorOf([]),
      ...answers,
    });

  it('are the newest revisions, beside what the machine really takes; changes of cutters are listed', async () => {
    openPrograms();
    const list = await screen.findByRole('region', { name: 'Programs' });
    await within(list).findByText('52.3 (9)');
    expect(within(list).getAllByRole('row')).toHaveLength(2);
    expect(list).toHaveTextContent('bowline-b/mill r2');
    expect(await screen.findByText('398')).toBeInTheDocument();
  });

  it('are revised with a note, from the revision that was seen', async () => {
    const { sent } = openPrograms({
      'POST /api/programs': { ...program(3), refused: 'revision 3 was made meanwhile' },
    });
    await press('New revision of bowline-b/mill r2');
    const cut = screen.getByLabelText('T4, min');
    await userEvent.clear(cut);
    await press('Make revision 3');
    expect(await screen.findByText('a number')).toBeInTheDocument();
    expect(screen.getByText('whoever reads the revision wants to know')).toBeInTheDocument();
    expect(sent).toEqual([]);
    await userEvent.type(cut, '11,5');
    await userEvent.type(screen.getByLabelText('What changed'), 'one pass less');
    await press('Make revision 3');
    expect(await screen.findByRole('alert')).toHaveTextContent('revision 3 was made meanwhile');
    expect(sent[0]?.body).toMatchObject({
      ...{ model: 'Bowline', kind: 'B', operation: 'mill', setUpMinutes: 30, cycleMinutes: 52, from: 2 },
      ...{ tools: [{ tool: 'T4', minutes: 11.5 }], note: 'one pass less' },
    });
    expect(screen.getByLabelText('What changed')).toHaveValue('one pass less');
  });
});

describe('all dimensions', () => {
  const dimension = (name: string, looks: number, view: object): Dimension =>
    ({
      ...{ model: 'Bowline', kind: 'B', operation: 'mill', operationName: 'Body mill', looks },
      ...{ check: { ...width, name }, lastMs: looks === 0 ? null : NOW },
      view: { href: `/mill/checks/Bowline/B/${name}`, drift: null, hit: null, ...view },
    }) as unknown as Dimension;
  const openChecks = (dimensions: Dimension[]) =>
    openPage(<ChecksPage />, {
      'GET /api/checks': dimensions,
      'GET /api/setup': { calendar: { zone: 'UTC' } },
      'GET /api/mill': [],
    });

  it('are listed the worst first, and named in one sentence', async () => {
    openChecks([
      dimension('Heel depth', 30, {}),
      dimension('Pocket depth', 12, { hit: { rule: 'beyond', at: 11 } }),
      dimension('Pocket width', 14, { drift: { slope: -0.006 } }),
      dimension('Scale', 0, {}),
    ]);
    expect(
      await screen.findByText('Look at Bowline B pocket width, Bowline B pocket depth.'),
    ).toBeInTheDocument();
    expect(
      screen
        .getAllByRole('row')
        .slice(1)
        .map(({ textContent }) => textContent),
    ).toEqual([
      expect.stringMatching(/Pocket width.*drifting down$/),
      expect.stringMatching(/Pocket depth.*breaks a run rule$/),
      expect.stringMatching(/Heel depth.*in control$/),
      expect.stringMatching(/Scale.*never.*nothing measured yet$/),
    ]);
  });

  it('are in control when none of them says otherwise', async () => {
    openChecks([dimension('Scale', 9, {})]);
    expect(await screen.findByText('Every dimension is in control.')).toBeInTheDocument();
  });
});
