/**
 * Dew point by the Magnus formula with the constants of DOMAIN §5 (17.62 and 243.12 °C; WMO-No. 8).
 * Against published psychrometric values within 0.3 °C over 0–40 °C and 20–95 % RH.
 */
const MAGNUS_A = 17.62;
const MAGNUS_B_C = 243.12;

/** Dew point in °C. @throws RangeError unless RH lies above 0 and up to 100 % and T within −45…60 °C. */
export function dewPointC(air: { temperatureC: number; relativeHumidityPct: number }): number {
  const { temperatureC, relativeHumidityPct } = air;
  if (!(relativeHumidityPct > 0 && relativeHumidityPct <= 100)) {
    throw new RangeError(
      `dewPointC: relativeHumidityPct must be above 0 up to 100, got ${relativeHumidityPct}`,
    );
  }
  if (!(temperatureC >= -45 && temperatureC <= 60)) {
    throw new RangeError(`dewPointC: temperatureC must be −45…60, got ${temperatureC}`);
  }
  const gamma = Math.log(relativeHumidityPct / 100) + (MAGNUS_A * temperatureC) / (MAGNUS_B_C + temperatureC);
  return (MAGNUS_B_C * gamma) / (MAGNUS_A - gamma);
}
