import type { Recipe } from '@ample-crane/core';
import { useState } from 'react';

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

/** Follows the newest revision while nothing is drawn; what is drawn is never replaced without being asked. */
export function useDrawnRecipe(newest: Recipe): Drawing {
  const [{ start, draft }, set] = useState({ start: newest, draft: newest });
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
