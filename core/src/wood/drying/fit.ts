import { quantileOf, type Weighted } from '../../stats/weighted.ts';
import { passThrough, pullsOf, stepsBetween, type DryingClimate, type Pull } from './air.ts';
import { LOG_TAU_SIGMA, priorTauDays, type DryingSpecies } from './prior.ts';

export interface DryingReading {
  hours: number;
  /** Corrected moisture, % of oven-dry mass. */
  mcPct: number;
}

/** One time constant that may be the true one, how likely it is, and the moisture it gives the wood at the last reading. */
export interface TauNode {
  tauHours: number;
  weight: number;
  lastPct: number;
  lastSdPct: number;
}

/** What the readings of one lot say about how it dries. Plain data: it can be sent to a worker. */
export interface DryingFit {
  count: number;
  firstHours: number;
  lastHours: number;
  /** Weights sum to 1; time constants rise. */
  nodes: TauNode[];
  /** Time constant at 21 °C. */
  tauDays: { median: number; low90: number; high90: number };
  /** Scatter of one reading about the curve. */
  noiseSdPct: number;
  /** The logged air as wood feels it. */
  pulls: Pull[];
}

/** Scatter of one reading before any is seen, % moisture, and how many readings that belief is worth. Defaults. */
const NOISE_SD_PCT = 0.3;
const NOISE_WORTH = 8;
/** Time constants looked at, and how far from the middle, in standard deviations. */
const NODES = 41;
const COARSE_SPREADS = 4.5;
const FINE_SPREADS = 5;
/** The fine grid is never narrower than this in log τ: one reading more must not fall through it. */
const NARROWEST = 0.004;
const HOURS_A_DAY = 24;

interface Weighed extends TauNode {
  logTau: number;
  logWeight: number;
  scatter: number;
}

/**
 * Fits dM/dt = −k(T)(M − EMC(T, RH)) to the readings of a lot under its logged climate. k = 1/τ is exact on a grid of
 * time constants: log-normal prior (σ 0.6) about priorTauDays, flat prior for the moisture at the first reading,
 * inverse-gamma prior for the scatter, both integrated out in closed form. Drying is twice as fast for 10 °C more.
 * Linear drying: valid below fibre saturation, about 30 %.
 * @param options.tauDays the factory's own time constant at 21 °C, instead of the one from species and thickness.
 * @throws RangeError without a reading or without climate, or for numbers that cannot be.
 */
export function fitDrying(options: {
  readings: readonly DryingReading[];
  climate: readonly DryingClimate[];
  thicknessMm: number;
  species: DryingSpecies;
  tauDays?: number;
}): DryingFit {
  const { climate, tauDays = priorTauDays(options) } = options;
  const readings = checked(options.readings);
  if (climate.length === 0) throw new RangeError('fitDrying: needs at least one sample of climate');
  if (!(tauDays > 0)) throw new RangeError(`fitDrying: tauDays must be above 0, got ${tauDays}`);
  const pulls = pullsOf(climate);
  const spans = readings.map((reading, i) =>
    stepsBetween(pulls, readings[i - 1]?.hours ?? reading.hours, reading.hours),
  );
  const expected = Math.log(tauDays * HOURS_A_DAY);
  const weigh = (logTau: number): Weighed => weighNode(logTau, expected, readings, spans);
  const coarse = normalised(grid(expected, COARSE_SPREADS * LOG_TAU_SIGMA).map(weigh));
  const middle = coarse.reduce((sum, node) => sum + node.weight * node.logTau, 0);
  const variance = coarse.reduce((sum, node) => sum + node.weight * (node.logTau - middle) ** 2, 0);
  const nodes = normalised(grid(middle, FINE_SPREADS * Math.max(NARROWEST, Math.sqrt(variance))).map(weigh));
  const days: Weighted[] = nodes.map(({ tauHours, weight }) => ({ value: tauHours / HOURS_A_DAY, weight }));
  return {
    count: readings.length,
    firstHours: readings[0]?.hours ?? 0,
    lastHours: readings.at(-1)?.hours ?? 0,
    nodes: nodes.map(({ tauHours, weight, lastPct, lastSdPct }) => ({
      tauHours,
      weight,
      lastPct,
      lastSdPct,
    })),
    tauDays: { median: quantileOf(days, 0.5), low90: quantileOf(days, 0.05), high90: quantileOf(days, 0.95) },
    noiseSdPct: nodes.reduce((sum, node) => sum + node.weight * node.scatter, 0),
    pulls,
  };
}

function checked(readings: readonly DryingReading[]): DryingReading[] {
  if (readings.length === 0) throw new RangeError('fitDrying: needs at least one reading');
  for (const { hours, mcPct } of readings) {
    if (!Number.isFinite(hours))
      throw new RangeError(`fitDrying: hours of a reading must be a number, got ${hours}`);
    if (!(mcPct >= 0 && mcPct <= 100)) throw new RangeError(`fitDrying: mcPct must be 0…100, got ${mcPct}`);
  }
  return readings.toSorted((a, b) => a.hours - b.hours);
}

const grid = (middle: number, reach: number): number[] =>
  Array.from({ length: NODES }, (_, i) => middle - reach + (2 * reach * i) / (NODES - 1));

/**
 * For a known τ the readings are linear in the moisture at the start: y = gain · start + offset + noise. Gives the
 * marginal likelihood times the prior, and start and scatter carried to the last reading.
 */
function weighNode(
  logTau: number,
  expected: number,
  readings: readonly DryingReading[],
  spans: readonly Pull[][],
): Weighed {
  const tauHours = Math.exp(logTau);
  let gain = 1;
  let offset = 0;
  let [gg, gy, yy] = [0, 0, 0];
  readings.forEach(({ mcPct }, i) => {
    const step = passThrough(spans[i] ?? [], tauHours);
    gain *= step.gain;
    offset = step.gain * offset + step.offset;
    const y = mcPct - offset;
    gg += gain * gain;
    gy += gain * y;
    yy += y * y;
  });
  const start = gy / gg;
  const squares = Math.max(0, yy - gy * start);
  const freedom = NOISE_WORTH + readings.length - 1;
  const variance = (NOISE_WORTH * NOISE_SD_PCT ** 2 + squares) / freedom;
  // Student's t has a little more spread than the normal used for it: freedom / (freedom − 2).
  const startSd = Math.sqrt((variance * freedom) / (freedom - 2) / gg);
  const prior = -((logTau - expected) ** 2) / (2 * LOG_TAU_SIGMA ** 2);
  return {
    logTau,
    logWeight: prior - Math.log(gg) / 2 - (freedom / 2) * Math.log(variance),
    tauHours,
    weight: 0,
    lastPct: gain * start + offset,
    lastSdPct: gain * startSd,
    scatter: Math.sqrt(variance),
  };
}

function normalised(nodes: Weighed[]): Weighed[] {
  const best = Math.max(...nodes.map((node) => node.logWeight));
  const whole = nodes.reduce((sum, node) => sum + Math.exp(node.logWeight - best), 0);
  return nodes.map((node) => ({ ...node, weight: Math.exp(node.logWeight - best) / whole }));
}
