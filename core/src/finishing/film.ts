import { normalCdf } from '../stats/normal.ts';

/** A wet film thicker than this ran off long before, µm. */
export const THICKEST_WET_UM = 1000;

export interface WetCoat {
  wetUm: number;
  /** Volume of it that stays, % of the wet film. */
  solidsPct: number;
}

/**
 * Dry film of one coat, µm: wet film · volume solids.
 * @throws RangeError unless the wet film lies above 0 and up to 1000 µm and solids above 0 and up to 100 %.
 */
export function dryFilmUm({ wetUm, solidsPct }: WetCoat): number {
  if (!(wetUm > 0 && wetUm <= THICKEST_WET_UM))
    throw new RangeError(`dryFilmUm: wetUm must be above 0 to ${THICKEST_WET_UM}, got ${wetUm}`);
  if (!(solidsPct > 0 && solidsPct <= 100))
    throw new RangeError(`dryFilmUm: solidsPct must be above 0 to 100, got ${solidsPct}`);
  return (wetUm * solidsPct) / 100;
}

/**
 * Running film build, µm: Σ dry coats − Σ sanding removals (DOMAIN §5); 0 where more was sanded off than was on.
 * @throws RangeError for a coat that cannot be (see dryFilmUm) or a removal below 0.
 */
export function filmBuildUm(
  coats: readonly WetCoat[],
  sandings: readonly { removalUm: number }[] = [],
): number {
  const on = coats.reduce((sum, coat) => sum + dryFilmUm(coat), 0);
  const off = sandings.reduce((sum, { removalUm }) => {
    if (!(removalUm >= 0 && Number.isFinite(removalUm)))
      throw new RangeError(`filmBuildUm: removalUm must be 0 or more, got ${removalUm}`);
    return sum + removalUm;
  }, 0);
  return Math.max(0, on - off);
}

/** What a sanding would leave. */
export interface SandThrough {
  /** Mean film left, µm. */
  leftUm: number;
  /** Its spread from piece to piece, µm. */
  sdUm: number;
  /** Share of pieces below the minimum, 0…1. */
  share: number;
}

/**
 * Share of pieces whose film would be below the minimum after a sanding. Build and removal are taken as independent and
 * normal, so that what is left is normal with their summed variances.
 * @throws RangeError for a build, removal, minimum or spread below 0 or not finite.
 */
export function sandThroughRisk(film: {
  buildUm: number;
  buildSdUm: number;
  removalUm: number;
  removalSdUm: number;
  minimumUm: number;
}): SandThrough {
  for (const [name, value] of Object.entries(film))
    if (!(value >= 0 && Number.isFinite(value)))
      throw new RangeError(`sandThroughRisk: ${name} must be 0 or more, got ${value}`);
  const leftUm = film.buildUm - film.removalUm;
  const sdUm = Math.hypot(film.buildSdUm, film.removalSdUm);
  const share = sdUm === 0 ? (leftUm < film.minimumUm ? 1 : 0) : normalCdf((film.minimumUm - leftUm) / sdUm);
  return { leftUm, sdUm, share };
}
