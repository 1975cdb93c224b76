import type { CureSpec } from './coat-cure.ts';
import type { Lab } from './delta-e.ts';
import { dryFilmUm, THICKEST_WET_UM } from './film.ts';

/** What may go wrong at a step, and the operation of the route it goes back to. */
export interface Defect {
  defect: string;
  backTo: string;
}

interface StepCommon {
  /** Unique in the recipe. */
  key: string;
  name: string;
  /** Key of the route's operation at which it is done. */
  at: string;
  /** Per piece, one person. */
  touchMinutes: number;
  /** Of the booth, per piece; 0: no booth. */
  boothMinutes: number;
  defects: Defect[];
}

/** A material as it is sprayed or rubbed on, and how it cures. */
export interface CoatSpec extends CureSpec {
  material: string;
  /** Wet film wanted, µm, and how it spreads from piece to piece where nobody measures. */
  wetUm: number;
  wetSdUm: number;
  /** Volume that stays, %. */
  solidsPct: number;
  /** Longer than this since the coat below, in reference hours: scuff first. Null: melts into it at any time. */
  maxRecoatHours: number | null;
}

export interface CoatStep extends StepCommon {
  kind: 'coat';
  coats: number;
  spec: CoatSpec;
  /** Parts by volume and how long the mix can be used; null: as it comes. */
  mix: { parts: { name: string; parts: number }[]; potLifeHours: number } | null;
  /** Share of what leaves the gun that lands on the piece, %. */
  transferPct: number;
}

/** Sanding, with what it takes off. */
export interface SandStep extends StepCommon {
  kind: 'sand';
  grits: number[];
  removalUm: number;
  removalSdUm: number;
  /** Film that must be left after it, µm; absent: the recipe's minimum after the last sanding, half of what is on before it. */
  leavesUm?: number;
}

/** Filling, staining, masking, scraping, buffing, polishing, wearing: work that leaves no film, and its drying. */
export interface TreatStep extends StepCommon {
  kind: 'treat';
  /** Drying afterwards, on the wall. */
  waitHours: number;
}

/** Wait until the coats may be recoated, sanded or buffed. */
export interface CureStep extends StepCommon {
  kind: 'cure';
  until: 'recoat' | 'sand' | 'buff';
}

/** Cold and warm by turns until the lacquer checks. */
export interface AgeStep extends StepCommon {
  kind: 'age';
  coldHours: number;
  warmHours: number;
  cycles: number;
  level: AgeingLevel;
}

export const AGEING_LEVELS = ['none', 'hardware only', 'light', 'heavy'] as const;
export type AgeingLevel = (typeof AGEING_LEVELS)[number];

export type RecipeStep = CoatStep | SandStep | TreatStep | CureStep | AgeStep;

/** A finish: coats and treatments in their order, at one revision. Racks keep the revision they were given. */
export interface Recipe {
  /** Name and revision: 'thin-lacquer-gloss-2'. */
  id: string;
  /** Slug: 'thin-lacquer-gloss'. */
  name: string;
  title: string;
  revision: number;
  /** The school it belongs to, in a sentence. */
  school: string;
  /** Film after final sanding, µm. */
  targetUm: number;
  minimumUm: number;
  steps: RecipeStep[];
  cautions: string[];
  /** Colour it is held against; null: none. */
  colour: { name: string; lab: Lab; withinDeltaE: number } | null;
}

/** What the recipe asks of each coat and sanding, as a batch carries it: the recipe may get another revision later. */
export interface FinishPlan {
  recipe: string;
  title: string;
  targetUm: number;
  minimumUm: number;
  coats: {
    step: string;
    name: string;
    at: string;
    coats: number;
    mixed: boolean;
    transferPct: number;
    spec: CoatSpec;
  }[];
  sandings: {
    step: string;
    name: string;
    at: string;
    grits: number[];
    removalUm: number;
    removalSdUm: number;
    /** Film that must be left after it, µm; absent in plans from before each sanding had its own. */
    leavesUm?: number;
  }[];
  colour: Recipe['colour'];
}

/** What a recipe asks of a rack, as the rack's own log keeps it: a later revision changes nothing of it. */
export function finishPlan(recipe: Recipe): FinishPlan {
  const { id, title, targetUm, minimumUm, steps, colour } = recipe;
  return {
    recipe: id,
    title,
    targetUm,
    minimumUm,
    coats: steps.flatMap((step) =>
      step.kind === 'coat'
        ? [
            {
              step: step.key,
              name: step.name,
              at: step.at,
              coats: step.coats,
              mixed: step.mix !== null,
              transferPct: step.transferPct,
              spec: step.spec,
            },
          ]
        : [],
    ),
    sandings: steps.flatMap((step) =>
      step.kind === 'sand'
        ? [
            {
              step: step.key,
              name: step.name,
              at: step.at,
              grits: step.grits,
              removalUm: step.removalUm,
              removalSdUm: step.removalSdUm,
              leavesUm: leavesUm(recipe, step),
            },
          ]
        : [],
    ),
    colour,
  };
}

/** Of the film a sanding before the last finds as planned, at least this share must be left, where the recipe does not say. Default. */
const LEAST_SHARE_LEFT = 0.5;

/** Film that must be left after a sanding: a sealer is not held against what is wanted of the whole finish. */
export function leavesUm({ steps, minimumUm }: Pick<Recipe, 'steps' | 'minimumUm'>, step: SandStep): number {
  if (step.leavesUm !== undefined) return step.leavesUm;
  const at = steps.findIndex(({ key }) => key === step.key);
  const coated = steps.slice(at + 1).some(({ kind }) => kind === 'coat');
  const found = plannedFilm({ steps: steps.slice(0, at) }).buildUm;
  return coated ? Math.round(10 * LEAST_SHARE_LEFT * found) / 10 : minimumUm;
}

/** Film the recipe leaves when everything goes as planned, µm, and the lowest it comes to on its way. */
export function plannedFilm(recipe: Pick<Recipe, 'steps'>): { buildUm: number; highestUm: number } {
  let buildUm = 0;
  let highestUm = 0;
  for (const step of recipe.steps) {
    if (step.kind === 'coat') buildUm += step.coats * dryFilmUm(step.spec);
    if (step.kind === 'sand') buildUm = Math.max(0, buildUm - step.removalUm);
    highestUm = Math.max(highestUm, buildUm);
  }
  return { buildUm, highestUm };
}

export interface RecipeProblem {
  /** Key of the step it is about; null: the whole recipe. */
  step: string | null;
  problem: string;
}

/** What keeps a recipe from being used, in words; empty when it can be. Numbers a formula cannot take are named first. */
export function validateRecipe(recipe: Recipe): RecipeProblem[] {
  const found = [
    ...(recipe.steps.length === 0 ? [whole('a recipe needs at least one step')] : []),
    ...(recipe.minimumUm >= 0 && recipe.targetUm >= recipe.minimumUm
      ? []
      : [whole(`the target of ${recipe.targetUm} µm is thinner than the minimum of ${recipe.minimumUm} µm`)]),
    ...twice(recipe),
    ...recipe.steps.flatMap(stepProblems),
  ];
  return found.length > 0 ? found : [...order(recipe), ...thickness(recipe)];
}

const whole = (problem: string): RecipeProblem => ({ step: null, problem });
const about = ({ key, name }: RecipeStep, words: string): RecipeProblem => ({
  step: key,
  problem: `${name}: ${words}`,
});

const twice = ({ steps }: Recipe): RecipeProblem[] =>
  steps
    .filter((step, i) => steps.findIndex(({ key }) => key === step.key) < i)
    .map((step) => about(step, `the key '${step.key}' stands twice`));

function stepProblems(step: RecipeStep): RecipeProblem[] {
  const wrong = (bad: boolean, words: string): RecipeProblem[] => (bad ? [about(step, words)] : []);
  const common = wrong(!(step.touchMinutes >= 0 && step.boothMinutes >= 0), 'minutes cannot be below 0');
  switch (step.kind) {
    case 'coat':
      return [...common, ...coatProblems(step)];
    case 'sand':
      return [
        ...common,
        ...wrong(!(step.removalUm >= 0 && step.removalSdUm >= 0), 'it cannot take off less than nothing'),
        ...wrong(!((step.leavesUm ?? 0) >= 0), 'it cannot leave less than nothing'),
        ...wrong(
          step.grits.some((grit, i) => grit <= (step.grits[i - 1] ?? 0)),
          'grits go from coarse to fine',
        ),
      ];
    case 'treat':
      return [...common, ...wrong(!(step.waitHours >= 0), 'it cannot dry for less than no time')];
    case 'age':
      return [
        ...common,
        ...wrong(
          !(step.coldHours > 0 && step.warmHours >= 0 && step.cycles >= 1),
          'needs hours of cold and at least one cycle',
        ),
      ];
    case 'cure':
      return common;
  }
}

function coatProblems(step: CoatStep): RecipeProblem[] {
  const { spec, mix, coats, transferPct } = step;
  const { hours, maxRecoatHours } = spec;
  const wrong = (bad: boolean, words: string): RecipeProblem[] => (bad ? [about(step, words)] : []);
  return [
    ...wrong(!(Number.isInteger(coats) && coats >= 1 && coats <= 60), `1 to 60 coats, not ${coats}`),
    ...wrong(
      !(spec.wetUm > 0 && spec.wetUm <= THICKEST_WET_UM),
      `a wet film of ${spec.wetUm} µm cannot be: above 0 to ${THICKEST_WET_UM} µm`,
    ),
    ...wrong(
      !(spec.solidsPct > 0 && spec.solidsPct <= 100),
      `${spec.solidsPct} % volume solids cannot be: above 0 to 100`,
    ),
    ...wrong(!(spec.wetSdUm >= 0), 'the spread of the wet film cannot be below 0'),
    ...wrong(!(spec.referenceUm > 0), 'its hours need the film they were found for, above 0 µm'),
    ...wrong(!(spec.q >= 1 && spec.q <= 10), `cure speeds up 1 to 10 times for every 10 °C, not ${spec.q}`),
    ...wrong(
      !(hours.recoat > 0 && hours.recoat <= hours.sand && hours.sand <= hours.buff),
      `hours to recoat, sand and buff must rise: ${hours.recoat}, ${hours.sand}, ${hours.buff}`,
    ),
    ...wrong(
      maxRecoatHours !== null && maxRecoatHours <= hours.recoat,
      'its recoat window closes before it opens',
    ),
    ...wrong(!(transferPct > 0 && transferPct <= 100), `a transfer of ${transferPct} % cannot be`),
    ...wrong(
      mix !== null &&
        (!(mix.potLifeHours > 0) || mix.parts.length < 2 || mix.parts.some(({ parts }) => !(parts > 0))),
      'a mix needs two parts above 0 and a pot life',
    ),
  ];
}

/** Practitioners' order: fill, seal, colour, clear, cure, sand, buff. What is sanded or buffed must have been left to cure. */
function order({ steps }: Recipe): RecipeProblem[] {
  const found: RecipeProblem[] = [];
  let laid = false;
  for (const step of steps) {
    if (step.kind === 'coat') laid = true;
    if (step.kind === 'cure' && !laid) found.push(about(step, 'nothing is on yet that could cure'));
    if (step.kind === 'age' && !laid) found.push(about(step, 'nothing is on yet that could check'));
  }
  const places = steps.map(({ at }) => at);
  steps.forEach((step, i) => {
    if (places.indexOf(step.at) < i && places[i - 1] !== step.at)
      found.push(
        about(step, `comes back to '${step.at}' after '${places[i - 1] ?? ''}': steps out of order`),
      );
  });
  return found;
}

function thickness(recipe: Recipe): RecipeProblem[] {
  if (!recipe.steps.some(({ kind }) => kind === 'coat')) return [];
  const { buildUm } = plannedFilm(recipe);
  return buildUm < recipe.minimumUm
    ? [
        whole(
          `as planned it leaves ${buildUm.toFixed(0)} µm, thinner than its minimum of ${recipe.minimumUm} µm`,
        ),
      ]
    : [];
}

/** An operation of a route, as far as a recipe cares. */
export interface FinishOperation {
  key: string;
  name: string;
  mode: string;
  /** Of a cure hold: what it waits for. */
  until?: CureStep['until'];
}

/** What keeps a recipe from being worked along a route: steps at operations that are not there, of another kind, or turned round. */
export function recipeMisfits(
  recipe: Pick<Recipe, 'steps'>,
  operations: readonly FinishOperation[],
): RecipeProblem[] {
  const at = (step: RecipeStep): number => operations.findIndex(({ key }) => key === step.at);
  return recipe.steps.flatMap((step, i) => {
    const operation = operations[at(step)];
    if (!operation) return [about(step, `this route has no operation '${step.at}'`)];
    const rests = step.kind === 'cure' || step.kind === 'age';
    if (rests !== (operation.mode === 'hold'))
      return [about(step, `${operation.name} is ${rests ? 'work, not a hold' : 'a hold, not work'}`)];
    if (step.kind === 'cure' && operation.until !== undefined && operation.until !== step.until)
      return [about(step, `${operation.name} waits until it may ${operation.until}, not ${step.until}`)];
    const before = recipe.steps[i - 1];
    return before && at(before) > at(step)
      ? [about(step, `comes after ${before.name} here and before it on the route: steps out of order`)]
      : [];
  });
}
