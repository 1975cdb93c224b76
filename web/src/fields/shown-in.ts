import { decimalsIn, numberIn, signIn, type ChosenUnits } from '@ample-crane/core';
import { typedNumber, typedNumbers } from '../shared/typed.ts';

/** Decimals a metric number is shown with at most when it is turned. */
const DECIMALS = 2;

/** A metric number, or several, as they stand in a field of whoever chose these units; what is no number stays as it is. */
export function shownIn(metric: string, unit: string, units: ChosenUnits): string {
  if (signIn(unit, units) === unit) return metric;
  const numbers = typedNumbers(metric);
  if (typedNumber(metric) === null && !numbers) return metric;
  return (numbers ?? [])
    .map((value) => String(Number(numberIn(value, unit, units).toFixed(decimalsIn(DECIMALS, unit, units)))))
    .join(' ');
}
