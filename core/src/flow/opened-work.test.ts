import type { Operation, Route } from '../route/index.ts';
import { openedWork } from './opened-work.ts';

const common = { checks: [], reworkTo: null, caution: null, next: undefined };
const attended = (key: string, station: string, pieceMinutes: number, setUpMinutes = 0) => ({
  ...{ ...common, key, name: key, mode: 'attended', stations: [station] },
  ...{ pieceMinutes, setUpMinutes, skill: null },
});
const route = (kind: string, operations: object[]): Route => ({
  id: `r-${kind}`,
  model: 'Bowline',
  kind,
  revision: 1,
  operations: operations as Operation[],
});
const hold = {
  ...common,
  key: 'rest',
  name: 'rest',
  mode: 'hold',
  stations: ['wood-room'],
  room: 'Wood room',
};
const join = (role: 'host' | 'guest') => ({
  ...{ ...common, key: 'join', name: 'join', mode: 'join', stations: ['neck-fit'], role },
  ...{ partnerKind: role === 'host' ? 'N' : 'B', makesKind: 'I', pieceMinutes: 30, setUpMinutes: 0 },
});
const routes = [
  route('B', [
    hold,
    { ...attended('mill', 'body-mill', 0), mode: 'load', places: 8, cycleMinutes: 60, setUpMinutes: 30 },
    join('host'),
  ]),
  route('N', [attended('carve', 'fret-bench', 20, 15), join('guest')]),
  route('I', [
    attended('colour', 'colour', 25),
    attended('buff', 'buff', 10, 30),
    attended('touch up', 'colour', 5),
  ]),
  route('W', [{ ...attended('saw', 'body-mill', 5), mode: 'split', makesKinds: ['B', 'N'] }]),
];
const load = (station: string, hoursWaiting: number, hoursADay: number) => ({
  ...{ station, hoursWaiting, hoursADay, days: hoursADay > 0 ? hoursWaiting / hoursADay : 0 },
});
const loads = [
  load('body-mill', 9, 9),
  load('fret-bench', 0, 18),
  load('neck-fit', 4.5, 9),
  load('colour', 44, 8),
  load('buff', 0, 0),
  load('packing', 3, 9),
];

describe('what opened racks bring to the stations', () => {
  it('is the work of twelve bodies and necks up to the last of the instruments they become', () => {
    const parts = [
      { kind: 'B', ways: {}, pieces: 12 },
      { kind: 'N', ways: {}, pieces: 12 },
    ];
    // Mill: 30 + 2 loads of 60 min. Carve: 15 + 12 · 20. Join, once: 12 · 30. Colour: 12 · (25 + 5). Buff: 30 + 12 · 10.
    expect(openedWork({ parts, routes, loads })).toEqual([
      { station: 'body-mill', addedHours: 2.5, daysNow: 1, daysWith: 1 + 2.5 / 9 },
      { station: 'fret-bench', addedHours: 4.25, daysNow: 0, daysWith: 4.25 / 18 },
      { station: 'neck-fit', addedHours: 6, daysNow: 0.5, daysWith: 0.5 + 6 / 9 },
      { station: 'colour', addedHours: 6, daysNow: 5.5, daysWith: 6.25 },
      // Nobody works there today: no days can be told.
      { station: 'buff', addedHours: 2.5, daysNow: 0, daysWith: 0 },
    ]);
  });

  it('of necks alone ends where they join: the instruments come with their bodies', () => {
    const parts = [{ kind: 'N', ways: {}, pieces: 12 }];
    expect(openedWork({ parts, routes, loads }).map(({ station }) => station)).toEqual(['fret-bench']);
  });

  it('goes on with what a split makes, once each', () => {
    const [mill, bench] = openedWork({ parts: [{ kind: 'W', ways: {}, pieces: 12 }], routes, loads });
    expect(mill).toMatchObject({ station: 'body-mill', addedHours: 2.5 + 1 });
    expect(bench).toMatchObject({ station: 'fret-bench', addedHours: 4.25 });
  });

  it('is nothing of a part without a route, or of no pieces', () => {
    expect(openedWork({ parts: [{ kind: 'X', ways: {}, pieces: 12 }], routes, loads })).toEqual([]);
    expect(openedWork({ parts: [{ kind: 'B', ways: {}, pieces: 0 }], routes, loads })).toEqual([]);
  });

  it('ends even where a part would become what it was', () => {
    const circle = [route('B', [{ ...attended('saw', 'body-mill', 60), mode: 'split', makesKinds: ['B'] }])];
    expect(openedWork({ parts: [{ kind: 'B', ways: {}, pieces: 1 }], routes: circle, loads })).toMatchObject([
      { station: 'body-mill', addedHours: 1 },
    ]);
  });
});
