import type { ClimateSample } from '../units/climate.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { roomAir, type CureKinetics, type Span } from './cure.ts';
import { slabHours } from './slab.ts';

/** What may be done with a coat, in the order it becomes possible. */
export const UNTILS = ['recoat', 'sand', 'buff'] as const;
export type Until = (typeof UNTILS)[number];
export type ByUntil = Record<Until, number>;

/** How a film hardens (DOMAIN §5): its solvent leaves through the top; it reacts in the bulk; it takes up oxygen from the top. */
export const HARDENINGS = ['solvent', 'reaction', 'oxidation'] as const;
export type Hardening = (typeof HARDENINGS)[number];

/** How a material cures. */
export interface CureSpec extends CureKinetics {
  /** Reference hours (21 °C, 50 % RH) at the reference film. */
  hours: ByUntil;
  /** Dry film those hours were found for, laid at once, µm. */
  referenceUm: number;
  /** How it hardens; absent: by its solvent leaving. */
  by?: Hardening;
}

/** A material whose coats can be told from those of others: coats of one material melt into one slab. */
export type MaterialSpec = CureSpec & { material?: string };

export interface LaidCoat {
  atMs: number;
  /** Dry film it leaves, µm. */
  filmUm: number;
  spec: MaterialSpec;
  /** The film under it had been freed for buffing; absent: it had not. */
  onFreed?: boolean;
}

/** Reference hours gathered where the rack stood between two instants. */
export type Gathered = (fromMs: number, toMs: number, q: number) => number;

/** One coat and what it needs, with the coats that are on: the next one of its slab changes it. */
export interface LaidRung {
  atMs: number;
  filmUm: number;
  /** Film that hardens as one with it: all coats of its slab, or its own. */
  slabUm: number;
  /** When the clock of sanding and buffing began: with the last coat of its slab. */
  fromMs: number;
  /** Reference hours it needs: to recoat from when it was laid, else from `fromMs`. */
  needs: ByUntil;
  /** Its speed-up for warmth. */
  q: number;
}

/** One coat and how far it has cured. */
export interface Rung extends LaidRung {
  /** Reference hours since `fromMs`. */
  gathered: number;
  /** 0…1. */
  progress: ByUntil;
}

const byUntil = (of: (until: Until) => number): ByUntil => ({
  recoat: of('recoat'),
  sand: of('sand'),
  buff: of('buff'),
});

/** Longer than at its reference film by so much; a thinner one earns no credit. Square where solvent must come up through it. */
const slower = (filmUm: number, { referenceUm, by = 'solvent' }: CureSpec): number =>
  by === 'reaction' ? 1 : Math.max(1, filmUm / referenceUm) ** (by === 'solvent' ? 2 : 1);

/**
 * What each coat of a piece needs, lowest first (DOMAIN §5, revised). Solvent films are one slab for each material, whose hours
 * run from its last coat; reactive coats need their hours, oils longer in proportion above their reference film, each from when
 * it was laid. Recoating waits for the surface of the coat itself.
 * @throws RangeError when coats are not in order of time or a film is not above 0.
 */
export function layRungs(coats: readonly LaidCoat[], gathered: Gathered): LaidRung[] {
  coats.forEach((coat, i) => {
    const below = coats[i - 1];
    if (below && below.atMs > coat.atMs)
      throw new RangeError(`layRungs: coat ${i + 1} was laid before coat ${i}: coats out of order`);
    if (!(coat.filmUm > 0 && Number.isFinite(coat.filmUm)))
      throw new RangeError(`layRungs: the film of coat ${i + 1} must be above 0 µm, got ${coat.filmUm}`);
  });
  const slabs = new Map<string | undefined, SlabNeeds>();
  return coats.map(({ atMs, filmUm, spec }) => {
    const { hours, q, by = 'solvent', material } = spec;
    const recoat = hours.recoat * slower(filmUm, spec);
    if (by !== 'solvent') {
      const factor = slower(filmUm, spec);
      const needs = { recoat, sand: hours.sand * factor, buff: hours.buff * factor };
      return { atMs, filmUm, slabUm: filmUm, fromMs: atMs, needs, q };
    }
    const slab = slabs.get(material) ?? slabNeeds(coats, material, gathered);
    slabs.set(material, slab);
    const { slabUm, fromMs, sand, buff } = slab;
    return { atMs, filmUm, slabUm, fromMs, needs: { recoat, sand, buff }, q: slab.q };
  });
}

interface SlabNeeds {
  slabUm: number;
  fromMs: number;
  sand: number;
  buff: number;
  q: number;
}

/** The slab that all solvent coats of one material make, by the hours of its last one. */
function slabNeeds(coats: readonly LaidCoat[], material: string | undefined, gathered: Gathered): SlabNeeds {
  const mine = coats.filter(({ spec }) => spec.material === material && (spec.by ?? 'solvent') === 'solvent');
  const [first, last] = [mine[0], mine.at(-1)];
  if (!first || !last) throw new RangeError('slabNeeds: there is no coat of that material');
  const { spec, atMs: fromMs } = last;
  let atHours = 0;
  const laid = mine.map(({ atMs, filmUm, onFreed = false }, i) => {
    atHours += gathered(mine[i - 1]?.atMs ?? atMs, atMs, spec.q);
    return { atHours, filmUm, onFreed };
  });
  const { sand, buff } = slabHours(laid, spec);
  const { recoat } = spec.hours;
  const slabUm = mine.reduce((sum, { filmUm }) => sum + filmUm, 0);
  // What may not be recoated yet is too soft for paper, however thin.
  return { slabUm, fromMs, sand: Math.max(sand, recoat), buff: Math.max(buff, recoat), q: spec.q };
}

/** The same, each with its own clock at a moment. @throws RangeError as layRungs does. */
export const rungsOf = (coats: readonly LaidCoat[], gathered: Gathered, atMs: number): Rung[] =>
  layRungs(coats, gathered).map((rung) => ({
    gathered: gatheredBy(rung, gathered, atMs, 'buff'),
    progress: byUntil((until) => Math.min(1, gatheredBy(rung, gathered, atMs, until) / rung.needs[until])),
    ...rung,
  }));

/** Reference hours that count towards one of the three. */
const gatheredBy = (rung: LaidRung, gathered: Gathered, atMs: number, until: Until): number =>
  gathered(until === 'recoat' ? rung.atMs : rung.fromMs, atMs, rung.q);

/** Where a piece stands with one of the three, in reference hours. */
export interface Gathering {
  gathered: number;
  needed: number;
  /** Its speed-up for warmth. */
  q: number;
}

/** The coat that has farthest to go decides; for recoating, the top one. Undefined for a piece without coats. */
export function gatheringOf(
  rungs: readonly LaidRung[],
  gathered: Gathered,
  atMs: number,
  until: Until,
): Gathering | undefined {
  let worst: Gathering | undefined;
  for (const rung of deciding(rungs, until)) {
    const one = { gathered: gatheredBy(rung, gathered, atMs, until), needed: rung.needs[until], q: rung.q };
    if (!worst || one.needed - one.gathered >= worst.needed - worst.gathered) worst = one;
  }
  return worst;
}

/** Where a piece with these coats stands: `gatheringOf` what needs to be known of them. @throws RangeError as layRungs does. */
export const gatheringWith = (
  coats: readonly LaidCoat[],
  gathered: Gathered,
  atMs: number,
  until: Until,
): Gathering | undefined => gatheringOf(layRungs(deciding(coats, until), gathered), gathered, atMs, until);

/** Those of the coats that decide: for recoating, the top one alone, which spares the slab of all. */
const deciding = <Coat>(coats: readonly Coat[], until: Until): readonly Coat[] =>
  until === 'recoat' ? coats.slice(-1) : coats;

// ---- the same in hours, for one room ---------------------------------------------------------------------------------

/** Air at an hour of whatever axis the coats are on. */
export interface CureClimate {
  hours: number;
  temperatureC: number;
  relativeHumidityPct: number;
  /** Where it was logged; given, it must be the room asked about. */
  room?: string;
}

export interface CureState {
  filmUm: number;
  /** 0…1. */
  progress: ByUntil;
  /** Reference hours still to go; 0 when reached. */
  leftHours: ByUntil;
  rungs: Rung[];
  /** Hours over which the sensor was silent and the room's usual air stands in. */
  bridgedHours: number;
}

/**
 * How far the coats of a piece have cured at an hour: ∫ r(T)·w(RH) dt against the reference hours that the film they make
 * needs (DOMAIN §5; see layRungs). `recipe` is how the material cures; coats and climate are on one axis of hours.
 * @throws RangeError for coats out of order, a film not above 0, no climate, or climate of another room than `room`.
 */
export function cureState(options: {
  coats: readonly { atHours: number; filmUm: number }[];
  climate: readonly CureClimate[];
  recipe: CureSpec;
  atHours: number;
  room?: string;
}): CureState {
  const { coats, climate, recipe, atHours, room } = options;
  const air = airOf(climate, room);
  const laid = coats.map((coat) => ({
    atMs: coat.atHours * HOUR_MS,
    filmUm: coat.filmUm,
    spec: recipe,
  }));
  const rungs = rungsOf(laid, air.hours, atHours * HOUR_MS);
  const gathering = (until: Until): Gathering | undefined =>
    gatheringOf(rungs, air.hours, atHours * HOUR_MS, until);
  const firstMs = laid[0]?.atMs ?? atHours * HOUR_MS;
  return {
    filmUm: laid.reduce((sum, coat) => sum + coat.filmUm, 0),
    progress: byUntil((until) => {
      const one = gathering(until);
      return one ? Math.min(1, one.gathered / one.needed) : 0;
    }),
    leftHours: byUntil((until) => {
      const one = gathering(until);
      return one ? Math.max(0, one.needed - one.gathered) : 0;
    }),
    rungs,
    bridgedHours: spanHours(air.bridged(firstMs, atHours * HOUR_MS)),
  };
}

/** Hours in all of some spans. */
export const spanHours = (spans: readonly Span[]): number =>
  spans.reduce((sum, { fromMs, toMs }) => sum + (toMs - fromMs) / HOUR_MS, 0);

/** Climate by the hour as the clock of one room. */
export function airOf(climate: readonly CureClimate[], room?: string) {
  const stranger = climate.find((one) => one.room !== undefined && room !== undefined && one.room !== room);
  if (stranger)
    throw new RangeError(
      `cureState: the climate is of '${stranger.room ?? ''}', the rack stands in '${room ?? ''}'`,
    );
  const samples: ClimateSample[] = climate
    .map(({ hours, temperatureC, relativeHumidityPct }) => ({
      atMs: hours * HOUR_MS,
      temperatureC,
      relativeHumidityPct,
    }))
    .sort((a, b) => a.atMs - b.atMs);
  const air = roomAir(samples);
  if (!air) throw new RangeError('cureState: no climate is known, so the cure clock cannot run');
  return air;
}
