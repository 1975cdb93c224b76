import { DAY_MS } from '@ample-crane/core';
import { NEVER } from 'rxjs';
import { RacksService } from '../floor/racks.service.ts';
import { LiveService } from '../live/live.service.ts';
import { StaysService } from '../log/stays.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { Works } from '../testing/works.ts';
import { LoggedStaysService } from './logged-stays.service.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
});
afterEach(() => works.close());

/** One that hears of nothing, and so reads everything each time. */
const deaf = (): LoggedStaysService =>
  new LoggedStaysService(
    works.app.get(StaysService),
    works.app.get(RacksService),
    works.app.get(SetupService),
    { news: NEVER, caughtUp: () => Promise.resolve(false) } as unknown as LiveService,
  );

describe('stays that are kept', () => {
  it('are those of the log after every filing, late one, correction and new rack, for every window', async () => {
    const [kept, fresh] = [works.app.get(LoggedStaysService), deaf()];
    const read = jest.spyOn(works.app.get(StaysService), 'endedSince');
    let asked = 0;
    const agrees = async (): Promise<number> => {
      const nowMs = works.time.nowMs;
      let count = 0;
      for (const days of [3, 1, 2]) {
        asked += 1;
        const all = await fresh.since(nowMs - days * DAY_MS, nowMs);
        expect(await kept.since(nowMs - days * DAY_MS, nowMs)).toEqual(all);
        count = Math.max(count, all.length);
      }
      return count;
    };
    expect(await agrees()).toBe(0);
    const [first, second] = [await works.openRack('B', 4), await works.openRack('B', 3)];
    const opened = await agrees();
    await works.said(`${first} read 7.1 7.2 7.1 7.0`);
    works.later(30);
    await works.said(`${first} 2 hold a crack`);
    const passed = await agrees();
    expect(passed).toBeGreaterThan(opened);
    await works.said(`${second} 1 scrap knot`);
    await works.file(first, { type: 'scrap', pieces: [1], reason: 'split' });
    expect(await agrees()).toBeGreaterThan(passed);
    // Late, and taken back again.
    works.later(2);
    await works.said(`${second} 1 scrap knot 60 min ago`);
    await agrees();
    await works.said(`${second} undo`);
    await agrees();
    await works.said(`${first} undo`);
    await agrees();
    // The one that keeps nothing read all of it each time, the other one hardly ever.
    const whole = read.mock.calls.filter(([, batches]) => batches === undefined).length;
    expect(whole).toBeLessThan(asked + 3);
    expect(read.mock.calls.some(([, batches]) => batches?.includes(second))).toBe(true);
  });

  it('are as new as what another server has answered just now', async () => {
    const other = await Works.open(works.databaseUrl);
    try {
      const batch = await works.openRack('B', 12);
      const kept = other.app.get(LoggedStaysService);
      const gone = async (): Promise<number> =>
        (await kept.since(0, works.time.nowMs)).filter(({ ended }) => ended === 'scrapped').length;
      expect(await gone()).toBe(0);
      for (let i = 1; i <= 10; i += 1) {
        await works.said(`${batch} 1 scrap knot`);
        expect(await gone()).toBe(i);
      }
    } finally {
      await other.close();
    }
  });

  it('are read anew by whoever hears of no filing', async () => {
    const live = works.app.get(LiveService);
    expect(await live.caughtUp()).toBe(true);
    await live.beforeApplicationShutdown();
    expect(await live.caughtUp()).toBe(false);
    const batch = await works.openRack('B', 2);
    await works.said(`${batch} 1 scrap knot`);
    const kept = works.app.get(LoggedStaysService);
    expect((await kept.since(0, works.time.nowMs)).map(({ ended }) => ended)).toContain('scrapped');
  });
});
