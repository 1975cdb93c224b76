import { validateRecipe, type Recipe } from '@ample-crane/core';
import { useKeptState } from '../fields/index.ts';

/** A recipe being drawn on top of a revision. */
export interface Drawing {
  draft: Recipe;
  setDraft: (change: Recipe | ((before: Recipe) => Recipe)) => void;
  /** The revision it is drawn from. */
  start: Recipe;
  /** A newer revision somebody made while this was drawn; null when there is none. */
  newer: Recipe | null;
  changed: boolean;
  /** Draws on from another revision: from the revision itself, or with what was drawn on top of it. */
  rebase: (start: Recipe, draft?: Recipe) => void;
}

const same = (a: Recipe, b: Recipe): boolean =>
  JSON.stringify({ ...a, id: '', revision: 0 }) === JSON.stringify({ ...b, id: '', revision: 0 });

/** Whether it can be drawn as a recipe: the rules can read it; whether it is a good one is said on the page. */
function isRecipe(value: unknown): value is Recipe {
  if (typeof value !== 'object' || value === null) return false;
  const { name, title, revision, steps, cautions } = value as Partial<Recipe>;
  if (![name, title].every((text) => typeof text === 'string') || typeof revision !== 'number') return false;
  if (!Array.isArray(steps) || !Array.isArray(cautions)) return false;
  try {
    validateRecipe(value as Recipe);
    return true;
  } catch {
    return false;
  }
}

interface Drawn {
  start: Recipe;
  draft: Recipe;
}

const isDrawn = (value: unknown): value is Drawn =>
  typeof value === 'object' &&
  value !== null &&
  isRecipe((value as Partial<Drawn>).start) &&
  isRecipe((value as Partial<Drawn>).draft);

/**
 * Follows the newest revision while nothing is drawn; what is drawn is never replaced without being asked, and outlasts a reload.
 */
export function useDrawnRecipe(newest: Recipe): Drawing {
  const begun: Drawn = { start: newest, draft: newest };
  const [{ start, draft }, set] = useKeptState(`recipe ${newest.name}`, begun, isDrawn);
  const changed = !same(draft, start);
  const isNewer = newest.revision > start.revision;
  if (isNewer && !changed) set({ start: newest, draft: newest });
  return {
    draft,
    start,
    changed,
    newer: isNewer && changed ? newest : null,
    setDraft: (change) =>
      set((before) => ({
        ...before,
        draft: typeof change === 'function' ? change(before.draft) : change,
      })),
    rebase: (next, drawn = next) => set({ start: next, draft: drawn }),
  };
}
