/**
 * Equilibrium moisture content: what wood drifts to in given air.
 * Source: USDA Forest Products Laboratory, Wood Handbook, ch. 4, eq. 4-5 (Hailwood–Horrobin), constants for °C.
 */

export interface Air {
  /** Valid −1…130. */
  temperatureC: number;
  /** 0…100. */
  relativeHumidityPct: number;
}

const COLDEST_C = -1;
const HOTTEST_C = 130;

/**
 * EMC in percent of oven-dry mass.
 * @throws RangeError outside −1…130 °C or 0…100 % RH.
 */
export function equilibriumMoistureContentPct({ temperatureC: t, relativeHumidityPct }: Air): number {
  if (!(t >= COLDEST_C && t <= HOTTEST_C)) {
    throw new RangeError(`equilibriumMoistureContentPct: temperatureC must be −1…130, got ${t}`);
  }
  if (!(relativeHumidityPct >= 0 && relativeHumidityPct <= 100)) {
    throw new RangeError(
      `equilibriumMoistureContentPct: relativeHumidityPct must be 0…100, got ${relativeHumidityPct}`,
    );
  }
  const h = relativeHumidityPct / 100;
  const w = 349 + 1.29 * t + 0.0135 * t ** 2;
  const k = 0.805 + 0.000736 * t - 0.00000273 * t ** 2;
  const k1 = 6.27 - 0.00938 * t - 0.000303 * t ** 2;
  const k2 = 1.91 + 0.0407 * t - 0.000293 * t ** 2;
  const kh = k * h;
  const hydrated = (k1 * kh + 2 * k1 * k2 * kh ** 2) / (1 + k1 * kh + k1 * k2 * kh ** 2);
  return (1800 / w) * (kh / (1 - kh) + hydrated);
}

/**
 * EMC of air as it was logged: a shed in winter is colder than the equation reaches, and takes the value of −1 °C, to
 * which what little is known of frozen wood comes close.
 * @throws RangeError above 130 °C or outside 0…100 % RH.
 */
export const loggedAirEmcPct = ({ temperatureC, relativeHumidityPct }: Air): number =>
  equilibriumMoistureContentPct({ temperatureC: Math.max(COLDEST_C, temperatureC), relativeHumidityPct });

/** Narrow enough that the inverse returns the humidity to 0.001 %. */
const HUMIDITY_TOLERANCE_PCT = 0.001;

/**
 * The relative humidity (%) that holds wood at a wanted EMC: bisection, since EMC rises with humidity.
 * @throws RangeError when no humidity at this temperature gives that EMC.
 */
export function relativeHumidityForEmcPct({
  temperatureC,
  emcPct,
}: {
  temperatureC: number;
  emcPct: number;
}): number {
  const at = (rh: number): number => equilibriumMoistureContentPct({ temperatureC, relativeHumidityPct: rh });
  if (!(emcPct >= at(0) && emcPct <= at(100))) {
    throw new RangeError(`relativeHumidityForEmcPct: no humidity holds ${emcPct} % at ${temperatureC} °C`);
  }
  let low = 0;
  let high = 100;
  while (high - low > HUMIDITY_TOLERANCE_PCT) {
    const middle = (low + high) / 2;
    if (at(middle) < emcPct) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
