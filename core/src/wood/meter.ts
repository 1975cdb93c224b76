/** A meter's own line for one species, on readings already corrected for temperature: M = a + b · reading. */
export interface MeterLine {
  a: number;
  b: number;
  /** A pinless meter: its readings do not depend on the wood's temperature. */
  ignoresTemperature?: boolean;
}

/** A meter nobody has tested yet: its readings are taken as they are, and said to be uncorrected. */
export const UNCORRECTED: MeterLine = { a: 0, b: 1 };

/** Temperature at which pin meters are scaled, and taken where nobody noted the wood's. DOMAIN §3. */
export const METER_TEMPERATURE_C = 21;
/** Change of reading per °C and per % read: −0.0055, that is about −0.1 % moisture per °C near 18 %. Default. */
const PER_DEGREE = -0.0055;
/** Nothing a meter says lies above this, corrected or not; see MOISTURE_POSSIBLE of the gate. */
const WETTEST_PCT = 100;
/** A line through fewer samples says nothing about its own error. DOMAIN §3. */
export const FEWEST_SAMPLES = 3;
/** A line older than this is worth testing again, days. */
export const LINE_GOOD_FOR_DAYS = 365;

function finite(where: string, values: Record<string, number>): void {
  for (const [name, value] of Object.entries(values)) {
    if (!Number.isFinite(value)) throw new RangeError(`${where}: ${name} must be a number, got ${value}`);
  }
}

/** A pin meter's reading as it would be at 21 °C: reading − 0.0055 · reading · (T − 21). */
export function readingAtReferencePct(options: { readingPct: number; woodTemperatureC: number }): number {
  const { readingPct, woodTemperatureC } = options;
  finite('readingAtReferencePct', { readingPct, woodTemperatureC });
  return readingPct + PER_DEGREE * readingPct * (woodTemperatureC - METER_TEMPERATURE_C);
}

/**
 * Moisture, % of oven-dry mass, behind a meter's reading: first to 21 °C (pin meters), then by its line for the species.
 * Kept within 0…100 %, as readings are. Without a known wood temperature give 21.
 * @throws RangeError for anything that is not a finite number.
 */
export function correctMeterReadingPct(options: {
  readingPct: number;
  woodTemperatureC: number;
  line: MeterLine;
}): number {
  const { line, ...reading } = options;
  finite('correctMeterReadingPct', { a: line.a, b: line.b });
  const atReference = line.ignoresTemperature ? reading.readingPct : readingAtReferencePct(reading);
  return Math.min(WETTEST_PCT, Math.max(0, line.a + line.b * atReference));
}

/** Moisture from the oven-dry test: (wet − dry) / dry · 100, dried at 103 ± 2 °C to constant mass. DOMAIN §3. */
export function ovenDryMoisturePct({ wetG, dryG }: { wetG: number; dryG: number }): number {
  if (!(dryG > 0)) throw new RangeError(`ovenDryMoisturePct: dryG must be above 0, got ${dryG}`);
  if (!(wetG >= dryG))
    throw new RangeError(`ovenDryMoisturePct: wetG must be ${dryG} g or more, got ${wetG}`);
  return (100 * (wetG - dryG)) / dryG;
}

export interface MeterSample {
  readingPct: number;
  woodTemperatureC: number;
  ovenDryPct: number;
}

export interface MeterFit extends MeterLine {
  count: number;
  /** Spread of the samples about the line (n − 2), % moisture; 0 for a perfect line. */
  residualSdPct: number;
  /** What each sample differs from the line, in the order given. */
  residualsPct: number[];
  /** Readings at 21 °C that the line was fitted over: beyond them it is a guess. */
  fromPct: number;
  toPct: number;
}

/**
 * A meter's line by least squares of the oven-dry moisture on the reading at 21 °C.
 * @returns null for fewer than three samples, or when all were read alike: no line can be drawn through them.
 * @throws RangeError for a sample that is not made of finite numbers.
 */
export function fitMeterLine(samples: readonly MeterSample[]): MeterFit | null {
  const points = samples.map((sample, i) => {
    finite(`fitMeterLine: sample ${i + 1}`, { ovenDryPct: sample.ovenDryPct });
    return { x: readingAtReferencePct(sample), y: sample.ovenDryPct };
  });
  if (points.length < FEWEST_SAMPLES) return null;
  const meanX = points.reduce((sum, p) => sum + p.x, 0) / points.length;
  const meanY = points.reduce((sum, p) => sum + p.y, 0) / points.length;
  const spreadX = points.reduce((sum, p) => sum + (p.x - meanX) ** 2, 0);
  if (spreadX < 1e-9) return null;
  const b = points.reduce((sum, p) => sum + (p.x - meanX) * (p.y - meanY), 0) / spreadX;
  const a = meanY - b * meanX;
  const residualsPct = points.map((p) => p.y - (a + b * p.x));
  const squares = residualsPct.reduce((sum, r) => sum + r * r, 0);
  return {
    a,
    b,
    count: points.length,
    residualSdPct: Math.sqrt(squares / (points.length - 2)),
    residualsPct,
    fromPct: Math.min(...points.map((p) => p.x)),
    toPct: Math.max(...points.map((p) => p.x)),
  };
}
