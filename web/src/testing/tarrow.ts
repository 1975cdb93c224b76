import {
  boardRows,
  drawRack,
  type FactoryCalendar,
  type Operation,
  type PieceState,
  type Route,
} from '@ample-crane/core';
import type { Floor, Rack, RackLine, Setup, StageRow, StationView } from '../api/queries.ts';

/** Tuesday 24 November 2026, 14:20 in a factory that keeps UTC. */
export const NOW = Date.UTC(2026, 10, 24, 14, 20);
export const HOUR = 3_600_000;
/** One shift, 6:00 to 16:00 on weekdays. */
export const CALENDAR: FactoryCalendar = {
  zone: 'UTC',
  shifts: [{ name: 'A', start: '06:00', end: '16:00', weekdays: [1, 2, 3, 4, 5], breaks: [] }],
  closedDays: [],
  overtime: [],
};

const common = { reworkTo: null, caution: null };
const operations: Operation[] = [
  {
    ...common,
    key: 'mill',
    name: 'Body mill',
    mode: 'load',
    stations: ['body-mill'],
    places: 12,
    setUpMinutes: 30,
    cycleMinutes: 120,
    skill: null,
  },
  {
    ...common,
    key: 'rest',
    name: 'Body rest',
    mode: 'hold',
    stations: ['wood'],
    room: 'Wood room',
    rule: { rule: 'elapsed', word: 'rest', hours: 48 },
  },
  {
    ...common,
    key: 'join',
    name: 'Neck joint',
    mode: 'join',
    role: 'host',
    partnerKind: 'N',
    makesKind: 'I',
    stations: ['neck-fit'],
    setUpMinutes: 0,
    pieceMinutes: 20,
    skill: null,
  },
];

export const route: Route = { id: 'r', model: 'Bowline', kind: 'B', revision: 1, operations };
export const neckRoute: Route = {
  ...route,
  id: 'n',
  kind: 'N',
  operations: operations.map((o) => (o.mode === 'join' ? { ...o, role: 'guest', partnerKind: 'B' } : o)),
};

const station = (code: string, name: string): StationView => ({
  code,
  name,
  stage: 'machining',
  parallel: 1,
  room: '',
  note: '',
  station: code,
  hoursWaiting: 0,
  hoursADay: 9,
  days: 0,
});

export const piece = (position: number, extra: Partial<PieceState> = {}): PieceState => ({
  position,
  operation: 'mill',
  standing: 'waiting',
  sinceMs: NOW - HOUR,
  station: null,
  rework: null,
  called: null,
  joinedInto: null,
  parents: [],
  scrapReason: null,
  ...extra,
});

export function batch(code: string, pieces: PieceState[], extra: Partial<Rack> = {}): Rack {
  const kind = code.charAt(0);
  return {
    code,
    seq: 1,
    holds: [],
    route: kind === 'N' ? neckRoute : route,
    state: {
      code,
      kind,
      model: 'Bowline',
      routeId: kind === 'N' ? 'n' : 'r',
      quantity: pieces.length,
      dueMs: NOW + 240 * HOUR,
      openedMs: NOW - 240 * HOUR,
      lastMs: NOW - HOUR,
      pieces,
      readings: [],
      coats: [],
      measures: [],
      overrides: [],
    },
    ...extra,
  };
}

const stations = [
  station('wood', 'Wood room'),
  station('body-mill', 'Body mill'),
  station('neck-fit', 'Neck fit'),
];

/** The floor with these racks on it. */
export const floorOf = (racks: readonly Rack[]): Floor => ({
  nowMs: NOW,
  factory: 'Tarrow Works',
  zone: 'UTC',
  shift: null,
  peopleIn: 1,
  peopleAll: 1,
  stages: [],
  constraint: null,
  stations,
  racks: racks.map(({ code, seq, state }) => ({ code, model: state.model, seq, routeId: state.routeId })),
  operations: [route, neckRoute].map(({ id, operations: all }) => ({
    routeId: id,
    operations: all.map(({ key, name }) => ({ key, name })),
  })),
  lots: ['W-74'],
  lastFiling: null,
});

/** All its stations, with what stands at them. */
export const rowsOf = (racks: readonly Rack[]): StageRow[] =>
  boardRows(
    stations,
    racks.map((rack) => drawRack(rack, rack.holds)),
  );

/** Two models of a works that is open on weekdays, but for the Friday on which a batch opened now would be due. */
export const SETUP: Setup = {
  people: [],
  models: [
    {
      ...{ model: 'Bowline', construction: 'bolted', description: 'flat body', kinds: ['B', 'N'] },
      ...{ wood: null, finish: {} },
    },
    {
      ...{ model: 'Halyard', construction: 'set', description: 'carved top', kinds: ['B'] },
      ...{ wood: null, finish: {} },
    },
  ],
  kinds: [
    { letter: 'B', name: 'body' },
    { letter: 'N', name: 'neck' },
  ],
  species: [
    { name: 'white ash', ...{ basicSpecificGravity: 0.55, radialShrinkagePct: 4.9 }, papersNeeded: false },
    { name: 'red cedrela', ...{ basicSpecificGravity: 0.42, radialShrinkagePct: 4.2 }, papersNeeded: true },
  ].map((one) => ({ ...one, tangentialShrinkagePct: 7.8 })),
  rooms: ['Wood room'],
  calendar: {
    zone: 'UTC',
    shifts: [{ name: 'day', weekdays: [1, 2, 3, 4, 5], start: '06:30', end: '15:00', breaks: [] }],
    closedDays: ['2027-01-15'],
    overtime: [],
  },
  hourRates: { person: 34, machine: 58 },
};

/** A rack in the list of all: it waits at the mill, and will be in time. */
export const rackLineOf = (code: string, more: Partial<RackLine> = {}): RackLine => ({
  ...{ batch: code, kind: 'B', model: 'Bowline', quantity: 12, pieces: 12, openedMs: NOW - 240 * HOUR },
  ...{ dueMs: NOW + 120 * HOUR, earliestMs: NOW + 96 * HOUR, operation: 'mill', operationName: 'Body mill' },
  ...{
    station: 'body-mill',
    standing: 'waiting',
    here: 12,
    sinceMs: NOW - 48 * HOUR,
    people: [],
    hold: null,
  },
  ...{ stations: ['body-mill'], over: [], orders: [] },
  ...more,
});
