import { RECIPE_FORMAT, type Recipe, type RecipeStep } from '@ample-crane/core';

/** A recipe as it is filed: without its number, with the name of its format. */
export type RecipeFile = Omit<Recipe, 'id' | 'revision'> & { format: typeof RECIPE_FORMAT };

export function recipeFile(recipe: Recipe): RecipeFile {
  const { id: _id, revision: _revision, ...rest } = recipe;
  return { format: RECIPE_FORMAT, ...rest };
}

/** The recipe with other hours to buff in one of its coats; what must come before that comes no later. */
export function rescaled(recipe: Recipe, step: string, buff: number): RecipeFile {
  const steps = recipe.steps.map((one): RecipeStep => {
    if (one.kind !== 'coat' || one.key !== step) return one;
    const { hours } = one.spec;
    const sand = Math.min(hours.sand, buff);
    return { ...one, spec: { ...one.spec, hours: { recoat: Math.min(hours.recoat, sand), sand, buff } } };
  });
  return recipeFile({ ...recipe, steps });
}

/** The steps in the order of these keys. */
export const inOrder = (steps: readonly RecipeStep[], keys: readonly string[]): RecipeStep[] =>
  steps.toSorted((a, b) => keys.indexOf(a.key) - keys.indexOf(b.key));

/** A key no step has yet. */
export function freshKey(steps: readonly RecipeStep[], kind: RecipeStep['kind']): string {
  for (let i = 1; ; i += 1) {
    const key = i === 1 ? kind : `${kind}-${i}`;
    if (!steps.some((step) => step.key === key)) return key;
  }
}

/** A new step of a kind, done where the step before it is. */
export function freshStep(steps: readonly RecipeStep[], kind: RecipeStep['kind']): RecipeStep {
  const common = {
    key: freshKey(steps, kind),
    at: steps.at(-1)?.at ?? 'prep',
    touchMinutes: 5,
    boothMinutes: 0,
    defects: [],
  };
  switch (kind) {
    case 'coat':
      return {
        ...common,
        kind,
        name: 'Coat',
        boothMinutes: 5,
        coats: 1,
        mix: null,
        transferPct: 55,
        spec: {
          material: 'thin lacquer',
          wetUm: 100,
          wetSdUm: 7,
          solidsPct: 22,
          maxRecoatHours: null,
          hours: { recoat: 1.5, sand: 72, buff: 336 },
          referenceUm: 92,
          q: 1.6,
        },
      };
    case 'sand':
      return { ...common, kind, name: 'Sand', grits: [800], removalUm: 10, removalSdUm: 2 };
    case 'treat':
      return { ...common, kind, name: 'Treatment', waitHours: 0 };
    case 'cure':
      return { ...common, kind, name: 'Cure', touchMinutes: 0, until: 'sand' };
    case 'age':
      return {
        ...common,
        kind,
        name: 'Cold and warm',
        coldHours: 18,
        warmHours: 6,
        cycles: 5,
        level: 'light',
      };
  }
}
