import { DAY_MS } from '../units/quantities.ts';
import { coatLitres, supplyAhead } from './materials.ts';

describe('material', () => {
  it('of a coat: 0.5 m² at 110 µm wet are 55 ml on the work, 110 ml out of the can at half transfer', () => {
    expect(coatLitres({ areaM2: 0.5, wetUm: 110, transferPct: 50 })).toBeCloseTo(0.11, 10);
    expect(() => coatLitres({ areaM2: 0.5, wetUm: 110, transferPct: 0 })).toThrow(/transfer above 0 to 100/);
    expect(() => coatLitres({ areaM2: -1, wetUm: 110, transferPct: 50 })).toThrow(RangeError);
  });

  it('reaches the racks ahead in the order they come, each lot only until its own date (11.12)', () => {
    const lots = [
      { code: 'keeps', leftLitres: 4, expiresMs: null },
      { code: 'soon', leftLitres: 10, expiresMs: 3 * DAY_MS },
      { code: 'gone', leftLitres: 99, expiresMs: -DAY_MS },
      { code: 'empty', leftLitres: 0, expiresMs: null },
    ];
    const demand = [
      { batch: 'B-3', litres: 3, atMs: 20 * DAY_MS },
      { batch: 'B-1', litres: 6, atMs: DAY_MS },
      { batch: 'B-2', litres: 2, atMs: 10 * DAY_MS },
    ];
    // B-1 takes 6 of the 10 l that end on day 3; B-2 takes 2 of the 4 that keep; B-3 wants 3 and finds 2.
    expect(supplyAhead({ lots, demand, nowMs: 0 })).toEqual({
      ...{ litres: 14, plannedLitres: 11, runsOut: { batch: 'B-3', atMs: 20 * DAY_MS } },
      ...{ shortLitres: 1, wastedLitres: 4 },
    });
    expect(supplyAhead({ lots, demand: demand.slice(1), nowMs: 0 })).toMatchObject({
      ...{ runsOut: null, shortLitres: 0, wastedLitres: 4 },
    });
    expect(supplyAhead({ lots: [], demand: [], nowMs: 0 })).toEqual({
      ...{ litres: 0, plannedLitres: 0, runsOut: null, shortLitres: 0, wastedLitres: 0 },
    });
  });
});
