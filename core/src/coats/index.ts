/** What lies on a piece and where it stood since; the entries of coating, sanding, marks, colour and finish. */
export { coat, coatMinutes, coatsAsked, coatsOn, coatsShort, coatsWanted } from './coat.ts';
export { colour, colourOf } from './colour.ts';
export {
  buildOn,
  coatedAlike,
  freedOf,
  laidCoats,
  layersOn,
  thickestOf,
  wetUmOn,
  type Layer,
} from './layers.ts';
export { mark } from './mark.ts';
export { recoatAgainst, recoatView } from './recoat.ts';
export { refinish } from './refinish.ts';
export { restsOf, withRests, type RestingSince } from './rests.ts';
export { MOST_REMOVED_UM, sand } from './sand.ts';
export { airStretches, bridgedAlong, gatheredAlong, type ClimateOf } from './standing-air.ts';
