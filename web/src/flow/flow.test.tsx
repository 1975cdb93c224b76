import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Flow } from '../api/queries.ts';
import { floorOf } from '../testing/tarrow.ts';
import { openPage } from '../testing/open-page.tsx';
import { CumulativeChart } from './CumulativeChart.tsx';
import ConstraintPage from './ConstraintPage.tsx';
import FlowPage from './FlowPage.tsx';
import LeadTimePage from './LeadTimePage.tsx';
import LeadTimesPage from './LeadTimesPage.tsx';
import LogWholePage from './LogWholePage.tsx';
import type { Constraint, Cumulative, LeadParts, Resource, WorkedOperation } from './queries.ts';
import ReportsPage from './ReportsPage.tsx';
import { stationDays, throughputCsv } from './throughput.ts';
import { asRouteMinutes, canBeTaken, workSentence } from './work.ts';
import WorkPage from './WorkPage.tsx';
import { WipPanel } from './WipPanel.tsx';
import { paceSentence, peopleOrPlace, wipSentence } from './words.ts';

const [wood, mill] = floorOf([]).stations;
if (!wood || !mill) throw new Error('the board has stations');

/** Three days that are over and today: the mill let go 6, 0 and 9 pieces, and 4 so far. */
const flow: Flow = {
  fromDay: '2026-11-19',
  toDay: '2026-11-24',
  days: ['2026-11-19', '2026-11-20', '2026-11-23', '2026-11-24'],
  stations: [wood, { ...mill, hoursWaiting: 27, hoursADay: 9, days: 3 }],
  throughput: [
    { day: '2026-11-19', station: 'body-mill', good: 6, scrapped: 1, reworked: 0 },
    { day: '2026-11-23', station: 'body-mill', good: 9, scrapped: 0, reworked: 2 },
    { day: '2026-11-24', station: 'body-mill', good: 4, scrapped: 0, reworked: 0 },
  ],
  load: [
    { day: '2026-11-20', station: 'body-mill', hoursWaiting: 18, days: 2 },
    { day: '2026-11-23', station: 'body-mill', hoursWaiting: 36, days: 4 },
  ],
  need: [{ station: 'body-mill', aDay: 7.5 }],
  constraint: {
    station: 'body-mill',
    now: { station: 'body-mill', hoursWaiting: 27, hoursADay: 9, days: 3 },
    daysOnTop: 3,
    daysLookedAt: 3,
    meanDays: 3,
    signs: null,
  },
};

afterEach(() => jest.restoreAllMocks());

describe('good pieces a day', () => {
  it('count every working day, those without a piece too, and leave today out of the mean', () => {
    const [none, milled] = stationDays(flow);
    expect(none).toMatchObject({ total: 0, mean: 0 });
    expect(none?.days).toHaveLength(4);
    expect(milled).toMatchObject({ total: 19, scrapped: 1, reworked: 2, mean: 5 });
    expect(milled?.days.map(({ good }) => good)).toEqual([6, 0, 9, 4]);
  });

  it('go out as a sheet with a row for each station and day', () => {
    const lines = throughputCsv(stationDays(flow)).trim().split(/\r?\n/);
    expect(lines).toHaveLength(1 + 2 * 4);
    expect(lines[0]).toBe('day,station,good,scrapped,sent_back');
    expect(lines).toContain('2026-11-23,Body mill,9,0,2');
  });
});

const resource = (code: string, name: string, change: Partial<Resource> = {}): Resource => ({
  ...{
    code,
    by: 'station',
    stage: 'finishing',
    name,
    capacity: 1,
    goesWith: [],
    loadShare: 0.5,
    hoursOfferedADay: 4.5,
    hoursADay: 9,
  },
  ...{
    soleShare: 0,
    shiftingShare: 0,
    full: [],
    paced: [],
    queueDays: 0.1,
    queue: [0.1, 0.2],
    oldestDays: null,
  },
  ...change,
});
const PACE: Constraint = {
  ...{ nowMs: Date.UTC(2026, 10, 24, 19), zone: 'utc', fromMs: Date.UTC(2026, 9, 27, 5), days: 20.4 },
  verdict: {
    ...{ code: 'colour', by: 'station', sureness: 0.97, shiftingWith: null, next: 'burst' },
    ...{ leaders: { load: 'colour', active: 'colour', queue: 'colour' }, agree: ['load', 'active', 'queue'] },
  },
  rows: [
    resource('colour', 'Colour', {
      ...{
        loadShare: 1.18,
        hoursOfferedADay: 10.6,
        soleShare: 0.62,
        shiftingShare: 0.21,
        queueDays: 4,
        oldestDays: 9.7,
      },
      ...{ goesWith: ['burst'], full: [[0, 0.8]], paced: [[0, 0.62]] },
    }),
    resource('burst', 'those who can burst', {
      by: 'skill',
      capacity: 2,
      goesWith: ['colour'],
      loadShare: 0.49,
    }),
    resource('buff', 'Sand & buff'),
  ],
  weeks: [
    {
      fromMs: Date.UTC(2026, 10, 9),
      toMs: Date.UTC(2026, 10, 14),
      code: null,
      by: null,
      name: null,
      sureness: 0.4,
    },
    {
      ...{ fromMs: Date.UTC(2026, 10, 16), toMs: Date.UTC(2026, 10, 21), code: 'colour', by: 'station' },
      ...{ name: 'Colour', sureness: 0.98 },
    },
  ],
  sinceMs: Date.UTC(2026, 10, 16),
  hourWorth: { pieces: 0.9, upTo: 2.4, next: 'those who can burst' },
  idle: ['Sand & buff'],
};
const parts = (change: Partial<LeadParts> = {}): LeadParts => ({
  ...{ queue: 2, touch: 1, hold: 20, partner: 1, sendBack: 0.5, closed: 6 },
  ...change,
});

describe('the flow page', () => {
  it('says what paces the house, and what left each station; another is chosen by its name', async () => {
    openPage(<FlowPage />, {
      ...{ 'GET /api/flow': flow, 'GET /api/flow/constraint': PACE },
      'GET /api/flow/left': {
        ...{ day: '2026-11-23', station: 'body-mill', zone: 'UTC' },
        left: [
          {
            ...{ batch: 'B-195', positions: [1, 2, 3], operation: 'mill', ended: 'scrapped' },
            ...{ by: 'J. Merrow', reason: 'tear-out', atMs: Date.UTC(2026, 10, 23, 9, 30) },
          },
        ],
      },
    });
    expect(
      await screen.findByText(
        'Colour has paced the house since Mon 16 Nov; all three signs agree (97 % sure).',
      ),
    ).toBeInTheDocument();
    expect(
      screen.getByText(
        'Body mill: 19 good pieces left it in the last 3 working days and today so far, 5.0 a full day, 7.5 must in the next four weeks, 2.5 more; 1 scrapped and 2 sent back.',
      ),
    ).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    expect(screen.getByRole('row', { name: /23 Nov 9 0 2/ })).toBeInTheDocument();
    // The racks behind a day are one touch away.
    await userEvent.click(screen.getByRole('button', { name: '23 Nov' }));
    const behind = within(await screen.findByRole('region', { name: 'Body mill, Mon 23 Nov' }));
    expect(
      await behind.findByRole('row', {
        name: /^B-195 3 pieces 1, 2, 3 09:30 J\. Merrow scrapped ?: tear-out$/,
      }),
    ).toBeInTheDocument();
    await userEvent.click(behind.getByRole('button', { name: 'Close' }));
    expect(screen.queryByRole('region', { name: 'Body mill, Mon 23 Nov' })).not.toBeInTheDocument();
    const all = within(screen.getByRole('region', { name: 'All stations' }));
    await userEvent.click(all.getByRole('button', { name: 'Wood room' }));
    expect(screen.getByText(/^Wood room: 0 good pieces left it/)).toBeInTheDocument();
  });
});

describe('the constraint', () => {
  it('is named with its signs, whether it is people or the place, and what an hour is worth', async () => {
    openPage(<ConstraintPage />, { 'GET /api/flow/constraint': PACE });
    expect(
      await screen.findByText(
        'It is the place, not the people: 10.6 h a day of work come, there are 9.0 h; of their hours are asked for of those who can burst 49 %.',
      ),
    ).toBeInTheDocument();
    expect(
      screen.getByText(
        'One more hour a day at Colour: 0.9 more pieces a day, up to 2.4 more, before those who can burst would pace.',
      ),
    ).toBeInTheDocument();
    expect(screen.getByText(/An hour saved at Sand & buff: nothing/)).toBeInTheDocument();
    const signs = within(screen.getByRole('table', { name: 'The three signs' }));
    const row = within(signs.getByRole('row', { name: /^Colour/ }));
    expect(row.getByText('118 %')).toBeInTheDocument();
    expect(row.getByRole('img', { name: 'paced 62 % of the time alone, 21 % by turns' })).toBeInTheDocument();
    const weeks = within(screen.getByRole('region', { name: 'Week by week' }));
    expect(weeks.getByText('Colour, 98 % sure')).toBeInTheDocument();
    expect(weeks.getByText('nobody for sure')).toBeInTheDocument();
  });

  it('says so where the mark on the rope stands elsewhere', async () => {
    const elsewhere = { ...floorOf([]), constraint: { ...flow.constraint, station: 'buff' } };
    openPage(<ConstraintPage />, { 'GET /api/flow/constraint': PACE, 'GET /api/floor': elsewhere });
    expect(await screen.findByText(/^The mark on the rope stands at Sand & buff/)).toBeInTheDocument();
  });

  it('is not named where the signs disagree, and nobody is where nothing waits', () => {
    const unsure: Constraint = {
      ...PACE,
      verdict: {
        ...PACE.verdict,
        ...{
          code: null,
          by: null,
          agree: ['load'],
          leaders: { load: 'colour', active: 'buff', queue: null },
        },
      },
    };
    expect(paceSentence(unsure, null)).toEqual({
      tone: 'wait',
      sentence: 'Not sure: the signs name Colour and Sand & buff.',
    });
    const nobody = { ...unsure.verdict, leaders: { load: null, active: null, queue: null } };
    expect(paceSentence({ ...unsure, verdict: nobody }, null).tone).toBe('good');
    const people: Constraint = {
      ...PACE,
      verdict: { ...PACE.verdict, code: 'burst', by: 'skill', agree: ['load', 'queue'] },
    };
    expect(paceSentence(people, null).sentence).toBe(
      'Those who can burst have paced the house for all of the window; 2 of three signs name it (97 % sure).',
    );
    expect(peopleOrPlace(people)).toMatch(/^It is people, not the place: .* of Colour 118 %\.$/);
  });
});

describe('where the time goes', () => {
  it('is told for what left, stage by stage and instrument by instrument; another model is asked for', async () => {
    openPage(
      <LeadTimesPage />,
      {
        'GET /api/flow/lead-times': {
          ...{
            nowMs: 0,
            zone: 'utc',
            fromDay: '2026-10-27',
            toDay: '2026-11-24',
            models: ['Bowline', 'Halyard'],
            leftADay: 6.8,
          },
          late: { inTime: 100, count: 143, medianDays: -2.5, p85Days: 3 },
          cycle: { count: 143, medianDays: 42.7, p85Days: 57.8, p95Days: 71 },
          ...{ parts: parts(), stages: [{ stage: 'finishing', parts: parts({ queue: 4 }) }], more: false },
          lines: [
            {
              ...{ piece: 'I-180/01', batch: 'I-180', position: 1, model: 'Bowline', serial: 'BW1' },
              ...{ leftMs: 0, lateDays: 1.5, days: 30.5, parts: parts() },
            },
          ],
        },
      },
      { at: '/flow/time', path: '/flow/time' },
    );
    expect(
      await screen.findByText(
        /^Half of 143 instruments took 43 days or less, 85 of a hundred 58; .* 3 % of it/,
      ),
    ).toBeInTheDocument();
    expect(
      screen.getByText(
        '100 of 143 left by the day their rack was due: half of them 2.5 days early or better, 85 of a hundred 3.0 days late or better.',
      ),
    ).toBeInTheDocument();
    expect(screen.getByText('1.5 days late')).toBeInTheDocument();
    expect(
      screen.getByRole('img', { name: /^Finishing: waiting for a place 4\.0 days, worked on 1\.0 days/ }),
    ).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'I-180/01' })).toHaveAttribute('href', '/flow/time/I-180/1');
    await userEvent.click(screen.getByRole('combobox', { name: 'Model' }));
    await userEvent.click(screen.getByRole('option', { name: 'Halyard' }));
    expect(screen.getByRole('combobox', { name: 'Model' })).toHaveTextContent('Halyard');
  });

  it('holds what is in the house against what the wanted lead time allows', () => {
    const said = (wip: Partial<Cumulative['wip']>, wantedDays: number | null = 40) =>
      wipSentence({ wip: { inHouse: 110, leftADay: 2, leadDays: 55, cap: 80, ...wip }, wantedDays });
    expect(said({})).toEqual({
      tone: 'bad',
      sentence:
        '110 instruments in the house, 30 more than the 80 that 40 days allow: 2.0 leave a day, so one that begins now leaves in about 55 days. Begin fewer than leave until then.',
    });
    expect(said({ inHouse: 70, leadDays: 35 }).sentence).toMatch(
      /^70 .* of the 80 .* 10 more may be begun\.$/,
    );
    expect(said({ cap: null }, null).sentence).toBe(
      '110 instruments in the house; 2.0 leave a day, so one that begins now leaves in about 55 days.',
    );
    expect(said({ leftADay: 0, leadDays: null, cap: null }).sentence).toMatch(/cannot be told\.$/);
  });

  it('is drawn as what is in each stage day by day; a day of its table tells the racks behind it, and it goes out as a sheet', async () => {
    openPage(
      <CumulativeChart days={20} />,
      {
        'GET /api/flow/cumulative': {
          ...{ nowMs: 0, zone: 'utc', days: ['2026-11-23', '2026-11-24'], wantedDays: null },
          reached: [
            [10, 9, 8, 7, 6, 4],
            [12, 9, 8, 7, 6, 5],
          ],
          wip: { inHouse: 7, leftADay: 0.2, leadDays: 35, cap: null },
        },
        'GET /api/flow/in-house': {
          ...{ day: '2026-11-24', zone: 'utc' },
          stages: [
            {
              stage: 'wood',
              racks: [{ batch: 'B-201', positions: [1, 2, 3], sinceMs: Date.UTC(2026, 10, 20) }],
            },
            { stage: 'machining', racks: [] },
          ],
        },
      },
      { at: '/flow/time', path: '/flow/time' },
    );
    expect(
      await screen.findByText(
        '5 instruments left in that time; 6 were in the house on its first day, 7 are now.',
      ),
    ).toBeInTheDocument();
    const sheet = decodeURIComponent(screen.getByRole('link', { name: 'CSV' }).getAttribute('href') ?? '');
    expect(sheet.split(/\r?\n/).slice(0, 3)).toEqual([
      'data:text/csv;charset=utf-8,day,wood,machining,fitting,finishing,assembly,left',
      '2026-11-23,1,1,1,1,2,4',
      '2026-11-24,3,1,1,1,1,5',
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    await userEvent.click(screen.getByRole('button', { name: '24 Nov' }));
    const behind = await screen.findByRole('table', { name: /^In the house on/ });
    expect(within(behind).getByRole('row', { name: /Wood room B-201 3 pieces 1, 2, 3/ })).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    expect(screen.queryByRole('table', { name: /^In the house on/ })).toBeNull();
  });

  it('takes the lead time that is wanted, and none', async () => {
    const { sent } = openPage(<WipPanel days={20} />, {
      'GET /api/flow/cumulative': {
        ...{ nowMs: 0, zone: 'utc', days: ['2026-11-23', '2026-11-24'], wantedDays: 45 },
        reached: [
          [10, 9, 8, 7, 6, 4],
          [12, 9, 8, 7, 6, 5],
        ],
        wip: { inHouse: 7, leftADay: 0.2, leadDays: 35, cap: 9 },
      },
      'PUT /api/setup/lead-time': {},
      'GET /api/setup/changes': [],
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Change the wanted lead time' }));
    const field = screen.getByRole('textbox', { name: /^From first board to case/ });
    await userEvent.clear(field);
    await userEvent.type(field, '0,5');
    await userEvent.click(screen.getByRole('button', { name: 'Use it' }));
    expect(await screen.findByText(/1 to 730 days/)).toBeInTheDocument();
    expect(sent).toHaveLength(0);
    await userEvent.clear(field);
    await userEvent.type(field, '38,5');
    await userEvent.click(screen.getByRole('button', { name: 'Use it' }));
    await waitFor(() => expect(sent.map(({ body }) => body.days)).toEqual([38.5]));
    await userEvent.click(await screen.findByRole('button', { name: 'Change the wanted lead time' }));
    await userEvent.clear(screen.getByRole('textbox', { name: /^From first board to case/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Use it' }));
    await waitFor(() => expect(sent.map(({ body }) => body.days)).toEqual([38.5, null]));
  });

  it('is told of one stay by stay', async () => {
    openPage(
      <LeadTimePage />,
      {
        'GET /api/flow/lead-times/I-180/1': {
          ...{
            piece: 'I-180/01',
            batch: 'I-180',
            position: 1,
            model: 'Bowline',
            serial: null,
            leftMs: 0,
            days: 30.5,
          },
          ...{ parts: parts(), zone: 'utc' },
          stretches: [
            {
              batch: 'B-180',
              operationName: 'Rest & read',
              stage: 'wood',
              fromMs: 0,
              toMs: 9,
              parts: parts({ queue: 0 }),
            },
          ],
        },
      },
      { at: '/flow/time/I-180/1', path: '/flow/time/:batch/:position' },
    );
    expect(await screen.findByRole('heading', { name: '30.5 days, stay by stay' })).toBeInTheDocument();
    expect(screen.getByRole('row', { name: /Rest & read/ })).toBeInTheDocument();
  });
});

describe('whether the log is whole', () => {
  it('says where the log does not fit together, and which rack nobody has moved', async () => {
    openPage(<LogWholePage />, {
      'GET /api/flow/log-whole': {
        ...{
          nowMs: 0,
          zone: 'utc',
          fromDay: '2026-10-27',
          toDay: '2026-11-24',
          tooFast: [],
          missingStarts: [],
        },
        little: [
          {
            ...{ stage: 'finishing', wip: 100, expected: 130, mismatch: 0.3, fits: false },
            ...{ throughputADay: 5, cycleDays: 26 },
          },
        ],
        forgotten: [
          {
            batch: 'N-88',
            operation: 'fret',
            operationName: 'Frets',
            status: 'waiting',
            pieces: 1,
            days: 9.2,
          },
        ],
        habits: [{ person: 'quill', name: 'A. Quill', at: '15:15', count: 30, of: 40 }],
      },
    });
    expect(
      await screen.findByText('1 of 1 stages do not fit Little’s law, 2 things look odd.'),
    ).toBeInTheDocument();
    expect(screen.getByText(/^100 counted, 130 by its times: 30 % more, over 15 %/)).toBeInTheDocument();
    expect(screen.getByText(/has waited at Frets for 9 working days/)).toBeInTheDocument();
    expect(screen.getByText(/30 of 40 filings in the quarter of an hour from 15:15/)).toBeInTheDocument();
  });
});

describe('what work takes', () => {
  const operation = (change: Partial<WorkedOperation> = {}): WorkedOperation => ({
    ...{ model: 'Halyard', kind: 'N', kindName: 'neck', operation: 'fret', operationName: 'Frets' },
    ...{ station: 'fret-bench', stationName: 'Fret bench', revision: 2 },
    time: {
      ...{ per: 'piece', flashes: false, samples: 8, leftOut: 1, routeMinutes: 27 },
      ...{ median: 31.3, low: 29, high: 33 },
    },
    first: { pieces: 40, good: 38, sentBack: 1, scrapped: 1 },
    ...change,
  });
  const timed = (change: Partial<NonNullable<WorkedOperation['time']>>): WorkedOperation => {
    const { time, ...rest } = operation();
    if (!time) throw new Error('it is measured');
    return { ...rest, time: { ...time, ...change } };
  };

  it('is off its route when enough was measured, by more than a tenth, and outside what half of them took', () => {
    expect(canBeTaken(timed({}))).toBe(true);
    expect(canBeTaken(timed({ samples: 4 }))).toBe(false);
    expect(canBeTaken(timed({ routeMinutes: 30 }))).toBe(false);
    expect(canBeTaken(timed({ low: 26 }))).toBe(false);
    // Coats that flash are no work of a person.
    expect(canBeTaken(timed({ flashes: true }))).toBe(false);
    expect(canBeTaken(operation({ time: null }))).toBe(false);
    expect([31.3, 9.8, 1.7, 0.1].map(asRouteMinutes)).toEqual([31, 10, 1.5, 0.5]);
    expect(workSentence({ operations: [timed({}), timed({ routeMinutes: 30 })] }).sentence).toBe(
      '1 of 2 operations measured 5 times or more is clearly off the route: most of all Frets of Halyard neck, 31.3 min a piece where the route says 27 (+16 %).',
    );
    // Few that are far off, and coats, are told in the table and judged by nobody.
    const unjudged = [timed({ samples: 4 }), timed({ flashes: true })];
    expect(workSentence({ operations: [timed({ routeMinutes: 30 }), ...unjudged] })).toEqual({
      tone: 'good',
      sentence:
        'Work takes what its routes say: none of 1 operation measured 5 times or more is clearly off.',
    });
    expect(workSentence({ operations: [] }).sentence).toMatch(/^Too little was measured/);
  });

  it('is put into the route with one touch, of the revision it was held against', async () => {
    const { sent } = openPage(<WorkPage />, {
      'GET /api/flow/work': {
        ...{ nowMs: 0, zone: 'utc', fromDay: '2026-10-27', toDay: '2026-11-24', operations: [operation()] },
        yields: [
          { model: 'Halyard', kind: 'N', kindName: 'neck', rolledPct: 89.4, worst: 'Frets', worstPct: 95 },
        ],
        used: [
          {
            code: 'fret-bench',
            by: 'station',
            name: 'Fret bench',
            stage: 'fitting',
            hoursThere: 90,
            hoursBusy: 30,
            setUpHours: 3,
          },
          {
            code: 'buff',
            by: 'skill',
            name: 'those who can buff',
            stage: null,
            hoursThere: 90,
            hoursBusy: 0,
            setUpHours: 0,
          },
        ],
      },
      'GET /api/models/Halyard/routes': [
        { kind: 'B', operations: [] },
        {
          kind: 'N',
          operations: [
            { key: 'fret', mode: 'attended', pieceMinutes: 27 },
            { key: 'level', mode: 'attended', pieceMinutes: 8 },
          ],
        },
      ],
      'POST /api/routes': { revision: 3 },
    });
    expect(await screen.findByText('lost most at Frets: 95 of 100')).toBeInTheDocument();
    const used = screen.getByRole('table', { name: 'Hours used' });
    expect(within(used).getByRole('row', { name: 'Fret bench 33 % 10 %' })).toBeInTheDocument();
    expect(within(used).queryByText('those who can buff')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Take 31 min for Frets of Halyard neck' }));
    await waitFor(() =>
      expect(sent.at(-1)?.body).toMatchObject({
        ...{ model: 'Halyard', kind: 'N', from: 2 },
        note: 'Frets: 31 min a piece as the log of 8 racks has it, was 27',
        operations: [
          { key: 'fret', mode: 'attended', pieceMinutes: 31 },
          { key: 'level', mode: 'attended', pieceMinutes: 8 },
        ],
      }),
    );
  });
});

describe('what leaves the house', () => {
  it('is a sheet for the morning, and a calendar that is made, made anew and revoked', async () => {
    const { sent } = openPage(<ReportsPage />, {
      'GET /api/calendar-feed': { feed: { token: 'abc', madeMs: 0 } },
      'POST /api/calendar-feed': { feed: { token: 'def', madeMs: 0 } },
      'POST /api/calendar-feed/revoke': { feed: null },
    });
    expect(screen.getByRole('link', { name: 'On paper' })).toHaveAttribute(
      'href',
      '/api/reports/morning.pdf',
    );
    expect(await screen.findByRole('textbox', { name: 'Address to subscribe to' })).toHaveValue(
      'http://localhost/api/calendars/abc.ics',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Make another' }));
    // Until it is answered nothing else can be asked.
    const revoke = screen.getByRole('button', { name: 'Revoke it' });
    await waitFor(() => expect(revoke).toBeEnabled());
    await userEvent.click(revoke);
    expect(sent.map(({ path }) => path)).toEqual(['/api/calendar-feed', '/api/calendar-feed/revoke']);
  });
});
