import { replay } from '../entries/replay.ts';
import { meetingForecast } from '../fitting/meeting.ts';
import type { BatchState } from '../ledger/batch.ts';
import { isRefusal } from '../ledger/refusal.ts';
import type { Check } from '../machining/check.ts';
import type { Route } from '../route/route.ts';
import { bodyRoute, branchingRoute, entry, hoursIn, neckRoute, openBody } from '../testing/tarrow.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { joinAhead, meetingCalls, meetingSides } from './meeting-sides.ts';
import { millCalls, type DimensionView } from './mill-calls.ts';
import { neededMs } from './needed.ts';

/** Ten hours of work every day, from 06:00: every hour of a test can be counted by hand. */
const calendar: FactoryCalendar = {
  zone: 'UTC',
  shifts: [{ name: 'A', start: '06:00', end: '16:00', weekdays: [1, 2, 3, 4, 5, 6, 7], breaks: [] }],
  closedDays: [],
  overtime: [],
};
const batch = (
  route: Route,
  code: string,
  quantity: number,
  ...bodies: Parameters<typeof entry>[2][]
): BatchState => {
  const log = [openBody(route, code, quantity), ...bodies].map((body, i) => entry(i + 1, hoursIn(i), body));
  const state = replay(route, log);
  if (!state || isRefusal(state)) throw new Error(`${code} was not filed`);
  return state;
};
const time = (ms: number): string => `${(ms - hoursIn(0)) / HOUR_MS} h`;

describe('the way to a join', () => {
  const milling = { state: batch(bodyRoute, 'B-1', 8), route: bodyRoute, holds: [] };
  const there = {
    state: batch(neckRoute, 'N-1', 8, { type: 'start' }, { type: 'done' }),
    route: neckRoute,
    holds: [],
  };

  it('is as long as the route says: one load of 80 minutes', () => {
    const [body, neck] = meetingSides({ racks: [milling, there], calendar, nowMs: hoursIn(4) });
    expect(body).toMatchObject({
      batch: 'B-1',
      role: 'host',
      pieces: 8,
      joinName: 'Neck joint',
      partner: null,
    });
    expect(body?.arrivesMs).toBe(hoursIn(4 + 80 / 60));
    // What stands there arrived when it came.
    expect(neck?.arrivesMs).toBe(hoursIn(2));
  });

  it('is not for what joins nothing, and a range without an end is drawn no further than a year', () => {
    const shipping = { state: batch(branchingRoute, 'B-2', 2), route: branchingRoute, holds: [] };
    expect(joinAhead(shipping)).toBeUndefined();
    const resting: Route = {
      ...bodyRoute,
      operations: [...branchingRoute.operations.slice(0, 1), ...bodyRoute.operations],
    };
    const { next: _next, ...dry } = resting.operations[0] as Route['operations'][number];
    const route = { ...resting, operations: [dry as Route['operations'][number], ...bodyRoute.operations] };
    const hold = { operation: 'dry', endMs: hoursIn(10), lowMs: hoursIn(5), highMs: Infinity };
    const [side] = meetingSides({
      racks: [{ state: batch(route, 'B-3', 8), route, holds: [hold] }],
      calendar,
      nowMs: hoursIn(1),
    });
    expect(side?.lowMs).toBeLessThan(side?.arrivesMs ?? 0);
    expect(Number.isFinite(side?.highMs)).toBe(true);
  });

  it('that two do not end together is a call, with its numbers and the swap that helps', () => {
    const sides = meetingSides({ racks: [milling, there], calendar, nowMs: hoursIn(60) });
    const calls = meetingCalls(meetingForecast(sides), sides, hoursIn(60), time);
    expect(calls).toHaveLength(1);
    expect(calls[0]).toMatchObject({ kind: 'meeting', title: 'N-1 will wait 3.0 days for B-1' });
    expect(calls[0]?.detail).toMatch(
      /^8 pieces there 2 h, B-1 .* h; more than 24 h apart. No change of partners helps.$/,
    );
    const early = meetingSides({ racks: [milling, there], calendar, nowMs: hoursIn(3) });
    expect(meetingCalls(meetingForecast(early), early, hoursIn(3), time)).toEqual([]);
  });
});

describe('when a load must be off at the latest', () => {
  it('is the due date less what still comes: 48 h of rest and 2 h 10 of packing, by hand', () => {
    // Two days of rest from 06:00 on day 10 end at 06:00 on day 12; 8 pieces at 15 min and 10 min of set-up follow.
    const needed = neededMs({
      ...{ route: branchingRoute, operation: 'mill', pieces: 8, calendar, then: null },
      dueMs: hoursIn(240),
    });
    const whole = {
      ...branchingRoute,
      operations: branchingRoute.operations.filter(({ key }) => !['copy', 'true-up'].includes(key)),
    };
    const worked = neededMs({
      route: whole,
      operation: 'mill',
      pieces: 8,
      dueMs: hoursIn(240),
      calendar,
      then: null,
    });
    expect((hoursIn(240) - worked) / HOUR_MS).toBeCloseTo(48 + 130 / 60, 6);
    expect(needed).toBeLessThan(worked);
    expect(() =>
      neededMs({ route: whole, operation: 'x', pieces: 1, dueMs: 0, calendar, then: null }),
    ).toThrow(/no operation 'x'/);
  });
});

describe('calls of the mill', () => {
  const check: Check = {
    ...{ key: 'w', name: 'Pocket width', unit: 'mm', nominal: 57.25, lower: 57.17, upper: 57.33 },
    ...{ firstPiece: true, sample: 3 },
  };
  const view = (rest: Partial<DimensionView>): DimensionView => ({
    ...{ model: 'Halyard', kind: 'B', check, piecesAPoint: 8, drift: null, hit: null, href: '/chart' },
    ...{ rangeHit: null, outside: [] },
    ...rest,
  });
  const drift = {
    ...{ slope: -0.004, now: 57.19, toward: 'lower' as const, limit: 57.17 },
    ...{ pointsToLimit: 5, lowPoints: 4, highPoints: 7, byChance: 1e-4 },
  };
  const none = { dimensions: [], cutters: [], machines: [] };

  it('say in how many pieces a dimension meets its limit, and that the last point broke a rule', () => {
    const [near, hit] = millCalls({
      ...none,
      dimensions: [
        view({ drift }),
        view({ hit: { rule: 'beyond', at: 30, from: 30, side: 'above' } }),
        view({}),
      ],
    });
    expect(near).toMatchObject({
      title: 'Halyard B: pocket width will reach its limit in about 40 pieces (32 to 56)',
      detail: 'Now 57.19 mm by its trend, falling 0.0005 a piece; limits 57.17–57.33 mm; 90 % range.',
    });
    expect(hit?.title).toBe('Halyard B: pocket width is out of control');
    expect(near?.cost).toBeGreaterThan(hit?.cost ?? Infinity);
  });

  it('name a value outside its spec before anything else, and a range beyond its limits (11.8)', () => {
    const [outside, range] = millCalls({
      ...none,
      dimensions: [view({ drift, outside: [57.4] }), view({ rangeHit: { at: 3, side: 'above' } })],
    });
    expect(outside).toMatchObject({
      title: 'Halyard B: pocket width is outside its limits',
      detail: 'The last look has 57.4 mm; limits 57.17–57.33 mm.',
    });
    expect(range?.detail).toBe('Its newest look breaks a rule: its pieces differ too much.');
  });

  it('leave a limit that is far away in peace, and say when it is reached already', () => {
    const far = view({ drift: { ...drift, pointsToLimit: 40 } });
    expect(millCalls({ ...none, dimensions: [far] })).toEqual([]);
    const [at] = millCalls({
      ...none,
      dimensions: [view({ drift: { ...drift, pointsToLimit: 0, highPoints: Infinity } })],
    });
    expect(at?.title).toBe('Halyard B: pocket width is at its lower limit');
  });

  it('name cutters past their life or about to pass it, and machines that cannot be trusted', () => {
    const cutter = { station: 'body-mill', stationName: 'Body mill', lifeMinutes: 480 };
    const calls = millCalls({
      ...none,
      cutters: [
        { ...cutter, tool: 'upcut 6', usedMinutes: 300, pastWith: null },
        { ...cutter, tool: 'ball 10', usedMinutes: 460, pastWith: 'B-7 on halyard-b/mill r1' },
        { ...cutter, tool: 'ball 16', usedMinutes: 500, pastWith: null },
      ],
      machines: [
        { code: 'm', name: 'Body mill', station: 'body-mill', trouble: 'it does not answer', open: 2 },
        { code: 'n', name: 'Neck mill', station: 'neck-mill', trouble: null, open: 0 },
      ],
    });
    expect(calls.map(({ title }) => title)).toEqual([
      'Change ball 10 at Body mill soon',
      'ball 16 at Body mill is past its life',
      'Body mill cannot be trusted now',
      'Body mill ran 2 cycles nobody has confirmed',
    ]);
  });
});
