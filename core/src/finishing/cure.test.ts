import { HOUR_MS } from '../units/quantities.ts';
import type { ClimateSample } from '../units/climate.ts';
import { cureRate, curedHours } from './cure.ts';
import { dewPointC } from './dew-point.ts';

const lacquer = { q: 1.6 };
const hourly = (temperatures: number[], relativeHumidityPct = 50): ClimateSample[] =>
  temperatures.map((temperatureC, i) => ({ atMs: i * HOUR_MS, temperatureC, relativeHumidityPct }));

describe('the cure clock', () => {
  it('runs hour for hour at the reference climate', () => {
    const hours = curedHours({
      climate: hourly(Array<number>(25).fill(21)),
      fromMs: 0,
      toMs: 24 * HOUR_MS,
      kinetics: lacquer,
    });
    expect(hours).toBeCloseTo(24, 10);
  });

  it('runs q times as fast ten degrees warmer', () => {
    expect(cureRate({ temperatureC: 31, relativeHumidityPct: 50 }, lacquer)).toBeCloseTo(1.6, 10);
    expect(cureRate({ temperatureC: 31, relativeHumidityPct: 50 }, { q: 2 })).toBeCloseTo(2, 10);
  });

  it('loses what a cold night takes: 12 h at 21 °C and 12 h at 11 °C with q = 2 are 18 reference hours', () => {
    const climate = hourly([...Array<number>(12).fill(21), ...Array<number>(12).fill(11)]);
    expect(curedHours({ climate, fromMs: 0, toMs: 24 * HOUR_MS, kinetics: { q: 2 } })).toBeCloseTo(18, 10);
  });

  it('slows in damp air: 75 % runs at three quarters, 85 % and above at half', () => {
    const rate = (relativeHumidityPct: number): number =>
      cureRate({ temperatureC: 21, relativeHumidityPct }, lacquer);
    expect([rate(65), rate(75), rate(85), rate(99)]).toEqual([1, 0.75, 0.5, 0.5]);
  });

  it('bridges a silent sensor with the usual air', () => {
    const climate = [
      { atMs: 0, temperatureC: 21, relativeHumidityPct: 50 },
      { atMs: 40 * HOUR_MS, temperatureC: 21, relativeHumidityPct: 50 },
    ];
    expect(curedHours({ climate, fromMs: 0, toMs: 40 * HOUR_MS, kinetics: lacquer })).toBeCloseTo(40, 10);
  });

  it('starts in the middle of a sample and before the first one', () => {
    const climate = hourly([21, 21, 21]);
    expect(curedHours({ climate, fromMs: 0.5 * HOUR_MS, toMs: 2 * HOUR_MS, kinetics: lacquer })).toBeCloseTo(
      1.5,
      10,
    );
    expect(curedHours({ climate, fromMs: -5 * HOUR_MS, toMs: HOUR_MS, kinetics: lacquer })).toBeCloseTo(
      6,
      10,
    );
  });

  it('never runs backwards, and knows when it knows nothing', () => {
    expect(curedHours({ climate: hourly([21]), fromMs: HOUR_MS, toMs: 0, kinetics: lacquer })).toBe(0);
    expect(curedHours({ climate: [], fromMs: 0, toMs: HOUR_MS, kinetics: lacquer })).toBeUndefined();
  });
});

describe('dew point', () => {
  // Psychrometric values (ASHRAE Fundamentals, moist air at sea level), rounded to 0.1 °C.
  it.each([
    [20, 50, 9.3],
    [25, 60, 16.7],
    [30, 80, 26.2],
    [0, 95, -0.7],
    [40, 20, 12.8],
  ])('at %d °C and %d %% RH is %d °C within 0.3', (temperatureC, relativeHumidityPct, dew) => {
    expect(Math.abs(dewPointC({ temperatureC, relativeHumidityPct }) - dew)).toBeLessThan(0.3);
  });

  it('is the air itself when saturated, and refuses 0 %', () => {
    expect(dewPointC({ temperatureC: 18, relativeHumidityPct: 100 })).toBeCloseTo(18, 6);
    expect(() => dewPointC({ temperatureC: 18, relativeHumidityPct: 0 })).toThrow(/relativeHumidityPct/);
  });
});
