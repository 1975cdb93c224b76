import { ROUTE_FORMAT, validateRoute, type Operation, type Route } from '@ample-crane/core';
import { onlyKnown } from '../batch/RoutePanel.tsx';
import { route as plain } from '../testing/tarrow.ts';
import {
  added,
  connected,
  disconnected,
  draftOf,
  exported,
  freshKey,
  imported,
  inMode,
  keptDraft,
  removed,
  routeOf,
  type Draft,
} from './draft.ts';
import { layout, NODE } from './layout.ts';

const draft = draftOf(plain);
const arrows = ({ operations }: Draft): string[] =>
  operations.flatMap(({ key, next = [] }) => next.map((to) => `${key} ${to}`));

describe('a drawn route', () => {
  it('has its arrows made explicit, and is the same route', () => {
    expect(arrows(draft)).toEqual(['mill rest', 'rest join']);
    expect(validateRoute(routeOf(draft))).toEqual([]);
    expect(routeOf(draft)).toMatchObject({ model: 'Bowline', kind: 'B', revision: 2 });
  });

  it('takes a new operation in after another, and one out again, without a gap', () => {
    const { draft: longer, key } = added(draft, 'mill', 'neck-fit');
    expect(arrows(longer)).toEqual(['mill new-step', 'new-step rest', 'rest join']);
    expect(validateRoute(routeOf(longer))).toEqual([]);
    expect(arrows(removed(longer, key))).toEqual(arrows(draft));
    expect(freshKey(longer, 'New step')).toBe('new-step-2');
    expect(freshKey(longer, '???')).toBe('step');
  });

  it('forgets rework to what is taken out', () => {
    const back = {
      ...draft,
      operations: draft.operations.map((one) => ({ ...one, reworkTo: 'mill' })),
    };
    expect(removed(back, 'mill').operations.map(({ reworkTo }) => reworkTo)).toEqual([null, null]);
  });

  it('is connected once, and disconnected into a dead end that is said', () => {
    expect(connected(draft, 'mill', 'rest')).toEqual(draft);
    const circle = connected(draft, 'rest', 'mill');
    expect(validateRoute(routeOf(circle)).map(({ code }) => code)).toEqual(['never-ends']);
    const open = disconnected(draft, 'mill', 'rest');
    expect(validateRoute(routeOf(open)).map(({ code }) => code)).toEqual(['dead-end']);
  });

  it('can be any mode, keeping what both have', () => {
    const mill = { ...draft.operations[0], risk: 'tear-out' } as Operation;
    for (const mode of ['attended', 'load', 'hold', 'gate', 'join', 'split', 'ship'] as const) {
      const changed = inMode(mill, mode, 'Wood room');
      expect(changed).toMatchObject({
        mode,
        key: 'mill',
        name: 'Body mill',
        stations: ['body-mill'],
        risk: 'tear-out',
      });
      expect('places' in changed).toBe(mode === 'load');
    }
    expect(inMode(mill, 'gate', '')).toMatchObject({ setUpMinutes: 30, gate: { kind: 'inspection' } });
  });
});

describe('a draft that was kept', () => {
  const operations = draft.operations.map((one) => ({ ...one }));
  const kept = (change: object): unknown => JSON.parse(JSON.stringify({ ...draft, operations, ...change }));
  const source = { ...routeOf(draft), revision: draft.from };

  it('is taken up again as it was', () => {
    expect(keptDraft(kept({}), source)).toEqual(draft);
  });

  it('is not believed where it is of another route or revision, or none that can be drawn', () => {
    const [first] = operations;
    const hold = {
      ...first,
      mode: 'hold',
      room: 'stock',
      rule: { rule: 'elapsed', word: 'rest', hours: 24 },
    };
    expect(keptDraft(kept({ operations: [hold] }), source)).not.toBeNull();
    for (const odd of [
      null,
      7,
      'draft',
      [],
      kept({ from: draft.from + 1 }),
      kept({ model: 'Other' }),
      kept({ operations: [] }),
      kept({ operations: 'none' }),
      ...[null, {}, { ...first, mode: 'magic' }, { ...first, stations: 'mill' }, { ...first, key: 3 }].map(
        (one) => kept({ operations: [one] }),
      ),
      kept({ operations: [{ ...hold, rule: null }] }),
      kept({ operations: [{ ...first, mode: 'join' }] }),
      kept({ operations: [{ ...first, checks: [{ key: 'depth' }] }] }),
    ])
      expect(keptDraft(odd, source)).toBeNull();
  });
});

describe('a route file', () => {
  it('goes out and comes in as it was', () => {
    const read = imported(exported(draft), draft);
    expect('draft' in read && read.draft).toEqual(draft);
  });

  it.each([
    ['{', 'the file is no JSON'],
    ['[]', `the file is no route: its format is not '${ROUTE_FORMAT}'`],
    [JSON.stringify({ format: ROUTE_FORMAT, version: 2 }), 'version 2 of the format is not known here'],
    [
      JSON.stringify({ format: ROUTE_FORMAT, version: 1, kind: 'B', operations: [] }),
      'the file has no operations',
    ],
    [
      JSON.stringify({ format: ROUTE_FORMAT, version: 1, kind: 'N', operations: [{}] }),
      'the file is a route of kind N, this is kind B',
    ],
    [
      JSON.stringify({ format: ROUTE_FORMAT, version: 1, kind: 'B', operations: [{ name: 'x' }] }),
      'operation 1 of the file is none that can be drawn',
    ],
  ])('%s says what is wrong', (text, problem) => {
    expect(imported(text, draft)).toEqual({ problem });
  });
});

describe('the drawing', () => {
  const step = (key: string, ...next: string[]): Operation =>
    ({ ...draft.operations[0], key, next }) as Operation;
  const forked: Draft = {
    ...draft,
    operations: [
      step('dry', 'mill', 'rough'),
      step('mill', 'rest'),
      step('rough', 'carve'),
      step('carve', 'rest'),
      step('rest', 'ship'),
      step('ship'),
    ],
  };

  it('keeps a way in the lane it forked into, so that no arrow runs behind another operation', () => {
    const places = layout(forked, 10);
    const lane = (key: string): number => (places.get(key)?.y ?? 0) / (NODE.height + 26);
    expect(['dry', 'mill', 'rest', 'ship'].map(lane)).toEqual([0, 0, 0, 0]);
    expect(['rough', 'carve'].map(lane)).toEqual([1, 1]);
    const xs = ['dry', 'mill', 'carve', 'rest', 'ship'].map((key) => places.get(key)?.x ?? 0);
    expect(xs).toEqual(xs.toSorted((a, b) => a - b));
  });

  it('folds a long route into rows, and never lays two in one place', () => {
    const keys = Array.from({ length: 12 }, (_, i) => `s${i}`);
    const long = { ...draft, operations: keys.map((key, i) => step(key, ...keys.slice(i + 1, i + 2))) };
    const spots = [...layout(long, 5).values()].map(({ x, y }) => `${x} ${y}`);
    expect(new Set(spots).size).toBe(12);
    expect(new Set([...layout(long, 5).values()].map(({ y }) => y)).size).toBe(3);
  });

  it('is drawn even while it goes round in a circle or hangs in the air', () => {
    const circle = connected(forked, 'rest', 'dry');
    expect(layout(circle, 5).size).toBe(6);
    expect(layout(disconnected(forked, 'rest', 'ship'), 5).size).toBe(6);
  });
});

it('only choices a route really leaves are sent, and the usual ones are not', () => {
  const route: Route = {
    ...plain,
    operations: [
      { ...plain.operations[0], next: ['rest', 'join'] } as Operation,
      ...plain.operations.slice(1),
    ],
  };
  expect(onlyKnown(route, { mill: 'join', rest: 'mill' })).toEqual({ mill: 'join' });
  expect(onlyKnown(route, { mill: 'rest' })).toEqual({});
});
