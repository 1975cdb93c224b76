import type { Route } from '../route/index.ts';
import type { StayEnd } from '../stays/index.ts';
import type { PlacedStay } from './log-whole.ts';

/** Pieces of one rack that left a station together. */
export interface LeftTogether {
  batch: string;
  station: string;
  operation: string;
  ended: 'good' | 'scrapped' | 'sent back';
  /** 1-based places on the rack, rising. */
  positions: number[];
  person: string | null;
  reason: string | null;
  atMs: number;
}

const WENT_ON: readonly StayEnd[] = ['passed', 'joined', 'parted', 'shipped'];

/**
 * Each piece that left a station within a window: good once at each, when it went on from there last; scrapped and sent back as often as it
 * was. By when they left, and batch.
 * @param options.staysThere whether what goes on from an operation so is at the same station still
 */
export function leftStations(options: {
  stays: readonly PlacedStay[];
  fromMs: number;
  toMs: number;
  staysThere: (from: { route: Route; operation: string; station: string; ended: StayEnd }) => boolean;
}): LeftTogether[] {
  const { stays, fromMs, toMs, staysThere } = options;
  const found = new Map<string, LeftTogether>();
  const count = (stay: PlacedStay, position: number, ended: LeftTogether['ended']): void => {
    const { batch, station, operation, person, reason = null, toMs: atMs } = stay;
    if (station === null) return;
    const key = `${batch}|${station}|${operation}|${ended}|${person}|${reason}|${atMs}`;
    const known = found.get(key);
    if (known) known.positions.push(position);
    else found.set(key, { batch, station, operation, ended, positions: [position], person, reason, atMs });
  };
  /** Of each batch at each station: the stay from which each place went on last. */
  const last = new Map<string, Map<number, PlacedStay>>();
  for (const stay of stays) {
    const { batch, route, operation, station, ended } = stay;
    if (station === null || ended === null || stay.toMs < fromMs || stay.toMs >= toMs) continue;
    if (ended === 'scrapped' || ended === 'sent back')
      for (const position of stay.positions) count(stay, position, ended);
    if (!WENT_ON.includes(ended) || staysThere({ route, operation, station, ended })) continue;
    const key = `${batch}|${station}`;
    const places = last.get(key) ?? new Map<number, PlacedStay>();
    last.set(key, places);
    for (const position of stay.positions)
      if ((places.get(position)?.toMs ?? -Infinity) <= stay.toMs) places.set(position, stay);
  }
  for (const places of last.values()) for (const [position, stay] of places) count(stay, position, 'good');
  for (const { positions } of found.values()) positions.sort((a, b) => a - b);
  return [...found.values()].toSorted((a, b) => a.atMs - b.atMs || (a.batch < b.batch ? -1 : 1));
}
