import { factoryOffsetMs, hearFactoryClock } from './clock.ts';

/** The factory is ten minutes ahead of this device. */
const AHEAD_MS = 600_000;
const at = (ms: number): number => 1_800_000_000_000 + ms;

afterEach(() => localStorage.clear());

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

it('is the same in every page of the device: one that hears late takes the time from one that heard soon', async () => {
  hearFactoryClock(at(50) + AHEAD_MS, at(0), at(100));
  jest.resetModules();
  const other = await import('./clock.ts');
  // Loading took it two seconds: by itself it would be a second off.
  other.hearFactoryClock(at(1000) + AHEAD_MS, at(1000), at(3000));
  expect(other.factoryOffsetMs()).toBe(AHEAD_MS);
  expect(factoryOffsetMs()).toBe(AHEAD_MS);
});

it('believes a slow answer when the device was set to another time, and minds no nonsense that is kept', () => {
  hearFactoryClock(at(50) + AHEAD_MS, at(0), at(100));
  hearFactoryClock(at(1000), at(1000), at(3000));
  expect(factoryOffsetMs()).toBe(-1000);
  for (const nonsense of ['17', '{"offsetMs":"soon"}', '{', '[]']) {
    localStorage.setItem('ample-crane.clock-offset', nonsense);
    hearFactoryClock(at(50) + AHEAD_MS, at(0), at(100));
    expect(factoryOffsetMs()).toBe(AHEAD_MS);
  }
});
