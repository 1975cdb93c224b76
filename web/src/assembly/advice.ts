import { setupAdvice, type SetupTurn } from '@ample-crane/core';
import type { Sheet } from './queries.ts';

/** What to turn by the values at hand: what is typed goes before what was filed. None on the shelf: there nothing is turned. */
export const adviceOf = (sheet: Sheet, values: Record<string, number>): SetupTurn[] =>
  sheet.mode === 'attended' ? setupAdvice(values, sheet.checks, sheet.practice) : [];
