import fc from 'fast-check';
import { numbered, planJoin, planSplit } from '../joining/index.ts';
import { isRefusal, pieceCode, type BatchState, type PieceState } from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import {
  bodyRoute,
  entry,
  hollowRoutes,
  hoursIn,
  instrumentRoute,
  neckRoute,
  openBody,
} from '../testing/tarrow.ts';
import { applyUndo, replay, type Entry, type EntryBody } from './index.ts';
import { applyEntry } from './reduce.ts';

const routes = [bodyRoute, neckRoute, instrumentRoute, ...hollowRoutes];
const routeOf = (kind: string): Route => {
  const route = routes.find((one) => one.kind === kind);
  if (!route) throw new Error(`no route for ${kind}`);
  return route;
};
const kindOf = (code: string): string => code.split('-')[0] ?? '';

type Step = { code: string; body: EntryBody };

/** A factory of several batches, filed on as the server does: a filing goes through on all it touches, or on none. */
class Factory {
  readonly batches = new Map<string, { log: Entry[]; state: BatchState | null }>();
  /** What each filing that still stands put on each batch: the last one is taken back first. */
  private readonly filings: Map<string, number[]>[] = [];
  private hours = 0;
  corrections = 0;

  /** `opened`: codes with their quantities, which are there from the beginning and stay. */
  constructor(opened: Record<string, number>) {
    for (const [code, quantity] of Object.entries(opened))
      this.file([{ code, body: openBody(routeOf(kindOf(code)), code, quantity) }]);
    this.filings.length = 0;
  }

  state(code: string): BatchState | null {
    return this.batches.get(code)?.state ?? null;
  }

  file(steps: readonly Step[]): boolean {
    this.hours += 1;
    const drafts = new Map<string, { log: Entry[]; state: BatchState | null }>();
    const filed = new Map<string, number[]>();
    for (const { code, body } of steps) {
      const known = drafts.get(code) ?? this.batches.get(code) ?? { log: [], state: null };
      const next = entry(known.log.length + 1, hoursIn(this.hours), body);
      const outcome = applyEntry(known.state, routeOf(kindOf(code)), next);
      if (isRefusal(outcome)) return false;
      drafts.set(code, { log: [...known.log, next], state: outcome.state });
      filed.set(code, [...(filed.get(code) ?? []), next.seq]);
    }
    for (const [code, draft] of drafts) this.batches.set(code, draft);
    this.filings.push(filed);
    return true;
  }

  takeBack(): boolean {
    this.hours += 1;
    const last = this.filings.at(-1);
    if (!last) return false;
    for (const [code, voids] of last) {
      const { log } = this.batches.get(code) ?? { log: [] };
      const undo = { ...entry(log.length + 1, hoursIn(this.hours), { type: 'undo', voids }) };
      const outcome = applyUndo(routeOf(kindOf(code)), log, { ...undo, body: { type: 'undo', voids } });
      if (isRefusal(outcome)) throw new Error(`the last filing cannot be taken back: ${outcome.refused}`);
      this.batches.set(code, { log: [...log, undo], state: outcome.state });
    }
    this.filings.pop();
    this.corrections += 1;
    return true;
  }

  join(one: string, other: string, count: number | undefined): boolean {
    const [a, b] = [this.state(one), this.state(other)];
    if (!a || !b) return false;
    const makesKind = [one, other].some((code) => kindOf(code) === 'B') ? 'I' : null;
    const host = kindOf(one) === 'N' || kindOf(one) === 'T' || kindOf(one) === 'K' ? other : one;
    const plan = planJoin({
      one: { state: a, route: routeOf(a.kind) },
      other: { state: b, route: routeOf(b.kind) },
      count,
      made: makesKind ? this.state(numbered(makesKind, host)) : null,
      madeRoute: makesKind ? routeOf(makesKind) : null,
    });
    if (isRefusal(plan)) return false;
    const guest = host === one ? other : one;
    return this.file([
      { code: host, body: plan.host },
      { code: guest, body: plan.guest },
      ...(plan.made ? [{ code: plan.makes, body: plan.made }] : []),
    ]);
  }

  part(code: string, count: number | undefined): boolean {
    const state = this.state(code);
    if (!state) return false;
    const made = new Map(
      ['T', 'K'].map((kind) => [kind, { state: this.state(numbered(kind, code)), route: routeOf(kind) }]),
    );
    const selection = count === undefined ? {} : { count };
    const plan = planSplit({ side: { state, route: routeOf(state.kind) }, selection, made });
    if (isRefusal(plan)) return false;
    return this.file([{ code, body: plan.parted }, ...plan.made]);
  }
}

const batch = fc.constantFrom('B-1', 'B-2', 'N-1', 'N-2', 'I-1', 'S-1', 'T-1', 'K-1');
const count = fc.option(fc.integer({ min: 1, max: 4 }), { nil: undefined });
type Act = (factory: Factory) => boolean;
const act: fc.Arbitrary<Act> = fc.oneof(
  ...[
    fc.tuple(fc.constantFrom('B-1', 'B-2', 'N-1', 'N-2'), fc.constantFrom('N-1', 'N-2', 'B-1', 'B-2')),
    fc.tuple(fc.constantFrom('S-1', 'S-2'), fc.constantFrom('T-1', 'K-1')),
  ].map((codes) => ({
    weight: 4,
    arbitrary: fc.tuple(codes, count).map(
      ([[one, other], n]): Act =>
        (factory) =>
          factory.join(one, other, n),
    ),
  })),
  {
    weight: 2,
    arbitrary: count.map(
      (n): Act =>
        (factory) =>
          factory.part('P-1', n),
    ),
  },
  { weight: 1, arbitrary: fc.constant<Act>((factory) => factory.takeBack()) },
  {
    weight: 14,
    arbitrary: fc
      .tuple(
        batch,
        count,
        fc.constantFrom<EntryBody>(
          { type: 'start' },
          { type: 'done', because: 'it is right' },
          { type: 'start' },
          { type: 'done', because: 'it is right' },
          { type: 'start' },
          { type: 'done', because: 'it is right' },
          { type: 'start' },
          { type: 'done', because: 'it is right' },
          { type: 'coat' },
          { type: 'end', because: 'it is right' },
          { type: 'ship', because: 'it is right' },
          { type: 'scrap', reason: 'knot' },
          { type: 'hold', reason: 'dust' },
          { type: 'rework', reason: 'run', to: 'mill', rest: 'waits' },
          { type: 'rework', reason: 'run', to: 'clear', rest: 'waits' },
        ),
      )
      .map(
        ([code, n, body]): Act =>
          (factory) =>
            factory.file([{ code, body: n === undefined ? body : ({ ...body, count: n } as EntryBody) }]),
      ),
  },
);

const OPENED = { 'B-1': 5, 'B-2': 4, 'N-1': 4, 'N-2': 6, 'P-1': 6, 'S-1': 3, 'S-2': 2 };

/** Every piece of a kind there is, by its code. */
function pieces(factory: Factory, kind: string): Map<string, PieceState> {
  const states = [...factory.batches.values()].flatMap(({ state }) => (state?.kind === kind ? [state] : []));
  return new Map(
    states.flatMap((state) => state.pieces.map((piece) => [pieceCode(state.code, piece.position), piece])),
  );
}
const went = (all: Map<string, PieceState>, into: (piece: PieceState) => readonly string[]): string[] =>
  [...all].flatMap(([code, piece]) => into(piece).map((made) => `${code} → ${made}`)).sort();
const came = (all: Map<string, PieceState>, kinds: string): string[] =>
  [...all]
    .flatMap(([code, { parents }]) => parents.map((parent) => `${parent} → ${code}`))
    .filter((pair) => kinds.includes(pair.charAt(0)))
    .sort();
const joined = ({ standing, joinedInto }: PieceState): string[] =>
  standing === 'joined' && joinedInto ? [joinedInto] : [];
const parted = ({ standing, partedInto = [] }: PieceState): string[] =>
  standing === 'parted' ? partedInto : [];

/** No piece comes from nowhere, none is gone, and none is in two things. */
function expectConserved(factory: Factory): void {
  const all = (kind: string) => pieces(factory, kind);
  for (const kind of ['B', 'N', 'P', 'S']) {
    const opened = Object.entries(OPENED).filter(([code]) => kindOf(code) === kind);
    expect(all(kind).size).toBe(opened.reduce((sum, [, n]) => sum + n, 0));
  }
  // What left a part's rack by a join is in what it made, once; and nothing else is.
  expect(came(all('I'), 'B')).toEqual(went(all('B'), joined));
  expect(came(all('I'), 'N')).toEqual(went(all('N'), joined));
  expect(all('I').size).toBe(went(all('B'), joined).length);
  expect(came(all('S'), 'T')).toEqual(went(all('T'), joined));
  expect(came(all('S'), 'K')).toEqual(went(all('K'), joined));
  // Each wedge that was parted is one top and one back.
  expect([...came(all('T'), 'P'), ...came(all('K'), 'P')].sort()).toEqual(went(all('P'), parted));
  expect(all('T').size).toBe(all('K').size);
  for (const { log, state } of factory.batches.values()) {
    const kind = log[0]?.body.type === 'open' ? log[0].body.kind : '';
    expect(replay(routeOf(kind), log)).toEqual(state);
  }
}

it('all batches together lose and gain no piece, through joins, partings, arrivals, reuniting and corrections (seed 7)', () => {
  const done = { joined: 0, parted: 0, arrived: 0, waited: 0, corrections: 0 };
  fc.assert(
    fc.property(fc.array(act, { minLength: 150, maxLength: 220 }), (acts) => {
      const factory = new Factory(OPENED);
      acts.forEach((next, i) => {
        if (next(factory) && i % 10 === 0) expectConserved(factory);
      });
      expectConserved(factory);
      done.joined += went(pieces(factory, 'B'), joined).length;
      done.parted += went(pieces(factory, 'P'), parted).length;
      done.corrections += factory.corrections;
      for (const { log } of factory.batches.values()) {
        done.arrived += log.filter(({ body }) => body.type === 'arrive').length;
        done.waited += log.filter(({ body }) => body.type === 'rework').length;
      }
    }),
    { seed: 7, numRuns: 40 },
  );
  expect(done.joined).toBeGreaterThan(30);
  expect(done.parted).toBeGreaterThan(40);
  expect(done.arrived).toBeGreaterThan(20);
  expect(done.waited).toBeGreaterThan(20);
  expect(done.corrections).toBeGreaterThan(100);
});
