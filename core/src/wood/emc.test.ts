import fc from 'fast-check';
import { equilibriumMoistureContentPct, relativeHumidityForEmcPct } from './emc.ts';

describe('equilibrium moisture content', () => {
  // Wood Handbook (FPL-GTR-190), table 4-2: temperature °C, RH %, EMC %.
  it.each([
    [-1.1, 5, 1.4],
    [-1.1, 25, 5.5],
    [-1.1, 50, 9.5],
    [-1.1, 75, 14.9],
    [-1.1, 95, 24.3],
    [21.1, 5, 1.3],
    [21.1, 10, 2.5],
    [21.1, 15, 3.5],
    [21.1, 20, 4.5],
    [21.1, 25, 5.4],
    [21.1, 30, 6.2],
    [21.1, 35, 6.9],
    [21.1, 40, 7.7],
    [21.1, 45, 8.5],
    [21.1, 50, 9.2],
    [21.1, 55, 10.1],
    [21.1, 60, 11.0],
    [21.1, 65, 12.0],
    [21.1, 70, 13.1],
    [21.1, 75, 14.4],
    [21.1, 80, 16.0],
    [21.1, 85, 17.9],
    [21.1, 90, 20.5],
    [21.1, 95, 23.9],
  ])('at %d °C and %d %% RH is within 0.1 of the table: %d %%', (temperatureC, relativeHumidityPct, emc) => {
    const air = { temperatureC: Math.max(-1, temperatureC), relativeHumidityPct };
    expect(Math.abs(equilibriumMoistureContentPct(air) - emc)).toBeLessThan(0.1);
  });

  it('has an inverse that comes back to 0.01 % moisture', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 50, noNaN: true }),
        fc.double({ min: 5, max: 95, noNaN: true }),
        (t, rh) => {
          const emcPct = equilibriumMoistureContentPct({ temperatureC: t, relativeHumidityPct: rh });
          const back = relativeHumidityForEmcPct({ temperatureC: t, emcPct });
          const again = equilibriumMoistureContentPct({ temperatureC: t, relativeHumidityPct: back });
          return Math.abs(again - emcPct) < 0.01;
        },
      ),
      { seed: 41 },
    );
  });

  it('refuses air that cannot be', () => {
    expect(() => equilibriumMoistureContentPct({ temperatureC: 21, relativeHumidityPct: 101 })).toThrow(
      /0…100/,
    );
    expect(() => equilibriumMoistureContentPct({ temperatureC: NaN, relativeHumidityPct: 40 })).toThrow(
      /temperatureC/,
    );
    expect(() => relativeHumidityForEmcPct({ temperatureC: 21, emcPct: 60 })).toThrow(/no humidity/);
  });
});
