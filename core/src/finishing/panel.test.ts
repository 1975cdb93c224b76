import { randomStream } from '../stats/random.ts';
import { panelCoverage } from './panel-coverage.ts';
import { fitTestPanel, panelBuffHours, rescaledHours, type Weighing } from './panel.ts';

const LIMIT_G = 182;
const SOLVENT_G = 6;
/** A panel with a time constant of 40 h, weighed on a balance that shows 5 mg. */
const panel = (tau: number, hours: readonly number[], noise: (i: number) => number = () => 0): Weighing[] =>
  hours.map((h, i) => ({ hours: h, grams: LIMIT_G + SOLVENT_G * Math.exp(-h / tau) + noise(i) }));
const over5Tau = (tau: number): number[] => [0, 0.4, 1, 1.8, 3, 5].map((x) => x * tau);

describe('a test panel', () => {
  it('without noise gives its time constant, its limit, and −τ ln 0.02 hours to cured', () => {
    const fit = fitTestPanel(panel(40, over5Tau(40)));
    if ('notEnough' in fit) throw new Error(fit.notEnough);
    expect(fit.tauHours).toBeCloseTo(40, 1);
    expect(fit.limitGrams).toBeCloseTo(LIMIT_G, 2);
    expect(fit.solventGrams).toBeCloseTo(SOLVENT_G, 2);
    expect(fit.curedAtHours).toBeCloseTo(40 * Math.log(50), 0);
  });

  it('gives τ within 10 % from six noisy weighings over five time constants, in 200 panels of 200', () => {
    const random = randomStream(7);
    const far = Array.from({ length: 200 }, () => {
      const tau = random.between(5, 120);
      const fit = fitTestPanel(panel(tau, over5Tau(tau), () => random.normal(0, 0.02)));
      return 'notEnough' in fit || Math.abs(fit.tauHours / tau - 1) > 0.1;
    }).filter(Boolean);
    expect(far).toHaveLength(0);
  });

  it('does not guess from three weighings in the first time constant, nor from a straight line', () => {
    expect(fitTestPanel(panel(40, [0, 15, 35]))).toEqual({ notEnough: '3 of at least 4 weighings' });
    const early = fitTestPanel(panel(40, [0, 5, 10, 15, 20]));
    expect(early).toHaveProperty('notEnough', expect.stringMatching(/weigh on/));
    const noisy = randomStream(3);
    const scattered = fitTestPanel(panel(40, [0, 20, 40, 70, 110], () => noisy.normal(0, 3)));
    expect(scattered).toHaveProperty('notEnough');
  });

  it('holds the true hour in its 90 % interval 85 to 95 times of 100, on 500 simulated panels', () => {
    const { coveredPct, notEnoughPct } = panelCoverage({ panels: 500, weighings: 6, overTau: 5, seed: 2026 });
    expect(coveredPct).toBeGreaterThanOrEqual(85);
    expect(coveredPct).toBeLessThanOrEqual(95);
    expect(notEnoughPct).toBe(0);
    expect(panelCoverage({ panels: 100, weighings: 5, overTau: 1, seed: 7 }).notEnoughPct).toBe(100);
  });

  it('does not mind the order of the weighings, and refuses what cannot be', () => {
    const weighings = panel(40, over5Tau(40));
    expect(fitTestPanel([...weighings].reverse())).toEqual(fitTestPanel(weighings));
    expect(() => fitTestPanel([{ hours: 1, grams: 0 }])).toThrow(/grams must be above 0, got 0/);
    expect(() => fitTestPanel([{ hours: -1, grams: 5 }])).toThrow(/hours must be 0 or more/);
    expect(() =>
      fitTestPanel([
        { hours: 1, grams: 5 },
        { hours: 1, grams: 4 },
      ]),
    ).toThrow(/two weighings at 1 h/);
  });

  it('says its material’s hours at the reference film, by how the film hardens', () => {
    const hours = { recoat: 1.5, sand: 72, buff: 336 };
    const tauHours = 336 / Math.log(8 / (0.02 * Math.PI ** 2));
    const fit = { tauHours, curedAtHours: 120 };
    const lacquer = { q: 1.6, hours, referenceUm: 92 };
    // A film as the recipe has it gives its hours back; half as thick with the same pace, four times as many.
    expect(panelBuffHours(fit, { filmUm: 92, hoursAtReference: 1 }, lacquer)).toBeCloseTo(336, 8);
    expect(panelBuffHours(fit, { filmUm: 46, hoursAtReference: 1 }, lacquer)).toBeCloseTo(4 * 336, 8);
    expect(panelBuffHours(fit, { filmUm: 46, hoursAtReference: 0.5 }, { ...lacquer, by: 'reaction' })).toBe(
      60,
    );
    expect(panelBuffHours(fit, { filmUm: 184, hoursAtReference: 1 }, { ...lacquer, by: 'oxidation' })).toBe(
      60,
    );
    expect(() => panelBuffHours(fit, { filmUm: 0, hoursAtReference: 1 }, lacquer)).toThrow(
      /above 0, got 0 µm/,
    );
  });

  it('re-scales a recipe by the mean of its panels, with their spread', () => {
    expect(rescaledHours([])).toBeNull();
    expect(rescaledHours([300])).toEqual({ hours: 300, sd: null, panels: 1 });
    expect(rescaledHours([280, 300, 320])).toEqual({ hours: 300, sd: 20, panels: 3 });
  });
});
