import { SHIPPED_RECIPES, validateRecipe, type FinishView, type Recipe } from '@ample-crane/core';
import { render, screen } from '@testing-library/react';
import { Ladder } from '../devices/Ladder.tsx';
import { HOUR, NOW } from '../testing/tarrow.ts';
import { boothSentence } from './BoothsPage.tsx';
import type { Booth, FinishRack } from './queries.ts';
import { freshStep, inOrder, recipeFile, rescaled } from './recipe-draft.ts';
import { deedOf, listVerdict, readyLines } from './ready.ts';
import { lengthsOf } from './useLengths.ts';
import { daysWords, shareWords } from './words.ts';

const view = (change: Partial<FinishView>): FinishView => ({
  ...{ operation: 'cure', operationName: 'Cure', station: 'clear', standing: 'onHold', positions: [1, 2] },
  ...{
    rungs: [],
    buildUm: 110,
    buildSdUm: 4,
    next: 'buff',
    ready: false,
    title: 'Buff Thu 08:00',
    detail: '',
  },
  ...{ fromMs: NOW + 40 * HOUR, lowMs: null, highMs: null, closesMs: null, moved: null, recomputed: null },
  ...{ bridgedHours: 0, sanding: null, coat: null, scuffFirst: false },
  ...change,
});
const rack = (batch: string, views: FinishView[], panels: FinishRack['panels'] = []): FinishRack => ({
  ...{ batch, kind: 'I', model: 'Bowline', quantity: 2, dueMs: NOW + 900 * HOUR, views, panels },
  ...{ recipe: 'burst-over-sealer-1', recipeTitle: 'Burst', targetUm: 92, minimumUm: 62 },
});
const coating = (change: Partial<FinishView> = {}): FinishView =>
  view({
    ...{ operation: 'clear', next: 'coat', standing: 'inHand', ready: true, title: 'Next coat now' },
    ...{
      detail: 'Coat 3 of 4 at Clear coats.',
      coat: { number: 3, of: 4, step: 'clear', minutes: 66, fromMs: NOW, needs: null },
      fromMs: NOW,
    },
    ...change,
  });
const booth = (change: Partial<Booth> = {}): Booth => ({
  ...{
    code: 'booth-3',
    name: 'Booth 3',
    station: 'clear',
    room: 'Booth 3',
    logged: [],
    ahead: [],
    racks: [],
  },
  limits: { lowC: 16, highC: 30, rhPct: 70, marginC: 3 },
  now: {
    ...{ atMs: NOW, temperatureC: 21, relativeHumidityPct: 50 },
    judged: { verdict: 'spray', dewC: 10, marginC: 10, surfaceMeasured: true, against: [] },
  },
  ...{
    closesMs: null,
    opensMs: null,
    first: null,
    filterHours: 3,
    filterLifeHours: 120,
    filterChangedMs: null,
  },
  ...change,
});
const time = (ms: number): string => `+${Math.round((ms - NOW) / HOUR)} h`;

describe('the ready list', () => {
  const racks = [
    rack('I-3', [view({ fromMs: NOW + 90 * HOUR })]),
    rack('I-1', [coating()]),
    rack('I-2', [view({ ready: true, title: 'Buff now', fromMs: NOW - HOUR })]),
    rack('I-4', [view({ fromMs: NOW + 10 * HOUR, title: 'Buff Wed 00:20' })]),
  ];

  it('stands in the order in which things can be done', () => {
    expect(readyLines(racks).map(({ rack: { batch }, group }) => `${batch} ${group}`)).toEqual([
      'I-2 now',
      'I-1 coat',
      'I-4 curing',
      'I-3 curing',
    ]);
  });

  it('says in one sentence what may go, what wants a coat, and what is next', () => {
    expect(listVerdict(readyLines(racks), time)).toBe(
      'Ready: I-2; 1 may get its next coat; next is I-4, buff Wed 00:20.',
    );
  });

  it('says until when to coat only of what may be coated', () => {
    const closing = rack('I-5', [coating({ closesMs: NOW + 5 * HOUR })]);
    const held = rack('I-6', [coating({ ready: false, title: 'Hold the coat', closesMs: NOW + 2 * HOUR })]);
    expect(listVerdict(readyLines([held, closing]), time)).toBe(
      'Nothing has cured through now; 1 may get its next coat. Coat I-5 before +5 h.',
    );
    expect(listVerdict(readyLines([held]), time)).toBe('Nothing has cured through now.');
  });

  it('offers the one thing to do, and nothing where it wants a decision', () => {
    const deed = (one: FinishView) => deedOf({ view: one });
    expect(deed(view({ ready: true }))).toMatchObject({
      label: 'End hold, on to buff',
      entry: { type: 'end' },
    });
    expect(deed(view({}))).toBeNull();
    expect(deed(coating())).toMatchObject({ label: 'Log coat 3', entry: { type: 'coat', number: 3 } });
    const burst = coating({
      coat: { number: 1, of: 2, step: 'burst', minutes: 66, fromMs: NOW, needs: 'burst' },
    });
    expect(deed(burst)).toBeNull();
    expect(deedOf({ view: burst }, ['spray', 'burst'])).toMatchObject({
      label: 'Log coat 1',
    });
    expect(deed(coating({ ready: false, title: 'Next coat from Tue 16:00' }))).toBeNull();
    expect(deed(coating({ ready: false, scuffFirst: true }))).toMatchObject({
      entry: { type: 'sand', scuff: true },
    });
  });
});

describe('a booth', () => {
  it('says spray until when and why, and what to spray first', () => {
    const ahead = [{ atMs: NOW + 2 * HOUR, against: ['73 % RH, at most 70'] }] as Booth['ahead'];
    const first = { batch: 'I-9', number: 2, minutes: 60, pieces: 12, fit: 12, fromMs: NOW };
    const closing = booth({ closesMs: NOW + 2 * HOUR, ahead, first });
    expect(boothSentence(closing, NOW, 'utc')).toBe(
      'Spray until Tue 16:20: the work is 10.0 °C above the dew point, 3 °C above it wanted; then 73 % RH, at most 70. Spray I-9 first: its coat 2 takes 1 h and fits before that.',
    );
    expect(boothSentence(booth({ closesMs: NOW + 2 * HOUR, ahead }), NOW, 'utc')).toMatch(/at most 70\.$/);
    expect(boothSentence(booth({ now: null }), NOW, 'utc')).toMatch(/^Its air is not logged/);
  });
});

describe('the ladder as it is drawn', () => {
  it('has a rung for each coat as thick as its film, and says its build', () => {
    const rungs = [
      { name: 'Sealer', leftUm: 20, progress: 1 },
      { name: 'Clear', leftUm: 40, progress: 0.25 },
    ];
    render(<Ladder rungs={rungs} minimumUm={50} scaleUm={100} height={113} words="two coats" />);
    const drawing = screen.getByRole('img', { name: 'two coats' });
    const heights = [...drawing.querySelectorAll('.rung')].map((rung) => Number(rung.getAttribute('height')));
    expect(heights[0]).toBeCloseTo(20, 6);
    expect(heights[1]).toBeCloseTo(40, 6);
    expect(drawing.querySelectorAll('.front')).toHaveLength(1);
    expect(drawing.textContent).toContain('60 µm');
  });
});

describe('drawing a recipe', () => {
  const [first] = SHIPPED_RECIPES;
  if (!first) throw new Error('no recipe ships');

  it('moves steps, adds those that can be, and leaves its number behind in a file', () => {
    const keys = first.steps.map(({ key }) => key);
    const [one = '', two = '', ...rest] = keys;
    expect(inOrder(first.steps, keys)).toEqual(first.steps);
    expect(inOrder(first.steps, [two, one, ...rest]).map(({ key }) => key)).toEqual([two, one, ...rest]);
    const added: Recipe = { ...first, steps: [...first.steps, freshStep(first.steps, 'sand')] };
    expect(validateRecipe(added)).toEqual([]);
    expect(recipeFile(first)).not.toHaveProperty('revision');
    expect(recipeFile(first)).toMatchObject({ format: 'ample-crane-recipe-1', name: first.name });
  });

  it('takes hours from panels: sanding and recoating come no later than buffing', () => {
    const file = rescaled(first, 'clear', 50);
    const step = file.steps.find(({ key }) => key === 'clear');
    expect(step?.kind === 'coat' && step.spec.hours).toEqual({ recoat: 1.5, sand: 50, buff: 50 });
  });

  it('says why its length cannot be told', () => {
    const calendar = { zone: 'utc', shifts: [], closedDays: [], overtime: [] };
    const cold = { temperatureC: -90, relativeHumidityPct: 50 };
    const always = {
      ...calendar,
      shifts: [{ name: 'A', start: '00:00', end: '24:00', weekdays: [1, 2, 3, 4, 5, 6, 7], breaks: [] }],
    };
    expect(lengthsOf(first, cold, always).problem).toMatch(/more than 400 days/);
    expect(
      lengthsOf(first, { temperatureC: 21, relativeHumidityPct: 50 }, always).season?.days,
    ).toBeGreaterThan(10);
  });
});

describe('words for numbers', () => {
  it.each([
    [0, 'none'],
    [0.004, 'under 1 %'],
    [0.023, '2.3 %'],
    [0.34, '34 %'],
  ])('a share of %d is %s', (share, words) => expect(shareWords(share)).toBe(words));

  it.each([
    [0.2, 'the same day'],
    [6.54, '6.5 days'],
    [13.2, '13 days'],
    [2000, 'years'],
  ])('%d days are %s', (days, words) => expect(daysWords(days)).toBe(words));
});
