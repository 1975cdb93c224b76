import { weightForecast, type WeightTerm } from './weight-forecast.ts';

// A body of a 3.80 kg blank of which 52 % stay, a neck that was weighed, a kit by its parts.
const BODY: WeightTerm = {
  what: 'body',
  blankKg: 3.8,
  blankSdKg: 0,
  keep: { mean: 0.52, sd: 0.02 },
  chamberKg: 0.35,
};
const NECK: WeightTerm = { what: 'neck', weighedKg: 0.48 };
const KIT: WeightTerm = { what: 'kit', reckonedKg: 0.78, sdKg: 0.03 };

test('a whole case by hand: body, neck and kit, and how sure that is', () => {
  const { kg, sdKg, lowKg, highKg, terms, insideShare } = weightForecast([BODY, NECK, KIT], {
    low: 3.1,
    high: 3.4,
  });
  expect(kg).toBeCloseTo(3.8 * 0.52 + 0.48 + 0.78, 9); // 3.236
  expect(sdKg).toBeCloseTo(Math.sqrt(0.076 ** 2 + 0.005 ** 2 + 0.03 ** 2), 9); // 0.0819
  expect(lowKg).toBeCloseTo(3.1013, 3);
  expect(highKg).toBeCloseTo(3.3707, 3);
  // Φ(2.003) − Φ(−1.661) = 0.9774 − 0.0484.
  expect(insideShare).toBeCloseTo(0.929, 2);
  expect(terms.map(({ from }) => from)).toEqual(['blank', 'weighed', 'reckoned']);
});

test('a blank nobody weighed spreads wider than one that was', () => {
  const usual = weightForecast([{ ...BODY, blankSdKg: 0.3 }, NECK, KIT], null);
  expect(usual.sdKg).toBeCloseTo(Math.hypot(0.52 * 0.3, 0.076, 0.005, 0.03), 9);
  expect(usual.insideShare).toBeNull();
});

test('what is too heavy is chambered to the middle of its window, and no further than its bodies may be', () => {
  expect(weightForecast([BODY, NECK, KIT], { low: 3, high: 3.2 }).chamberKg).toBeCloseTo(0.136, 9);
  expect(weightForecast([BODY, NECK, KIT], { low: 2, high: 2.2 }).chamberKg).toBe(0.35);
  expect(weightForecast([BODY, NECK, KIT], { low: 3.4, high: 3.6 }).chamberKg).toBe(0);
  expect(weightForecast([{ what: 'whole', weighedKg: 4 }], { low: 3, high: 3.2 }).chamberKg).toBe(0);
});

test('nothing known, or nothing that weighs, is no forecast', () => {
  expect(() => weightForecast([], null)).toThrow(RangeError);
  expect(() => weightForecast([{ what: 'neck', weighedKg: 0 }], null)).toThrow('neck of 0 kg');
});
