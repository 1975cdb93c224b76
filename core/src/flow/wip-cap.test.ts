import { wipAgainstCap } from './wip-cap.ts';

describe('work in process against its cap', () => {
  it('is what leaves a day times the days it should take: 56 in 28 days and 40 days wanted are 80', () => {
    expect(wipAgainstCap({ inHouse: 110, left: 56, windowDays: 28, wantedDays: 40 })).toEqual({
      ...{ inHouse: 110, leftADay: 2, leadDays: 55, cap: 80 },
    });
  });

  it('is told without a cap where no lead time is wanted, and without a lead time where nothing left', () => {
    expect(wipAgainstCap({ inHouse: 10, left: 14, windowDays: 28, wantedDays: null })).toEqual({
      ...{ inHouse: 10, leftADay: 0.5, leadDays: 20, cap: null },
    });
    expect(wipAgainstCap({ inHouse: 10, left: 0, windowDays: 28, wantedDays: 40 })).toEqual({
      ...{ inHouse: 10, leftADay: 0, leadDays: null, cap: null },
    });
  });

  it.each([
    { inHouse: -1, left: 1, windowDays: 28, wantedDays: null },
    { inHouse: 1, left: 1, windowDays: 0, wantedDays: null },
    { inHouse: 1, left: NaN, windowDays: 28, wantedDays: null },
    { inHouse: 1, left: 1, windowDays: 28, wantedDays: 0 },
  ])('refuses %o', (asked) => {
    expect(() => wipAgainstCap(asked)).toThrow(RangeError);
  });
});
