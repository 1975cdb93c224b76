import { workMinutes, type Operation, type OperationMode, type Route } from '../route/index.ts';
import type { StayEnd } from '../stays/index.ts';
import { quantile } from '../stats/descriptive.ts';
import { HOUR_MS } from '../units/quantities.ts';
import type { Resource } from './constraint-signs.ts';
import { TOO_FAST, type PlacedStay } from './log-whole.ts';
import type { LoggedStay } from './log-resources.ts';

/** An operation of the newest route of a model and kind. */
export interface OperationAt {
  model: string;
  kind: string;
  operation: string;
  operationName: string;
  station: string | null;
}

/** How long an operation takes, by the log and by the route, minutes. */
export interface OperationTime extends OperationAt {
  /** What the minutes are of: a piece in one person's hands, or a load, however full. */
  per: 'piece' | 'load';
  /** Coats flash while it is in hand: the log's minutes are not those of a person. */
  flashes: boolean;
  /** Racks, or loads, that were measured. */
  samples: number;
  /** Racks that went through so fast that start and end were filed together: they tell nothing. */
  leftOut: number;
  /** Median and quartiles of the log, set-up taken off; null: nothing was measured. */
  logged: { median: number; low: number; high: number } | null;
  routeMinutes: number;
}

/** What became of pieces at an operation, the first time each came to it. */
export interface FirstPass extends OperationAt {
  pieces: number;
  good: number;
  sentBack: number;
  scrapped: number;
}

/** What of the hours that were there was worked. */
export interface Usage {
  code: string;
  by: 'station' | 'skill';
  hoursThere: number;
  hoursBusy: number;
  /** Of the hours that were worked, the route's for setting up; of stations. */
  setUpHours: number;
}

const GOOD: readonly StayEnd[] = ['passed', 'joined', 'parted', 'shipped'];
const THROUGH: readonly StayEnd[] = [...GOOD, 'scrapped', 'sent back'];
/** Where somebody has pieces in hand for as long as they work on them. */
const MEASURED: readonly OperationMode[] = ['attended', 'gate', 'load'];
type WorkedOperation = Exclude<Operation, { mode: 'hold' }>;

/** Pieces of a rack at one operation, with all they were in there. */
interface AtOperation {
  route: Route;
  operation: WorkedOperation;
  stays: PlacedStay[];
}

/**
 * How long operations take by the log. Of work by people: the worked minutes in which a rack had pieces in hand, less the route's
 * set-up, by the pieces that went through; nights, breaks, stops and waiting between have no length. Of loads: the worked minutes of
 * each. Racks of which something is still in hand, or was before the window began, are not measured.
 * @param options.stays everything that ended after `fromMs`, and what goes on
 * @param options.newest routes whose times are held beside them
 * @param options.between minutes worked between two moments
 */
export function operationTimes(options: {
  stays: readonly PlacedStay[];
  newest: readonly Route[];
  fromMs: number;
  between: (fromMs: number, toMs: number) => number;
}): OperationTime[] {
  const { stays, newest, fromMs, between } = options;
  const samples = new Map<string, { minutes: number[]; leftOut: number }>();
  for (const { route, operation, stays: own } of byOperation(stays)) {
    const inHand = own.filter(({ status }) => status === 'inHand');
    if (inHand.length === 0 || inHand.some((one) => one.ended === null || one.fromMs < fromMs)) continue;
    const key = keyOf(route.model, route.kind, operation.key);
    const at = samples.get(key) ?? { minutes: [], leftOut: 0 };
    samples.set(key, at);
    for (const one of measured(operation, inHand, between)) {
      if (one.minutes < TOO_FAST * one.routeMinutes) at.leftOut += 1;
      else at.minutes.push(Math.max(0, one.minutes - operation.setUpMinutes) / one.share);
    }
  }
  return newest.flatMap((route) =>
    route.operations.flatMap((operation): OperationTime[] => {
      if (operation.mode === 'hold' || !MEASURED.includes(operation.mode)) return [];
      const { minutes, leftOut } = samples.get(keyOf(route.model, route.kind, operation.key)) ?? {
        minutes: [],
        leftOut: 0,
      };
      const at = (p: number): number => quantile(minutes, p);
      return [
        {
          ...operationAt(route, operation),
          per: operation.mode === 'load' ? 'load' : 'piece',
          flashes: operation.mode === 'attended' && operation.coats !== null,
          ...{ samples: minutes.length, leftOut },
          logged: minutes.length === 0 ? null : { median: at(0.5), low: at(0.25), high: at(0.75) },
          routeMinutes: operation.mode === 'load' ? operation.cycleMinutes : operation.pieceMinutes,
        },
      ];
    }),
  );
}

/** What was worked in one go: a rack at a bench, or each of its loads; `share`: what its minutes are divided by. */
function measured(
  operation: WorkedOperation,
  inHand: readonly PlacedStay[],
  between: (fromMs: number, toMs: number) => number,
): { minutes: number; routeMinutes: number; share: number }[] {
  if (operation.mode === 'load') {
    const loads = new Map<number, { toMs: number; pieces: number }>();
    for (const { fromMs, toMs, pieces } of inHand) {
      const load = loads.get(fromMs) ?? { toMs, pieces: 0 };
      loads.set(fromMs, { toMs: Math.max(load.toMs, toMs), pieces: load.pieces + pieces });
    }
    return [...loads].map(([fromMs, { toMs, pieces }]) => ({
      ...{ minutes: between(fromMs, toMs), routeMinutes: workMinutes(operation, pieces), share: 1 },
    }));
  }
  const through = inHand.reduce(
    (sum, { ended, pieces }) => sum + (ended !== null && THROUGH.includes(ended) ? pieces : 0),
    0,
  );
  if (through === 0) return [];
  let minutes = 0;
  let upToMs = -Infinity;
  for (const { fromMs, toMs } of inHand.toSorted((a, b) => a.fromMs - b.fromMs)) {
    if (toMs > upToMs) minutes += between(Math.max(fromMs, upToMs), toMs);
    upToMs = Math.max(upToMs, toMs);
  }
  return [{ minutes, routeMinutes: workMinutes(operation, through), share: through }];
}

/**
 * What became of pieces the first time they came to an operation, of those for which that was in the window: they went on, were sent
 * back, or were scrapped there.
 * @param options.stays so far back that most of what came again had come the first time in them
 */
export function firstPasses(options: {
  stays: readonly PlacedStay[];
  newest: readonly Route[];
  fromMs: number;
}): FirstPass[] {
  const { stays, newest, fromMs } = options;
  const counted = new Map<string, Pick<FirstPass, 'good' | 'sentBack' | 'scrapped'>>();
  for (const { route, operation, stays: own } of byOperation(stays)) {
    const key = keyOf(route.model, route.kind, operation.key);
    const first = new Map<number, PlacedStay>();
    for (const stay of own.toSorted((a, b) => a.toMs - b.toMs))
      if (stay.ended !== null && THROUGH.includes(stay.ended))
        for (const position of stay.positions) if (!first.has(position)) first.set(position, stay);
    const count = counted.get(key) ?? { good: 0, sentBack: 0, scrapped: 0 };
    counted.set(key, count);
    for (const { ended, toMs } of first.values()) {
      if (toMs < fromMs) continue;
      if (ended === 'scrapped') count.scrapped += 1;
      else if (ended !== 'sent back') count.good += 1;
      else count.sentBack += 1;
    }
  }
  return newest.flatMap((route) =>
    route.operations.flatMap((operation): FirstPass[] => {
      const count = counted.get(keyOf(route.model, route.kind, operation.key));
      if (!count || operation.mode === 'hold') return [];
      const pieces = count.good + count.sentBack + count.scrapped;
      return pieces === 0 ? [] : [{ ...operationAt(route, operation), pieces, ...count }];
    }),
  );
}

/** Of a hundred pieces, how many get through all these operations without ever being sent back or scrapped: the product of their shares. */
export const rolledYieldPct = (passes: readonly Pick<FirstPass, 'good' | 'pieces'>[]): number =>
  100 * passes.reduce((share, { good, pieces }) => (share * good) / pieces, 1);

/**
 * How much of the hours that were there was worked, and how much of that went into setting up: once for each rack that was taken in
 * hand at the station in the window, by its route.
 */
export function usageOf(options: {
  resources: readonly Resource[];
  stays: readonly LoggedStay[];
  fromMs: number;
}): Usage[] {
  const { resources, stays, fromMs } = options;
  const setUps = new Map<string, { station: string; minutes: number }>();
  for (const { batch, route, operation: key, station, status, fromMs: startMs } of stays) {
    const operation = route.operations.find((one) => one.key === key);
    if (status !== 'inHand' || startMs < fromMs || station === null || !operation) continue;
    if (operation.mode === 'hold') continue;
    setUps.set(`${batch}|${key}|${station}`, { station, minutes: operation.setUpMinutes });
  }
  return resources.map(({ code, by, hoursThere, busy, eveningHours = 0 }) => ({
    ...{ code, by, hoursThere },
    hoursBusy: busy.reduce((sum, span) => sum + (span.toMs - span.fromMs), 0) / HOUR_MS + eveningHours,
    setUpHours: [...setUps.values()].reduce(
      (sum, { station, minutes }) => sum + (by === 'station' && station === code ? minutes / 60 : 0),
      0,
    ),
  }));
}

function byOperation(stays: readonly PlacedStay[]): AtOperation[] {
  const found = new Map<string, AtOperation>();
  for (const stay of stays) {
    const operation = stay.route.operations.find(({ key }) => key === stay.operation);
    if (!operation || operation.mode === 'hold') continue;
    const key = `${stay.batch}|${stay.operation}`;
    const at = found.get(key);
    if (at) at.stays.push(stay);
    else found.set(key, { route: stay.route, operation, stays: [stay] });
  }
  return [...found.values()];
}

const keyOf = (model: string, kind: string, operation: string): string => `${model}|${kind}|${operation}`;

const operationAt = ({ model, kind }: Route, { key, name, stations }: Operation): OperationAt => ({
  ...{ model, kind, operation: key, operationName: name, station: stations[0] ?? null },
});
