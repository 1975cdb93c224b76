import type { Recipe } from '@ample-crane/core';
import { renderHook, act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { page, recipe, view } from '../testing/finish.ts';
import { HOUR, NOW } from '../testing/tarrow.ts';
import { openPage } from '../testing/open-page.tsx';
import { CoatForm } from './CoatForm.tsx';
import { EvidenceForm } from './EvidenceForm.tsx';
import type { Materials, Panel } from './queries.ts';
import { SandForm } from './SandForm.tsx';
import { SendBackForm } from './SendBackForm.tsx';
import MaterialsPage from './MaterialsPage.tsx';
import { useChosen } from './useChosen.ts';
import { useDrawnRecipe } from './useDrawnRecipe.ts';

afterEach(() => jest.restoreAllMocks());

const filed = { sentence: 'I-7: coat 2 on 3', entries: [], filedMs: NOW, repeated: false };
const stock = {
  'GET /api/finish/materials': { materials: [], mixes: [] },
  'GET /api/finish/booths': { booths: [] },
};
const entriesOf = (sent: { body: Record<string, unknown> }[]): unknown => sent[0]?.body['entries'];

describe('logging a coat', () => {
  it('is one touch: it starts what waits, and names the coat that is meant', async () => {
    const { sent } = openPage(<CoatForm page={page([view()])} view={view()} />, {
      ...stock,
      'POST /api/log': filed,
    });
    await userEvent.click(screen.getByRole('button', { name: 'Start and log coat 2 of 4' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(entriesOf(sent)).toEqual([
        { type: 'start', operation: 'clear', pieces: [1, 2, 3] },
        { type: 'coat', operation: 'clear', pieces: [1, 2, 3], number: 2 },
      ]),
    );
  });

  it('takes one film, or one a piece, and says which typed film is none', async () => {
    const inHand = view({ standing: 'inHand' });
    const { sent } = openPage(<CoatForm page={page([inHand])} view={inHand} />, {
      ...stock,
      'POST /api/log': filed,
    });
    const wet = screen.getByLabelText('Wet film, µm');
    await userEvent.type(wet, '95 thick');
    await userEvent.click(screen.getByRole('button', { name: 'Log coat 2 of 4' }));
    expect(await screen.findByText('numbers, a space between')).toBeInTheDocument();
    expect(wet).toHaveFocus();
    for (const [typed, problem] of [
      ['95 97 99 101', '4 values, 3 at most'],
      ['95 0 99', '0 µm: above 0 to 1000 µm'],
    ] as const) {
      await userEvent.clear(wet);
      await userEvent.type(wet, typed);
      expect(await screen.findByText(problem)).toBeInTheDocument();
    }
    expect(sent).toHaveLength(0);
    await userEvent.clear(wet);
    await userEvent.type(wet, '95 97,5 101');
    expect(screen.getByText('3 of 3')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Log coat 2 of 4' }));
    await waitFor(() => expect(entriesOf(sent)).toMatchObject([{ type: 'coat', wetUms: [95, 97.5, 101] }]));
    await waitFor(() => expect(wet).toHaveValue(''));
  });

  it('offers the people who are able, and goes on the pieces that are chosen', async () => {
    const inHand = view({ standing: 'inHand' });
    const { sent } = openPage(<CoatForm page={page([inHand])} view={inHand} />, {
      ...stock,
      'POST /api/log': filed,
    });
    await userEvent.click(screen.getByRole('combobox', { name: 'Who' }));
    expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual(['V. Tamsel']);
    await userEvent.click(screen.getByRole('option', { name: 'V. Tamsel' }));
    await userEvent.click(
      within(screen.getByRole('group', { name: 'Pieces coated' })).getByRole('button', { name: '02' }),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Log coat 2 of 4 on 2' }));
    await waitFor(() => expect(entriesOf(sent)).toMatchObject([{ pieces: [1, 3], who: 'tamsin' }]));
  });

  it('refused, says why, and keeps what was typed; so it does when the rack is started meanwhile', async () => {
    const why = 'the coat on I-7/01 may be recoated in 40 min at 21 °C, not yet';
    const { change } = openPage(<CoatForm page={page([view()])} view={view()} />, {
      ...stock,
      'POST /api/log': { refused: why, code: 'too-early' },
    });
    await userEvent.type(screen.getByLabelText('Wet film, µm'), '95');
    await userEvent.click(screen.getByRole('button', { name: 'Start and log coat 2 of 4' }));
    expect(await screen.findByRole('alert')).toHaveTextContent(why);
    const started = view({ standing: 'inHand', positions: [1, 2, 3] });
    change(<CoatForm page={page([started])} view={started} />);
    expect(screen.getByLabelText('Wet film, µm')).toHaveValue('95');
    expect(screen.getByRole('button', { name: 'Log coat 2 of 4' })).toBeEnabled();
  });

  it('is not offered where no coat is due', () => {
    openPage(<CoatForm page={page([view()])} view={view({ coat: null })} />, stock);
    expect(screen.queryByRole('form')).toBeNull();
  });
});

describe('the gate out of a cure', () => {
  const held = view({ operation: 'cure', standing: 'onHold', next: 'buff', ready: false, coat: null });

  it('opens by the clock, or against it for a reason that is typed first', async () => {
    const { sent, change } = openPage(<EvidenceForm page={page([held])} view={held} nowMs={NOW} />, {
      'POST /api/log': filed,
    });
    expect(screen.queryByRole('button', { name: 'End hold, on to buff' })).toBeNull();
    const against = screen.getByRole('button', { name: 'End hold now, for this reason' });
    await userEvent.click(against);
    expect(await screen.findByText('the reason stays with the rack')).toBeInTheDocument();
    expect(sent).toHaveLength(0);
    await userEvent.type(screen.getByLabelText('Pass the rule by, because'), '  the fair is tomorrow ');
    await userEvent.click(against);
    await waitFor(() =>
      expect(entriesOf(sent)).toEqual([
        { type: 'end', operation: 'cure', pieces: [1, 2, 3], because: 'the fair is tomorrow' },
      ]),
    );
    const ready = { ...held, ready: true };
    change(<EvidenceForm page={page([ready])} view={ready} nowMs={NOW} />);
    await waitFor(() => expect(screen.getByRole('button', { name: 'End hold, on to buff' })).toBeEnabled());
    expect(screen.queryByLabelText('Pass the rule by, because')).toBeNull();
  });

  it('goes by a panel that is cured before the clock only for a reason, and not by one that will be', async () => {
    const panels = [
      { code: 'TP-4', curedMs: NOW + HOUR },
      { code: 'TP-5', curedMs: NOW - HOUR },
    ] as Panel[];
    const { sent } = openPage(<EvidenceForm page={page([held], { panels })} view={held} nowMs={NOW} />, {
      'POST /api/log': filed,
    });
    expect(screen.queryByRole('button', { name: /TP-4/ })).toBeNull();
    const goBy = screen.getByRole('button', { name: 'Go by TP-5, for this reason' });
    await userEvent.click(goBy);
    expect(await screen.findByText('the reason stays with the rack')).toBeInTheDocument();
    expect(sent).toHaveLength(0);
    await userEvent.type(screen.getByLabelText('Pass the rule by, because'), 'always right');
    await userEvent.click(goBy);
    await waitFor(() =>
      expect(entriesOf(sent)).toMatchObject([{ type: 'end', panel: 'TP-5', because: 'always right' }]),
    );
  });

  it('takes a mark test either way', async () => {
    const { sent } = openPage(<EvidenceForm page={page([held])} view={held} nowMs={NOW} />, {
      'POST /api/log': filed,
    });
    await userEvent.click(screen.getByRole('button', { name: 'Mark test failed' }));
    await waitFor(() => expect(entriesOf(sent)).toMatchObject([{ type: 'mark', passed: false }]));
  });
});

describe('what sanding took off', () => {
  const atBuff = view({ operation: 'buff', standing: 'inHand', next: 'work', coat: null });

  it('is what the recipe expects unless it was read', async () => {
    const { sent } = openPage(<SandForm page={page([atBuff])} view={atBuff} />, { 'POST /api/log': filed });
    expect(screen.getByLabelText('Taken off, µm')).toHaveAttribute('placeholder', '22');
    await userEvent.click(screen.getByRole('button', { name: 'Log sanding of 3' }));
    await waitFor(() =>
      expect(entriesOf(sent)).toEqual([{ type: 'sand', operation: 'buff', pieces: [1, 2, 3] }]),
    );
    await userEvent.type(screen.getByLabelText('Taken off, µm'), '18,5');
    // The button takes nothing until the first is answered.
    const button = screen.getByRole('button', { name: 'Log sanding of 3' });
    await waitFor(() => expect(button).toBeEnabled());
    await userEvent.click(button);
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ entries: [{ removalUm: 18.5 }] }));
  });
});

describe('what is typed while an answer is under way', () => {
  it('is of the next filing, and stays', async () => {
    let arrive = (_answer: object): void => undefined;
    const answer = new Promise<object>((resolve) => (arrive = resolve));
    const atBuff = view({ operation: 'buff', standing: 'inHand', next: 'work', coat: null });
    const { sent } = openPage(<SandForm page={page([atBuff])} view={atBuff} />, { 'POST /api/log': answer });
    const off = screen.getByLabelText('Taken off, µm');
    const button = screen.getByRole('button', { name: 'Log sanding of 3' });
    await userEvent.type(off, '21');
    await userEvent.click(button);
    await userEvent.clear(off);
    await userEvent.type(off, '18,5');
    arrive(filed);
    await waitFor(() => expect(button).toBeEnabled());
    expect(off).toHaveValue('18,5');
    await userEvent.click(button);
    await waitFor(() => expect(off).toHaveValue(''));
    expect(sent.map(({ body }) => (body as { entries: object[] }).entries[0])).toMatchObject([
      { removalUm: 21 },
      { removalUm: 18.5 },
    ]);
  });
});

describe('sending pieces back', () => {
  const costs = {
    ...{ loopDays: 2.4, backMs: NOW + 58 * HOUR, rest: 2 },
    waits: { rackEndMs: NOW + 80 * HOUR, rackLateDays: 1.2 },
    goesOn: {
      ...{ rackEndMs: NOW + 30 * HOUR, rackLateDays: 0, sentEndMs: NOW + 90 * HOUR, sentLateDays: 1.6 },
      setUpMinutes: 35,
    },
  };

  it('asks which, what and why, says what each choice costs, and files the one that is taken', async () => {
    const inHand = view({ standing: 'inHand' });
    const { sent } = openPage(<SendBackForm page={page([inHand])} nowMs={NOW} />, {
      'GET /api/finish/racks/I-7/send-back': costs,
      'POST /api/log': filed,
    });
    expect(screen.getByRole('button', { name: 'Send back, rack waits' })).toBeDisabled();
    await userEvent.click(screen.getByRole('button', { name: '02' }));
    await userEvent.click(screen.getByRole('combobox', { name: 'What is wrong' }));
    await userEvent.click(screen.getByRole('option', { name: 'fish-eye' }));
    expect(await screen.findByRole('row', { name: /Rack goes on .* 35 min of set-ups again/ })).toBeVisible();
    expect(screen.getByRole('row', { name: /Rack waits .* 2 pieces wait 2\.4 days/ })).toBeVisible();
    await userEvent.type(screen.getByLabelText('What brought it about'), 'oil on the blank');
    await userEvent.click(screen.getByRole('button', { name: 'Send back, rack waits' }));
    await waitFor(() =>
      expect(entriesOf(sent)).toEqual([
        {
          ...{ type: 'rework', operation: 'clear', pieces: [2], reason: 'fish-eye', to: 'clear' },
          ...{ rest: 'waits', cause: 'oil on the blank' },
        },
      ]),
    );
  });
});

describe('materials', () => {
  const material = (change: object) => ({
    ...{ material: 'thin lacquer', mix: null, lots: [], leadDays: 10 },
    supply: {
      ...{ litres: 6, plannedLitres: 9, shortLitres: 3, wastedLitres: 0 },
      runsOut: { batch: 'B-230', atMs: NOW + 8 * 24 * HOUR },
    },
    ...change,
  });
  const satin = material({
    material: 'catalysed satin',
    mix: {
      parts: [
        { name: 'base', parts: 10 },
        { name: 'hardener', parts: 1 },
      ],
      potLifeHours: 6,
    },
    supply: { litres: 20, plannedLitres: 9, shortLitres: 0, wastedLitres: 0, runsOut: null },
  });
  const answer = {
    nowMs: NOW,
    zone: 'utc',
    materials: [material({}), satin],
    mixes: [],
  } as unknown as Materials;

  it('say what to order now, and note a mix with what was typed kept when it is refused', async () => {
    const { sent } = openPage(<MaterialsPage />, {
      'GET /api/finish/materials': answer,
      'POST /api/finish/materials/mixes': { refused: 'no lot of catalysed satin is open' },
    });
    expect(
      await screen.findByText('Order now: thin lacquer does not reach B-230, more takes 10 days.'),
    ).toBeInTheDocument();
    const mixes = screen.getByRole('region', { name: 'Mixes' });
    await userEvent.type(within(mixes).getByLabelText('Mixed, l'), '1,5');
    await userEvent.click(within(mixes).getByRole('button', { name: 'Mixed now' }));
    expect(await within(mixes).findByRole('alert')).toHaveTextContent('no lot of catalysed satin is open');
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ material: 'catalysed satin', litres: 1.5 }));
    expect(within(mixes).getByLabelText('Mixed, l')).toHaveValue('1,5');
    await userEvent.type(within(mixes).getByLabelText('Mix it anyway, because'), 'the drum is being fetched');
    await waitFor(() => expect(within(mixes).getByRole('button', { name: 'Mixed now' })).toBeEnabled());
    await userEvent.click(within(mixes).getByRole('button', { name: 'Mixed now' }));
    await waitFor(() => expect(sent[1]?.body).toMatchObject({ because: 'the drum is being fetched' }));
  });
});

describe('pieces chosen', () => {
  it('are all at first; who is left out stays out while others come and go', () => {
    const { result, rerender } = renderHook(({ places }) => useChosen(places), {
      initialProps: { places: [1, 2, 3] },
    });
    expect(result.current[0]).toEqual([1, 2, 3]);
    act(() => result.current[1]([1, 3]));
    rerender({ places: [1, 2, 3, 4] });
    expect(result.current[0]).toEqual([1, 3, 4]);
    rerender({ places: [2, 3] });
    expect(result.current[0]).toEqual([3]);
  });
});

describe('a recipe that is drawn', () => {
  afterEach(() => sessionStorage.clear());

  const revision = (number: number, targetUm: number): Recipe => ({
    ...recipe,
    id: `${recipe.name}-${number}`,
    revision: number,
    targetUm,
  });
  const drawing = (newest: Recipe) =>
    renderHook(({ recipe: given }) => useDrawnRecipe(given), { initialProps: { recipe: newest } });

  it('follows the newest revision while nothing is drawn', () => {
    const { result, rerender } = drawing(revision(1, 80));
    rerender({ recipe: revision(2, 90) });
    expect(result.current).toMatchObject({ changed: false, newer: null, start: { revision: 2 } });
    expect(result.current.draft.targetUm).toBe(90);
  });

  it('is never replaced: a newer revision is offered, to be taken or to be drawn on', () => {
    const { result, rerender } = drawing(revision(1, 80));
    act(() => result.current.setDraft((before) => ({ ...before, minimumUm: 50 })));
    rerender({ recipe: revision(2, 90) });
    expect(result.current).toMatchObject({ changed: true, newer: { revision: 2 } });
    expect(result.current.draft).toMatchObject({ minimumUm: 50, targetUm: 80 });
    const { newer, draft } = result.current;
    if (!newer) throw new Error('none is offered');
    act(() => result.current.rebase(newer, draft));
    expect(result.current).toMatchObject({ newer: null, changed: true, start: { revision: 2 } });
    act(() => result.current.rebase(newer));
    expect(result.current).toMatchObject({ changed: false, draft: { targetUm: 90 } });
  });

  it('outlasts a reload; what is kept and is no recipe is not believed', () => {
    const { result, unmount } = drawing(revision(1, 80));
    act(() => result.current.setDraft((before) => ({ ...before, minimumUm: 50 })));
    unmount();
    expect(drawing(revision(1, 80)).result.current).toMatchObject({
      changed: true,
      draft: { minimumUm: 50 },
    });
    const place = Object.keys(sessionStorage).find((name) => name.endsWith(`recipe ${recipe.name}`)) ?? '';
    for (const odd of [7, {}, { start: recipe, draft: { ...recipe, steps: [null] } }, { start: recipe }]) {
      sessionStorage.setItem(place, JSON.stringify(odd));
      expect(drawing(revision(1, 80)).result.current).toMatchObject({
        changed: false,
        draft: { targetUm: 80 },
      });
    }
  });

  it('is no change when only its number differs', () => {
    const { result } = drawing(revision(3, 80));
    act(() => result.current.setDraft(revision(1, 80)));
    expect(result.current.changed).toBe(false);
  });
});
