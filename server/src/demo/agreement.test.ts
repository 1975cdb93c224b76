import type { NestExpressApplication } from '@nestjs/platform-express';
import { createApp } from '../app.ts';
import { migrate } from '../database/data-source.ts';
import { BoardService } from '../flow/board.service.ts';
import { KitsService } from '../kits/kits.service.ts';
import { StoreService } from '../kits/store.service.ts';
import { BacklogService } from '../orders/backlog.service.ts';
import { OrderRacksService } from '../orders/order-racks.service.ts';
import { OrderViewsService } from '../orders/order-views.service.ts';
import { freshDatabase } from '../testing/databases.ts';
import { DemoService } from './demo.service.ts';

let app: NestExpressApplication;
beforeAll(async () => {
  process.env.DEMO_NOW = '2026-11-24T19:20:00Z';
  const url = await freshDatabase(process.env.TARROW_DATABASE);
  process.env.DATABASE_URL = url;
  app = await createApp({ logger: false });
  await migrate(url);
  if (await app.get(DemoService).isWanted()) await app.get(DemoService).load();
});
afterAll(() => app.close());

describe('the pages of Tarrow Works agree', () => {
  it('on what is ordered and not begun: book, racks to open, backlog by month', async () => {
    const [orders, racks, backlog] = await Promise.all([
      app.get(OrderViewsService).open(),
      app.get(OrderRacksService).plan({ largest: 12, withinDays: 14 }),
      app.get(BacklogService).view(),
    ]);
    const inBook = orders.reduce((sum, { unbegun }) => sum + unbegun, 0);
    expect(inBook).toBeGreaterThan(50);
    expect(racks.reduce((sum, { quantity }) => sum + quantity, 0)).toBe(inBook);
    expect(backlog.pieces).toBe(inBook);
    expect(backlog.months.reduce((sum, { pieces }) => sum + pieces, 0)).toBe(inBook);
    expect(backlog.months.reduce((sum, { hours }) => sum + hours, 0)).toBeCloseTo(backlog.hours, 9);
  });

  it('on parts: store, kits ahead, each bin, and the calls of the board', async () => {
    const kits = app.get(KitsService);
    const [{ ahead, shortages }, stock, board] = await Promise.all([
      kits.view(60),
      app.get(StoreService).stock(),
      app.get(BoardService).board(),
    ]);
    const onHand = new Map(stock.map(({ code, onHand: there }) => [code, there]));
    expect(Math.min(...onHand.values())).toBeGreaterThanOrEqual(0);
    expect(shortages).toHaveLength(2);
    for (const { part, onHand: there, racks, short } of shortages) {
      expect(there).toBe(onHand.get(part));
      expect(racks.reduce((sum, rack) => sum + rack.short, 0)).toBe(short);
      for (const { batch, short: own } of ahead)
        expect(own.filter((one) => one.part === part).map((one) => one.short)).toEqual(
          racks.filter(({ rack }) => rack === batch).map((rack) => rack.short),
        );
    }
    for (const { batch, bins } of ahead)
      for (const { position, standing, bin } of bins) {
        const pick = await kits.pick(batch, position);
        expect([pick.standing, pick.bin]).toEqual([standing, bin]);
        for (const line of pick.lines) expect(line.onHand).toBe(onHand.get(line.part));
        const left = pick.lines.filter(({ wanted, there }) => there < wanted);
        expect(left.length === 0).toBe(standing === 'whole');
      }
    const calls = board.calls.filter(({ kind }) => kind === 'kit').flatMap((call) => call.subject);
    expect(calls.toSorted()).toEqual(shortages.map(({ part }) => part).toSorted());
  });
});
