import { usualAir, type AirNow, type ClimateSample } from '../units/climate.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';

/** How fast a finish cures away from its reference conditions (21 °C, up to 65 % RH). DOMAIN §5. */
export interface CureKinetics {
  /** Factor by which cure speeds up for every 10 °C more. Default 2.0 catalysed, 1.6 lacquers. */
  q: number;
}

export const REFERENCE_TEMPERATURE_C = 21;
/** Humidity up to which cure is not slowed, and the one at which it runs at half speed. DOMAIN §5. */
const RH_FREE_PCT = 65;
const RH_HALF_PCT = 85;
/** A sample stands for the air until the next one, but no longer than this: then the room's usual air is assumed. */
export const SAMPLE_HOLDS_HOURS = 6;
/** The usual air of a gap is the mean of so many days before it. */
const USUAL_DAYS = 7;

export interface Span {
  fromMs: number;
  toMs: number;
}

/** Reference hours gained per hour on the wall in this air. */
export function cureRate(
  air: { temperatureC: number; relativeHumidityPct: number },
  { q }: CureKinetics,
): number {
  const warmth = q ** ((air.temperatureC - REFERENCE_TEMPERATURE_C) / 10);
  const damp = (air.relativeHumidityPct - RH_FREE_PCT) / (RH_HALF_PCT - RH_FREE_PCT);
  return warmth * (1 - 0.5 * Math.min(1, Math.max(0, damp)));
}

/** The logged air of one room as the cure clock reads it. */
export interface RoomAir {
  samples: readonly ClimateSample[];
  /**
   * Reference hours gathered between two instants: ∫ r(T)·w(RH) dt. Never negative; 0 when the end is not after the
   * start. What was gathered up to an instant does not change when later samples are added.
   */
  hours: (fromMs: number, toMs: number, q: number) => number;
  /** Spans between two instants over which the sensor was silent and the room's usual air stands in. */
  bridged: (fromMs: number, toMs: number) => Span[];
}

interface Stretch extends AirNow {
  fromMs: number;
  bridge: boolean;
}

const rooms = new WeakMap<readonly ClimateSample[], RoomAir>();

/**
 * The cure clock of a room, with its sums kept, so that many racks can be asked about one after the other. Each sample
 * stands until the next one, at most SAMPLE_HOLDS_HOURS; longer gaps take the mean of the week before them, the time
 * before the first sample that sample's own air. Samples must be in order of time.
 * @returns undefined when there is no climate at all to go by.
 */
export function roomAir(samples: readonly ClimateSample[]): RoomAir | undefined {
  if (samples.length === 0) return undefined;
  let known = rooms.get(samples);
  if (!known) rooms.set(samples, (known = layOut(samples)));
  return known;
}

function layOut(samples: readonly ClimateSample[]): RoomAir {
  const stretches = stretchesOf(samples);
  const starts = Float64Array.from(stretches, ({ fromMs }) => fromMs);
  const silent = stretches.flatMap(({ bridge }, i) => (bridge ? [i] : []));
  const sums = new Map<number, { rates: Float64Array; gathered: Float64Array }>();
  const sumsFor = (q: number): { rates: Float64Array; gathered: Float64Array } => {
    let known = sums.get(q);
    if (!known) {
      const rates = Float64Array.from(stretches, (air) => cureRate(air, { q }));
      const gathered = new Float64Array(stretches.length);
      for (let i = 1; i < stretches.length; i += 1)
        gathered[i] =
          at(gathered, i - 1) + (at(rates, i - 1) * (at(starts, i) - at(starts, i - 1))) / HOUR_MS;
      sums.set(q, (known = { rates, gathered }));
    }
    return known;
  };
  return {
    samples,
    hours: (fromMs, toMs, q) => {
      if (!(toMs > fromMs)) return 0;
      const { rates, gathered } = sumsFor(q);
      const upTo = (ms: number): number => {
        const i = lastAtOrBefore(starts, ms);
        return at(gathered, i) + (at(rates, i) * (ms - at(starts, i))) / HOUR_MS;
      };
      return Math.max(0, upTo(toMs) - upTo(fromMs));
    },
    bridged: (fromMs, toMs) => {
      const spans: Span[] = [];
      for (const i of silent) {
        const from = Math.max(fromMs, i === 0 ? -Infinity : at(starts, i));
        const to = Math.min(toMs, stretches[i + 1]?.fromMs ?? Infinity);
        if (to > from) spans.push({ fromMs: from, toMs: to });
      }
      return spans;
    },
  };
}

const at = (list: Float64Array, i: number): number => list[i] ?? 0;

/** The air stretch by stretch, from before the first sample to the end of time. */
function stretchesOf(samples: readonly ClimateSample[]): Stretch[] {
  const [first] = samples;
  const stretches: Stretch[] = first ? [{ fromMs: first.atMs - DAY_MS, bridge: true, ...first }] : [];
  samples.forEach(({ atMs, temperatureC, relativeHumidityPct }, i) => {
    stretches.push({ fromMs: atMs, temperatureC, relativeHumidityPct, bridge: false });
    const heldTo = atMs + SAMPLE_HOLDS_HOURS * HOUR_MS;
    if ((samples[i + 1]?.atMs ?? Infinity) > heldTo)
      stretches.push({ fromMs: heldTo, bridge: true, ...weekBefore(samples, i) });
  });
  return stretches;
}

function weekBefore(samples: readonly ClimateSample[], last: number): AirNow {
  const end = samples[last]?.atMs ?? 0;
  let from = last;
  while (from > 0 && (samples[from - 1]?.atMs ?? 0) > end - USUAL_DAYS * DAY_MS) from -= 1;
  const air = usualAir(samples.slice(from, last + 1));
  if (!air) throw new Error('weekBefore: no sample');
  return air;
}

/** Index of the last start at or before an instant; 0 when all are later. */
function lastAtOrBefore(starts: Float64Array, ms: number): number {
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (at(starts, middle) <= ms) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Reference hours gathered between two instants in one room; see RoomAir. Undefined when there is no climate at all. */
export function curedHours(options: {
  climate: readonly ClimateSample[];
  fromMs: number;
  toMs: number;
  kinetics: CureKinetics;
}): number | undefined {
  return roomAir(options.climate)?.hours(options.fromMs, options.toMs, options.kinetics.q);
}
