import type { Entry, EntryBody } from '../entries/index.ts';
import { operationOf, type Operation, type Route } from '../route/route.ts';
import { HOUR_MS } from '../units/quantities.ts';

/** A Monday morning, 06:00 UTC. */
export const MONDAY = Date.UTC(2026, 10, 23, 6);
export const hoursIn = (hours: number): number => MONDAY + hours * HOUR_MS;

const work = { setUpMinutes: 10, pieceMinutes: 15, skill: null, reworkTo: null, caution: null };

/** A route with every mode but joining: dry, mill, rest, spray, cure, set up, settle, inspect, ship. */
export const longRoute: Route = {
  id: 'bowline-i-1',
  model: 'Bowline',
  kind: 'B',
  revision: 1,
  operations: [
    {
      key: 'dry',
      name: 'Rest & read',
      mode: 'hold',
      stations: ['wood'],
      room: 'wood-1',
      reworkTo: null,
      caution: null,
      rule: { rule: 'moisture', word: 'drying', window: { lowPct: 6, highPct: 8.5 }, tauDays: 20 },
    },
    {
      key: 'mill',
      name: 'Body mill',
      mode: 'load',
      stations: ['body-mill', 'mill-2'],
      places: 8,
      setUpMinutes: 20,
      cycleMinutes: 60,
      skill: 'cnc',
      reworkTo: null,
      caution: 'Doors closed.',
    },
    {
      key: 'rest',
      name: 'Body rest',
      mode: 'hold',
      stations: ['wood'],
      room: 'wood-1',
      reworkTo: null,
      caution: null,
      rule: { rule: 'elapsed', word: 'rest', hours: 48 },
    },
    {
      ...work,
      key: 'gate',
      name: 'Mill gate',
      mode: 'gate',
      stations: ['wood'],
      gate: { kind: 'moisture', window: { lowPct: 6, highPct: 8.5 } },
    },
    {
      ...work,
      key: 'clear',
      name: 'Clear coats',
      mode: 'attended',
      stations: ['clear'],
      coats: { wanted: 2, material: 'thin lacquer' },
    },
    {
      key: 'cure',
      name: 'Cure',
      mode: 'hold',
      stations: ['clear'],
      room: 'booth-3',
      reworkTo: 'clear',
      caution: null,
      rule: {
        rule: 'cure',
        word: 'cure',
        material: 'thin lacquer',
        until: 'buff',
        referenceHours: 100,
        q: 1.6,
      },
    },
    {
      ...work,
      key: 'setup',
      name: 'Set-up',
      mode: 'attended',
      stations: ['setup'],
      coats: null,
      reworkTo: 'clear',
    },
    {
      key: 'settle',
      name: 'Settling',
      mode: 'hold',
      stations: ['setup'],
      room: 'assembly',
      reworkTo: 'setup',
      caution: null,
      rule: { rule: 'settle', word: 'settling', hours: 144, driftLimitMm: 0.1 },
    },
    {
      ...work,
      key: 'final',
      name: 'Final inspection',
      mode: 'gate',
      stations: ['setup'],
      gate: { kind: 'inspection' },
      reworkTo: 'setup',
    },
    { ...work, key: 'ship', name: 'Pack & ship', mode: 'ship', stations: ['packing'] },
  ],
};

const joining = (role: 'host' | 'guest'): Operation => ({
  ...work,
  key: 'join',
  name: 'Neck joint',
  mode: 'join',
  stations: ['neck-fit'],
  role,
  partnerKind: role === 'host' ? 'N' : 'B',
  makesKind: 'I',
});

export const bodyRoute: Route = {
  ...longRoute,
  id: 'bowline-b-1',
  operations: [...longRoute.operations.slice(1, 2), joining('host')],
};
export const neckRoute: Route = {
  ...longRoute,
  id: 'bowline-n-1',
  kind: 'N',
  operations: [...longRoute.operations.slice(1, 2), joining('guest')],
};
export const instrumentRoute: Route = {
  ...longRoute,
  id: 'bowline-i-2',
  kind: 'I',
  operations: longRoute.operations.slice(4),
};

const from = (key: string): Operation => operationOf(longRoute, key);

/** Dried, then milled on the machine or by hand over a template in two steps, rested and shipped. */
export const branchingRoute: Route = {
  ...longRoute,
  id: 'bowline-b-9',
  operations: [
    { ...from('dry'), next: ['mill', 'copy'] },
    { ...from('mill'), next: ['rest'] },
    {
      ...work,
      key: 'copy',
      name: 'Copy-router',
      mode: 'attended',
      stations: ['bench'],
      coats: null,
      skill: 'router',
      yieldPct: 98,
      costPerPiece: 1.5,
      risk: 'hands near the cutter',
      next: ['true-up'],
    },
    {
      ...work,
      key: 'true-up',
      name: 'True up',
      mode: 'attended',
      stations: ['bench'],
      coats: null,
      yieldPct: 99,
      next: ['rest'],
    },
    { ...from('rest'), next: ['ship'] },
    from('ship'),
  ],
};

const takesIn = (key: string, partnerKind: string, role: 'host' | 'guest'): Operation => ({
  ...work,
  key,
  name: key,
  mode: 'join',
  stations: ['bench'],
  role,
  partnerKind,
  makesKind: 'S',
});
/** Sides that take in a top and a back, both parted from one wedge, and go on as what they are. */
export const hollowRoutes: Route[] = [
  {
    ...longRoute,
    id: 'gaff-s-1',
    kind: 'S',
    operations: [takesIn('back-on', 'K', 'host'), takesIn('top-on', 'T', 'host'), from('ship')],
  },
  { ...longRoute, id: 'gaff-t-1', kind: 'T', operations: [takesIn('box', 'S', 'guest')] },
  { ...longRoute, id: 'gaff-k-1', kind: 'K', operations: [takesIn('box', 'S', 'guest')] },
  {
    ...longRoute,
    id: 'gaff-p-1',
    kind: 'P',
    operations: [
      { ...work, key: 'part', name: 'Resaw', mode: 'split', stations: ['saw'], makesKinds: ['T', 'K'] },
    ],
  },
];

export const openBody = (route: Route, code: string, quantity = 12): EntryBody => ({
  type: 'open',
  code,
  kind: route.kind,
  model: route.model,
  routeId: route.id,
  quantity,
  dueMs: hoursIn(24 * 40),
});

/** An entry that is filed the moment it happens. */
export const entry = (seq: number, atMs: number, body: EntryBody): Entry => ({
  seq,
  atMs,
  filedMs: atMs,
  by: 'ostrander',
  body,
});
