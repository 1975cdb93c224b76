import { HOUR_MS } from '@ample-crane/core';
import { MONDAY } from '../testing/databases.ts';
import { Works } from '../testing/works.ts';
import { ClimateService } from './climate.service.ts';
import { RecentAirService } from './recent-air.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

const air = async (room: string) =>
  (await works.app.get(RecentAirService).of([room], works.time.nowMs)).get(room);
const keep = (room: string, hoursAgo: number, temperatureC: number) =>
  works.app
    .get(ClimateService)
    .keep([{ room, atMs: MONDAY - hoursAgo * HOUR_MS, temperatureC, relativeHumidityPct: 45 }]);

describe('the air of the last weeks', () => {
  it('is the same array as long as nothing is logged, so that what was worked out from it holds', async () => {
    await works.air('Wood room', 21, 30);
    const first = await air('Wood room');
    expect(first).toHaveLength(31);
    expect(await air('Wood room')).toBe(first);
    await keep('Cure room', 1, 24);
    expect(await air('Wood room')).toBe(first);
  });

  it('is read anew when an hour is added, and when one that was there is written again', async () => {
    const before = await air('Wood room');
    await keep('Wood room', 40, 19);
    const longer = await air('Wood room');
    expect(longer).not.toBe(before);
    expect(longer?.[0]).toMatchObject({ atMs: MONDAY - 40 * HOUR_MS, temperatureC: 19 });
    // A second reading within an hour moves its mean.
    await keep('Wood room', 39.5, 21);
    expect((await air('Wood room'))?.[0]?.temperatureC).toBe(20);
  });

  it('knows no room that nobody measures', async () => {
    expect(await air('Attic')).toBeUndefined();
  });
});
