/** CIE L*a*b* of a surface: lightness 0…100, a* green to red, b* blue to yellow. */
export interface Lab {
  l: number;
  a: number;
  b: number;
}

const TO_DEGREES = 180 / Math.PI;
const RADIANS = Math.PI / 180;
/** 25⁷: where the blue hues begin to be counted less (CIE 142). */
const TWENTY_FIVE_7 = 25 ** 7;

const sin = (degrees: number): number => Math.sin(degrees * RADIANS);
const cos = (degrees: number): number => Math.cos(degrees * RADIANS);
const hue = (a: number, b: number): number => {
  if (a === 0 && b === 0) return 0;
  const degrees = Math.atan2(b, a) * TO_DEGREES;
  return degrees < 0 ? degrees + 360 : degrees;
};

/** The mean of two hues, the short way round; their sum where one of the two has no hue. */
function meanHue(one: number, other: number, colourless: boolean): number {
  if (colourless) return one + other;
  if (Math.abs(one - other) <= 180) return (one + other) / 2;
  return one + other < 360 ? (one + other + 360) / 2 : (one + other - 360) / 2;
}

/** The way from one hue to the other, the short way round; 0 where one of the two has no hue. */
function hueStep(one: number, other: number, colourless: boolean): number {
  if (colourless) return 0;
  const step = other - one;
  if (step > 180) return step - 360;
  return step < -180 ? step + 360 : step;
}

/**
 * Colour difference ΔE₀₀ of two surfaces (CIE 142-2001, kL = kC = kH = 1), by the equations of Sharma, Wu and Dalal,
 * Color Research & Application 30 (2005), whose test data it gives to four decimals. About 1 is just seen side by side.
 * @throws RangeError unless lightness lies within 0…100 and all six numbers are finite.
 */
export function deltaE2000(one: Lab, other: Lab): number {
  for (const { l, a, b } of [one, other])
    if (!(l >= 0 && l <= 100 && Number.isFinite(a) && Number.isFinite(b)))
      throw new RangeError(`deltaE2000: L* must be 0…100 and a*, b* finite, got ${l}, ${a}, ${b}`);
  const meanChroma = (Math.hypot(one.a, one.b) + Math.hypot(other.a, other.b)) / 2;
  const g = 0.5 * (1 - Math.sqrt(meanChroma ** 7 / (meanChroma ** 7 + TWENTY_FIVE_7)));
  const [a1, a2] = [one.a * (1 + g), other.a * (1 + g)];
  const [c1, c2] = [Math.hypot(a1, one.b), Math.hypot(a2, other.b)];
  const [h1, h2] = [hue(a1, one.b), hue(a2, other.b)];
  const colourless = c1 * c2 === 0;
  const dL = other.l - one.l;
  const dC = c2 - c1;
  const dH = 2 * Math.sqrt(c1 * c2) * sin(hueStep(h1, h2, colourless) / 2);
  const l = (one.l + other.l) / 2;
  const c = (c1 + c2) / 2;
  const h = meanHue(h1, h2, colourless);
  const t = 1 - 0.17 * cos(h - 30) + 0.24 * cos(2 * h) + 0.32 * cos(3 * h + 6) - 0.2 * cos(4 * h - 63);
  const sL = 1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2);
  const sC = 1 + 0.045 * c;
  const sH = 1 + 0.015 * c * t;
  const turn = 30 * Math.exp(-(((h - 275) / 25) ** 2));
  const rT = -2 * Math.sqrt(c ** 7 / (c ** 7 + TWENTY_FIVE_7)) * sin(2 * turn);
  const [pL, pC, pH] = [dL / sL, dC / sC, dH / sH];
  return Math.sqrt(pL ** 2 + pC ** 2 + pH ** 2 + rT * pC * pH);
}
