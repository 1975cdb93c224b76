import { factoryOffsetMs, hearFactoryClock } from './clock.ts';

/** The factory is ten minutes ahead of this device. */
const AHEAD_MS = 600_000;
const at = (ms: number): number => 1_800_000_000_000 + ms;

it('takes the factory clock from the answers that were shortest on their way', () => {
  // 200 ms there and 200 back: told in the middle, exact.
  hearFactoryClock(at(200) + AHEAD_MS, at(0), at(400));
  expect(factoryOffsetMs()).toBe(AHEAD_MS);
  // Four seconds on the way back only: it would put the clock two seconds off.
  hearFactoryClock(at(1000) + AHEAD_MS, at(1000), at(5000));
  expect(factoryOffsetMs()).toBe(AHEAD_MS);
  // Quicker, and the device's clock was put back meanwhile: believed.
  hearFactoryClock(at(6050) + AHEAD_MS + 30_000, at(6000), at(6100));
  expect(factoryOffsetMs()).toBe(AHEAD_MS + 30_000);
  // After a quarter of an hour any answer is worth more than the old one.
  hearFactoryClock(at(906_000) + AHEAD_MS, at(905_000), at(907_000));
  expect(factoryOffsetMs()).toBe(AHEAD_MS);
});
