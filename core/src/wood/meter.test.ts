import { randomStream } from '../stats/random.ts';
import { densityKgM3, speciesNamed } from './species.ts';
import { correctMeterReadingPct, fitMeterLine, ovenDryMoisturePct, UNCORRECTED } from './meter.ts';
import { movementMm } from './movement.ts';

describe('a meter reading', () => {
  it('is lowered for warm wood and raised for cold: 10 % at 31 °C loses 0.0055 · 10 · 10 = 0.55', () => {
    expect(correctMeterReadingPct({ readingPct: 10, woodTemperatureC: 31, line: UNCORRECTED })).toBeCloseTo(
      9.45,
      9,
    );
    expect(correctMeterReadingPct({ readingPct: 10, woodTemperatureC: 11, line: UNCORRECTED })).toBeCloseTo(
      10.55,
      9,
    );
    expect(correctMeterReadingPct({ readingPct: 10, woodTemperatureC: 21, line: UNCORRECTED })).toBe(10);
  });

  it('then takes the meter’s line for the species', () => {
    expect(
      correctMeterReadingPct({ readingPct: 8, woodTemperatureC: 21, line: { a: 0.4, b: 0.9 } }),
    ).toBeCloseTo(7.6, 9);
  });

  it('of a pinless meter does not depend on the temperature', () => {
    const line = { a: 0, b: 1, ignoresTemperature: true };
    expect(correctMeterReadingPct({ readingPct: 10, woodTemperatureC: 31, line })).toBe(10);
  });

  it('stays within what a reading can be, however wild it was: 99 % in the frost', () => {
    expect(correctMeterReadingPct({ readingPct: 99, woodTemperatureC: -15, line: { a: 2, b: 1.1 } })).toBe(
      100,
    );
    expect(correctMeterReadingPct({ readingPct: 1, woodTemperatureC: 21, line: { a: -3, b: 1 } })).toBe(0);
  });

  it('refuses a missing temperature instead of taking it as 0 °C', () => {
    expect(() => correctMeterReadingPct({ readingPct: 8, woodTemperatureC: NaN, line: UNCORRECTED })).toThrow(
      /woodTemperatureC/,
    );
  });
});

describe('calibration by the oven-dry test', () => {
  const sample = (readingPct: number, ovenDryPct: number) => ({
    readingPct,
    woodTemperatureC: 21,
    ovenDryPct,
  });

  it('finds the line through samples done by hand, with its residuals', () => {
    // Least squares by hand: mean x 8, mean y 7.5, Sxy 7.8, Sxx 8 → b 0.975, a −0.3.
    const fit = fitMeterLine([sample(6, 5.6), sample(8, 7.4), sample(10, 9.5)]);
    expect(fit?.b).toBeCloseTo(0.975, 9);
    expect(fit?.a).toBeCloseTo(-0.3, 9);
    expect(fit?.residualsPct.map((r) => Number(r.toFixed(3)))).toEqual([0.05, -0.1, 0.05]);
    expect(fit).toMatchObject({ count: 3, fromPct: 6, toPct: 10 });
  });

  it('gives back a known line from noisy samples (seed 5)', () => {
    const random = randomStream(5);
    const samples = Array.from({ length: 60 }, (_, i) => {
      const readingPct = 6 + i / 6;
      return {
        readingPct,
        woodTemperatureC: 21,
        ovenDryPct: 0.5 + 0.92 * readingPct + random.normal(0, 0.2),
      };
    });
    const fit = fitMeterLine(samples);
    expect(fit?.a).toBeCloseTo(0.5, 0);
    expect(fit?.b).toBeCloseTo(0.92, 1);
    expect(fit?.residualSdPct).toBeCloseTo(0.2, 1);
  });

  it('draws no line through two samples, nor through samples read alike', () => {
    expect(fitMeterLine([sample(6, 5.6), sample(8, 7.4)])).toBeNull();
    expect(fitMeterLine([sample(8, 7.4), sample(8, 7.6), sample(8, 7.5)])).toBeNull();
  });

  it('weighs: 108 g wet, 100 g dry is 8 %, and dry never weighs more', () => {
    expect(ovenDryMoisturePct({ wetG: 108, dryG: 100 })).toBe(8);
    expect(() => ovenDryMoisturePct({ wetG: 99, dryG: 100 })).toThrow(/100 g or more/);
  });
});

describe('movement across the grain', () => {
  it('of a 330 mm flat-sawn ash body from 9 to 7 %: 330 · 7.8 % · 2/30 = 1.716 mm less', () => {
    const shrinkagePct = speciesNamed('white ash').tangentialShrinkagePct;
    expect(movementMm({ widthMm: 330, shrinkagePct, fromPct: 9, toPct: 7 })).toBeCloseTo(-1.716, 6);
  });

  it('stops at fibre saturation', () => {
    expect(movementMm({ widthMm: 100, shrinkagePct: 9, fromPct: 60, toPct: 30 })).toBeCloseTo(0, 9);
    expect(() => movementMm({ widthMm: 100, shrinkagePct: 9, fromPct: -1, toPct: 8 })).toThrow(/fromPct/);
  });
});

describe('species', () => {
  it('are found by name and refused when unknown', () => {
    expect(densityKgM3(speciesNamed('Hard Maple').basicSpecificGravity, 8)).toBeCloseTo(604.8, 6);
    expect(() => speciesNamed('plywood')).toThrow(/plywood/);
  });
});
