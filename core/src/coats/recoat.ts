import { pieceCode, type BatchState } from '../ledger/index.ts';
import { gatheringWith } from '../finishing/coat-cure.ts';
import { spanWords } from '../time/span-words.ts';
import type { ClimateSample } from '../units/climate.ts';
import { coatedAlike, freedOf, laidCoats, layersOn, thickestOf, type Layer } from './layers.ts';
import { restsOf } from './rests.ts';
import { airStretches, gatheredAlong, type ClimateOf } from './standing-air.ts';

/** What of a batch speaks about its next coat. */
type Recoated = Pick<BatchState, 'coats' | 'sandings' | 'freed' | 'rests'>;

export interface RecoatView {
  /** Reference hours until it may be recoated; 0 or less: it may. */
  leftHours: number;
  /** Reference hours until the window closes; null: it does not. */
  closesInHours: number | null;
  /** Scuffed since the top coat: a closed window does not matter. */
  scuffed: boolean;
  /** Its hold has ended since, on whatever evidence: the clock has nothing to say any more. */
  freed: boolean;
  samples: readonly ClimateSample[];
  q: number;
}

/** How the top coat on a piece stands with the next one; undefined for bare ones, or where no air is known. */
export function recoatView(options: {
  state: Recoated;
  position: number;
  layers: readonly Layer[];
  climateOf: ClimateOf;
  atMs: number;
}): RecoatView | undefined {
  const { state, position, layers, climateOf, atMs } = options;
  const top = layers.at(-1);
  const stretches = airStretches(layers, climateOf, restsOf(state, position));
  if (!top || !stretches) return undefined;
  const gathered = gatheredAlong(stretches);
  const gathering = gatheringWith(laidCoats(layers, freedOf(state, position)), gathered, atMs, 'recoat');
  if (!gathering) return undefined;
  const { maxRecoatHours } = top.coat.spec;
  return {
    leftHours: gathering.needed - gathering.gathered,
    closesInHours: maxRecoatHours === null ? null : maxRecoatHours - gathering.gathered,
    scuffed: top.leftUm < top.filmUm,
    freed: (state.freed ?? []).some((one) => one.positions.includes(position) && one.atMs > top.coat.atMs),
    samples: stretches.at(-1)?.air.samples ?? [],
    q: gathering.q,
  };
}

/** What the coats on pieces say against another one at that moment: too early, or too late without a scuff. */
export function recoatAgainst(options: {
  state: Recoated & Pick<BatchState, 'code'>;
  positions: readonly number[];
  atMs: number;
  climateOf: ClimateOf;
}): string | undefined {
  const { state, positions, atMs, climateOf } = options;
  for (const group of coatedAlike(state, positions)) {
    const position = thickestOf(state, group);
    const seen = recoatView({ state, position, layers: layersOn(state, position), climateOf, atMs });
    if (!seen) continue;
    const code = pieceCode(state.code, position);
    if (seen.leftHours > 0 && !seen.freed)
      return `the coat on ${code} may be recoated in ${spanWords(seen.leftHours)} at 21 °C, not yet`;
    if (seen.closesInHours !== null && seen.closesInHours < 0 && !seen.scuffed)
      return `the recoat window of ${code} closed ${spanWords(-seen.closesInHours)} at 21 °C ago: scuff it first`;
  }
  return undefined;
}
