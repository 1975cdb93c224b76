import { quantile } from '../stats/descriptive.ts';
import { randomStream } from '../stats/random.ts';
import { fitTestPanel } from './panel.ts';

/** Panels that never were, to test the fit on: the truth is known, the fit is told only what a balance shows. */

/** A balance that shows 5 mg, with what a hand and a draught add. */
const NOISE_G = 0.015;
/** Solvent left when a panel is called cured. */
const LEFT = 0.02;

export interface PanelCoverage {
  panels: number;
  /** Share of the panels that could tell whose true hour lies within the 90 % interval, 0–100. */
  coveredPct: number;
  /** Share that said it was not enough, 0–100. */
  notEnoughPct: number;
  /** Median miss of τ and median width of the interval, % of the truth. */
  missPct: number;
  widthPct: number;
}

/**
 * How often the 90 % interval of a panel holds the true hour at which it is cured: `weighings` spread evenly over `overTau` time
 * constants, the first right after spraying.
 */
export function panelCoverage(options: {
  panels: number;
  weighings: number;
  overTau: number;
  seed: number;
}): PanelCoverage {
  const { panels, weighings, overTau, seed } = options;
  const random = randomStream(seed);
  const misses: number[] = [];
  const widths: number[] = [];
  let covered = 0;
  for (let i = 0; i < panels; i += 1) {
    const tau = random.logNormal(40, 0.6);
    const solvent = random.normal(6.5, 0.6);
    const limit = random.normal(186, 5);
    const told = Array.from({ length: weighings }, (_, j) => {
      const hours = (overTau * tau * j) / (weighings - 1);
      return { hours, grams: limit + solvent * Math.exp(-hours / tau) + random.normal(0, NOISE_G) };
    });
    const fit = fitTestPanel(told);
    if ('notEnough' in fit) continue;
    const truth = -tau * Math.log(LEFT);
    if (fit.low90 <= truth && truth <= fit.high90) covered += 1;
    misses.push((100 * Math.abs(fit.tauHours - tau)) / tau);
    widths.push((100 * (fit.high90 - fit.low90)) / truth);
  }
  const told = misses.length;
  return {
    panels,
    coveredPct: told === 0 ? NaN : (100 * covered) / told,
    notEnoughPct: (100 * (panels - told)) / panels,
    missPct: told === 0 ? NaN : quantile(misses, 0.5),
    widthPct: told === 0 ? NaN : quantile(widths, 0.5),
  };
}
