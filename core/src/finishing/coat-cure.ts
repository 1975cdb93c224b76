import type { ClimateSample } from '../units/climate.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { roomAir, type CureKinetics, type Span } from './cure.ts';

/** What may be done with a coat, in the order it becomes possible. */
export const UNTILS = ['recoat', 'sand', 'buff'] as const;
export type Until = (typeof UNTILS)[number];
export type ByUntil = Record<Until, number>;

/** How a material cures. */
export interface CureSpec extends CureKinetics {
  /** Reference hours (21 °C, 50 % RH) at the reference film. */
  hours: ByUntil;
  /** Fresh dry film those hours were found for, µm. */
  referenceUm: number;
}

export interface LaidCoat {
  atMs: number;
  /** Dry film it leaves, µm. */
  filmUm: number;
  spec: CureSpec;
}

/** Reference hours gathered where the rack stood between two instants. */
export type Gathered = (fromMs: number, toMs: number, q: number) => number;

/** One coat and what it needs; this does not change any more once it is laid. */
export interface LaidRung {
  atMs: number;
  filmUm: number;
  /** Film that was fresh when it was laid: its own and what was not cured of those below. */
  freshUm: number;
  /** Reference hours it needs, with its fresh film. */
  needs: ByUntil;
  /** Its speed-up for warmth. */
  q: number;
}

/** One coat and how far it has cured. */
export interface Rung extends LaidRung {
  /** Reference hours it has gathered. */
  gathered: number;
  /** 0…1. */
  progress: ByUntil;
}

const byUntil = (of: (until: Until) => number): ByUntil => ({
  recoat: of('recoat'),
  sand: of('sand'),
  buff: of('buff'),
});

/**
 * How much longer than at its reference film a coat takes: solvent leaves by diffusion, so with the square of the fresh film
 * (DOMAIN §5). Recoating waits for the surface, not for the depth: a thin film earns no credit there.
 */
export function filmFactor(freshUm: number, referenceUm: number, until: Until): number {
  const factor = (freshUm / referenceUm) ** 2;
  return until === 'recoat' ? Math.max(1, factor) : factor;
}

/**
 * The coats of one piece, lowest first. A coat on fresh ones takes over what is not cured of them at that moment: its fresh
 * film is its own plus each lower film times its share still to go to buff.
 * @throws RangeError when coats are not in order of time or a film is not above 0.
 */
export function layRungs(coats: readonly LaidCoat[], gathered: Gathered): LaidRung[] {
  const rungs: LaidRung[] = [];
  coats.forEach((coat, i) => {
    const below = coats[i - 1];
    if (below && below.atMs > coat.atMs)
      throw new RangeError(`layRungs: coat ${i + 1} was laid before coat ${i}: coats out of order`);
    if (!(coat.filmUm > 0 && Number.isFinite(coat.filmUm)))
      throw new RangeError(`layRungs: the film of coat ${i + 1} must be above 0 µm, got ${coat.filmUm}`);
    const { atMs, spec, filmUm } = coat;
    const freshBelow = rungs.reduce((sum, rung) => {
      const share = Math.min(1, gathered(rung.atMs, atMs, rung.q) / rung.needs.buff);
      return sum + rung.filmUm * (1 - share);
    }, 0);
    const freshUm = filmUm + freshBelow;
    const needs = byUntil((until) => spec.hours[until] * filmFactor(freshUm, spec.referenceUm, until));
    rungs.push({ atMs, filmUm, freshUm, needs, q: spec.q });
  });
  return rungs;
}

/** The same, each with its own clock at a moment. @throws RangeError as layRungs does. */
export const rungsOf = (coats: readonly LaidCoat[], gathered: Gathered, atMs: number): Rung[] =>
  layRungs(coats, gathered).map((rung) => {
    const hours = gathered(rung.atMs, atMs, rung.q);
    return { gathered: hours, progress: byUntil((until) => Math.min(1, hours / rung.needs[until])), ...rung };
  });

/** Where a piece stands with one of the three, in reference hours. */
export interface Standing {
  gathered: number;
  needed: number;
  /** Its speed-up for warmth. */
  q: number;
}

/** The coat that has farthest to go decides; for recoating, the top one. Undefined for a piece without coats. */
export function standingOf(
  rungs: readonly LaidRung[],
  gathered: Gathered,
  atMs: number,
  until: Until,
): Standing | undefined {
  const deciding = until === 'recoat' ? rungs.slice(-1) : rungs;
  let worst: Standing | undefined;
  for (const { atMs: laidMs, needs, q } of deciding) {
    const one = { gathered: gathered(laidMs, atMs, q), needed: needs[until], q };
    if (!worst || one.needed - one.gathered >= worst.needed - worst.gathered) worst = one;
  }
  return worst;
}

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
 * How far the coats of a piece have cured at an hour: ∫ r(T)·w(RH) dt against the reference hours of each coat, scaled with
 * the square of its fresh film (DOMAIN §5). `recipe` is how the material cures; coats and climate are on one axis of hours.
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
  const standing = (until: Until): Standing | undefined =>
    standingOf(rungs, air.hours, atHours * HOUR_MS, until);
  const firstMs = laid[0]?.atMs ?? atHours * HOUR_MS;
  return {
    filmUm: laid.reduce((sum, coat) => sum + coat.filmUm, 0),
    progress: byUntil((until) => {
      const one = standing(until);
      return one ? Math.min(1, one.gathered / one.needed) : 0;
    }),
    leftHours: byUntil((until) => {
      const one = standing(until);
      return one ? Math.max(0, one.needed - one.gathered) : 0;
    }),
    rungs,
    bridgedHours: spanHours(air.bridged(firstMs, atHours * HOUR_MS)),
  };
}

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
