import type { Operation } from '../route/index.ts';
import { randomStream } from '../stats/random.ts';
import { hoursIn, longRoute } from '../testing/tarrow.ts';
import { logResources, type LoggedStay } from './log-resources.ts';
import { usageOf } from './work-log.ts';
import { filingHabits, logWhole, type PlacedStay } from './log-whole.ts';

const HOUR = 3_600_000;
/** Weekdays 06:00 to 14:00 UTC; `hoursIn(0)` is a Monday at 06:00. */
const calendar = {
  ...{ zone: 'UTC', closedDays: [], overtime: [] },
  shifts: [{ name: 'A', weekdays: [1, 2, 3, 4, 5], start: '06:00', end: '14:00', breaks: [] }],
};
const bench: Operation = {
  ...{ key: 'fit', name: 'Fit', mode: 'attended', stations: ['bench'], setUpMinutes: 0, pieceMinutes: 30 },
  ...{ skill: 'fit', reworkTo: null, caution: null, coats: null },
};
const mill: Operation = {
  ...{ key: 'mill', name: 'Mill', mode: 'load', stations: ['mill'], places: 4, setUpMinutes: 0 },
  ...{ cycleMinutes: 60, skill: null, reworkTo: null, caution: null },
};
const route = { ...longRoute, id: 'r', operations: [mill, bench] };
const stay = (
  operation: string,
  status: LoggedStay['status'],
  [from, to]: [number, number],
  rest: Partial<PlacedStay> = {},
): PlacedStay => ({
  ...{
    batch: 'B-1',
    route,
    operation,
    station: operation === 'fit' ? 'bench' : 'mill',
    status,
    person: null,
  },
  ...{ pieces: 4, positions: [1, 2, 3, 4], fromMs: hoursIn(from), toMs: hoursIn(to), ended: 'passed' },
  ...rest,
});

describe('what stations and skills did, by the log', () => {
  const asked = {
    ...{ calendar, shiftHours: 8, fromMs: hoursIn(0), toMs: hoursIn(32) },
    stations: [
      { code: 'mill', parallel: 2 },
      { code: 'bench', parallel: 1 },
    ],
    people: [
      { code: 'ann', skills: ['fit'], absentOn: ['2026-11-24'] },
      { code: 'bo', skills: ['saw'], absentOn: [] },
    ],
  };
  const found = (stays: LoggedStay[]) => {
    const { resources, ...window } = logResources({ ...asked, stays });
    return { ...window, of: (code: string) => resources.find((one) => one.code === code) };
  };

  it('has hours that are worked only: two days of eight, a night between them without length', () => {
    const { windowMs, days, of } = found([stay('fit', 'inHand', [6, 26], { person: 'ann' })]);
    expect([windowMs / HOUR, days]).toEqual([16, 2]);
    // In hand from two hours before the end of Monday's shift to two after the beginning of Tuesday's.
    expect(of('bench')?.busy).toEqual([{ fromMs: 6 * HOUR, toMs: 10 * HOUR }]);
    expect(of('fit')?.busy).toEqual([{ fromMs: 6 * HOUR, toMs: 10 * HOUR }]);
    expect(of('mill')?.hoursThere).toBe(32);
    // One who can, away on Tuesday.
    expect(of('fit')).toMatchObject({ capacity: 1, hoursThere: 8 });
  });

  it('has an evening that is the bench’s own there and nowhere else, with who can, and what was in hand then', () => {
    const own = { date: '2026-11-23', start: '15:00', end: '18:00', stations: ['bench'] };
    const { resources, windowMs } = logResources({
      ...asked,
      calendar: { ...calendar, overtime: [own] },
      // From an hour before the end of the shift to the middle of the evening: one hour on the axis, one and a half beside it.
      stays: [stay('fit', 'inHand', [7, 10.5], { person: 'ann' })],
    });
    const of = (code: string) => resources.find((one) => one.code === code);
    expect(windowMs / HOUR).toBe(16);
    expect(of('bench')).toMatchObject({ hoursThere: 19, eveningHours: 1.5 });
    expect(of('bench')?.busy).toEqual([{ fromMs: 7 * HOUR, toMs: 8 * HOUR }]);
    expect(of('fit')).toMatchObject({ hoursThere: 11, eveningHours: 1.5 });
    expect(of('mill')).toMatchObject({ hoursThere: 32, eveningHours: 0 });
    expect(usageOf({ resources, stays: [], fromMs: asked.fromMs })[1]?.hoursBusy).toBe(2.5);
  });

  it('counts a place for each time a load fills them, and a rack of which pieces came apart once', () => {
    const { of } = found([
      stay('mill', 'inHand', [0, 2], { pieces: 6 }),
      stay('fit', 'inHand', [0, 2], { pieces: 2 }),
      stay('fit', 'inHand', [1, 3], { pieces: 2 }),
    ]);
    expect(of('mill')?.busy).toEqual([
      { fromMs: 0, toMs: 2 * HOUR },
      { fromMs: 0, toMs: 2 * HOUR },
    ]);
    expect(of('bench')?.busy).toEqual([{ fromMs: 0, toMs: 3 * HOUR }]);
  });

  it('offers what came in the window, once: not what waited before it, nor what was stopped and goes on', () => {
    const { of } = found([
      stay('fit', 'waiting', [-10, 1], { batch: 'B-0' }),
      stay('fit', 'waiting', [1, 2], { ended: 'held' }),
      stay('fit', 'onHold', [2, 3], { ended: 'resumed' }),
      stay('fit', 'waiting', [3, 5], { ended: 'started' }),
      stay('mill', 'waiting', [5, 6], { batch: 'B-3', pieces: 3 }),
      stay('mill', 'waiting', [5, 7], { batch: 'B-3', pieces: 1 }),
      // Two parts of one rack that came and went together are one set-up.
      stay('mill', 'waiting', [0, 1], { pieces: 2 }),
      stay('mill', 'waiting', [0, 1], { pieces: 2 }),
    ]);
    // Four pieces of half an hour, though one waited longer than the others.
    expect(of('bench')).toMatchObject({ hoursOffered: 2, piecesOffered: 4 });
    // Two loads of four: what came together is one, also where it was taken apart.
    expect(of('mill')).toMatchObject({ hoursOffered: 2, piecesOffered: 8 });
    expect(of('mill')?.waiting).toHaveLength(3);
  });
});

describe('whether the log is whole', () => {
  const between = (fromMs: number, toMs: number): number => (toMs - fromMs) / 60_000;
  const asked = {
    stageOf: () => 'fitting' as const,
    fromMs: hoursIn(0),
    toMs: hoursIn(240),
    between,
    shiftHours: 8,
  };
  const momentsMs = Array.from({ length: 240 }, (_, i) => hoursIn(i + 0.5));

  it('fits Little’s law where all is logged, and does not where racks that are there were never logged', () => {
    // A rack of four every ten hours, each there for twenty: eight at a time.
    const steady = Array.from({ length: 26 }, (_, i) =>
      stay('fit', 'waiting', [10 * i - 20, 10 * i], { batch: `B-${i}`, ended: 'passed' }),
    );
    const of = (stays: PlacedStay[]) =>
      logWhole({ ...asked, stays, momentsMs }).little.find(({ stage }) => stage === 'fitting');
    expect(of(steady)).toMatchObject({ wip: 8, fits: true });
    const unmoved = Array.from({ length: 4 }, (_, i) =>
      stay('fit', 'waiting', [0, 240], { batch: `B-9${i}`, ended: null }),
    );
    expect(of([...steady, ...unmoved])).toMatchObject({ wip: 24, fits: false });
  });

  it('counts what is there at each moment, however stays lie to the moments: as counting one by one does (seed 9)', () => {
    const random = randomStream(9);
    for (let run = 0; run < 40; run += 1) {
      const stays = Array.from({ length: 60 }, (_, i) => {
        // Whole hours: many begin, end, and are counted at the same moment.
        const from = random.between(-20, 240);
        const ended = random.chance(0.8) ? ('passed' as const) : null;
        return stay('fit', 'waiting', [from, from + random.between(0, 60)], {
          ...{ batch: `B-${i}`, ended, pieces: random.between(1, 9) },
        });
      });
      const moments = Array.from({ length: 50 }, () => hoursIn(random.between(0, 240)));
      const counted = moments.map((atMs) =>
        stays
          .filter(({ fromMs, toMs, ended }) => fromMs <= atMs && (toMs > atMs || ended === null))
          .reduce((sum, { pieces }) => sum + pieces, 0),
      );
      const { wip = NaN } =
        logWhole({ ...asked, stays, momentsMs: moments }).little.find(({ stage }) => stage === 'fitting') ??
        {};
      expect(wip).toBeCloseTo(counted.reduce((sum, one) => sum + one, 0) / counted.length, 9);
    }
  });

  it('finds what was never in hand, what nobody can do so fast, and what has not moved', () => {
    const told = logWhole({
      ...{ ...asked, momentsMs },
      stays: [
        ...[1, 2, 3].map((i) => stay('fit', 'waiting', [i, i + 1], { batch: `B-${i}` })),
        ...[4, 5, 6].map((i) => stay('mill', 'inHand', [i, i + 0.01], { batch: `B-${i}` })),
        stay('mill', 'inHand', [7, 9], { batch: 'B-7' }),
        stay('fit', 'waiting', [10, 240], { batch: 'B-8', ended: null }),
        stay('fit', 'onHold', [10, 240], { batch: 'B-9', ended: null }),
      ],
    });
    expect(told.missingStarts).toEqual([
      {
        station: 'bench',
        operation: 'fit',
        operationName: 'Fit',
        count: 3,
        of: 3,
        batches: ['B-3', 'B-2', 'B-1'],
      },
    ]);
    expect(told.tooFast).toMatchObject([{ operation: 'mill', count: 3, of: 4 }]);
    expect(told.forgotten).toMatchObject([{ batch: 'B-8', status: 'waiting', pieces: 4, days: 230 / 8 }]);
  });

  it('finds who files all at once at the end of the day, and leaves alone who files little', () => {
    const counts = [
      { person: 'ann', at: '15:15', count: 18 },
      { person: 'ann', at: '09:00', count: 6 },
      { person: 'bo', at: '15:15', count: 12 },
      { person: 'cy', at: '10:00', count: 12 },
      { person: 'cy', at: '11:00', count: 12 },
    ];
    expect(filingHabits(counts)).toEqual([{ person: 'ann', at: '15:15', count: 18, of: 24 }]);
  });
});
