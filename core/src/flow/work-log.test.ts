import type { Operation } from '../route/index.ts';
import { hoursIn, longRoute } from '../testing/tarrow.ts';
import { workingClock } from '../time/working-clock.ts';
import type { PlacedStay } from './log-whole.ts';
import { firstPasses, operationTimes, rolledYieldPct, usageOf } from './work-log.ts';

/** Weekdays 06:00 to 14:00 UTC; `hoursIn(0)` is a Monday at 06:00. */
const calendar = {
  ...{ zone: 'UTC', closedDays: [], overtime: [] },
  shifts: [{ name: 'A', weekdays: [1, 2, 3, 4, 5], start: '06:00', end: '14:00', breaks: [] }],
};
const fit: Operation = {
  ...{ key: 'fit', name: 'Fit', mode: 'attended', stations: ['bench'], setUpMinutes: 10, pieceMinutes: 28 },
  ...{ skill: 'fit', reworkTo: null, caution: null, coats: null },
};
const mill: Operation = {
  ...{ key: 'mill', name: 'Mill', mode: 'load', stations: ['mill'], places: 4, setUpMinutes: 6 },
  ...{ cycleMinutes: 60, skill: null, reworkTo: null, caution: null },
};
const route = { ...longRoute, id: 'r', model: 'Halyard', kind: 'B', operations: [mill, fit] };
const stay = (
  batch: string,
  operation: string,
  [from, to]: [number, number],
  positions: number[],
  rest: Partial<PlacedStay> = {},
): PlacedStay => ({
  ...{ batch, route, operation, station: operation === 'fit' ? 'bench' : 'mill', status: 'inHand' },
  ...{ person: null, pieces: positions.length, positions, ended: 'passed' },
  ...{ fromMs: hoursIn(from), toMs: hoursIn(to) },
  ...rest,
});
const { between } = workingClock(calendar, hoursIn(-48));
const asked = { newest: [route], fromMs: hoursIn(0), between };
const ALL = [1, 2, 3, 4];

describe('how long work takes', () => {
  it('is told of the hours in which a rack was in hand, without nights and stops, less the set-up, by the piece', () => {
    const [, time] = operationTimes({
      ...asked,
      stays: [
        // 130 worked minutes, ten of them set-up: thirty a piece.
        stay('B-1', 'fit', [2, 4 + 1 / 6], ALL),
        // An hour and a half for two of them, while the others lay stopped; those from 13:30 to 06:50: 80 minutes. 40 a piece.
        stay('B-2', 'fit', [5, 6], [1, 2], { ended: 'held' }),
        stay('B-2', 'fit', [5, 6.5], [3, 4]),
        stay('B-2', 'fit', [7.5, 24 + 5 / 6], [1, 2]),
        // Started and ended in one minute; still in hand; begun before: none of them is measured.
        stay('B-3', 'fit', [5, 5 + 1 / 60], ALL),
        stay('B-4', 'fit', [5, 30], ALL, { ended: null }),
        stay('B-5', 'fit', [-30, 3], ALL),
        // What waits is not worked on.
        stay('B-1', 'fit', [0, 2], ALL, { status: 'waiting', ended: 'started' }),
      ],
    });
    expect(time).toMatchObject({
      operationName: 'Fit',
      per: 'piece',
      flashes: false,
      samples: 2,
      leftOut: 1,
      routeMinutes: 28,
    });
    expect(time?.logged?.median).toBeCloseTo(35, 6);
    expect([time?.logged?.low, time?.logged?.high].map((one) => one?.toFixed(2))).toEqual(['32.50', '37.50']);
  });

  it('is told of each load, however full it was', () => {
    const [time] = operationTimes({
      ...asked,
      stays: [
        stay('B-1', 'mill', [0, 1.2], ALL),
        stay('B-1', 'mill', [1.2, 2], [5]),
        stay('B-1', 'mill', [1.2, 2], [6]),
      ],
    });
    // 72 and 48 minutes, six of each to set up.
    expect(time).toMatchObject({ per: 'load', samples: 2, routeMinutes: 60 });
    expect(time?.logged?.median).toBeCloseTo(54, 6);
  });

  it('says nothing where nothing was measured', () => {
    expect(operationTimes({ ...asked, stays: [] })).toMatchObject([
      { operation: 'mill', samples: 0, logged: null },
      { operation: 'fit', samples: 0, logged: null },
    ]);
  });
});

describe('the first pass', () => {
  it('counts each piece once at each operation, by what became of it when it first came there', () => {
    const stays = [
      stay('B-1', 'mill', [0, 1], ALL),
      stay('B-1', 'fit', [1, 3], [1, 2]),
      stay('B-1', 'fit', [1, 2], [3], { ended: 'sent back' }),
      stay('B-1', 'fit', [1, 2], [4], { ended: 'scrapped' }),
      // The third comes again and is good now; another came the first time before the window began.
      stay('B-1', 'fit', [4, 5], [3]),
      stay('B-2', 'fit', [-20, -19], [1], { ended: 'sent back' }),
      stay('B-2', 'fit', [1, 2], [1]),
      stay('B-3', 'fit', [1, 2], ALL, { ended: 'held' }),
      // What became part of something else is good, too.
      stay('B-4', 'mill', [1, 2], [1], { ended: 'joined' }),
    ];
    const passes = firstPasses({ newest: [route], fromMs: hoursIn(0), stays });
    expect(passes).toMatchObject([
      { operation: 'mill', pieces: 5, good: 5 },
      { operation: 'fit', pieces: 4, good: 2, sentBack: 1, scrapped: 1 },
    ]);
    expect(rolledYieldPct(passes)).toBeCloseTo(50, 9);
    expect(rolledYieldPct([])).toBe(100);
  });
});

describe('what was used', () => {
  it('is the hours worked of those that were there, with the set-ups of the racks that were taken in hand', () => {
    const busy = [{ fromMs: 0, toMs: 4 * 3_600_000 }];
    const none = { waiting: [], hoursOffered: 0, hoursThere: 16, capacity: 1 };
    const used = usageOf({
      resources: [
        { ...none, code: 'bench', by: 'station', busy },
        { ...none, code: 'fit', by: 'skill', busy: [] },
      ],
      stays: [
        stay('B-1', 'fit', [1, 3], [1, 2]),
        stay('B-1', 'fit', [3, 4], [3, 4]),
        stay('B-2', 'fit', [5, 6], ALL),
      ],
      fromMs: hoursIn(0),
    });
    expect(used).toEqual([
      {
        code: 'bench',
        by: 'station',
        hoursThere: 16,
        hoursBusy: 4,
        setUpHours: expect.closeTo(1 / 3, 9) as number,
      },
      { code: 'fit', by: 'skill', hoursThere: 16, hoursBusy: 0, setUpHours: 0 },
    ]);
  });
});
