import { DAY_MS } from '../units/quantities.ts';
import { coatLitres, daysOfSupply } from './materials.ts';

describe('material', () => {
  it('of a coat: 0.5 m² at 110 µm wet are 55 ml on the work, 110 ml out of the can at half transfer', () => {
    expect(coatLitres({ areaM2: 0.5, wetUm: 110, transferPct: 50 })).toBeCloseTo(0.11, 10);
    expect(() => coatLitres({ areaM2: 0.5, wetUm: 110, transferPct: 0 })).toThrow(/transfer above 0 to 100/);
    expect(() => coatLitres({ areaM2: -1, wetUm: 110, transferPct: 50 })).toThrow(RangeError);
  });

  it('lasts as long as each lot until its own date', () => {
    const lots = [
      { code: 'keeps', leftLitres: 4, expiresMs: null },
      { code: 'soon', leftLitres: 10, expiresMs: 3 * DAY_MS },
      { code: 'gone', leftLitres: 99, expiresMs: -DAY_MS },
      { code: 'empty', leftLitres: 0, expiresMs: null },
    ];
    // 2 l a day: three days from the one that expires (6 of its 10 l), two from the one that keeps.
    expect(daysOfSupply({ lots, litresADay: 2, nowMs: 0 })).toEqual({
      litres: 14,
      litresADay: 2,
      days: 5,
      wastedLitres: 4,
    });
    expect(daysOfSupply({ lots, litresADay: 0, nowMs: 0 }).days).toBeNull();
    expect(() => daysOfSupply({ lots, litresADay: -1, nowMs: 0 })).toThrow(/litresADay/);
  });
});
