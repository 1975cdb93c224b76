/** Conversions between the units people on the floor speak. Exact by definition unless a comment says otherwise. */

/** One international inch in millimetres (1959 agreement, exact). */
const MM_PER_INCH = 25.4;
/** A mil (thou) in micrometres: an inch is 25.4 mm, so 25.4 µm (exact). */
const UM_PER_MIL = 25.4;

export const HOUR_MS = 60 * 60 * 1000;
export const MINUTE_MS = 60 * 1000;
export const DAY_MS = 24 * HOUR_MS;

/** Inches in mm. */
export const mmFromInches = (inches: number): number => inches * MM_PER_INCH;
/** Mm in inches. */
export const inchesFromMm = (mm: number): number => mm / MM_PER_INCH;
/** Thousandths of an inch in µm. */
export const umFromMils = (mils: number): number => mils * UM_PER_MIL;
/** °F in °C. */
export const celsiusFromFahrenheit = (fahrenheit: number): number => ((fahrenheit - 32) * 5) / 9;
/** °C in °F. */
export const fahrenheitFromCelsius = (celsius: number): number => (celsius * 9) / 5 + 32;

/**
 * Lumber volume in board feet: thickness (in) · width (in) · length (ft) / 12.
 * @throws RangeError when a dimension is negative or not a number.
 */
export function boardFeet(board: { thicknessIn: number; widthIn: number; lengthFt: number }): number {
  for (const [name, value] of Object.entries(board)) {
    if (!(value >= 0)) throw new RangeError(`boardFeet: ${name} must be 0 or more, got ${value}`);
  }
  return (board.thicknessIn * board.widthIn * board.lengthFt) / 12;
}
