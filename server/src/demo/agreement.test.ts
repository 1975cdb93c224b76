import { LEAD_PARTS, shiftDate, STAGES, startOfFactoryDay, type LeadParts } from '@ample-crane/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { createApp } from '../app.ts';
import { migrate } from '../database/data-source.ts';
import { BoardService } from '../flow/board.service.ts';
import { ConstraintService } from '../flow/constraint.service.ts';
import { FloorService } from '../flow/floor.service.ts';
import { FlowService } from '../flow/flow.service.ts';
import { LeadTimesService } from '../flow/lead-times.service.ts';
import { LogWholeService } from '../flow/log-whole.service.ts';
import { RosterService } from '../flow/roster.service.ts';
import { SkillsService } from '../flow/skills.service.ts';
import { pdfOfSheet } from '../reports/sheet.ts';
import { WeeklyReviewService } from '../reports/weekly-review.service.ts';
import { WorkLogService } from '../flow/work-log.service.ts';
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

  it('on what is built for whom: the list of racks, and where each order stands', async () => {
    const [lines, orders] = await Promise.all([
      app.get(BoardService).list(),
      app.get(OrderViewsService).open(),
    ]);
    const onRacks = new Map<string, number>();
    for (const { order, pieces } of lines.flatMap((line) => line.orders))
      onRacks.set(order, (onRacks.get(order) ?? 0) + pieces);
    expect(onRacks.size).toBeGreaterThan(5);
    for (const { code } of orders) {
      const { lines: own } = await app.get(OrderViewsService).order(code);
      const open = own.flatMap(({ places }) => places.filter(({ standing }) => isOnItsWay(standing)));
      const pieces = open.reduce((sum, { positions }) => sum + positions.length, 0);
      expect([code, onRacks.get(code) ?? 0]).toEqual([code, pieces]);
    }
    const [[code = ''] = []] = onRacks;
    const { drawn, racks } = await app.get(BoardService).boardOf({ order: code });
    expect(drawn).toBe(lines.filter((line) => line.orders.some(({ order }) => order === code)).length);
    expect(racks).toBe(lines.length);
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

  it('on what paces the house: the mark of the rope, the three signs, each week, the skills', async () => {
    const [floor, pace, { cover, paces }] = await Promise.all([
      app.get(FloorService).floor(),
      app.get(ConstraintService).view(20),
      app.get(SkillsService).view(20),
    ]);
    expect(pace.verdict).toMatchObject({ by: 'station', agree: ['load', 'active', 'queue'] });
    expect(floor.constraint).toMatchObject({
      station: pace.verdict.code,
      signs: { skill: null, agree: 3, days: 20 },
    });
    expect(paces).toBeNull();
    // What waits there now is what the board says waits there.
    const row = pace.rows.find(({ code }) => code === pace.verdict.code);
    const inFront = floor.stations.find(({ code }) => code === pace.verdict.code);
    expect(row?.hoursADay).toBeCloseTo(inFront?.hoursADay ?? NaN, 6);
    // Without what is in hand, which the board counts with it.
    expect(row?.queue.at(-1)).toBeGreaterThan(0);
    expect(row?.queue.at(-1)).toBeLessThanOrEqual(inFront?.days ?? NaN);
    const ofSkill = new Map(pace.rows.flatMap((one) => (one.by === 'skill' ? [[one.code, one]] : [])));
    for (const { skill, hoursADay } of cover)
      expect(ofSkill.get(skill)?.hoursOfferedADay).toBeCloseTo(hoursADay, 2);
    // Nothing has more hours offered than it and its queue could have taken, and nobody is asked for more than all.
    for (const { soleShare, shiftingShare } of pace.rows)
      expect(soleShare + shiftingShare).toBeLessThanOrEqual(1);
  });

  it('on what left each station: the racks behind a day are what is counted of it; what is needed can be in the house', async () => {
    const flows = app.get(FlowService);
    const { days, throughput, need, stations } = await flows.flow(20);
    const recent = throughput.filter(({ day }) => day >= (days.at(-3) ?? ''));
    expect(recent.length).toBeGreaterThan(10);
    for (const { day, station, good, scrapped, reworked } of recent) {
      const { left } = await flows.left(20, { station, day });
      const pieces = (how: string): number =>
        left.reduce((sum, { ended, positions }) => sum + (ended === how ? positions.length : 0), 0);
      expect([day, station, pieces('good'), pieces('scrapped'), pieces('sent back')]).toEqual([
        ...[day, station, good, scrapped, reworked],
      ]);
    }
    await expect(flows.left(20, { station: 'colour', day: '2026-01-02' })).rejects.toThrow('is not within');
    // No more than is open can be needed; packing lets everything go that is.
    const { racks } = await app.get(FloorService).floor();
    const needed = new Map(need.map(({ station, aDay }) => [station, aDay * 20]));
    expect(racks.length).toBeGreaterThan(10);
    expect(Math.max(...needed.values())).toBeLessThan(400);
    expect(needed.get('packing')).toBeGreaterThan(20);
    expect([...needed.keys()].every((code) => stations.some((station) => station.code === code))).toBe(true);
    const { late, lines } = await app.get(LeadTimesService).view(20);
    expect(late?.count).toBe(lines.filter(({ lateDays }) => lateDays !== null).length);
    expect(late?.inTime).toBe(lines.filter(({ lateDays }) => lateDays !== null && lateDays <= 0).length);
  });

  it('on what is in front of each station: the board, and the roster without what is still on a hold', async () => {
    const [{ work }, { stations }] = await Promise.all([
      app.get(RosterService).view(),
      app.get(FloorService).floor(),
    ]);
    const there = new Map<string, number>();
    for (const { station, wantedHours, comingHours } of work)
      there.set(station, (there.get(station) ?? 0) + wantedHours - comingHours);
    expect(work.some(({ comingHours }) => comingHours > 1)).toBe(true);
    for (const { code, hoursWaiting } of stations) expect(there.get(code) ?? 0).toBeCloseTo(hoursWaiting, 9);
    expect([...there.keys()].filter((code) => !stations.some((one) => one.code === code))).toEqual([]);
  });

  it('on what work takes: hours there as the constraint has them, none used twice, the constraint used most', async () => {
    const [work, pace] = await Promise.all([
      app.get(WorkLogService).view(20),
      app.get(ConstraintService).view(20),
    ]);
    const rows = new Map(pace.rows.map((row) => [`${row.by} ${row.code}`, row]));
    for (const { by, code, hoursThere, hoursBusy, setUpHours } of work.used) {
      // Time goes by between two questions: hours to the hundredth.
      expect(hoursThere / pace.days).toBeCloseTo(rows.get(`${by} ${code}`)?.hoursADay ?? NaN, 2);
      expect(hoursBusy).toBeLessThanOrEqual(hoursThere + 1e-6);
      expect(setUpHours).toBeLessThanOrEqual(hoursBusy + 1e-6);
    }
    for (const { time, first } of work.operations) {
      if (time) expect(time.low <= time.median && time.median <= time.high).toBe(true);
      if (first) expect(first.good + first.sentBack + first.scrapped).toBe(first.pieces);
    }
    // What paces the house is used more than anything else.
    const most = work.used
      .filter(({ hoursThere }) => hoursThere > 0)
      .toSorted((a, b) => b.hoursBusy / b.hoursThere - a.hoursBusy / a.hoursThere)[0];
    expect([most?.by, most?.code]).toEqual([pace.verdict.by, pace.verdict.code]);
  });

  it('on the weekly review: one page; as many left week by week as the table of what left has in those days', async () => {
    const sheet = await app.get(WeeklyReviewService).sheet();
    const { parts } = sheet;
    expect((await pdfOfSheet(sheet)).toString('latin1').match(/\/Type \/Page\b(?!s)/g)).toHaveLength(1);
    const weeks = parts.find(({ heading }) => heading === 'Week by week')?.lines ?? [];
    expect(weeks).toHaveLength(4);
    const told = weeks.map(({ words }) => Number(/: (\d+) instruments? left$/.exec(words)?.[1]));
    const { weeks: paced } = await app.get(ConstraintService).view(20);
    const { lines, more } = await app.get(LeadTimesService).view(20);
    expect(more).toBe(false);
    // Weeks end with today, so that the first day of the window lies before the oldest of them.
    expect(told).toEqual(
      paced
        .toReversed()
        .map(({ fromMs, toMs }) => lines.filter(({ leftMs }) => leftMs >= fromMs && leftMs < toMs).length),
    );
    expect(Math.max(...told)).toBeGreaterThan(0);
  });

  it('on lead times: the parts of every instrument that left add up to the second, and so do its stays', async () => {
    const times = app.get(LeadTimesService);
    const { lines, cycle, parts, stages } = await times.view(60);
    expect(lines.length).toBeGreaterThan(150);
    expect(cycle?.count).toBe(lines.length);
    const sum = (all: LeadParts): number => LEAD_PARTS.reduce((days, part) => days + all[part], 0);
    for (const { parts: own, days } of lines) expect(Math.abs(sum(own) - days) * 86_400).toBeLessThan(1);
    const mean = lines.reduce((days, line) => days + line.days, 0) / lines.length;
    expect(sum(parts)).toBeCloseTo(mean, 6);
    expect(stages.reduce((days, stage) => days + sum(stage.parts), 0)).toBeCloseTo(mean, 6);
    const { reached, days: shown, wip, wantedDays } = await times.cumulative(60);
    expect(reached).toHaveLength(shown.length);
    // No line crosses the one before it, none goes back, and what left is what the list says.
    for (const [day, counts] of reached.entries())
      for (const [stage, count] of counts.entries()) {
        expect(count).toBeLessThanOrEqual(counts[stage - 1] ?? Infinity);
        expect(count).toBeGreaterThanOrEqual(reached[day - 1]?.[stage] ?? 0);
      }
    expect(reached.at(-1)?.at(-1)).toBe(lines.length);
    // The racks behind a day are as many pieces as its bands, and nothing had come to its stage after it.
    for (const day of shown.slice(-3)) {
      const counts = reached[shown.indexOf(day)] ?? [];
      const behind = await times.inHouse(60, day);
      expect(
        behind.stages.map(({ racks }) => racks.reduce((sum, rack) => sum + rack.positions.length, 0)),
      ).toEqual(STAGES.map((_, stage) => (counts[stage] ?? NaN) - (counts[stage + 1] ?? NaN)));
      const endMs = startOfFactoryDay({ zone: behind.zone }, shiftDate(day, 1));
      for (const { sinceMs } of behind.stages.flatMap(({ racks }) => racks))
        expect(sinceMs).toBeLessThanOrEqual(endMs);
    }
    await expect(times.inHouse(60, '2020-01-01')).rejects.toThrow('is not one of the days');
    // What came and did not leave is in the house; by Little's law it takes as long as it is many, against what leaves.
    expect(wip.inHouse).toBe((reached.at(-1)?.[0] ?? NaN) - lines.length);
    expect((wip.leadDays ?? NaN) * wip.leftADay).toBeCloseTo(wip.inHouse, 6);
    expect(wip.cap).toBe(Math.round(wip.leftADay * (wantedDays ?? NaN)));
    const [first] = lines;
    if (!first) throw new Error('nothing left');
    const one = await times.one(first);
    expect(one.days).toBe(first.days);
    expect(one.stretches.reduce((days, stretch) => days + sum(stretch.parts), 0)).toBeCloseTo(one.days, 6);
    for (const [i, { fromMs }] of one.stretches.entries())
      if (i > 0) expect(fromMs).toBe(one.stretches[i - 1]?.toMs);
  });

  it('on the log: every start is there, nothing was forgotten', async () => {
    const whole = await app.get(LogWholeService).view(20);
    expect([whole.missingStarts, whole.tooFast, whole.forgotten]).toEqual([[], [], []]);
    expect(whole.little.map(({ wip }) => wip > 0)).toEqual([true, true, true, true, true]);
  });
});

const isOnItsWay = (standing: string): boolean => ['waiting', 'inHand', 'onHold'].includes(standing);
