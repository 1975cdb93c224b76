import { samplesWithin, type ClimateSample } from '../units/climate.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';
import { dewPointC } from './dew-point.ts';

/** What a booth's air must be to spray in. */
export interface BoothLimits {
  lowC: number;
  highC: number;
  /** Highest relative humidity. */
  rhPct: number;
  /** Least surface temperature above the dew point. */
  marginC: number;
}

/** DOMAIN §5. */
export const BOOTH_LIMITS: BoothLimits = { lowC: 16, highC: 30, rhPct: 70, marginC: 3 };

export interface BoothAir {
  temperatureC: number;
  relativeHumidityPct: number;
  /** Of the work; undefined: not measured, the air's is taken. */
  surfaceC?: number | undefined;
}

export interface BoothJudgement {
  /** 'blush': damp would settle in the fresh film; 'hold': another limit. */
  verdict: 'spray' | 'hold' | 'blush';
  dewC: number;
  /** Surface temperature above the dew point. */
  marginC: number;
  surfaceMeasured: boolean;
  /** What stands against it, each with its numbers; empty when one may spray. */
  against: string[];
}

/** May one spray in this air? By dew-point margin, humidity and temperature (DOMAIN §5). */
export function judgeBooth(air: BoothAir, limits: BoothLimits = BOOTH_LIMITS): BoothJudgement {
  const { temperatureC, relativeHumidityPct } = air;
  const surfaceC = air.surfaceC ?? temperatureC;
  const dewC = dewPointC(air);
  const marginC = surfaceC - dewC;
  const damp = [
    ...(marginC < limits.marginC
      ? [`the work is ${marginC.toFixed(1)} °C above the dew point, ${limits.marginC} °C above it wanted`]
      : []),
    ...(relativeHumidityPct > limits.rhPct
      ? [`${relativeHumidityPct.toFixed(0)} % RH, at most ${limits.rhPct}`]
      : []),
  ];
  const warmth =
    temperatureC < limits.lowC || temperatureC > limits.highC
      ? [`${temperatureC.toFixed(1)} °C, wanted ${limits.lowC}–${limits.highC} °C`]
      : [];
  const verdict = damp.length > 0 ? 'blush' : warmth.length > 0 ? 'hold' : 'spray';
  return {
    verdict,
    dewC,
    marginC,
    surfaceMeasured: air.surfaceC !== undefined,
    against: [...damp, ...warmth],
  };
}

/** One hour of a booth to come. */
export interface BoothHour extends BoothAir {
  atMs: number;
  dewC: number;
  marginC: number;
  /** 90 % range of the margin. */
  lowMarginC: number;
  highMarginC: number;
  verdict: BoothJudgement['verdict'];
  /** What would stand against it. */
  against: string[];
}

/** The pattern of a season's day is taken from so many days. */
const PATTERN_DAYS = 14;
/** What differs now from the pattern dies away by a factor e in so many hours. */
const ANOMALY_HOURS = 12;
const Z_90 = 1.645;

export type BoothSample = ClimateSample & { surfaceC?: number | undefined };

/**
 * The hours to come of a booth: the mean of the last two weeks at each hour of the day, moved by what is different now,
 * which dies away. The range is the spread of those hours, narrow at first. Undefined without samples.
 */
export function boothOutlook(options: {
  samples: readonly BoothSample[];
  nowMs: number;
  hours: number;
  limits?: BoothLimits;
}): BoothHour[] | undefined {
  const { samples, nowMs, hours, limits = BOOTH_LIMITS } = options;
  const recent = samplesWithin(samples, nowMs - PATTERN_DAYS * DAY_MS, nowMs);
  const last = recent.at(-1);
  if (!last) return undefined;
  const pattern = patternOf(recent);
  const usualNow = pattern(last.atMs);
  const anomaly = {
    t: last.temperatureC - usualNow.temperatureC,
    rh: last.relativeHumidityPct - usualNow.relativeHumidityPct,
    surface: (last.surfaceC ?? last.temperatureC) - usualNow.surfaceC,
  };
  return Array.from({ length: hours }, (_, i) => {
    const atMs = Math.ceil(nowMs / HOUR_MS) * HOUR_MS + i * HOUR_MS;
    const kept = Math.exp(-(atMs - last.atMs) / (ANOMALY_HOURS * HOUR_MS));
    const usual = pattern(atMs);
    const air = {
      temperatureC: usual.temperatureC + kept * anomaly.t,
      relativeHumidityPct: Math.min(100, Math.max(1, usual.relativeHumidityPct + kept * anomaly.rh)),
      surfaceC: usual.surfaceC + kept * anomaly.surface,
    };
    const { dewC, marginC, verdict, against } = judgeBooth(air, limits);
    const spread = Z_90 * usual.marginSdC * Math.sqrt(1 - kept ** 2);
    return {
      atMs,
      ...air,
      dewC,
      marginC,
      verdict,
      against,
      lowMarginC: marginC - spread,
      highMarginC: marginC + spread,
    };
  });
}

interface HourPattern {
  temperatureC: number;
  relativeHumidityPct: number;
  surfaceC: number;
  marginSdC: number;
}

/** What each hour of the (UTC) day was like. */
function patternOf(samples: readonly BoothSample[]): (atMs: number) => HourPattern {
  const hourOf = (ms: number): number => Math.floor(ms / HOUR_MS) % 24;
  const byHour = new Map<number, BoothSample[]>();
  for (const sample of samples) {
    const hour = hourOf(sample.atMs);
    const own = byHour.get(hour);
    if (own) own.push(sample);
    else byHour.set(hour, [sample]);
  }
  return (atMs) => {
    const own = byHour.get(hourOf(atMs)) ?? [...samples];
    const mean = (of: (sample: BoothSample) => number): number =>
      own.reduce((sum, sample) => sum + of(sample), 0) / own.length;
    const surface = (sample: BoothSample): number => sample.surfaceC ?? sample.temperatureC;
    const margins = own.map((sample) => surface(sample) - dewPointC(sample));
    const middle = margins.reduce((sum, m) => sum + m, 0) / margins.length;
    const squares = margins.reduce((sum, m) => sum + (m - middle) ** 2, 0);
    return {
      temperatureC: mean((s) => s.temperatureC),
      relativeHumidityPct: mean((s) => s.relativeHumidityPct),
      surfaceC: mean(surface),
      marginSdC: own.length < 2 ? 0 : Math.sqrt(squares / (own.length - 1)),
    };
  };
}

/** The first hour to come in which one may no longer spray; null: none of those told. */
export const closesMs = (hours: readonly BoothHour[]): number | null =>
  hours.find(({ verdict }) => verdict !== 'spray')?.atMs ?? null;

/** The first hour to come in which one may spray again; null: none of those told. */
export const opensMs = (hours: readonly BoothHour[]): number | null =>
  hours.find(({ verdict }) => verdict === 'spray')?.atMs ?? null;
