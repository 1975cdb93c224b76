import { plannedFilm, recipeLength, type AirNow, type Recipe, type RecipeLength } from '@ample-crane/core';
import { useMemo } from 'react';
import { useSetup } from '../api/queries.ts';

export const WARMER_C = 2;

export interface Lengths {
  season: RecipeLength | null;
  warmer: RecipeLength | null;
  /** Why it cannot be told. */
  problem: string | null;
}

/** How long a recipe takes in the air of the season, and two degrees warmer; null while the calendar is not there. */
export function useLengths(
  recipe: Pick<Recipe, 'steps'> | undefined,
  season: AirNow | undefined,
): Lengths | null {
  const { data: setup } = useSetup();
  return useMemo(() => {
    if (!recipe || !season || !setup) return null;
    return lengthsOf(recipe, season, setup.calendar);
  }, [recipe, season, setup]);
}

export function lengthsOf(
  recipe: Pick<Recipe, 'steps'>,
  season: AirNow,
  calendar: Parameters<typeof recipeLength>[0]['calendar'],
): Lengths {
  try {
    plannedFilm(recipe);
    const length = (temperatureC: number): RecipeLength =>
      recipeLength({ recipe, climate: { ...season, temperatureC }, calendar });
    return {
      season: length(season.temperatureC),
      warmer: length(season.temperatureC + WARMER_C),
      problem: null,
    };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { season: null, warmer: null, problem: error.message.replace(/^\w+: /, '') };
  }
}
