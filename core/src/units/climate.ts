/** Air of one place at one moment. */
export interface ClimateSample {
  atMs: number;
  /** Valid −1…130 where wood is concerned. */
  temperatureC: number;
  /** 0…100. */
  relativeHumidityPct: number;
}
