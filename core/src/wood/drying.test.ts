import { dryingOutlook } from './drying.ts';

describe('drying outlook', () => {
  const air = { temperatureC: 21, relativeHumidityPct: 36 };

  it('follows the exponential: from one τ above to e times nearer takes one τ', () => {
    const { emcPct } = dryingOutlook({ meanPct: 10, highPct: 8.5, air, tauDays: 20 });
    const outlook = dryingOutlook({ meanPct: emcPct + Math.E, highPct: emcPct + 1, air, tauDays: 20 });
    expect(outlook.hours?.median).toBeCloseTo(20 * 24, 6);
    expect(outlook.hours?.low90).toBeLessThan(20 * 24);
    expect(outlook.hours?.high90).toBeGreaterThan(20 * 24);
  });

  it('is over at once for wood that is dry enough', () => {
    expect(dryingOutlook({ meanPct: 8, highPct: 8.5, air, tauDays: 20 }).hours?.median).toBe(0);
  });

  it('says never in a room that would take it no lower', () => {
    const damp = { temperatureC: 21, relativeHumidityPct: 60 };
    expect(dryingOutlook({ meanPct: 10, highPct: 8.5, air: damp, tauDays: 20 }).hours).toBeNull();
  });
});
