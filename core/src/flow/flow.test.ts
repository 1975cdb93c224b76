import { applyEntry } from '../entries/reduce.ts';
import type { BatchState } from '../ledger/batch.ts';
import type { EntryBody } from '../entries/index.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { lineEffect } from '../logline/describe.ts';
import { applyAll } from '../logline/preview.ts';
import type { Station } from '../route/route.ts';
import { entry, hoursIn, longRoute, MONDAY, openBody } from '../testing/tarrow.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import type { Call } from './call.ts';
import { calls, type HoldView } from './calls.ts';
import { earliestEndMs } from './due.ts';
import { ropeStages } from './rope.ts';
import {
  constraintWords,
  markedConstraint,
  stationLoads,
  stationsLeft,
  workNow,
  type LoadDay,
} from './station-load.ts';

const station = (code: string, stage: Station['stage'], parallel = 1): Station => ({
  code,
  name: code,
  stage,
  parallel,
  room: '',
  note: '',
});
const stations = [
  station('wood', 'wood'),
  station('body-mill', 'machining', 2),
  station('clear', 'finishing'),
];
const calendar: FactoryCalendar = {
  zone: 'UTC',
  shifts: [{ name: 'A', start: '06:00', end: '14:00', weekdays: [1, 2, 3, 4, 5], breaks: [] }],
  closedDays: [],
  overtime: [],
};

function batch(code: string, bodies: EntryBody[] = []): { state: BatchState; route: typeof longRoute } {
  let state: BatchState | null = null;
  [openBody(longRoute, code), ...bodies].forEach((body, i) => {
    const outcome = applyEntry(state, longRoute, entry(i + 1, hoursIn(i), body));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    state = outcome.state;
  });
  return { state: state as unknown as BatchState, route: longRoute };
}
const atTheMill = (code: string) => batch(code, [{ type: 'read', valuesPct: [7, 7, 7] }, { type: 'end' }]);

describe('work in front of the stations', () => {
  it('is the sum of what waits, by the route: two racks of 12 at 2 cycles and a set-up each are 4.67 h', () => {
    const loads = stationLoads({
      work: workNow([atTheMill('B-1'), atTheMill('B-2')]),
      stations,
      shiftHours: 8,
    });
    const mill = loads.find((load) => load.station === 'body-mill');
    expect(mill?.hoursWaiting).toBeCloseTo((2 * 140) / 60, 10);
    expect(mill?.hoursADay).toBe(16);
    expect(mill?.days).toBeCloseTo(280 / 60 / 16, 10);
  });

  it('is left once by a piece, behind the last of its operations there, the usual station deciding', () => {
    expect(stationsLeft(longRoute, 'dry')).toEqual([]);
    expect(stationsLeft(longRoute, 'gate')).toEqual(['wood']);
    expect(stationsLeft(longRoute, 'mill')).toEqual(['body-mill', 'mill-2']);
    expect(stationsLeft(longRoute, 'clear')).toEqual([]);
    expect(stationsLeft(longRoute, 'cure')).toEqual(['clear']);
  });

  it('does not count racks on hold', () => {
    expect(
      stationLoads({ work: workNow([batch('B-1')]), stations, shiftHours: 8 }).every(
        (load) => load.hoursWaiting === 0,
      ),
    ).toBe(true);
  });
});

describe('the mark of the constraint', () => {
  const load = (code: string, days: number) => ({
    station: code,
    hoursWaiting: days * 8,
    hoursADay: 8,
    days,
  });
  const history: LoadDay[] = ['2026-11-19', '2026-11-20'].flatMap((day) => [
    { day, station: 'body-mill', days: 1 },
    { day, station: 'clear', days: 3 },
  ]);

  it('is the station with the most days in front of it on average, not the one that is full just now', () => {
    const sign = markedConstraint([load('body-mill', 3), load('clear', 2)], history, null);
    expect(sign).toMatchObject({ station: 'clear', daysOnTop: 2, daysLookedAt: 3 });
    expect(sign?.meanDays).toBeCloseTo(8 / 3, 10);
  });

  it('is the station that the three signs name, whatever stands in front of another', () => {
    const named = { station: 'body-mill', skill: null, agree: 3, days: 20 };
    const now = [load('body-mill', 3), load('clear', 2)];
    const mark = markedConstraint(now, history, named);
    expect(mark).toMatchObject({ station: 'body-mill', signs: { skill: null, agree: 3, days: 20 } });
    expect(mark && constraintWords(mark)).toBe(
      'all three signs of the last 20 working days name it; 1.7 days of work in front of it on average.',
    );
    const burst = markedConstraint(now, history, { ...named, station: 'clear', skill: 'burst', agree: 2 });
    expect(burst && constraintWords(burst)).toBe(
      '2 of three signs of the last 20 working days name those who can burst, whose work is here most of all; 2.7 days of work in front of it on average.',
    );
    const unsure = markedConstraint(now, history, { ...named, station: 'gone' });
    expect(unsure && constraintWords(unsure)).toBe(
      '2.7 days of work in front of it on average, the most of any station on 2 of the last 3 days; the three signs of the log name none.',
    );
  });

  it('is nobody when nothing waits', () => {
    expect(markedConstraint([load('clear', 0.1)], [], null)).toBeNull();
  });
});

describe('the rope', () => {
  it('counts racks and pieces by stage, those on hold apart', () => {
    const rope = ropeStages([batch('B-1'), atTheMill('B-2')], stations);
    expect(rope[0]).toEqual({ stage: 'wood', racks: 1, pieces: 12, waiting: 0, inHand: 0, onHold: 12 });
    expect(rope[1]).toMatchObject({ stage: 'machining', racks: 1, waiting: 12 });
    expect(rope.reduce((sum, stage) => sum + stage.pieces, 0)).toBe(24);
  });
});

describe('the earliest a rack can be ready', () => {
  it('counts holds on the wall and work in shifts', () => {
    const { state, route } = atTheMill('B-1');
    const end = earliestEndMs({
      state,
      route: { ...route, operations: route.operations.slice(0, 3) },
      calendar,
      nowMs: MONDAY,
      holds: [],
    });
    // Mill 140 min from Monday 06:00, then 48 h of rest.
    expect(end).toBe(MONDAY + 140 * 60_000 + 48 * 3_600_000);
  });
});

describe('calls', () => {
  const hold: HoldView = {
    batch: 'B-1',
    operation: 'rest',
    operationName: 'Body rest',
    rule: 'elapsed',
    pieces: 12,
    over: true,
    overSinceMs: hoursIn(-5),
    sentence: 'Ready: rest of 48 h is over.',
    failed: false,
    passing: [],
    endMs: hoursIn(-5),
    next: 'Mill gate',
  };
  const ask = (extra: Partial<Parameters<typeof calls>[0]>): Call[] =>
    calls({
      nowMs: MONDAY,
      holds: [],
      due: [],
      loads: [],
      stations,
      constraint: null,
      arrivals: new Map(),
      open: true,
      time: (ms) => new Date(ms).toISOString().slice(5, 16),
      ...extra,
    });

  it('offers a hold that is over with its numbers and the line that ends it, and is gone when ended', () => {
    expect(ask({ holds: [hold] })[0]).toMatchObject({
      title: 'B-1 may leave Body rest',
      detail: '12 pieces. Ready: rest of 48 h is over. It has waited 5 h since.',
      actions: [{ label: 'End hold, on to Mill gate', line: 'B-1 end' }],
    });
    expect(ask({ holds: [{ ...hold, over: false }] })).toEqual([]);
  });

  it('makes one call of the groups of one rack', () => {
    expect(ask({ holds: [hold, { ...hold, pieces: 3, overSinceMs: hoursIn(-1) }] })).toMatchObject([
      { id: 'hold-over:Body rest', subject: 'B-1', items: [] },
    ]);
    expect(ask({ holds: [hold, { ...hold, pieces: 3 }] })[0]?.detail).toMatch(/^15 pieces/);
  });

  it('offers the pieces that pass when a gate sorts', () => {
    const failed = {
      ...hold,
      rule: 'moisture' as const,
      over: false,
      failed: true,
      passing: [1, 2, 4],
      endMs: null,
    };
    const [call] = ask({ holds: [failed] });
    expect(call?.detail).toMatch(/Not in this room as its air is/);
    expect(call?.actions[0]).toEqual({ label: 'End hold of the 3 that pass', line: 'B-1/1,2,4 end' });
    // Two groups of one rack are one rack.
    const twice = ask({ holds: [failed, { ...failed, pieces: 2, passing: [7] }] });
    expect(twice).toMatchObject([
      {
        title: 'B-1 does not pass its moisture gate',
        actions: [{ label: 'End hold of the 4 that pass', line: 'B-1/1,2,4,7 end' }, {}],
        items: [],
      },
    ]);
  });

  it('says how late and why, and only when it is', () => {
    const row = {
      batch: 'I-9',
      dueMs: hoursIn(24),
      earliestMs: hoursIn(72),
      pieces: 11,
      where: 'Colour booth',
    };
    expect(ask({ due: [row] })[0]?.title).toBe('I-9 will be 2 days late');
    expect(ask({ due: [{ ...row, earliestMs: hoursIn(20) }] })).toEqual([]);
  });

  it('sees a station run dry when the next rack comes too late', () => {
    const loads = [{ station: 'clear', hoursWaiting: 1, hoursADay: 8, days: 0.125 }];
    const arrivals = new Map([['clear', { batch: 'B-4', atMs: hoursIn(9) }]]);
    expect(ask({ loads, arrivals })[0]).toMatchObject({
      title: 'clear will run dry',
      actions: [{ label: 'See B-4' }],
    });
    expect(ask({ loads, arrivals: new Map([['clear', { batch: 'B-4', atMs: hoursIn(0.5) }]]) })).toEqual([]);
    expect(ask({ loads, arrivals, open: false })).toEqual([]);
  });

  it('puts the costliest first', () => {
    const row = {
      batch: 'I-9',
      dueMs: hoursIn(24),
      earliestMs: hoursIn(72),
      pieces: 11,
      where: 'Colour booth',
    };
    const sign = markedConstraint([{ station: 'clear', hoursWaiting: 32, hoursADay: 8, days: 4 }], [], null);
    const found = ask({ holds: [hold], due: [row], constraint: sign });
    expect(found.map((call) => call.kind)).toEqual(['constraint', 'late', 'hold-over']);
    expect(found[0]?.detail).toMatch(/32 h of work waiting against 8 h a day/);
  });
});

describe('the preview of a line', () => {
  it('tells what would change and what is left', () => {
    const { state } = batch('B-217', [
      { type: 'read', valuesPct: [7, 7, 7] },
      { type: 'end' },
      { type: 'start' },
    ]);
    const when = { seq: 5, atMs: hoursIn(5), filedMs: hoursIn(5), by: 'x' };
    const steps = applyAll(
      state,
      longRoute,
      [
        { type: 'done', count: 6 },
        { type: 'scrap', reason: 'tear-out' },
      ],
      when,
    );
    if (isRefusal(steps)) throw new Error(steps.refused);
    expect(lineEffect({ ...steps, route: longRoute })).toBe(
      'B-217: 6 done, 1 scrapped (tear-out), 1 in hand and 4 waiting at Body mill',
    );
    expect(
      applyAll(
        state,
        longRoute,
        [
          { type: 'done', count: 6 },
          { type: 'done', count: 6 },
        ],
        when,
      ),
    ).toMatchObject({
      code: 'not-enough',
    });
  });
});
