import { randomStream, type RandomStream } from '../../stats/random.ts';
import { pullsOf, type DryingClimate } from './air.ts';
import { fitDrying } from './fit.ts';
import { forecastDrying } from './forecast.ts';
import { LOG_TAU_SIGMA, priorTauDays } from './prior.ts';

/** Lots that never were, to test the forecast on: the truth is known, the forecast is told only what a wood room knows. */

const THICKNESS_MM = 27;
const SPECIES = 'hard maple';
const GATE = { lowPct: 6, highPct: 8 };
/** Scatter of one reading, 1 s.d., % moisture. */
const NOISE_PCT = 0.3;
/** The room is logged from so long before the first reading. */
const LOGGED_BEFORE_DAYS = 10;
/** Readings are spread evenly over so many days; the forecast is made at the last one. */
const READ_FOR_DAYS = 12;
const HORIZON_DAYS = 300;

export interface Coverage {
  lots: number;
  readings: number;
  /** Share of lots whose true date lies within the 90 % interval, 0–100. */
  coveredPct: number;
  /** Median width of the interval, days. */
  widthDays: number;
  /** Median absolute miss of the forecast median, days. */
  missDays: number;
}

/** Air of a room that is held about one point: weather of some days, a wave each day, a little noise. Hourly. */
function roomAir(random: RandomStream, fromHours: number, toHours: number): DryingClimate[] {
  const base = { temperatureC: random.normal(21, 0.8), relativeHumidityPct: random.normal(35, 1.2) };
  const climate: DryingClimate[] = [];
  let weather = 0;
  for (let hours = fromHours; hours <= toHours; hours += 1) {
    // Forgets itself in about three days; 3 % RH about its mean.
    weather = 0.986 * weather + random.normal(0, 0.5);
    const wave = Math.cos((2 * Math.PI * hours) / 24);
    climate.push({
      hours,
      temperatureC: base.temperatureC + 0.5 * wave + random.normal(0, 0.1),
      relativeHumidityPct: base.relativeHumidityPct + weather - wave + random.normal(0, 0.4),
    });
  }
  return climate;
}

/** True moisture hour by hour. */
function truth(climate: readonly DryingClimate[], startPct: number, tauHours: number): Map<number, number> {
  const course = new Map<number, number>();
  let pct = startPct;
  for (const { hours, emcPct, rate } of pullsOf(climate.filter((air) => air.hours >= 0))) {
    course.set(hours, pct);
    pct = emcPct + (pct - emcPct) * Math.exp(-rate / tauHours);
  }
  return course;
}

/** How often the 90 % interval holds the true date, on `lots` simulated lots read `readings` times. */
export function dryingCoverage(options: { lots: number; readings: number; seed: number }): Coverage {
  const random = randomStream(options.seed);
  const nowHours = READ_FOR_DAYS * 24;
  let covered = 0;
  const widths: number[] = [];
  const misses: number[] = [];
  for (let lot = 0; lot < options.lots; lot += 1) {
    const tauHours =
      24 * random.logNormal(priorTauDays({ thicknessMm: THICKNESS_MM, species: SPECIES }), LOG_TAU_SIGMA);
    const climate = roomAir(random, -LOGGED_BEFORE_DAYS * 24, HORIZON_DAYS * 24);
    const course = truth(climate, random.normal(12, 0.7), tauHours);
    const readings = Array.from({ length: options.readings }, (_, i) => {
      const hours = Math.round((nowHours * i) / (options.readings - 1));
      return { hours, mcPct: (course.get(hours) ?? NaN) + random.normal(0, NOISE_PCT) };
    });
    const trueHours =
      [...course].find(([hours, pct]) => hours >= nowHours && pct <= GATE.highPct)?.[0] ?? Infinity;
    const logged = climate.filter((air) => air.hours <= nowHours);
    const fit = fitDrying({ readings, climate: logged, thicknessMm: THICKNESS_MM, species: SPECIES });
    const forecast = forecastDrying(fit, { climate: meanAir(logged), gate: GATE, fromHours: nowHours });
    const left = trueHours - nowHours;
    if (forecast === 'never') {
      if (left === Infinity) covered += 1;
      continue;
    }
    if (left >= Math.floor(forecast.low90) && left <= Math.ceil(forecast.high90)) covered += 1;
    widths.push((forecast.high90 - forecast.low90) / 24);
    misses.push(Math.abs(forecast.median - left) / 24);
  }
  const middle = (values: number[]): number =>
    values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;
  return {
    lots: options.lots,
    readings: options.readings,
    coveredPct: (100 * covered) / options.lots,
    widthDays: middle(widths),
    missDays: middle(misses),
  };
}

/** What the software assumes of the days to come unless somebody says otherwise: the air as it was. */
function meanAir(climate: readonly DryingClimate[]): { temperatureC: number; relativeHumidityPct: number } {
  const mean = (of: (air: DryingClimate) => number): number =>
    climate.reduce((sum, air) => sum + of(air), 0) / climate.length;
  return {
    temperatureC: mean((air) => air.temperatureC),
    relativeHumidityPct: mean((air) => air.relativeHumidityPct),
  };
}
