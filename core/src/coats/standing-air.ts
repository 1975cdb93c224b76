import type { Gathered } from '../finishing/coat-cure.ts';
import { roomAir, type RoomAir, type Span } from '../finishing/cure.ts';
import type { ClimateSample } from '../units/climate.ts';
import type { Layer } from './layers.ts';
import type { RestingSince } from './rests.ts';

/** The air a piece stood in: from an instant on, until the next stretch begins. */
export interface AirStretch {
  fromMs: number;
  air: RoomAir;
}

export type ClimateOf = (room: string) => readonly ClimateSample[] | undefined;

/**
 * Where a piece stood since its first coat: in the booth of a coat until the next coat or hold, in the room of a hold until
 * the next coat or hold. A place whose air nobody logs is taken to have that of the place before it, or, when it is the
 * first, of the next one. Undefined when there is no air to go by at all.
 * @param rests holds it came onto, in order of time.
 */
export function airStretches(
  layers: readonly Layer[],
  climateOf: ClimateOf,
  rests: readonly RestingSince[] = [],
): AirStretch[] | undefined {
  const firstMs = layers[0]?.coat.atMs ?? -Infinity;
  const stretches = [
    ...layers.map(({ coat }) => ({ fromMs: coat.atMs, room: coat.room })),
    ...rests.filter(({ fromMs }) => fromMs >= firstMs),
  ]
    .sort((a, b) => a.fromMs - b.fromMs)
    .flatMap(({ fromMs, room }) => {
      const air = room === undefined ? undefined : roomAir(climateOf(room) ?? NO_CLIMATE);
      return air ? [{ fromMs, air }] : [];
    });
  return stretches.length > 0 ? stretches : undefined;
}

const NO_CLIMATE: readonly ClimateSample[] = [];

/** Reference hours gathered along the stretches; what was gathered up to each of them is summed once. */
export function gatheredAlong(stretches: readonly AirStretch[]): Gathered {
  const sums = new Map<number, readonly number[]>();
  const sumsFor = (q: number): readonly number[] => {
    let known = sums.get(q);
    if (!known) {
      let sum = 0;
      known = stretches.map(({ fromMs }, i) => {
        const before = stretches[i - 1];
        if (before) sum += before.air.hours(before.fromMs, fromMs, q);
        return sum;
      });
      sums.set(q, known);
    }
    return known;
  };
  /** Since the first stretch began; below 0 before it, in its air. */
  const upTo = (ms: number, q: number): number => {
    let i = stretches.length - 1;
    while (i > 0 && (stretches[i]?.fromMs ?? 0) > ms) i -= 1;
    const stretch = stretches[i];
    if (!stretch) return 0;
    return (
      (sumsFor(q)[i] ?? 0) +
      stretch.air.hours(stretch.fromMs, ms, q) -
      stretch.air.hours(ms, stretch.fromMs, q)
    );
  };
  return (fromMs, toMs, q) => (toMs > fromMs ? Math.max(0, upTo(toMs, q) - upTo(fromMs, q)) : 0);
}

/** Spans over which the sensor of the place was silent. */
export const bridgedAlong = (stretches: readonly AirStretch[], fromMs: number, toMs: number): Span[] =>
  stretches.flatMap((stretch, i) => {
    const from = Math.max(fromMs, i === 0 ? -Infinity : stretch.fromMs);
    const to = Math.min(toMs, stretches[i + 1]?.fromMs ?? Infinity);
    return to > from ? stretch.air.bridged(from, to) : [];
  });
