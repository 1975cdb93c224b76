import fc from 'fast-check';
import { applyEntry } from '../entries/reduce.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { entry, hoursIn, longRoute, MONDAY, openBody } from '../testing/tarrow.ts';
import { dayRoster, workBefore, type RosterPerson, type RosterWork } from './day-roster.ts';

const person = (code: string, home: string | null, skills: string[], hours = 8): RosterPerson => ({
  ...{ code, home, skills, hours },
});
const work = (station: string, skill: string | null, hours: number): RosterWork => ({
  station,
  skill,
  hours,
});
const said = ({ places }: ReturnType<typeof dayRoster>): string[] =>
  places.map(
    ({ person: who, station, hours, isLent }) => `${who} ${station} ${hours}${isLent ? ' lent' : ''}`,
  );

describe('who works where', () => {
  const fitting = [
    person('oakes', 'neck-fit', ['fit']),
    person('yarrow', 'fret', ['fret', 'fit']),
    person('pell', 'fret', ['fret']),
  ];
  const places = new Map([
    ['neck-fit', 2],
    ['fret', 2],
    ['press', 1],
  ]);
  const asked = { people: fitting, places, hours: 8, order: [] };

  it('is at home where there is enough to do, and lent where there is not; what nobody needs is free', () => {
    const roster = dayRoster({ ...asked, work: [work('neck-fit', 'fit', 12), work('fret', 'fret', 6)] });
    // Twelve hours at two benches of neck fit: eight are Oakley's, four Yarrow's, whom Pell's six hours at the frets leave free.
    expect(said(roster)).toEqual(['oakes neck-fit 8', 'yarrow neck-fit 4 lent', 'pell fret 6']);
    expect(roster.left).toEqual([]);
    expect(roster.free).toEqual([
      { person: 'pell', hours: 2 },
      { person: 'yarrow', hours: 4 },
    ]);
  });

  it('takes from what comes later in the order, never from what comes before it', () => {
    const hours = [work('press', 'fit', 8), work('neck-fit', 'fit', 16), work('fret', 'fret', 16)];
    const roster = dayRoster({ ...asked, work: hours, order: ['press', 'neck-fit', 'fret'] });
    const of = (station: string): number =>
      roster.places.filter((one) => one.station === station).reduce((sum, one) => sum + one.hours, 0);
    expect([of('press'), of('neck-fit'), of('fret')]).toEqual([8, 8, 8]);
    expect(roster.left.map(({ station, hours: missing }) => [station, missing])).toEqual([
      ['neck-fit', 8],
      ['fret', 8],
    ]);
    // Two places each: at the second one nobody is there who can.
    expect(roster.empty).toEqual([
      { station: 'neck-fit', hours: 8 },
      { station: 'fret', hours: 8 },
    ]);
  });

  it('has no more people at a station than it has places, and lends nobody for half an hour', () => {
    const one = dayRoster({
      ...{ people: [person('a', 'press', ['fit']), person('b', 'press', ['fit'])], hours: 8, order: [] },
      ...{ places: new Map([['press', 1]]), work: [work('press', 'fit', 20)] },
    });
    expect(said(one)).toEqual(['a press 8']);
    expect(one.left).toEqual([work('press', 'fit', 12)]);
    expect(one.empty).toEqual([]);
    const half = dayRoster({
      ...asked,
      people: [person('oakes', 'neck-fit', ['fit'])],
      work: [work('press', 'fit', 0.5)],
    });
    expect(said(half)).toEqual([]);
    expect(half.free).toEqual([{ person: 'oakes', hours: 8 }]);
  });

  it('property: station by station as much as any way of giving out the hours covers, with as few lent', () => {
    const stations = ['s', 't', 'u'];
    const skills = ['p', 'q'];
    const anyone = fc.record({
      home: fc.constantFrom(...stations),
      skills: fc.subarray(skills, { minLength: 1 }),
      hours: fc.integer({ min: 1, max: 2 }),
    });
    const task = fc.record({
      station: fc.constantFrom(...stations),
      skill: fc.constantFrom(...skills),
      hours: fc.integer({ min: 1, max: 3 }),
    });
    const question = fc.record({
      people: fc.array(anyone, { minLength: 1, maxLength: 3 }),
      work: fc.uniqueArray(task, { selector: (one) => one.station + one.skill, minLength: 1, maxLength: 3 }),
      room: fc.tuple(...stations.map(() => fc.integer({ min: 1, max: 2 }))),
    });
    fc.assert(
      fc.property(question, ({ people, work: tasks, room }) => {
        const named = people.map((one, i) => ({ ...one, code: `${i}` }));
        const roomOf = new Map(stations.map((station, i) => [station, room[i] ?? 1]));
        const roster = dayRoster({ people: named, work: tasks, places: roomOf, hours: 2, order: stations });
        const covered = stations.map((station) =>
          roster.places.filter((one) => one.station === station).reduce((sum, one) => sum + one.hours, 0),
        );
        const lent = roster.places.reduce((sum, one) => sum + (one.isLent ? one.hours : 0), 0);
        expect([...covered, 0 - lent]).toEqual(bestOf(named, tasks, roomOf, stations));
      }),
      { numRuns: 400 },
    );
  });
});

/** By trying every way of giving each hour of each person to a task or none: hours by station, then the hours lent, fewest first. */
function bestOf(
  people: readonly RosterPerson[],
  tasks: readonly RosterWork[],
  room: ReadonlyMap<string, number>,
  stations: readonly string[],
): number[] {
  let best: number[] = [];
  const better = (one: readonly number[]): boolean => {
    const at = one.findIndex((value, i) => value !== best[i]);
    return best.length === 0 || (at >= 0 && (one[at] ?? 0) > (best[at] ?? 0));
  };
  const hours = people.flatMap((one) => Array.from({ length: one.hours }, () => one));
  const given = tasks.map(() => 0);
  const go = (i: number, lent: number): void => {
    const one = hours[i];
    if (!one) {
      const covered = stations.map((station) =>
        tasks.reduce((sum, task, t) => sum + (task.station === station ? (given[t] ?? 0) : 0), 0),
      );
      const fits = stations.every((station, s) => (covered[s] ?? 0) <= 2 * (room.get(station) ?? 1));
      if (fits && better([...covered, -lent])) best = [...covered, -lent];
      return;
    }
    go(i + 1, lent);
    tasks.forEach((task, t) => {
      if (!one.skills.includes(task.skill ?? '') || (given[t] ?? 0) >= task.hours) return;
      given[t] = (given[t] ?? 0) + 1;
      go(i + 1, lent + (one.home === task.station ? 0 : 1));
      given[t] = (given[t] ?? 0) - 1;
    });
  };
  go(0, 0);
  return best.map((value) => value + 0);
}

describe('what there is to do today', () => {
  it('is what waits and is in hand, and what comes off its hold before the end of the day', () => {
    const opened = applyEntry(null, longRoute, entry(1, MONDAY, openBody(longRoute, 'B-1', 10)));
    if (isRefusal(opened)) throw new Error(opened.refused);
    const { state } = opened;
    const rack = (endMs: number | null) => ({
      ...{ state, route: longRoute },
      holds: [{ operation: 'dry', positions: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10], endMs }],
    });
    // Ten pieces on a table of eight: set-up 20 minutes, twice an hour.
    expect(workBefore([rack(hoursIn(3))], hoursIn(8))).toEqual([
      { ...work('body-mill', 'cnc', 140 / 60), comingHours: 140 / 60 },
    ]);
    expect(workBefore([rack(hoursIn(9)), rack(null)], hoursIn(8))).toEqual([]);
    const dried = {
      ...state,
      pieces: state.pieces.map((piece) => ({ ...piece, operation: 'mill', standing: 'waiting' as const })),
    };
    const there = { state: dried, route: longRoute, holds: [] };
    expect(workBefore([there], hoursIn(8))).toEqual([
      { ...work('body-mill', 'cnc', 140 / 60), comingHours: 0 },
    ]);
    expect(workBefore([rack(hoursIn(3)), there], hoursIn(8))).toEqual([
      { ...work('body-mill', 'cnc', 280 / 60), comingHours: 140 / 60 },
    ]);
  });
});
