import type { Gathered } from '../finishing/coat-cure.ts';
import { roomAir, type RoomAir, type Span } from '../finishing/cure.ts';
import type { ClimateSample } from '../units/climate.ts';
import type { Layer } from './layers.ts';

/** The air a piece stood in: from an instant on, until the next stay begins. */
export interface Stay {
  fromMs: number;
  air: RoomAir;
}

export type ClimateOf = (room: string) => readonly ClimateSample[] | undefined;

/**
 * Where a piece stood since its coats: in each coat's booth until the next one, then in the room of its hold. A booth whose
 * air nobody logs is taken to have that of the room, and a room without any, that of the booth before. Undefined when there
 * is no air to go by at all.
 */
export function staysOf(
  layers: readonly Layer[],
  climateOf: ClimateOf,
  hold?: { room: string; sinceMs: number },
): Stay[] | undefined {
  const airIn = (room: string | undefined): RoomAir | undefined =>
    room === undefined ? undefined : roomAir(climateOf(room) ?? NO_CLIMATE);
  const resting = airIn(hold?.room);
  const stays = [
    ...layers.flatMap(({ coat }) => {
      const air = airIn(coat.room) ?? resting;
      return air ? [{ fromMs: coat.atMs, air }] : [];
    }),
    ...(hold && resting ? [{ fromMs: hold.sinceMs, air: resting }] : []),
  ];
  return stays.length > 0 ? stays : undefined;
}

const NO_CLIMATE: readonly ClimateSample[] = [];

/** Reference hours gathered along the stays. */
export const gatheredAlong =
  (stays: readonly Stay[]): Gathered =>
  (fromMs, toMs, q) =>
    stays.reduce((sum, stay, i) => {
      const [from, to] = within(stays, i, fromMs, toMs);
      return sum + stay.air.hours(from, to, q);
    }, 0);

/** Spans over which the sensor of the place was silent. */
export const bridgedAlong = (stays: readonly Stay[], fromMs: number, toMs: number): Span[] =>
  stays.flatMap((stay, i) => {
    const [from, to] = within(stays, i, fromMs, toMs);
    return to > from ? stay.air.bridged(from, to) : [];
  });

function within(stays: readonly Stay[], i: number, fromMs: number, toMs: number): [number, number] {
  const start = i === 0 ? -Infinity : (stays[i]?.fromMs ?? -Infinity);
  const end = stays[i + 1]?.fromMs ?? Infinity;
  return [Math.max(fromMs, start), Math.min(toMs, end)];
}
