import { replay, routeIn, type Entry, type RouteBook } from '../entries/index.ts';
import {
  cameMs,
  goesOn,
  hasLeft,
  isRefusal,
  type BatchState,
  type PieceState,
  type Refusal,
} from '../ledger/index.ts';
import { operationIndex, operationOf, type Route } from '../route/index.ts';

export type StayStatus = 'waiting' | 'inHand' | 'onHold';

/** How a stay ended: what the piece did next. `moved`: only its route changed. */
export type StayEnd =
  | 'started'
  | 'passed'
  | 'held'
  | 'resumed'
  | 'sent back'
  | 'moved'
  | 'scrapped'
  | 'joined'
  | 'parted'
  | 'shipped';

/** What pieces of a batch were in together, from one entry of its log to another. What has not ended is in the batch's state. */
export interface Stay {
  /** Number of the entry that ended it. */
  seq: number;
  /** 1-based places on the rack. */
  positions: number[];
  operation: string;
  /** Where it was in hand; else the operation's usual station. Null where an operation has none. */
  station: string | null;
  status: StayStatus;
  /** On hold: by which rule, or 'called' by a person; else null. */
  rule: string | null;
  /** At a join: the batch it was to meet; null: none, or nobody said. */
  meets: string | null;
  /** Code of the person who had it in hand; null: nobody. */
  person: string | null;
  fromMs: number;
  /** Not before `fromMs`. */
  toMs: number;
  ended: StayEnd;
  /** Key of the operation it went to; null: it left the route. */
  toOperation: string | null;
  /** Why it was held, sent back, scrapped, or passed against a rule, as it was said. */
  reason: string | null;
  /** Sent back: what had brought it about. */
  cause: string | null;
}

/**
 * The stays that one entry ended, by what it made of the batch: one for all pieces that were in the same and went to the same.
 * In order of their first places.
 * @param route the worked route before the entry.
 */
export function staysEnded(
  before: BatchState | null,
  after: BatchState | null,
  route: Route,
  entry: Entry,
): Stay[] {
  if (!before || !after) return [];
  const stays = new Map<string, Stay>();
  for (const [i, was] of before.pieces.entries()) {
    const now = after.pieces[i];
    if (!now || hasLeft(was) || now === was || goesOn(was, now)) continue;
    const stay = { ...ending(was, now, route, entry), ...whatItWas(was, before, route) };
    const together = JSON.stringify(stay);
    const group = stays.get(together);
    if (group) group.positions.push(was.position);
    else stays.set(together, { ...stay, positions: [was.position] });
  }
  return [...stays.values()];
}

function whatItWas(piece: PieceState, state: BatchState, route: Route) {
  const operation = operationOf(route, piece.operation);
  const rule = piece.called ? 'called' : operation.mode === 'hold' ? operation.rule.rule : null;
  const status = piece.standing as StayStatus;
  return {
    operation: operation.key,
    station: piece.station ?? operation.stations[0] ?? null,
    status,
    rule: status === 'onHold' ? rule : null,
    meets: operation.mode === 'join' ? (state.meets ?? null) : null,
    person: status === 'inHand' ? (piece.who ?? null) : null,
    fromMs: cameMs(piece),
  };
}

function ending(was: PieceState, now: PieceState, route: Route, entry: Entry) {
  const ended = endOf(was, now, route, entry);
  return {
    seq: entry.seq,
    toMs: Math.max(entry.atMs, cameMs(was)),
    ended,
    toOperation: hasLeft(now) ? null : now.operation,
    reason: reasonOf(ended, now, entry),
    cause: (ended === 'sent back' && now.rework?.cause) || null,
  };
}

function endOf(was: PieceState, now: PieceState, route: Route, { body }: Entry): StayEnd {
  const { standing } = now;
  if (standing === 'scrapped' || standing === 'joined' || standing === 'parted' || standing === 'shipped')
    return standing;
  if (body.type === 'reroute') return 'moved';
  if (now.called && !was.called) return 'held';
  if (body.type === 'rework' && now.rework !== was.rework) return 'sent back';
  if (was.called && !now.called && was.operation === now.operation) return 'resumed';
  if (standing === 'inHand' && was.operation === now.operation) return 'started';
  return operationIndex(route, now.operation) < operationIndex(route, was.operation) ? 'sent back' : 'passed';
}

function reasonOf(ended: StayEnd, now: PieceState, { body }: Entry): string | null {
  switch (ended) {
    case 'scrapped':
      return now.scrapReason;
    case 'held':
      return now.called?.reason ?? null;
    case 'sent back':
      return now.rework?.reason ?? null;
    case 'moved':
      return body.type === 'reroute' ? body.reason : null;
    case 'resumed':
    case 'started':
    case 'passed':
    case 'joined':
    case 'parted':
    case 'shipped':
      return ('because' in body && body.because) || null;
  }
}

/** What a whole log comes to: the state of its batch, and all that ended before it. */
export interface Retold {
  state: BatchState | null;
  /** In the order in which they ended. */
  stays: Stay[];
}

/**
 * A batch by its whole log; what a correction has taken back never was. Pure: the same log gives the same, however it was filed.
 * A refusal, with the number of the entry, means the log does not hold together.
 */
export function retold(
  routes: Route | RouteBook,
  log: readonly Entry[],
): Retold | (Refusal & { seq: number }) {
  const stays: Stay[] = [];
  const state = replay(routes, log, (before, after, entry) => {
    if (before) stays.push(...staysEnded(before, after, routeIn(routes, before), entry));
  });
  return isRefusal(state) ? state : { state, stays };
}

/** All stays of a batch by its whole log. @throws RangeError when the log does not hold together. */
export function staysOf(routes: Route | RouteBook, log: readonly Entry[]): Stay[] {
  const told = retold(routes, log);
  if (isRefusal(told)) throw new RangeError(`staysOf: entry ${told.seq}: ${told.refused}`);
  return told.stays;
}
