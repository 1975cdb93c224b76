import fc from 'fast-check';
import type { Operation } from '../route/index.ts';
import { longRoute } from '../testing/tarrow.ts';
import { availableHours, skillRisk } from './available-hours.ts';
import {
  cumulativeFlow,
  cycleTimes,
  lateness,
  leadTimeSplit,
  littlesLawCheck,
  throughput,
  LEAD_PARTS,
} from './lead-time.ts';
import type { StayOnWay } from './day-moves.ts';
import { offeredLoad } from './offered-load.ts';

const HOUR = 3_600_000;

describe('the load that is offered', () => {
  /** Four stations, an hour a piece, no set-up. */
  const step = (key: string, skill: string | null = null): Operation => ({
    ...{ key, name: key, mode: 'attended', stations: [key], setUpMinutes: 0, pieceMinutes: 60, skill },
    ...{ reworkTo: null, caution: null, coats: null },
  });
  const route = {
    ...longRoute,
    id: 'r',
    operations: ['cut', 'fit', 'spray', 'test'].map((key) => step(key)),
  };

  it('solves the traffic equations: four stations with two loops, worked by hand', () => {
    // Of what is sprayed a fifth goes back to fitting; of what is tested a tenth back to spraying, a twentieth is scrapped.
    // λ1 = 10; λ2 = λ1 + 0.2 λ3; λ3 = λ2 + 0.1 λ4; λ4 = 0.8 λ3.
    // λ3 = 10 + 0.2 λ3 + 0.08 λ3, so λ3 = 10 / 0.72 = 13.888…, λ2 = 12.777…, λ4 = 11.111…
    const load = offeredLoad({
      flows: [{ route: 'r', piecesADay: 10, rackSize: 5 }],
      routes: [route],
      yields: [{ route: 'r', operation: 'test', share: 0.05 }],
      rework: [
        { route: 'r', operation: 'spray', to: 'fit', share: 0.2 },
        { route: 'r', operation: 'test', to: 'spray', share: 0.1 },
      ],
    });
    const rates = load.visits.map(({ piecesADay }) => piecesADay);
    for (const [i, exact] of [10, 10 + 0.2 * (10 / 0.72), 10 / 0.72, 8 / 0.72].entries())
      expect(rates[i]).toBeCloseTo(exact, 9);
    expect(load.stations[0]).toMatchObject({ station: 'spray' });
    expect(load.stations[0]?.hoursADay).toBeCloseTo(10 / 0.72, 9);
  });

  it('shares a set-up among a rack, counts by skill, and takes the log’s times where it has them', () => {
    const skilled = {
      ...route,
      operations: [{ ...step('cut', 'saw'), setUpMinutes: 30 } as Operation, step('fit')],
    };
    const asked = {
      ...{ flows: [{ route: 'r', piecesADay: 6, rackSize: 3 }], routes: [skilled] },
      ...{ yields: [], rework: [] },
    };
    expect(offeredLoad(asked).skills).toEqual([{ skill: 'saw', hoursADay: 7 }]);
    const timed = offeredLoad({ ...asked, minutes: (_, key) => (key === 'cut' ? 90 : undefined) });
    expect(timed.skills).toEqual([{ skill: 'saw', hoursADay: 3 }]);
  });

  it('refuses what never leaves, and shares that are none', () => {
    const all = { flows: [{ route: 'r', piecesADay: 1, rackSize: 1 }], routes: [route], yields: [] };
    const back = (share: number) => [{ route: 'r', operation: 'fit', to: 'cut', share }];
    expect(() => offeredLoad({ ...all, rework: back(1) })).toThrow('nothing ever leaves');
    expect(() => offeredLoad({ ...all, rework: back(1.2) })).toThrow('more goes away than comes');
    expect(() => offeredLoad({ ...all, rework: [], routes: [] })).toThrow('no route r');
  });
});

describe('the lead time', () => {
  /** The factory works from 0 to 8 h of each day. */
  const between = (fromMs: number, toMs: number): number => {
    const worked = (ms: number): number => {
      const day = Math.floor(ms / (24 * HOUR));
      return day * 480 + Math.min(480, (ms - day * 24 * HOUR) / 60_000);
    };
    return worked(toMs) - worked(fromMs);
  };
  const stageOf = () => 'assembly' as const;
  const stay = (
    operation: string,
    status: StayOnWay['status'],
    from: number,
    to: number,
    ended: StayOnWay['ended'] = 'passed',
  ): StayOnWay => ({
    ...{
      operation,
      status,
      rule: null,
      fromMs: from * HOUR,
      toMs: to * HOUR,
      ended,
      reason: null,
    },
  });

  it('is taken apart by hand: queue, touch, hold, the night, and what was done over again', () => {
    const stays = [
      stay('setup', 'waiting', 0, 6, 'started'),
      stay('setup', 'inHand', 6, 26),
      stay('settle', 'onHold', 26, 74),
      stay('final', 'waiting', 74, 76, 'sent back'),
      stay('setup', 'waiting', 76, 78, 'started'),
      stay('setup', 'inHand', 78, 79),
      stay('final', 'waiting', 79, 80),
    ];
    const split = leadTimeSplit({ legs: [{ batch: 'I-1', route: longRoute, stays }], stageOf, between });
    const hours = LEAD_PARTS.map((part) => (split?.parts[part] ?? NaN) / HOUR);
    // Waits 6 h before it is taken, 2 and 1 at the inspection; 2 + 2 h in hand over a night of 16; 48 on the shelf; 3 again.
    expect(hours).toEqual([9, 4, 48, 0, 3, 16]);
    expect(hours.reduce((a, b) => a + b)).toBe(80);
  });

  it('adds up to the millisecond, whatever the piece did', () => {
    const operations = longRoute.operations.map(({ key }) => key);
    const moves = fc.array(
      fc.record({
        key: fc.constantFrom(...operations),
        status: fc.constantFrom<StayOnWay['status'][]>('waiting', 'inHand', 'onHold'),
        ended: fc.constantFrom<StayOnWay['ended'][]>('passed', 'sent back', 'started', 'held'),
        hours: fc.double({ min: 0, max: 90, noNaN: true }),
      }),
      { minLength: 1, maxLength: 40 },
    );
    fc.assert(
      fc.property(moves, (drawn) => {
        let at = 0;
        const stays = drawn.map(({ key, status, ended, hours }) =>
          stay(key, status, at, (at += hours), ended),
        );
        const split = leadTimeSplit({ legs: [{ batch: 'I-1', route: longRoute, stays }], stageOf, between });
        const sum = LEAD_PARTS.reduce((ms, part) => ms + (split?.parts[part] ?? NaN), 0);
        expect(sum).toBeCloseTo((split?.toMs ?? 0) - (split?.fromMs ?? 0), 2);
      }),
    );
    expect(leadTimeSplit({ legs: [], stageOf, between })).toBeNull();
  });

  it('has its median and its late ones', () => {
    const spans = Array.from({ length: 100 }, (_, i) => ({ fromMs: 0, toMs: (i + 1) * 24 * HOUR }));
    const times = cycleTimes(spans);
    expect(times).toMatchObject({ count: 100, medianDays: 50.5 });
    // Of a hundred days the 85th and 95th hundredth, between their neighbours: 1 + 0.85 × 99, 1 + 0.95 × 99.
    expect(times?.p85Days).toBeCloseTo(85.15);
    expect(times?.p95Days).toBeCloseTo(95.05);
    expect(cycleTimes([])).toBeNull();
  });
});

describe('what flows', () => {
  it('never crosses, and counts who reached each stage', () => {
    const pieces = [
      [1, 3, 9],
      [2, 2, Infinity],
      [5, Infinity, Infinity],
    ];
    expect(cumulativeFlow(pieces, [0, 2, 9])).toEqual([
      { atMs: 0, reached: [0, 0, 0] },
      { atMs: 2, reached: [2, 1, 0] },
      { atMs: 9, reached: [3, 2, 1] },
    ]);
    expect(() => cumulativeFlow([[3, 1]], [4])).toThrow('stage 1 was reached before');
  });

  it('stands to the day it was due: three early, one late, by the middle one and the 85th of a hundred', () => {
    const day = 24 * 3_600_000;
    const left = [-4, -2, 0, 3].map((late) => ({ leftMs: (100 + late) * day, dueMs: 100 * day }));
    // Type 7: at (4 − 1) × 0.85 = 2.55 between 0 and 3.
    expect(lateness(left)).toEqual({
      inTime: 3,
      count: 4,
      medianDays: -1,
      p85Days: expect.closeTo(1.65, 9) as number,
    });
    expect(lateness([])).toBeNull();
  });

  it('fits Little’s law, or entries are missing', () => {
    expect(littlesLawCheck({ wip: [10, 12, 11], throughputADay: 2, cycleDays: 5.5 })).toEqual({
      ...{ wip: 11, expected: 11, mismatch: 0, fits: true },
    });
    expect(littlesLawCheck({ wip: [10], throughputADay: 2, cycleDays: 4 })).toMatchObject({
      mismatch: -0.2,
      fits: false,
    });
    expect(littlesLawCheck({ wip: [], throughputADay: 0, cycleDays: 0 })).toMatchObject({
      mismatch: null,
      fits: true,
    });
  });

  it('is counted by day, days without any as well', () => {
    const told = throughput(['2026-11-23', '2026-11-23', '2026-11-30'], ['2026-11-23', '2026-11-24']);
    expect(told).toEqual({
      days: [
        { day: '2026-11-23', pieces: 2 },
        { day: '2026-11-24', pieces: 0 },
      ],
      aDay: 1,
    });
  });
});

describe('hours and people', () => {
  const calendar = {
    ...{ zone: 'UTC', closedDays: ['2026-11-25'], overtime: [] },
    shifts: [{ name: 'A', weekdays: [1, 2, 3, 4, 5], start: '06:00', end: '14:00', breaks: [] }],
  };
  const people = [
    { code: 'ann', skills: ['saw'], absentOn: ['2026-11-24'] },
    { code: 'bo', skills: ['saw', 'glue'], absentOn: [] },
  ];

  it('are the fewer of places and those who can, day by day; closed days have none', () => {
    const asked = {
      calendar,
      people,
      station: { parallel: 2 },
      ...{ fromMs: Date.UTC(2026, 10, 23), toMs: Date.UTC(2026, 10, 26) },
    };
    expect(availableHours({ ...asked, skills: ['saw'] })).toEqual({
      placeHours: 32,
      peopleHours: 24,
      hours: 24,
    });
    expect(availableHours({ ...asked, skills: [] })).toEqual({
      placeHours: 32,
      peopleHours: null,
      hours: 32,
    });
    expect(availableHours({ ...asked, skills: ['weld'] })).toMatchObject({ hours: 0 });
    // A window that begins and ends within days has what lies in it: from ten o'clock to ten the next day, one of two away on it.
    const part = { ...asked, fromMs: Date.UTC(2026, 10, 23, 10), toMs: Date.UTC(2026, 10, 24, 10) };
    expect(availableHours({ ...part, skills: ['saw'] })).toEqual({
      placeHours: 16,
      peopleHours: 12,
      hours: 12,
    });
  });

  it('show what hangs on one person, and what is left without one', () => {
    const wanted = [
      { skill: 'saw', hoursADay: 8 },
      { skill: 'glue', hoursADay: 6 },
      { skill: 'weld', hoursADay: 1 },
    ];
    expect(skillRisk({ wanted, people, shiftHours: 8 })).toEqual([
      { skill: 'weld', people: [], hoursADay: 1, hoursThere: 0, share: null, shareWithoutOne: null },
      { skill: 'glue', people: ['bo'], hoursADay: 6, hoursThere: 8, share: 0.75, shareWithoutOne: null },
      { skill: 'saw', people: ['ann', 'bo'], hoursADay: 8, hoursThere: 16, share: 0.5, shareWithoutOne: 1 },
    ]);
  });
});
