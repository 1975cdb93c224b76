import { METRIC, type ChosenUnits } from '@ample-crane/core';
import { createContext, useContext } from 'react';

/** Units of whoever is at this screen. */
export const UnitsContext = createContext<ChosenUnits>(METRIC);

export const useUnits = (): ChosenUnits => useContext(UnitsContext);
