import { signIn, typedIn, type ChosenUnits } from '@ample-crane/core';
import { useState } from 'react';
import { useUnits } from '../shared/units.ts';
import { shownIn } from './shown-in.ts';

/** The text of a number that is kept in its metric unit, as whoever is at the screen types and reads it. */
export interface Turned {
  text: string;
  /** The sign of the unit it is typed in; '' is none. */
  sign: string;
  type: (text: string) => void;
}

/**
 * @param metric the text that is kept: a number in `unit`, or what was typed and is none
 * @param several more than one number may be typed, a space between them
 */
export function useTurned(
  metric: string,
  onChange: (metric: string) => void,
  { unit, several = false }: { unit: string; several?: boolean },
): Turned {
  const units = useUnits();
  const [typed, setTyped] = useState<{ metric: string; text: string; units: ChosenUnits } | null>(null);
  const sign = signIn(unit, units);
  const isTyped = typed !== null && typed.metric === metric && typed.units === units;
  return {
    sign,
    text: isTyped ? typed.text : shownIn(metric, unit, units),
    type: (text) => {
      const next = sign === unit ? text : metricOf(text, unit, { several, units });
      setTyped({ metric: next, text, units });
      onChange(next);
    },
  };
}

/** What was typed in the chosen unit, in the metric one; what is no number stays as it is, to be told so. */
function metricOf(
  text: string,
  unit: string,
  { several, units }: { several: boolean; units: ChosenUnits },
): string {
  const parts = several ? text.split(/([\s;]+)/) : [text];
  return parts.map((part) => String(typedIn(part, unit, units) ?? part)).join('');
}
