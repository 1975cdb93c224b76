import {
  boardFeet,
  celsiusFromFahrenheit,
  fahrenheitFromCelsius,
  inchesFromMm,
  mmFromInches,
  umFromMils,
} from './quantities.ts';

describe('units', () => {
  it('turns a 13 inch body into 330.2 mm and back', () => {
    expect(mmFromInches(13)).toBeCloseTo(330.2, 10);
    expect(inchesFromMm(330.2)).toBeCloseTo(13, 10);
  });

  it('knows the reference climate on both scales', () => {
    expect(celsiusFromFahrenheit(70)).toBeCloseTo(21.111, 3);
    expect(fahrenheitFromCelsius(21)).toBeCloseTo(69.8, 10);
  });

  it('reads a 4 mil wet film as about 100 µm', () => {
    expect(umFromMils(4)).toBeCloseTo(101.6, 10);
  });

  it('counts a board of 2 in by 6 in by 8 ft as 8 board feet', () => {
    expect(boardFeet({ thicknessIn: 2, widthIn: 6, lengthFt: 8 })).toBe(8);
  });

  it('refuses a negative or missing dimension by name', () => {
    expect(() => boardFeet({ thicknessIn: -1, widthIn: 6, lengthFt: 8 })).toThrow(/thicknessIn/);
    expect(() => boardFeet({ thicknessIn: 1, widthIn: NaN, lengthFt: 8 })).toThrow(/widthIn/);
  });
});
