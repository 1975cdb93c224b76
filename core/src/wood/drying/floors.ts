import type { ClimateSample } from '../../units/climate.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import type { TakenReading } from '../reading.ts';
import { believedReadings } from '../sample.ts';
import { lowestBelievablePct } from './fastest-fall.ts';
import { fitDrying } from './fit.ts';
import type { DryingSpecies } from './prior.ts';

/** The wood that was read, as far as its drying goes. */
export interface DryingWood {
  thicknessMm: number;
  species: DryingSpecies;
  /** The factory's own time constant at 21 °C; absent: from species and thickness. */
  tauDays?: number;
}

/**
 * The lowest moisture, %, that each of some new readings can honestly show, after the looks before them and in the air logged
 * since: a named piece from its own last reading at that depth, a reading that names none from the driest piece of the last look.
 * Null where nothing of the kind was read before, or no air is known.
 * @param options.before readings in order of time; `climate` in order of time.
 */
export function readingFloors(options: {
  before: readonly TakenReading[];
  pieces: readonly (number | null)[];
  depth: 'shell' | 'core' | null;
  atMs: number;
  climate: readonly ClimateSample[];
  wood: DryingWood;
}): (number | null)[] {
  const { pieces, depth, atMs, climate, wood } = options;
  const alike = ({ depth: read }: TakenReading): boolean => (read ?? 'shell') === (depth ?? 'shell');
  const before = believedReadings(options.before.filter((one) => one.atMs < atMs)).believed.filter(alike);
  const [first] = before;
  if (!first || climate.length === 0) return pieces.map(() => null);
  const hoursAt = (ms: number): number => (ms - first.atMs) / HOUR_MS;
  const fit = fitDrying({
    ...wood,
    readings: before.map((one) => ({ hours: hoursAt(one.atMs), mcPct: one.pct })),
    climate: climate.map(({ atMs: ms, ...air }) => ({ hours: hoursAt(ms), ...air })),
  });
  const latest = new Map(before.map((one) => [one.piece, one]));
  const driest = [...latest.values()].reduce((low, one) => (one.pct < low.pct ? one : low), first);
  return pieces.map((piece) => {
    const from = piece === null ? driest : latest.get(piece);
    return from
      ? lowestBelievablePct(fit, {
          fromPct: from.pct,
          fromHours: hoursAt(from.atMs),
          atHours: hoursAt(atMs),
        })
      : null;
  });
}
