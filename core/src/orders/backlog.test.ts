import type { Route } from '../route/index.ts';
import { hoursIn } from '../testing/tarrow.ts';
import { backlogAt, type Wanted } from './index.ts';

const work = { setUpMinutes: 15, skill: null, caution: null, coats: null, reworkTo: null };
const join = (role: 'host' | 'guest') => ({
  ...{ ...work, key: 'join', name: 'Joint', mode: 'join', role, partnerKind: role === 'host' ? 'N' : 'B' },
  ...{ makesKind: 'I', stations: ['fit'], pieceMinutes: 20 },
});
const routeOf = (kind: string, operations: object[]): Route =>
  ({ id: `h-${kind}`, model: 'Halyard', kind, revision: 1, operations }) as Route;
const ROUTES = [
  routeOf('B', [
    { ...work, key: 'mill', name: 'Mill', mode: 'load', stations: ['mill'], places: 10, cycleMinutes: 150 },
    { ...work, key: 'colour', name: 'Colour', mode: 'attended', stations: ['colour'], pieceMinutes: 24 },
    join('host'),
  ]),
  routeOf('N', [
    { ...work, key: 'seal', name: 'Seal', mode: 'attended', stations: ['colour'], pieceMinutes: 6 },
    join('guest'),
  ]),
  routeOf('I', [
    { ...work, key: 'touch', name: 'Touch up', mode: 'attended', stations: ['colour'], pieceMinutes: 30 },
    {
      ...work,
      key: 'cure',
      name: 'Cure',
      mode: 'hold',
      stations: ['colour'],
      rule: { rule: 'elapsed', hours: 9 },
    },
  ]),
];
const wanted = (line: string, kind: string, count: number): Wanted => ({
  ...{ line, order: line.split('/')[0] ?? '', model: 'Halyard', kind, count },
  ...{ choices: {}, spec: { revision: 1, lines: [] }, dueMs: hoursIn(100) },
});

test('what is not begun takes the hours of its parts, and those of the instrument once', () => {
  // Four bodies of 24 min, four necks of 6, four instruments of 30: 4 × 60 min. A neck wanted again by itself: 2 × 6.
  const all = [wanted('O-1/1', 'B', 4), wanted('O-1/1', 'N', 4), wanted('O-2/1', 'N', 2)];
  expect(backlogAt('colour', all, ROUTES)).toEqual([
    { dueMs: hoursIn(100), pieces: 4, hours: 4 },
    { dueMs: hoursIn(100), pieces: 2, hours: 0.2 },
  ]);
  // Ten places for 150 min: a quarter of an hour each.
  expect(backlogAt('mill', all, ROUTES).map(({ hours }) => hours)).toEqual([1, 0]);
  expect(backlogAt('mill', [{ ...wanted('O-3/1', 'B', 1), model: 'Ratline' }], ROUTES)).toEqual([]);
});
