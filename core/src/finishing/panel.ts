import type { CureSpec } from './coat-cure.ts';
import { LEFT_WHEN_THROUGH, TIME_CONSTANTS_TO_BUFF } from './slab.ts';

/** Fewer weighings leave nothing over to judge the fit by. */
const FEWEST = 4;
/** The curve must have bent so far, in time constants, before its end can be told. */
const LEAST_SPAN_TAU = 1.5;
/** An interval wider than this, highest against lowest, is a guess. */
const WIDEST = 4;
/** Time constants looked at, as shares and multiples of the time weighed over. */
const SHORTEST = 0.02;
const LONGEST = 50;
const GRID = 240;
/**
 * 95th percentile of Student's t for 1, 2, 3 … degrees (published tables); its square is the 90th percentile of F(1, ν), by
 * which the profile of the residuals bounds τ.
 */
const T95 = [6.314, 2.92, 2.353, 2.132, 2.015, 1.943, 1.895, 1.86, 1.833, 1.812];
const T95_MANY = 1.66;

export interface Weighing {
  /** Since the panel was sprayed. */
  hours: number;
  grams: number;
}

export interface PanelFit {
  /** Time constant of the solvent's leaving. */
  tauHours: number;
  /** What the panel tends to when all solvent is gone. */
  limitGrams: number;
  /** Solvent in it at the start. */
  solventGrams: number;
  /** Hours since it was sprayed at which less than 2 % of the solvent is left, with its 90 % interval. */
  curedAtHours: number;
  low90: number;
  high90: number;
}

export type PanelVerdict = PanelFit | { notEnough: string };

/**
 * When a test panel is cured: m(t) = m∞ + A e^(−t/τ) fitted to its weighings by least squares. For each τ the other two
 * follow in closed form, so τ alone is searched; the interval is that of the profile of the residuals (Bates & Watts,
 * Nonlinear Regression Analysis, ch. 6). Says what is missing rather than guess from a curve that has hardly bent.
 * @throws RangeError for a weight that is not above 0, an hour below 0, or two weighings at one hour.
 */
export function fitTestPanel(weighings: readonly Weighing[]): PanelVerdict {
  const points = weighings.toSorted((a, b) => a.hours - b.hours);
  points.forEach(({ hours, grams }, i) => {
    if (!(grams > 0 && Number.isFinite(grams)))
      throw new RangeError(`fitTestPanel: grams must be above 0, got ${grams}`);
    if (!(hours >= 0 && Number.isFinite(hours)))
      throw new RangeError(`fitTestPanel: hours must be 0 or more, got ${hours}`);
    if (points[i - 1]?.hours === hours) throw new RangeError(`fitTestPanel: two weighings at ${hours} h`);
  });
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < FEWEST)
    return { notEnough: `${points.length} of at least ${FEWEST} weighings` };
  const span = last.hours - first.hours;
  const taus = Array.from(
    { length: GRID },
    (_, i) => span * SHORTEST * (LONGEST / SHORTEST) ** (i / (GRID - 1)),
  );
  const start = taus.reduce((best, tau) =>
    fitAt(points, tau).squares < fitAt(points, best).squares ? tau : best,
  );
  const tauHours = refine(points, start);
  const { limit, amplitude, squares } = fitAt(points, tauHours);
  if (amplitude <= 0) return { notEnough: 'it has not lost weight yet' };
  if (limit <= 0 || span < LEAST_SPAN_TAU * tauHours)
    return { notEnough: 'its weight still falls almost in a straight line: weigh on' };
  const degrees = points.length - 3;
  const t = T95[degrees - 1] ?? T95_MANY;
  const floor = 1e-12 * amplitude ** 2;
  const bound = Math.max(squares, floor) * (1 + t ** 2 / degrees);
  const low = edge(points, tauHours, bound, 1 / 1.03);
  const high = edge(points, tauHours, bound, 1.03);
  if (high / low > WIDEST) return { notEnough: 'the weighings scatter too much to tell its end: weigh on' };
  const curedAt = (tau: number): number => -tau * Math.log(LEFT_WHEN_THROUGH);
  return {
    tauHours,
    limitGrams: limit,
    solventGrams: amplitude,
    curedAtHours: curedAt(tauHours),
    low90: curedAt(low),
    high90: curedAt(high),
  };
}

/** m∞ and A for one τ, by a straight line through (e^(−t/τ), m). */
function fitAt(
  points: readonly Weighing[],
  tau: number,
): { limit: number; amplitude: number; squares: number } {
  const xs = points.map(({ hours }) => Math.exp(-hours / tau));
  const meanX = xs.reduce((sum, x) => sum + x, 0) / xs.length;
  const meanY = points.reduce((sum, { grams }) => sum + grams, 0) / points.length;
  let sxx = 0;
  let sxy = 0;
  points.forEach(({ grams }, i) => {
    const dx = (xs[i] ?? 0) - meanX;
    sxx += dx * dx;
    sxy += dx * (grams - meanY);
  });
  const amplitude = sxx === 0 ? 0 : sxy / sxx;
  const limit = meanY - amplitude * meanX;
  const squares = points.reduce(
    (sum, { grams }, i) => sum + (grams - limit - amplitude * (xs[i] ?? 0)) ** 2,
    0,
  );
  return { limit, amplitude, squares };
}

/** Golden section about the best of the grid, in the logarithm of τ. */
function refine(points: readonly Weighing[], start: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  const step = (LONGEST / SHORTEST) ** (1 / (GRID - 1));
  let low = Math.log(start / step);
  let high = Math.log(start * step);
  for (let i = 0; i < 40; i += 1) {
    const [left, right] = [high - golden * (high - low), low + golden * (high - low)];
    if (fitAt(points, Math.exp(left)).squares < fitAt(points, Math.exp(right)).squares) high = right;
    else low = left;
  }
  return Math.exp((low + high) / 2);
}

/** Where the residuals rise to the bound, going from the best τ in steps of a factor, then halving. */
function edge(points: readonly Weighing[], tau: number, bound: number, factor: number): number {
  let inside = tau;
  let outside = tau * factor;
  const farthest = factor > 1 ? tau * LONGEST : tau / LONGEST;
  const beyond = (candidate: number): boolean => fitAt(points, candidate).squares > bound;
  while (!beyond(outside) && (factor > 1 ? outside < farthest : outside > farthest)) {
    inside = outside;
    outside *= factor;
  }
  for (let i = 0; i < 30; i += 1) {
    const middle = Math.sqrt(inside * outside);
    if (beyond(middle)) outside = middle;
    else inside = middle;
  }
  return Math.sqrt(inside * outside);
}

/**
 * Reference hours to buff that a panel says of its material, at its reference film. A solvent film tells by its time constant,
 * which does not depend on how its coats were laid: R = τ ln(8 / (0.02 π²)) (L / film)². Other films tell by when they were cured.
 * @param panel.hoursAtReference reference hours that one hour on the wall was worth where it hung.
 * @throws RangeError for a film or a pace not above 0.
 */
export function panelBuffHours(
  { tauHours, curedAtHours }: Pick<PanelFit, 'tauHours' | 'curedAtHours'>,
  { filmUm, hoursAtReference }: { filmUm: number; hoursAtReference: number },
  { by = 'solvent', referenceUm }: CureSpec,
): number {
  if (!(filmUm > 0 && hoursAtReference > 0))
    throw new RangeError(
      `panelBuffHours: film and pace must be above 0, got ${filmUm} µm and ${hoursAtReference} h`,
    );
  switch (by) {
    case 'solvent':
      return tauHours * hoursAtReference * TIME_CONSTANTS_TO_BUFF * (referenceUm / filmUm) ** 2;
    case 'reaction':
      return curedAtHours * hoursAtReference;
    case 'oxidation':
      return (curedAtHours * hoursAtReference) / Math.max(1, filmUm / referenceUm);
  }
}

export interface RescaledHours {
  /** Reference hours to buff its panels say, mean over them. */
  hours: number;
  /** Spread from panel to panel; null for one panel. */
  sd: number | null;
  panels: number;
}

/** Hours for a recipe from the reference hours at which its panels were cured; null without panels. */
export function rescaledHours(curedReferenceHours: readonly number[]): RescaledHours | null {
  const panels = curedReferenceHours.length;
  if (panels === 0) return null;
  const hours = curedReferenceHours.reduce((sum, h) => sum + h, 0) / panels;
  const squares = curedReferenceHours.reduce((sum, h) => sum + (h - hours) ** 2, 0);
  return { hours, sd: panels < 2 ? null : Math.sqrt(squares / (panels - 1)), panels };
}
