import { DateTime } from 'luxon';
import { validateRoute, STAGES } from '@ample-crane/core';
import { createApp } from '../app.ts';
import { migrate } from '../database/data-source.ts';
import { RacksInFinishService } from '../finishing/racks-in-finish.service.ts';
import { BoardService } from '../flow/board.service.ts';
import { FloorService } from '../flow/floor.service.ts';
import { FlowService } from '../flow/flow.service.ts';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { freshDatabase } from '../testing/databases.ts';
import { LotViewsService } from '../wood/lot-views.service.ts';
import { LotsService } from '../wood/lots.service.ts';
import { MetersService } from '../wood/meters.service.ts';
import { StockService } from '../wood/stock.service.ts';
import { DemoService, workingNow } from './demo.service.ts';
import { ROUTES } from './tarrow-routes.ts';
import { BEDS, FACTORY, MODELS, PEOPLE, ROOMS, STATIONS } from './tarrow-works.ts';

describe('Tarrow Works', () => {
  it('has routes that can be worked, at stations that exist', () => {
    const stations = STATIONS.map((station) => station.code);
    const rooms = ROOMS.map(({ room }) => room);
    for (const route of ROUTES) {
      const others = ROUTES.filter((other) => other !== route && other.model === route.model);
      expect([route.id, ...validateRoute(route, { stations, rooms, others })]).toEqual([route.id]);
    }
    expect(BEDS.filter(({ station }) => !stations.includes(station))).toEqual([]);
    expect(new Set(MODELS.map((model) => model.construction)).size).toBe(5);
    expect(PEOPLE).toHaveLength(24);
  });

  it('is loaded by filing, in a state that a manager can use', async () => {
    process.env.DEMO_NOW = '2026-11-24T19:20:00Z';
    // ./test loads it once for all its tests.
    const loaded = process.env.TARROW_DATABASE;
    const url = await freshDatabase(loaded);
    process.env.DATABASE_URL = url;
    const app = await createApp({ logger: false });
    await migrate(url);
    const demo = app.get(DemoService);
    expect(await demo.isWanted()).toBe(loaded === undefined);
    if (loaded === undefined) await demo.load();
    expect(await demo.isWanted()).toBe(false);

    const floor = await app.get(FloorService).floor();
    expect(floor.shift?.name).toBe('A');
    expect(floor.racks.length).toBeGreaterThanOrEqual(20);
    expect(floor.racks.length).toBeLessThanOrEqual(40);
    expect(floor.stages.filter((stage) => stage.pieces > 0).map((stage) => stage.stage)).toEqual([...STAGES]);
    expect(floor.constraint?.station).toBe('colour');
    const boards = app.get(BoardService);
    const board = await boards.board();
    expect(board.racks).toBe(floor.racks.length);
    const kinds = new Set(board.calls.map((call) => call.kind));
    for (const kind of ['late', 'gate-failed', 'constraint'] as const) expect(kinds).toContain(kind);
    const rows = (await Promise.all(STAGES.map((stage) => boards.stage(stage)))).flat();
    const rules = new Set(rows.flatMap(({ holds }) => holds.map(({ hold }) => hold.rule)));
    for (const rule of ['moisture', 'elapsed', 'cure', 'settle'] as const) expect(rules).toContain(rule);

    const { racks } = await app.get(RacksInFinishService).list();
    const views = racks.flatMap((rack) => rack.views);
    expect(views.length).toBeGreaterThan(5);
    expect(views.some(({ rungs }) => rungs.length === 7)).toBe(true);
    expect(views.some(({ moved }) => moved?.why.includes('colder') ?? false)).toBe(true);
    for (const kind of ['booth', 'material'] as const) expect(kinds).toContain(kind);

    const flow = await app.get(FlowService).flow(30);
    expect(flow.days).toHaveLength(31);
    const total = (of: 'good' | 'scrapped' | 'reworked'): number =>
      flow.throughput.reduce((sum, row) => sum + row[of], 0);
    expect(total('good')).toBeGreaterThan(1000);
    expect(total('scrapped')).toBeGreaterThan(5);
    expect(total('reworked')).toBeGreaterThan(3);

    const { batches, wrong } = await app.get(ReplayCheckService).disagreements();
    expect(batches).toBeGreaterThan(80);
    expect(wrong).toEqual([]);

    const lots = await app.get(LotViewsService).list();
    expect(lots).toHaveLength(10);
    const verdicts = new Set(lots.filter(({ stacked }) => stacked > 0).map(({ verdict }) => verdict));
    for (const verdict of ['wait', 'sort', 'unread'] as const) expect(verdicts).toContain(verdict);
    expect(lots.find(({ room }) => room === 'Lumber shed')?.outlook).toBe('never');
    expect(lots.find(({ code }) => code === 'W-74')).toMatchObject({ species: 'hard maple', stacked: 48 });
    expect(lots.filter(({ papersMissing }) => papersMissing).map(({ species }) => species)).toEqual([
      'Indian rosewood',
    ]);
    expect(kinds).toContain('room-drift');
    const meters = await app.get(MetersService).seen();
    expect(meters.flatMap(({ calibrations }) => calibrations.filter(({ stale }) => stale))).toHaveLength(1);
    const resting = rows
      .flatMap(({ holds }) => holds)
      .find(({ batch, hold }) => batch.startsWith('B-') && hold.operation === 'dry');
    const choice = await app.get(StockService).choice(resting?.batch ?? '');
    expect(choice.chosen.chosen.length).toBeGreaterThan(0);
    // The plan also spares figure (20 g a piece) and chambering (100 g): by so much its weights may stand behind the rule of thumb's.
    const spared = 0.12 * choice.thumb.chosen.length;
    expect(choice.chosen.totalDeviationKg).toBeLessThanOrEqual(choice.thumb.totalDeviationKg + spared);
    expect(choice.chosen.chosen.length).toBeGreaterThanOrEqual(choice.thumb.chosen.length);
    expect(await app.get(LotsService).disagreements()).toEqual({ lots: 10, wrong: [] });
    await app.close();
  }, 240_000);
});

describe("the demo's clock", () => {
  const { zone } = FACTORY.calendar;
  const at = (iso: string): number => DateTime.fromISO(iso, { zone }).toMillis();
  const said = (iso: string): string =>
    DateTime.fromMillis(workingNow(at(iso)), { zone }).toFormat('ccc yyyy-MM-dd HH:mm');

  it('is the real one in the middle of a working day', () => {
    expect(said('2026-11-24T11:17')).toBe('Tue 2026-11-24 11:17');
  });

  it('goes back to the last working day at night and at the weekend', () => {
    expect(said('2026-11-24T23:00')).toBe('Tue 2026-11-24 13:20');
    expect(said('2026-11-24T04:00')).toBe('Mon 2026-11-23 13:20');
    expect(said('2026-11-29T12:00')).toBe('Fri 2026-11-27 13:20');
  });
});
