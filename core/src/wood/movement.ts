/** Above fibre saturation wood does not move. Wood Handbook ch. 4, eq. 4-8 with its usual 30 %. */
const FIBRE_SATURATION_PCT = 30;

/**
 * Change of a dimension across the grain, mm, when moisture goes from one content to another: ΔD = D · S/100 · ΔM/30.
 * Negative: it shrinks. Moisture above 30 % counts as 30, since wood only moves below fibre saturation.
 * Source: Wood Handbook ch. 4, eq. 4-8; `shrinkagePct` is the total green to oven-dry, radial or tangential.
 * @throws RangeError for a width or shrinkage below 0 or a moisture outside 0…200 %.
 */
export function movementMm(options: {
  widthMm: number;
  shrinkagePct: number;
  fromPct: number;
  toPct: number;
}): number {
  const { widthMm, shrinkagePct, fromPct, toPct } = options;
  for (const [name, value] of Object.entries({ widthMm, shrinkagePct })) {
    if (!(value >= 0)) throw new RangeError(`movementMm: ${name} must be 0 or more, got ${value}`);
  }
  for (const [name, value] of Object.entries({ fromPct, toPct })) {
    if (!(value >= 0 && value <= 200))
      throw new RangeError(`movementMm: ${name} must be 0…200 %, got ${value}`);
  }
  const below = (pct: number): number => Math.min(pct, FIBRE_SATURATION_PCT);
  return (widthMm * (shrinkagePct / 100) * (below(toPct) - below(fromPct))) / FIBRE_SATURATION_PCT;
}
