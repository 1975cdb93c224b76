import { speciesNamed } from '../species.ts';

/** Time constant of 25 mm hardwood at 21 °C near 10 % MC, days. Default, DOMAIN §3. */
const TAU_DAYS = 20;
const REFERENCE_THICKNESS_MM = 25;
const REFERENCE_TEMPERATURE_C = 21;
/** Between 1 (a surface that lets little through) and 2 (pure diffusion). Default, DOMAIN §3. */
const THICKNESS_POWER = 1.7;
/** Drying runs twice as fast for so many degrees more. Default, DOMAIN §3. */
const HALVES_EVERY_C = 10;
/** The hardwood of TAU_DAYS: ash, hard maple. Moisture moves slower the denser the wood; taken as proportional. */
const REFERENCE_SPECIFIC_GRAVITY = 0.55;
/** Spread of the logarithm of the time constant before any reading. Default, DOMAIN §3. */
export const LOG_TAU_SIGMA = 0.6;
/** Days of the old rule for each inch of thickness, air-dried from green. */
const OLD_RULE_DAYS = 365;
const MM_PER_INCH = 25.4;

/** A name of the shipped table, or a factory's own wood. */
export type DryingSpecies = string | { basicSpecificGravity: number };

/**
 * Time constant expected at 21 °C before anything is read, days: 20 · (thickness / 25 mm)^1.7 · (specific gravity / 0.55).
 * @throws RangeError for a thickness or specific gravity that is not above 0, or an unknown species.
 */
export function priorTauDays({
  thicknessMm,
  species,
}: {
  thicknessMm: number;
  species: DryingSpecies;
}): number {
  if (!(thicknessMm > 0))
    throw new RangeError(`priorTauDays: thicknessMm must be above 0, got ${thicknessMm}`);
  const { basicSpecificGravity } = typeof species === 'string' ? speciesNamed(species) : species;
  if (!(basicSpecificGravity > 0))
    throw new RangeError(`priorTauDays: basicSpecificGravity must be above 0, got ${basicSpecificGravity}`);
  return (
    TAU_DAYS *
    (thicknessMm / REFERENCE_THICKNESS_MM) ** THICKNESS_POWER *
    (basicSpecificGravity / REFERENCE_SPECIFIC_GRAVITY)
  );
}

/** How much faster wood dries at a temperature than at 21 °C. */
export const dryingRateFactor = (temperatureC: number): number =>
  2 ** ((temperatureC - REFERENCE_TEMPERATURE_C) / HALVES_EVERY_C);

/** The old rule of a year for each inch, for green stock dried in air: days from green. A first plan, no forecast. */
export const yearPerInchDays = (thicknessMm: number): number => (OLD_RULE_DAYS * thicknessMm) / MM_PER_INCH;
