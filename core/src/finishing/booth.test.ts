import { HOUR_MS } from '../units/quantities.ts';
import { boothOutlook, closesMs, judgeBooth, opensMs, type BoothSample } from './booth.ts';
import { dewPointC } from './dew-point.ts';

/**
 * Psychrometric values: dew points of moist air (ASHRAE Handbook—Fundamentals, saturation over water), from the saturation
 * pressures of Hyland and Wexler (1983), which stand here as the published reference.
 */
const HYLAND_WEXLER = [
  -5.8002206e3, 1.3914993, -4.8640239e-2, 4.1764768e-5, -1.4452093e-8, 6.5459673,
] as const;
function saturationPa(temperatureC: number): number {
  const t = temperatureC + 273.15;
  const [c8, c9, c10, c11, c12, c13] = HYLAND_WEXLER;
  return Math.exp(c8 / t + c9 + c10 * t + c11 * t ** 2 + c12 * t ** 3 + c13 * Math.log(t));
}
function publishedDewC(temperatureC: number, relativeHumidityPct: number): number {
  const wanted = (saturationPa(temperatureC) * relativeHumidityPct) / 100;
  let [low, high] = [-40, temperatureC];
  while (high - low > 1e-6) {
    const middle = (low + high) / 2;
    if (saturationPa(middle) < wanted) low = middle;
    else high = middle;
  }
  return high;
}

describe('the dew point', () => {
  it('agrees with the saturation pressures themselves: 2339 Pa at 20 °C (tables), 3169 Pa at 25 °C', () => {
    expect(saturationPa(20)).toBeCloseTo(2339, -1);
    expect(saturationPa(25)).toBeCloseTo(3169, -1);
  });

  it('lies within 0.3 °C of the published values over 0–40 °C and 20–95 % RH', () => {
    let worst = 0;
    let compared = 0;
    for (let t = 0; t <= 40; t += 2)
      for (let rh = 20; rh <= 95; rh += 5) {
        const off = Math.abs(dewPointC({ temperatureC: t, relativeHumidityPct: rh }) - publishedDewC(t, rh));
        worst = Math.max(worst, off);
        compared += 1;
      }
    expect(compared).toBe(21 * 16);
    expect(worst).toBeLessThan(0.3);
  });
});

describe('a booth', () => {
  it('may be sprayed in with 3 °C to the dew point, up to 70 % RH, from 16 to 30 °C', () => {
    const good = judgeBooth({ temperatureC: 22, relativeHumidityPct: 48, surfaceC: 20 });
    expect(good.verdict).toBe('spray');
    // At 22 °C and 48 % the dew point is 10.5 °C.
    expect(good.marginC).toBeCloseTo(9.5, 1);
    expect(good.against).toEqual([]);
  });

  it('blushes lacquer on cold work in damp air: 19.6 °C of surface over a dew point of 17.8 °C', () => {
    const damp = judgeBooth({ temperatureC: 22.4, relativeHumidityPct: 75.3, surfaceC: 19.6 });
    expect(damp.dewC).toBeCloseTo(17.8, 1);
    expect(damp.verdict).toBe('blush');
    expect(damp.against).toEqual([
      'the work is 1.8 °C above the dew point, 3 °C above it wanted',
      '75 % RH, at most 70',
    ]);
  });

  it('holds in the cold, and says when the surface was not measured', () => {
    const cold = judgeBooth({ temperatureC: 14, relativeHumidityPct: 40 });
    expect([cold.verdict, cold.surfaceMeasured]).toEqual(['hold', false]);
    expect(cold.against).toEqual(['14.0 °C, wanted 16–30 °C']);
  });
});

describe('the hours to come of a booth', () => {
  const nowMs = Date.UTC(2026, 10, 24, 12);
  /** Damp in the evenings, from 16:00 to 22:00. */
  const twoWeeks: BoothSample[] = Array.from({ length: 14 * 24 + 1 }, (_, i) => {
    const atMs = nowMs - (14 * 24 - i) * HOUR_MS;
    const hour = new Date(atMs).getUTCHours();
    const relativeHumidityPct = hour >= 16 && hour < 22 ? 78 : 50;
    return { atMs, temperatureC: 21, relativeHumidityPct, surfaceC: 20 };
  });
  const outlook = boothOutlook({ samples: twoWeeks, nowMs, hours: 24 });

  it('repeat the pattern of the last two weeks: it closes at 16:00 and opens at 22:00', () => {
    if (!outlook) throw new Error('no outlook');
    expect(outlook).toHaveLength(24);
    expect(closesMs(outlook)).toBe(Date.UTC(2026, 10, 24, 16));
    expect(opensMs(outlook.filter(({ atMs }) => atMs >= Date.UTC(2026, 10, 24, 16)))).toBe(
      Date.UTC(2026, 10, 24, 22),
    );
  });

  it('start from the air as it is now, which dies away', () => {
    const warmer = twoWeeks.map((one, i) => (i === twoWeeks.length - 1 ? { ...one, temperatureC: 25 } : one));
    const hours = boothOutlook({ samples: warmer, nowMs, hours: 24 });
    expect(hours?.[0]?.temperatureC).toBeGreaterThan(24);
    expect(hours?.at(-1)?.temperatureC).toBeLessThan(22);
    expect((hours?.[0]?.lowMarginC ?? 0) <= (hours?.[0]?.marginC ?? 0)).toBe(true);
  });

  it('are not guessed without samples', () =>
    expect(boothOutlook({ samples: [], nowMs, hours: 24 })).toBeUndefined());
});
