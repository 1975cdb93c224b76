import type { Skilled } from '@ample-crane/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Roster, Skills } from '../flow/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { floorOf } from '../testing/tarrow.ts';
import RosterPage from './RosterPage.tsx';
import SkillsPage from './SkillsPage.tsx';
import { rosterSentence, trainingWords } from './words.ts';

afterEach(() => jest.restoreAllMocks());

const mottley = (known: Partial<Skilled> = {}): Skills['people'][number] => ({
  ...{ code: 'mott', name: 'B. Mottley', role: 'prep', isAway: true },
  ...{ skills: ['prep'], learning: [], teaches: [] },
  ...known,
});
const skills = (more: Partial<Skills>): Skills => ({
  ...{ nowMs: 0, zone: 'utc', shiftHours: 9, paces: null, trainings: [], training: [] },
  away: [{ person: 'mott', name: 'B. Mottley', day: '2026-11-24' }],
  people: [mottley()],
  cover: [],
  ...more,
});
const cover = (skill: string, people: string[] = []): Skills['cover'][number] => ({
  ...{ skill, people, hoursADay: 4.4, hoursThere: 9, share: 0.49, shareWithoutOne: null },
});

describe('on whom the work hangs', () => {
  it('shows the only one who can, and what stops without them', async () => {
    openPage(<SkillsPage />, { 'GET /api/flow/skills': skills({ cover: [cover('prep', ['mott'])] }) });
    expect(
      await screen.findByText('1 skill hangs on one person: prep. Prep is wanted 4.4 h a day.'),
    ).toBeInTheDocument();
    expect(screen.getByRole('img', { name: 'the only one who can' })).toBeInTheDocument();
    expect(screen.getByRole('cell', { name: 'stops' })).toBeInTheDocument();
    expect(screen.getByText(/away today/)).toBeInTheDocument();
  });

  it('is changed where somebody says so: how well somebody can what, who is away and who is here again', async () => {
    const { sent } = openPage(<SkillsPage />, {
      'GET /api/flow/skills': skills({ cover: ['prep', 'buff'].map((skill) => cover(skill)) }),
      'GET /api/setup/changes': [],
      'PUT /api/setup/people/mott/skill': { skills: ['prep'], learning: ['buff'], teaches: [] },
      'PUT /api/setup/people/mott/absences': [],
    });
    expect(await screen.findByText('Nobody can prep, buff.')).toBeInTheDocument();
    expect(screen.queryByRole('combobox', { name: 'B. Mottley, buff' })).not.toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Change who can what' }));
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'B. Mottley, buff' }), 'is learning');
    expect(sent[0]?.body).toMatchObject({ skill: 'buff', degree: 'learning', lastChange: 0 });
    await userEvent.click(screen.getByRole('button', { name: 'B. Mottley is here on 24 Nov' }));
    expect(sent[1]?.body).toMatchObject({ fromDay: '2026-11-24', toDay: '2026-11-24', away: false });
    // Nobody is away who is not named, and on no day.
    await userEvent.click(screen.getByRole('button', { name: 'Away' }));
    expect(sent).toHaveLength(2);
  });

  it('is told with whom to train first, what it brings and when it has paid', async () => {
    const training: Skills['trainings'][number] = {
      ...{ skill: 'burst', person: 'mott', isLearning: true, teachers: ['mott'], trainingDays: 20 },
      ...{ hoursADay: 6, why: 'paces', piecesADay: 9, paysBackDays: 10 },
    };
    const { sent } = openPage(<SkillsPage />, {
      'GET /api/flow/skills': skills({
        ...{ paces: 'burst', trainings: [training], cover: [cover('burst')] },
        training: [{ skill: 'burst', days: 40, isUsual: false }],
      }),
      'PUT /api/setup/skills': { skill: 'burst', trainingDays: 30 },
    });
    const panel = within(await screen.findByRole('region', { name: 'Whom to train first' }));
    expect(panel.getByText('B. Mottley in burst')).toBeInTheDocument();
    expect(trainingWords(training, () => 'B. Mottley')).toBe(
      '6.0 h a day beside their own work for burst, about 9.0 more pieces a day. 20 working days, half of it behind them; ' +
        'B. Mottley can teach it; what teaching takes from the constraint is back after 10 working days.',
    );
    await userEvent.click(panel.getByRole('combobox', { name: 'Skill' }));
    await userEvent.click(await screen.findByRole('option', { name: 'burst, 40 d' }));
    await userEvent.type(panel.getByRole('textbox', { name: 'Days to learn' }), '2.5');
    await userEvent.click(panel.getByRole('button', { name: 'Set' }));
    expect(sent).toHaveLength(0);
    await userEvent.clear(panel.getByRole('textbox', { name: 'Days to learn' }));
    await userEvent.type(panel.getByRole('textbox', { name: 'Days to learn' }), '30');
    await userEvent.click(panel.getByRole('button', { name: 'Set' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ skill: 'burst', trainingDays: 30 });
  });
});

describe('the roster', () => {
  const person = (code: string, more: Partial<Roster['people'][number]> = {}) => ({
    ...{ code, name: code, role: 'bench', isAway: false, home: 'wood', freeHours: 0, learning: [] },
    ...more,
  });
  const roster: Roster = {
    ...{ nowMs: Date.UTC(2026, 10, 24, 9), zone: 'UTC', day: '2026-11-24', isToday: true, hours: 4 },
    work: [
      {
        ...{ station: 'wood', stationName: 'Wood room', skill: 'wood', wantedHours: 6, leftHours: 2 },
        comingHours: 1.5,
        people: [{ code: 'venn', name: 'venn', hours: 4, isLent: true }],
      },
    ],
    people: [
      person('venn'),
      person('hask', { isAway: true }),
      person('quill', { home: null, freeHours: null }),
    ],
    empty: [{ station: 'wood', stationName: 'Wood room', hours: 2 }],
    days: ['2026-11-24', '2026-11-25'],
    paces: 'wood',
    evenings: [{ date: '2026-11-24', start: '15:30', end: '18:30', stations: ['body-mill'] }],
  };

  it('says whether every place with work has somebody', () => {
    const said = (more: Partial<Roster>): string => rosterSentence({ ...roster, ...more }).sentence;
    expect(said({})).toBe(
      '2 of 3 are in, 4.0 h are left of today; Wood room 2.0 h, which paces the house, stands empty with work in front of it.',
    );
    expect(said({ empty: [] })).toBe(
      '2 of 3 are in, 4.0 h are left of today; Wood room, which paces the house, is worked all through; no place with work stands empty.',
    );
    expect(said({ paces: null, isToday: false })).toBe(
      '2 of 3 are in, 4.0 h each; places with work and nobody who can: Wood room 2.0 h.',
    );
    expect(said({ hours: 0 })).toBe('2 of 3 are in; nothing is left of the day.');
  });

  it('shows who is where and who is lent; away and here again are one touch', async () => {
    const { sent } = openPage(<RosterPage />, {
      'GET /api/flow/roster': roster,
      'GET /api/floor': floorOf([]),
      'PUT /api/setup/people/venn/absences': ['2026-11-24'],
      'PUT /api/setup/people/hask/absences': [],
    });
    expect(await screen.findByText('venn 4.0 h, lent')).toBeInTheDocument();
    expect(await screen.findByText(/^Body mill works overtime from 15:30 to 18:30/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'venn is away' }));
    await userEvent.click(screen.getByRole('button', { name: 'hask is here' }));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent.map(({ body }) => [body.fromDay, body.toDay, body.away])).toEqual([
      ['2026-11-24', '2026-11-24', true],
      ['2026-11-24', '2026-11-24', false],
    ]);
  });
});
