import { randomStream } from '../stats/random.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { randomMillDay } from './mill-day.ts';
import {
  firstComeLoads,
  loadsByHand,
  planLoads,
  type LoadsQuestion,
  type MillProgram,
} from './plan-loads.ts';

const calendar: FactoryCalendar = {
  zone: 'UTC',
  shifts: [{ name: 'A', start: '06:00', end: '16:00', weekdays: [1, 2, 3, 4, 5], breaks: [] }],
  closedDays: [],
  overtime: [],
};
/** A Tuesday, 06:00. */
const NOW = Date.UTC(2026, 10, 24, 6);
const hours = (n: number): number => NOW + n * HOUR_MS;

const program = (name: string, rest: Partial<MillProgram> = {}): MillProgram => ({
  name,
  setUpMinutes: 30,
  loadMinutes: 10,
  cycleMinutes: 110,
  tools: [],
  ...rest,
});
const waits = (batch: string, of: string, pieces: number, neededHours: number, cameHoursAgo = 1) => ({
  batch,
  program: of,
  pieces,
  sinceMs: hours(-cameHoursAgo),
  neededMs: hours(neededHours),
});
const table = (code: string, of: string | null = null, places = 8) => ({
  code,
  places,
  freeMs: NOW,
  program: of,
});
const question = (rest: Partial<LoadsQuestion>): LoadsQuestion => ({
  nowMs: NOW,
  calendar,
  tables: [table('1')],
  programs: [program('a'), program('b')],
  waiting: [],
  cutters: [],
  ...rest,
});

describe('a plan of loads', () => {
  it('fills a table to its places, splits a batch over loads and mixes batches of one program', () => {
    const { loads } = planLoads(question({ waiting: [waits('B-1', 'a', 6, 20), waits('B-2', 'a', 6, 21)] }));
    expect(loads.map((load) => load.parts)).toEqual([
      [
        { batch: 'B-1', pieces: 6 },
        { batch: 'B-2', pieces: 2 },
      ],
      [{ batch: 'B-2', pieces: 4 }],
    ]);
    // Set-up 30 + load 10 + cycle 110 minutes, then 120 without a set-up.
    expect(loads.map((load) => load.endMs)).toEqual([hours(2.5), hours(4.5)]);
    expect(loads.map((load) => load.setUp)).toEqual([true, false]);
    expect(loads[1]?.says).toEqual(['4 of 8 places stay free']);
  });

  it('saves set-ups when nothing gets late by it, and says whom it overtakes', () => {
    const waiting = [waits('B-1', 'a', 8, 30, 4), waits('B-2', 'b', 8, 40, 3), waits('B-3', 'a', 8, 50, 2)];
    const plan = planLoads(question({ waiting, tables: [table('1', 'a')] }));
    expect(plan.setUps).toBe(1);
    expect(firstComeLoads(question({ waiting, tables: [table('1', 'a')] })).setUps).toBe(2);
    expect(plan.latePieceHours).toBe(0);
    const ahead = plan.loads.find((load) => load.parts[0]?.batch === 'B-3');
    expect(ahead?.says).toContain('goes before B-2, which is needed sooner');
  });

  it('is compared with racks as they came, even where the table is set up for one that is needed sooner', () => {
    // b came first: set up 30 + 120 min until 8:30; then a, 150 more until 11:00, three hours after it is needed.
    const waiting = [waits('B-1', 'b', 8, 30, 4), waits('B-2', 'a', 8, 2, 1)];
    const asked = question({ waiting, tables: [table('1', 'a')] });
    const came = firstComeLoads(asked);
    expect(came.loads.map((load) => load.parts[0]?.batch)).toEqual(['B-1', 'B-2']);
    expect([came.setUps, came.latePieceHours]).toEqual([2, 24]);
    // a first, as it stands: off at 8:00, when it is needed; then b.
    const plan = planLoads(asked);
    expect([plan.setUps, plan.latePieceHours, plan.endMs]).toEqual([1, 0, hours(4.5)]);
  });

  it('keeps due order where drawing forward would make something late', () => {
    const waiting = [waits('B-1', 'a', 8, 2, 4), waits('B-2', 'b', 8, 5, 3), waits('B-3', 'a', 8, 50, 2)];
    const plan = planLoads(question({ waiting, tables: [table('1', 'a')] }));
    expect(plan.loads.map((load) => load.parts[0]?.batch)).toEqual(['B-1', 'B-2', 'B-3']);
    expect(plan.latePieceHours).toBe(0);
  });

  it('shows a load that would run past the shift: 8 h 30 + 2 h 30 against 16:00 is an hour over', () => {
    const waiting = [waits('B-1', 'a', 8, 99)];
    const late = { ...table('1'), freeMs: hours(8.5) };
    const [load] = planLoads(question({ waiting, tables: [late] })).loads;
    expect(load?.pastShiftMinutes).toBe(60);
    expect(load?.says).toContain('runs 60 min past the shift');
    const uneven = { ...table('1'), freeMs: hours(8.5) + 558_199 };
    const [odd] = planLoads(question({ waiting, tables: [uneven] })).loads;
    expect(odd?.says).toContain('runs 70 min past the shift');
    // What is left is worked the next morning.
    expect(load?.endMs).toBe(hours(25));
  });

  it('changes a cutter before the load that would pass its life, and adds its minutes', () => {
    const programs = [program('a', { tools: [{ tool: 'upcut 6', minutes: 100 }] })];
    const cutters = [{ tool: 'upcut 6', usedMinutes: 300, lifeMinutes: 480, changeMinutes: 12 }];
    const { loads } = planLoads(question({ waiting: [waits('B-1', 'a', 16, 99)], programs, cutters }));
    expect(loads.map((load) => load.change)).toEqual([[], ['upcut 6']]);
    expect((loads[1]?.endMs ?? 0) - (loads[1]?.startMs ?? 0)).toBe((12 + 10 + 110) * MINUTE_MS);
  });

  it('starts in the morning when asked at night', () => {
    const night = { ...table('1'), freeMs: hours(14) };
    const [load] = planLoads(question({ waiting: [waits('B-1', 'a', 2, 99)], tables: [night] })).loads;
    expect(load?.startMs).toBe(hours(24));
  });

  it('plans nothing for nothing, and refuses what cannot be', () => {
    expect(planLoads(question({}))).toEqual({ loads: [], setUps: 0, latePieceHours: 0, endMs: null });
    expect(() => planLoads(question({ waiting: [waits('B-1', 'x', 2, 9)] }))).toThrow(/'x', which is not/);
    expect(() => planLoads(question({ tables: [table('1', null, 0)] }))).toThrow(/no places/);
  });
});

describe('loads put by hand', () => {
  const waiting = [waits('B-1', 'a', 8, 2, 4), waits('B-2', 'b', 8, 5, 3)];

  it('are timed and judged like a plan: what is overtaken, set up and late is said', () => {
    const plan = loadsByHand(question({ waiting }), [
      { table: '1', program: 'b', parts: [{ batch: 'B-2', pieces: 8 }] },
      { table: '1', program: 'a', parts: [{ batch: 'B-1', pieces: 8 }] },
    ]);
    expect(plan.loads.map((load) => load.endMs)).toEqual([hours(2.5), hours(5)]);
    expect(plan).toMatchObject({ setUps: 2, latePieceHours: 8 * 3 });
    expect(plan.loads[0]?.says).toContain('goes before B-1, which is needed sooner');
  });

  it('equal the plan when they are the plan', () => {
    const plan = planLoads(question({ waiting }));
    expect(loadsByHand(question({ waiting }), plan.loads)).toEqual(plan);
  });

  it('are refused over their places, and on tables that are not there', () => {
    const over = [{ table: '1', program: 'a', parts: [{ batch: 'B-1', pieces: 9 }] }];
    expect(() => loadsByHand(question({ waiting }), over)).toThrow(/9 pieces on the 8 places/);
    expect(() => loadsByHand(question({ waiting }), [{ ...over[0]!, table: '7' }])).toThrow(/no table '7'/);
  });
});

describe('on 30 random days', () => {
  const days = Array.from({ length: 30 }, (_, i) => randomMillDay(randomStream(100 + i), calendar, NOW));

  it('places, cutter life and pieces are kept, and no plan is later than first come, first served', () => {
    let [saved, loads] = [0, 0];
    for (const day of days) {
      const plan = planLoads(day);
      const plain = firstComeLoads(day);
      expect(plan.latePieceHours).toBeLessThanOrEqual(plain.latePieceHours + 1 / 60);
      saved += plain.setUps - plan.setUps;
      loads += plan.loads.length;
      const used = new Map(day.cutters.map((cutter) => [cutter.tool, cutter.usedMinutes]));
      for (const load of plan.loads) {
        const places = day.tables.find(({ code }) => code === load.table)?.places ?? 0;
        expect(load.parts.reduce((sum, part) => sum + part.pieces, 0)).toBeLessThanOrEqual(places);
        for (const { tool, minutes } of day.programs.find(({ name }) => name === load.program)?.tools ?? []) {
          const before = load.change.includes(tool) ? 0 : (used.get(tool) ?? 0);
          used.set(tool, before + minutes);
          expect(before + minutes).toBeLessThanOrEqual(480);
        }
      }
      for (const { batch, pieces } of day.waiting) {
        const planned = plan.loads.flatMap((load) => load.parts).filter((part) => part.batch === batch);
        expect(planned.reduce((sum, part) => sum + part.pieces, 0)).toBe(pieces);
      }
      for (const one of plan.loads)
        for (const other of plan.loads)
          if (one !== other && one.table === other.table)
            expect(one.endMs <= other.startMs || other.endMs <= one.startMs).toBe(true);
    }
    expect(loads).toBeGreaterThan(100);
    expect(saved).toBeGreaterThan(0);
  });
});
