import { METRIC, wordsIn, type ChosenUnits } from '@ample-crane/core';
import { createContext, useCallback, useContext } from 'react';

/** Units of whoever is at this screen. */
export const UnitsContext = createContext<ChosenUnits>(METRIC);

export const useUnits = (): ChosenUnits => useContext(UnitsContext);

/** Puts words into the units of whoever is at this screen. */
export function useWordsIn(): (words: string) => string {
  const units = useUnits();
  return useCallback((words: string) => wordsIn(words, units), [units]);
}
