import type { BatchState, Coat, Freed, Sanding } from '../ledger/index.ts';
import type { LaidCoat } from '../finishing/coat-cure.ts';
import { dryFilmUm } from '../finishing/film.ts';
import type { CoatSpec } from '../finishing/recipe.ts';

/** A coat of a recipe: its film is known. */
type KnownCoat = Coat & { spec: CoatSpec };
const isKnown = (coat: Coat): coat is KnownCoat => coat.spec !== undefined;

/** A coat as it lies on one piece now. */
export interface Layer {
  coat: KnownCoat;
  /** Dry film as it was laid, and what sanding has left of it, µm. */
  filmUm: number;
  leftUm: number;
}

/** What lies on a piece: of a coat without a recipe nobody knows the film. */
export type Coated = Pick<BatchState, 'coats' | 'sandings'>;

/** Wet film of a coat on one piece: as read there, as read on the rack, or as the recipe wants it. */
export function wetUmOn(coat: KnownCoat, position: number): number {
  return coat.wetUms?.[coat.positions.indexOf(position)] ?? coat.wetUm ?? coat.spec.wetUm;
}

/** The coats on a piece, lowest first; sanding takes from the top, and what is sanded away is gone. */
export function layersOn({ coats, sandings = [] }: Coated, position: number): Layer[] {
  // Of the same moment, the sanding comes first: one scuffs for a coat, and never sands a wet one.
  const events = [
    ...sandings.flatMap((sanding) =>
      sanding.positions.includes(position) ? [{ atMs: sanding.atMs, sanding }] : [],
    ),
    ...coats.flatMap((coat) =>
      isKnown(coat) && coat.positions.includes(position) ? [{ atMs: coat.atMs, coat }] : [],
    ),
  ].sort((a, b) => a.atMs - b.atMs);
  let layers: Layer[] = [];
  for (const event of events) {
    if ('coat' in event) {
      const { coat } = event;
      const filmUm = dryFilmUm({ wetUm: wetUmOn(coat, position), solidsPct: coat.spec.solidsPct });
      layers.push({ coat, filmUm, leftUm: filmUm });
    } else layers = sanded(layers, event.sanding);
  }
  return layers;
}

function sanded(layers: readonly Layer[], { removalUm }: Sanding): Layer[] {
  let left = removalUm;
  return layers
    .toReversed()
    .map((layer) => {
      const off = Math.min(layer.leftUm, left);
      left -= off;
      return { coat: layer.coat, filmUm: layer.filmUm, leftUm: layer.leftUm - off };
    })
    .toReversed()
    .filter(({ leftUm }) => leftUm > 0);
}

/** Dry film that is left on a piece, µm: of all its coats, less what was sanded off. */
export const buildOn = (layers: readonly Layer[]): number =>
  layers.reduce((sum, { leftUm }) => sum + leftUm, 0);

/** The coats as their clocks see them; `freed` are the cures that pieces were freed from. */
export function laidCoats(layers: readonly Layer[], freed: readonly Freed[] = []): LaidCoat[] {
  const forBuffing = freed.filter(({ until }) => until === 'buff');
  return layers.map(({ coat, filmUm }, i) => {
    const isBelow = (other: Layer): boolean => other.coat.spec.material === coat.spec.material;
    const belowMs = layers.slice(0, i).findLast(isBelow)?.coat.atMs ?? Infinity;
    const onFreed = forBuffing.some(({ atMs }) => atMs >= belowMs && atMs <= coat.atMs);
    return { atMs: coat.atMs, filmUm, spec: coat.spec, ...(onFreed ? { onFreed } : {}) };
  });
}

/** Cures a piece was freed from. */
export const freedOf = ({ freed = [] }: { freed?: readonly Freed[] }, position: number): Freed[] =>
  freed.filter(({ positions }) => positions.includes(position));

/** Places with the same coats and sandings on them, in order of their first place. */
export function coatedAlike({ coats, sandings = [] }: Coated, positions: readonly number[]): number[][] {
  const groups = new Map<string, number[]>();
  const dividing = [...coats, ...sandings].filter((set) => {
    const touched = positions.filter((position) => set.positions.includes(position)).length;
    return touched > 0 && touched < positions.length;
  });
  for (const position of positions) {
    const id = dividing.map((set) => (set.positions.includes(position) ? '1' : '0')).join('');
    const group = groups.get(id) ?? [];
    group.push(position);
    groups.set(id, group);
  }
  return [...groups.values()];
}

/** The place that carries most film as it was laid: it cures last, and speaks for those with the same coats. */
export function thickestOf(coated: Coated, positions: readonly number[]): number {
  const [first] = positions;
  if (first === undefined) throw new RangeError('thickestOf: no place was named');
  if (!coated.coats.some(({ wetUms }) => wetUms)) return first;
  const laid = (position: number): number =>
    layersOn(coated, position).reduce((sum, { filmUm }) => sum + filmUm, 0);
  return positions.reduce((best, one) => (laid(one) > laid(best) ? one : best), first);
}
