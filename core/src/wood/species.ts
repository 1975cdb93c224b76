/**
 * What is known of a wood before anything is measured. Values: USDA Forest Products Laboratory, Wood Handbook
 * (FPL-GTR-282), ch. 4 table 4-3 and ch. 5, rounded; a factory edits its own copy.
 */
export interface Species {
  name: string;
  /** Oven-dry mass / green volume, over that of water. */
  basicSpecificGravity: number;
  /** Total shrinkage green to oven-dry, %. */
  radialShrinkagePct: number;
  tangentialShrinkagePct: number;
  /** Listed by treaty or law: papers stay with the lot. A factory checks its own law. */
  papersNeeded: boolean;
}

const wood = (
  name: string,
  sg: number,
  radial: number,
  tangential: number,
  papersNeeded = false,
): Species => ({
  name,
  basicSpecificGravity: sg,
  radialShrinkagePct: radial,
  tangentialShrinkagePct: tangential,
  papersNeeded,
});

export const SPECIES: readonly Species[] = [
  wood('red alder', 0.37, 4.4, 7.3),
  wood('white ash', 0.55, 4.9, 7.8),
  wood('black ash', 0.45, 5.0, 7.8),
  wood('basswood', 0.32, 6.6, 9.3),
  wood('hard maple', 0.56, 4.8, 9.9),
  wood('red maple', 0.49, 4.0, 8.2),
  wood('bigleaf maple', 0.44, 3.7, 7.1),
  wood('black walnut', 0.51, 5.5, 7.8),
  wood('black cherry', 0.47, 3.7, 7.1),
  wood('yellow-poplar', 0.4, 4.6, 8.2),
  wood('eastern white pine', 0.34, 2.1, 6.1),
  wood('Sitka spruce', 0.37, 4.3, 7.5),
  wood('western redcedar', 0.31, 2.4, 5.0),
  wood('redwood', 0.34, 2.2, 4.9),
  wood('American mahogany', 0.45, 3.0, 4.1, true),
  wood('African mahogany', 0.42, 2.5, 4.5, true),
  wood('sapele', 0.55, 4.6, 7.4),
  wood('Spanish cedar', 0.41, 4.2, 6.3, true),
  wood('African padauk', 0.61, 3.3, 5.2, true),
  wood('Indian rosewood', 0.75, 2.7, 5.8, true),
  wood('koa', 0.53, 5.5, 6.2),
];

/** A kind of wood of the shipped table, by its name in any case. @throws RangeError for a name the shipped table does not hold. */
export function speciesNamed(name: string): Species {
  const found = SPECIES.find((species) => species.name.toLowerCase() === name.trim().toLowerCase());
  if (!found) throw new RangeError(`speciesNamed: '${name}' is not in the table of species`);
  return found;
}

/**
 * Density in kg/m³ at a moisture content: SG · 1000 · (1 + M/100). The volume is taken as green, so dry wood comes out
 * some percent light: close enough for budgets of weight, as DOMAIN §3 says.
 */
export const densityKgM3 = (basicSpecificGravity: number, moisturePct: number): number =>
  basicSpecificGravity * 1000 * (1 + moisturePct / 100);
