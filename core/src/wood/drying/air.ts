import { loggedAirEmcPct } from '../emc.ts';
import { dryingRateFactor } from './prior.ts';

/** Logged or assumed air, on the same axis of hours as the readings. */
export interface DryingClimate {
  hours: number;
  temperatureC: number;
  relativeHumidityPct: number;
}

/** What air means for wood: where it would take it, and how fast compared with 21 °C. Holds until the next. */
export interface Pull {
  hours: number;
  emcPct: number;
  rate: number;
}

/** Air by the hour as a pull on wood. @throws RangeError for air that cannot be, or hours that do not rise. */
export function pullsOf(climate: readonly DryingClimate[]): Pull[] {
  return climate.map(({ hours, temperatureC, relativeHumidityPct }, i) => {
    const before = climate[i - 1]?.hours ?? -Infinity;
    if (!(hours > before))
      throw new RangeError(`drying: hours of the climate must rise, got ${hours} after ${before}`);
    return {
      hours,
      emcPct: loggedAirEmcPct({ temperatureC, relativeHumidityPct }),
      rate: dryingRateFactor(temperatureC),
    };
  });
}

/**
 * Steps of constant air from one hour to another. What lies before the first sample takes that one, what lies after the
 * last takes the last.
 */
export function stepsBetween(pulls: readonly Pull[], fromHours: number, toHours: number): Pull[] {
  const steps: Pull[] = [];
  pulls.forEach((pull, i) => {
    const start = Math.max(fromHours, i === 0 ? -Infinity : pull.hours);
    const end = Math.min(toHours, pulls[i + 1]?.hours ?? Infinity);
    if (end > start) steps.push({ hours: end - start, emcPct: pull.emcPct, rate: pull.rate });
  });
  return steps;
}

/**
 * dM/dt = −(rate/τ)(M − EMC) over steps of constant air, solved exactly: M(end) = gain · M(start) + offset.
 * `hours` of a step is its length.
 */
export function passThrough(steps: readonly Pull[], tauHours: number): { gain: number; offset: number } {
  let gain = 1;
  let offset = 0;
  for (const { hours, emcPct, rate } of steps) {
    const stays = Math.exp((-rate * hours) / tauHours);
    gain *= stays;
    offset = emcPct + (offset - emcPct) * stays;
  }
  return { gain, offset };
}
