import { SHIPPED_RECIPES, type FinishView, type Operation, type Route } from '@ample-crane/core';
import type { RackPage } from '../finishing/queries.ts';
import { NOW, piece } from './tarrow.ts';

const [first] = SHIPPED_RECIPES;
if (!first) throw new Error('no recipe ships');
export const recipe = first;
const clear = recipe.steps.find(({ kind }) => kind === 'coat');
if (clear?.kind !== 'coat') throw new Error('the first recipe has no coats');

const operations = [
  { key: 'clear', name: 'Clear coats', mode: 'attended', stations: ['clear'], skill: 'spray' },
  { key: 'cure', name: 'Cure', mode: 'hold', stations: ['clear'], room: 'Cure room' },
  { key: 'buff', name: 'Buff', mode: 'attended', stations: ['buff'], skill: null },
].map((one) => ({ reworkTo: null, caution: null, setUpMinutes: 10, pieceMinutes: 5, coats: null, ...one }));
const route: Route = {
  ...{ id: 'bowline-i-1', model: 'Bowline', kind: 'I', revision: 1 },
  operations: operations as unknown as Operation[],
};

export const view = (change: Partial<FinishView> = {}): FinishView => ({
  ...{ operation: 'clear', operationName: 'Clear coats', station: 'clear', standing: 'waiting' },
  ...{ positions: [1, 2, 3], rungs: [], buildUm: 40, buildSdUm: 3, next: 'coat', ready: true },
  ...{
    title: 'Next coat now',
    detail: '',
    fromMs: NOW,
    lowMs: null,
    highMs: null,
    closesMs: null,
    scuffFirst: false,
  },
  ...{ moved: null, recomputed: null, bridgedHours: 0, sanding: null },
  coat: { number: 2, of: 4, step: clear.key, minutes: 66, fromMs: NOW, needs: null },
  ...(change as object),
});

/** A rack's page: three instruments at Clear coats, by the first recipe that ships. */
export const page = (views: FinishView[], change: Partial<RackPage> = {}): RackPage => ({
  ...{ nowMs: NOW, zone: 'utc', seq: 4, route, panels: [], recipes: [], cautions: [], freezers: [] },
  state: {
    ...{ code: 'I-7', kind: 'I', model: 'Bowline', routeId: route.id, quantity: 3, dueMs: NOW },
    ...{ openedMs: NOW, lastMs: NOW, readings: [], coats: [], measures: [], overrides: [] },
    pieces: [1, 2, 3].map((place) => ({ ...piece(place), operation: views[0]?.operation ?? 'clear' })),
    finish: {
      ...{ recipe: `${recipe.name}-1`, title: recipe.title, targetUm: 92, minimumUm: 62, colour: null },
      coats: [
        { step: clear.key, name: 'Clear', at: 'clear', spec: clear.spec, mixed: false, transferPct: 55 },
      ],
      sandings: [
        { ...{ step: 'flat', name: 'Flat', at: 'buff', removalUm: 22, removalSdUm: 4 }, grits: [800] },
      ],
    },
  } as unknown as RackPage['state'],
  rack: {
    ...{ batch: 'I-7', kind: 'I', model: 'Bowline', quantity: 3, dueMs: NOW, views, panels: [] },
    ...{ recipe: `${recipe.name}-1`, recipeTitle: recipe.title, targetUm: 92, minimumUm: 62 },
  },
  defects: [
    { defect: 'run', backTo: 'clear', at: 'clear' },
    { defect: 'fish-eye', backTo: 'clear', at: 'clear' },
  ],
  able: [
    { code: 'tamsin', name: 'V. Tamsel', skills: ['spray', 'burst'] },
    { code: 'greave', name: 'O. Greave', skills: ['buff'] },
  ],
  ...change,
});
