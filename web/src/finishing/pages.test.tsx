import { SHIPPED_RECIPES } from '@ample-crane/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { page, recipe, view } from '../testing/finish.ts';
import { openPage } from '../testing/open-page.tsx';
import { HOUR, NOW } from '../testing/tarrow.ts';
import { ColourPanel } from './ColourPanel.tsx';
import PanelsPage from './PanelsPage.tsx';
import type { ListedRack, Panel } from './queries.ts';
import { RackPanels } from './RackPanels.tsx';
import { RecipeOfRack } from './RecipeOfRack.tsx';
import RecipesPage from './RecipesPage.tsx';
import ReadyListPage from './ReadyListPage.tsx';
import SandingPage from './SandingPage.tsx';

afterEach(() => jest.restoreAllMocks());

const held = (change: object = {}) =>
  view({
    ...{ operation: 'cure', operationName: 'Cure', standing: 'onHold', next: 'buff', ready: false },
    ...{ coat: null, title: 'Buff Thu 08:00', fromMs: NOW + 40 * HOUR },
    ...change,
  });
const rack = (batch: string, ...views: ListedRack['views']): ListedRack => ({
  ...page([]).rack,
  ...{ batch, views, dueMs: NOW + 900 * HOUR },
});
const setup = {
  'GET /api/setup': {
    people: [
      { code: 'ostrander', name: 'M. Ostrander', role: 'production', skills: [] },
      { code: 'tamsin', name: 'V. Tamsel', role: 'finish', skills: ['burst'] },
    ],
    calendar: {
      ...{ zone: 'utc', closedDays: [], overtime: [] },
      // Round the clock: days differ by the cure alone.
      shifts: [{ name: 'A', start: '00:00', end: '24:00', weekdays: [1, 2, 3, 4, 5, 6, 7], breaks: [] }],
    },
  },
};
const list = (...racks: ListedRack[]) => ({
  ...setup,
  'GET /api/finish/racks': { nowMs: NOW, zone: 'utc', racks },
  'GET /api/finish/booths': { nowMs: NOW, zone: 'utc', booths: [] },
});

describe('the ready list', () => {
  it('stands in groups, each with its pieces, what may go on first', async () => {
    openPage(
      <ReadyListPage />,
      list(
        rack('I-3', held()),
        rack('I-2', held({ ready: true, title: 'Buff now', fromMs: NOW - HOUR })),
        rack('I-1', view({ standing: 'inHand', positions: [1, 2] })),
      ),
    );
    const regions = await screen.findAllByRole('region');
    expect(regions.slice(1).map((one) => one.getAttribute('aria-label'))).toEqual([
      'May go on now',
      'Next coat',
      'Curing',
    ]);
    expect(within(screen.getByRole('region', { name: 'Next coat' })).getByRole('heading')).toHaveTextContent(
      'Next coat 2 pieces',
    );
  });

  it('draws all of a long list, what fits the screen at once', async () => {
    openPage(<ReadyListPage />, list(...Array.from({ length: 40 }, (_, i) => rack(`I-${i + 100}`, held()))));
    await screen.findByRole('region', { name: 'Curing' });
    await waitFor(() => expect(document.querySelectorAll('article')).toHaveLength(40));
    expect(screen.getByRole('heading', { name: 'Curing 120 pieces' })).toBeInTheDocument();
  });

  it('ends a hold by one touch, and says beside it why not', async () => {
    const { sent } = openPage(<ReadyListPage />, {
      ...list(rack('I-2', held({ ready: true, title: 'Buff now' }))),
      'POST /api/log': { refused: 'the hold of I-2 ended meanwhile', code: 'nothing-here' },
    });
    const row = await screen.findByRole('article', { name: 'I-2: Buff now' });
    await userEvent.click(within(row).getByRole('button', { name: 'End hold, on to buff' }));
    expect(await within(row).findByRole('alert')).toHaveTextContent('the hold of I-2 ended meanwhile');
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        batch: 'I-2',
        entries: [{ type: 'end', operation: 'cure', pieces: [1, 2, 3] }],
      }),
    );
  });

  it('asks who lays a coat that takes somebody able, where the one at the screen is not', async () => {
    const colour = view({
      standing: 'inHand',
      coat: { number: 1, of: 2, step: 'burst', minutes: 66, fromMs: NOW, needs: 'burst' },
    });
    openPage(<ReadyListPage />, list(rack('I-1', colour)));
    expect(await screen.findByRole('link', { name: 'Say who lays coat 1' })).toHaveAttribute(
      'href',
      '/finish/rack/I-1',
    );
    expect(screen.queryByRole('button', { name: 'Log coat 1' })).toBeNull();
  });

  it('says what to do when nothing is in finish', async () => {
    openPage(<ReadyListPage />, list());
    expect(
      await screen.findByText(/No rack is in finish\. Racks come here from fitting/),
    ).toBeInTheDocument();
  });
});

describe('the sanding plan', () => {
  const ahead = (thinShare: number) => ({
    ...{ name: 'Flat', grits: [800, 1000], removalUm: 22, leftUm: 70, sdUm: 4, minimumUm: 62 },
    ...{ thinShare, throughShare: 0 },
  });

  it('warns of the rack that would lose pieces, with the share, and refuses nothing', async () => {
    openPage(
      <SandingPage />,
      list(rack('I-1', held({ sanding: ahead(0.001) })), rack('I-2', held({ sanding: ahead(0.14) }))),
    );
    expect(
      await screen.findByText(
        'Mind I-2: I-2 would have 14 % of its pieces thinner than 62 µm. Sand less, or lay a coat more.',
      ),
    ).toBeInTheDocument();
    expect(screen.getAllByRole('row').slice(1)[0]).toHaveTextContent('I-2');
  });

  it('says which is closest when all is well', async () => {
    openPage(<SandingPage />, list(rack('I-1', held({ sanding: ahead(0.001) }))));
    expect(await screen.findByText(/closest is I-1, 70 µm left of at least 62/)).toBeInTheDocument();
  });
});

describe('test panels', () => {
  const panel = (change: object): Panel => ({
    ...{ code: 'TP-4', batch: 'I-7', recipe: recipe.name, step: 'clear', material: 'thin lacquer' },
    ...{ filmUm: 92, room: 'Cure room', sprayedMs: NOW - 60 * HOUR, weighings: [], fit: null },
    ...{ notEnough: '3 of at least 4 weighings', curedMs: null, referenceHours: null, lostPct: null },
    ...change,
  });
  const cured = panel({
    ...{ code: 'TP-5', notEnough: null, curedMs: NOW - HOUR, referenceHours: 301, lostPct: 98.4 },
    fit: { tauHours: 15, limitGrams: 184, curedAtHours: 59, low90: 57, high90: 62 },
  });
  const offer = {
    ...{ recipe: recipe.name, step: 'clear', material: 'thin lacquer', hoursNow: 336 },
    offered: { hours: 301.4, sd: 12, panels: 3 },
  };

  it('say when they are cured with their range, and what they offer the recipe', async () => {
    const seen = { id: `${recipe.name}-2`, name: recipe.name, revision: 2, newest: true, recipe };
    const { sent } = openPage(<PanelsPage />, {
      'GET /api/finish/panels': { nowMs: NOW, zone: 'utc', panels: [panel({}), cured], offers: [offer] },
      'GET /api/finish/recipes': { nowMs: NOW, zone: 'utc', recipes: [seen] },
      'POST /api/finish/recipes': { ...seen, id: `${recipe.name}-3` },
    });
    expect(
      await screen.findByText(/^TP-5 is cured since .*: 98\.4 % of its solvent is gone, τ 15 h\.$/),
    ).toBeInTheDocument();
    const take = await screen.findByRole('button', { name: 'Take 301 h into the recipe' });
    await waitFor(() => expect(take).toBeEnabled());
    await userEvent.click(take);
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ from: 2, note: 'hours to buff from 3 test panels: 301 ± 12' }),
    );
  });

  it('say so while they cannot tell, also on the page of their rack', async () => {
    openPage(<PanelsPage />, {
      'GET /api/finish/panels': { nowMs: NOW, zone: 'utc', panels: [panel({})], offers: [] },
    });
    expect(await screen.findByText('TP-4 cannot tell yet: 3 of at least 4 weighings.')).toBeInTheDocument();
  });

  it('hang with a rack that has coats on, with a first weight or without', async () => {
    const coated = page([held()], { panels: [panel({})] });
    coated.state.coats = [{ atMs: NOW, operation: 'clear', positions: [1], wetUm: null, step: 'clear' }];
    const [own] = coated.state.finish?.coats ?? [];
    if (own) coated.state.coats[0] = { ...coated.state.coats[0]!, step: own.step };
    const { sent } = openPage(<RackPanels page={coated} />, {
      'POST /api/finish/panels': { ...panel({}), code: 'TP-9' },
    });
    expect(screen.getByText(/0 weighings: 3 of at least 4 weighings/)).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('First weight, g'), '190,2');
    await userEvent.click(screen.getByRole('button', { name: 'Hang a panel of Clear' }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ batch: 'I-7', grams: 190.2 }));
  });
});

describe('the recipe of a rack', () => {
  it('is its own until it is moved, for a reason; a newer revision is told of', async () => {
    const own = page([held()], {
      recipes: [
        { id: `${recipe.name}-1`, title: recipe.title },
        { id: `${recipe.name}-2`, title: recipe.title },
      ],
    });
    const { sent } = openPage(<RecipeOfRack page={own} />, {
      'POST /api/finish/racks/I-7/recipe': {
        sentence: 'I-7 goes on',
        entries: [],
        filedMs: NOW,
        repeated: false,
      },
    });
    expect(screen.getByText(/A newer revision, 2, is there; this rack keeps its own/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('combobox', { name: 'Move to' }));
    await userEvent.click(screen.getByRole('option', { name: `${recipe.title} r2` }));
    await userEvent.click(screen.getByRole('button', { name: 'Move it' }));
    expect(await screen.findByText('it stays with the rack')).toBeInTheDocument();
    expect(sent).toHaveLength(0);
    await userEvent.type(screen.getByLabelText('Reason'), 'thicker base');
    await userEvent.click(screen.getByRole('button', { name: 'Move it' }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ recipe: recipe.name, reason: 'thicker base' }));
  });
});

describe('the colour of a rack', () => {
  it('is judged piece by piece against its target, and takes a reading as it is typed', async () => {
    const coloured = page([view({ standing: 'inHand' })]);
    const lab = { l: 58, a: 21, b: 52 };
    if (coloured.state.finish) coloured.state.finish.colour = { name: 'amber burst', lab, withinDeltaE: 3 };
    coloured.state.colours = [
      { atMs: NOW, operation: 'clear', positions: [1, 2], labs: [lab, { ...lab, l: 44 }] },
    ];
    const { sent } = openPage(<ColourPanel page={coloured} />, {
      'POST /api/log': { sentence: 'read', entries: [], filedMs: NOW, repeated: false },
    });
    expect(screen.getByText(/2 read, 1 off: \/02; piece to piece up to ΔE 1\d\.\d\./)).toBeInTheDocument();
    const input = screen.getByLabelText('Piece, L* a* b*');
    await userEvent.type(input, '3 58,2 21');
    await userEvent.click(screen.getByRole('button', { name: 'Note the colour' }));
    expect(await screen.findByText('the piece and its three values, a space between')).toBeInTheDocument();
    expect(sent).toHaveLength(0);
    await userEvent.type(input, ' 52.4');
    await userEvent.click(screen.getByRole('button', { name: 'Note the colour' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        entries: [{ type: 'colour', pieces: [3], labs: [{ l: 58.2, a: 21, b: 52.4 }] }],
      }),
    );
  });
});

describe('the recipes', () => {
  const seen = SHIPPED_RECIPES.map((one) => ({
    ...{ id: one.id, name: one.name, revision: 1, newest: true, recipe: one, note: '', person: null },
    ...{ madeMs: NOW, batches: ['I-1', 'I-2', 'I-3', 'I-4'], usualOf: [] },
  }));
  const season = { temperatureC: 21, relativeHumidityPct: 50 };

  it('are told in days at the air of the season and warmer, and two of them side by side', async () => {
    openPage(<RecipesPage />, {
      ...setup,
      'GET /api/finish/recipes': { nowMs: NOW, zone: 'utc', season, room: 'Cure room', recipes: seen },
    });
    expect(
      await screen.findByText(/in Cure room’s air of the last two weeks: 21\.0 °C, 50 % RH/),
    ).toBeVisible();
    const table = within(screen.getByRole('region', { name: 'All recipes' }));
    expect(table.getAllByRole('row')).toHaveLength(SHIPPED_RECIPES.length + 1);
    const gloss = await table.findByRole('row', { name: new RegExp(`^${recipe.title} r1`) });
    await waitFor(() => expect(gloss).toHaveTextContent(/\d+\.\d/));
    const [days, warmer] = within(gloss)
      .getAllByRole('cell')
      .slice(1, 3)
      .map((cell) => Number(cell.textContent));
    expect(warmer).toBeLessThan(days ?? 0);
    expect(gloss).toHaveTextContent('+1');
    const beside = within(screen.getByRole('region', { name: 'Two recipes side by side' }));
    await userEvent.click(beside.getByRole('combobox', { name: 'The other' }));
    await userEvent.click(screen.getByRole('option', { name: /^Oil/ }));
    expect(await beside.findByText(/^Oil is \d+\.\d days shorter than /)).toBeVisible();
  });
});
