import { spanWords } from './holds/words.ts';
import { isOver } from './holds/index.ts';
import { lastMark } from './holds/cure.ts';
import { ageingSeen } from './holds/ageing.ts';
import { judgeRack } from './holds/moisture.ts';
import { windowOf, type Freed, type HoldContext } from './holds/rules.ts';
import { gateSentence, MOISTURE_POSSIBLE } from '../wood/gate.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { hasLeft, pieceCode, type BatchState, type PieceState } from './batch.ts';
import type {
  ArriveBody,
  DoneBody,
  Entry,
  EntryBody,
  HoldBody,
  JoinBody,
  MeasureBody,
  OpenBody,
  ReadBody,
  EndBody,
  RerouteBody,
  ReworkBody,
  ScrapBody,
  ShipBody,
  SplitBody,
  StartBody,
} from './entry.ts';
import { age, coat, coatsShort, colour, mark, refinish, sand } from './finish-steps.ts';
import { checksMissing, limitsBroken } from './checks-due.ts';
import { coatedAlike, layersOn } from './layers.ts';
import { adjust, check, meet, pair, place } from './measured.ts';
import { count, isRefusal, refuse, type Refusal } from './refusal.ts';
import { reroute } from './reroute.ts';
import { withRests } from './rests.ts';
import { reunited } from './reunite.ts';
import {
  endsRoute,
  operationIndex,
  operationOf,
  type HoldOperation,
  type Operation,
  type Route,
} from './route.ts';
import { choose, type Chosen } from './select.ts';
import { arrived, changed, newPiece, noted, offTheTable, overriding, passed, type Outcome } from './step.ts';
import { tallyAt } from './tally.ts';

export type { Applied, Effect } from './step.ts';

/** Clocks of tablets and servers differ a little; more than this is the future. */
const CLOCK_SLACK_MS = 2 * MINUTE_MS;
/** A batch is one rack; more pieces than this is a slip of the hand. */
export const LARGEST_BATCH = 500;
/** Values in one reading or measuring entry. */
const MOST_VALUES = 500;

/**
 * The reducer: what a batch becomes by one entry, or why the entry is refused. Pure: the state given is never
 * changed, and the same arguments give the same answer. `route` is the worked route (see workedRoute); `moved` the one a
 * 'reroute' leads to. 'undo' is not its business; see replay.
 */
export function applyEntry(state: BatchState | null, route: Route, entry: Entry, moved?: Route): Outcome {
  const { body } = entry;
  if (entry.atMs > entry.filedMs + CLOCK_SLACK_MS) {
    return refuse(
      'in-the-future',
      `that is ${spanWords((entry.atMs - entry.filedMs) / HOUR_MS)} in the future`,
    );
  }
  if (body.type === 'open')
    return state ? refuse('already-open', `${state.code} is already open`) : open(route, entry, body);
  if (!state) return refuse('unknown-batch', 'this batch is not open');
  if (entry.atMs < state.openedMs) {
    const early = spanWords((state.openedMs - entry.atMs) / HOUR_MS);
    return refuse('too-early', `that is ${early} before ${state.code} was opened`);
  }
  if (body.type === 'reroute') {
    const onto = moved ?? route;
    const rerouted = reroute(state, onto, entry, body);
    return isRefusal(rerouted) ? rerouted : { ...rerouted, state: withRests(state, rerouted.state, onto) };
  }
  const outcome = step(state, route, entry, body);
  if (isRefusal(outcome)) return outcome;
  return { ...outcome, state: withRests(state, reunited(outcome.state, route, entry.atMs), route) };
}

function step(
  state: BatchState,
  route: Route,
  entry: Entry,
  body: Exclude<EntryBody, OpenBody | RerouteBody>,
): Outcome {
  switch (body.type) {
    case 'arrive':
      return arrive(state, route, entry, body);
    case 'start':
      return start(state, route, entry, body);
    case 'done':
      return done(state, route, entry, body);
    case 'scrap':
      return scrap(state, route, entry, body);
    case 'rework':
      return rework(state, route, entry, body);
    case 'hold':
      return callHold(state, route, entry, body);
    case 'end':
      return endHold(state, route, entry, body);
    case 'read':
      return read(state, route, entry, body);
    case 'coat':
      return coat(state, route, entry, body);
    case 'sand':
      return sand(state, route, entry, body);
    case 'mark':
      return mark(state, route, entry, body);
    case 'colour':
      return colour(state, route, entry, body);
    case 'age':
      return age(state, route, entry, body);
    case 'refinish':
      return refinish(state, route, entry, body);
    case 'measure':
      return measure(state, route, entry, body);
    case 'join':
      return join(state, route, entry, body);
    case 'ship':
      return ship(state, route, entry, body);
    case 'split':
      return split(state, route, entry, body);
    case 'place':
      return place(state, route, entry, body);
    case 'check':
      return check(state, route, entry, body);
    case 'adjust':
      return adjust(state, route, entry, body);
    case 'meet':
      return meet(state, entry, body);
    case 'pair':
      return pair(state, entry, body);
    case 'undo':
      return refuse(
        'nothing-to-undo',
        'a correction is applied by replaying the batch, not as a step of its own',
      );
  }
}

const isHold = (operation: Operation): boolean => operation.mode === 'hold';
const anywhere = (): boolean => true;

// ---- the entries ----------------------------------------------------------------------------------------------

function open(route: Route, entry: Entry, body: OpenBody): Outcome {
  const { quantity } = body;
  if (!Number.isInteger(quantity) || quantity < 1 || quantity > LARGEST_BATCH) {
    return refuse('bad-value', `a batch holds 1 to ${LARGEST_BATCH} pieces, not ${quantity}`);
  }
  if (body.parents && body.parents.length !== quantity) {
    return refuse('bad-value', `${count(quantity, 'piece')} but parents for ${body.parents.length}`);
  }
  const pieces = Array.from({ length: quantity }, (_, i) =>
    newPiece(i + 1, body.parents?.[i] ?? [], route, entry.atMs),
  );
  const state: BatchState = {
    code: body.code,
    kind: body.kind,
    model: body.model,
    routeId: body.routeId,
    quantity,
    dueMs: body.dueMs,
    openedMs: entry.atMs,
    lastMs: entry.atMs,
    pieces,
    readings: [],
    coats: [],
    measures: [],
    overrides: [],
    ...(body.ways === undefined ? {} : { ways: body.ways }),
    ...(body.finish === undefined ? {} : { finish: body.finish }),
  };
  return {
    state,
    effect: {
      operation: pieces[0]?.operation ?? null,
      station: null,
      positions: pieces.map((p) => p.position),
    },
  };
}

function arrive(state: BatchState, route: Route, entry: Entry, body: ArriveBody): Outcome {
  const quantity = state.quantity + body.parents.length;
  if (body.parents.length < 1 || quantity > LARGEST_BATCH) {
    return refuse('bad-value', `a batch holds 1 to ${LARGEST_BATCH} pieces, not ${quantity}`);
  }
  const added = body.parents.map((parents, i) =>
    newPiece(state.quantity + i + 1, parents, route, entry.atMs),
  );
  return {
    state: {
      ...state,
      quantity,
      pieces: [...state.pieces, ...added],
      lastMs: Math.max(state.lastMs, entry.atMs),
    },
    effect: {
      operation: added[0]?.operation ?? null,
      station: null,
      positions: added.map((piece) => piece.position),
    },
  };
}

function start(state: BatchState, route: Route, entry: Entry, body: StartBody): Outcome {
  const at = (operation: Operation): boolean => !isHold(operation);
  const chosen = choose(state, route, { selection: body, standings: ['waiting'], at, standard: 'all' });
  if (isRefusal(chosen)) return chosen;
  const { operation } = chosen;
  if (operation.mode === 'load') {
    const free = operation.places - tallyAt(state, route, operation.key).inHand;
    const named = body.count !== undefined || body.pieces !== undefined;
    if (free <= 0)
      return refuse('over-places', `all ${operation.places} places at ${operation.name} are taken`);
    if (named && chosen.pieces.length > free) {
      return refuse(
        'over-places',
        `${operation.name} has ${count(free, 'place')} free, not ${chosen.pieces.length}`,
      );
    }
    chosen.pieces = chosen.pieces.slice(0, free);
  }
  const station = body.station ?? operation.stations[0] ?? null;
  const against = body.facts?.against;
  const extra = body.because && against ? overriding(state, entry, chosen, body.because, against) : {};
  const onto = (piece: PieceState): PieceState => ({
    ...piece,
    standing: 'inHand',
    sinceMs: entry.atMs,
    station,
    ...(body.bed === undefined ? {} : { bed: body.bed }),
    ...(body.load === undefined ? {} : { load: body.load }),
  });
  return changed(state, entry, chosen, onto, extra);
}

function done(state: BatchState, route: Route, entry: Entry, body: DoneBody): Outcome {
  const chosen = chooseDone(state, route, body);
  if (isRefusal(chosen)) return chosen;
  const { operation } = chosen;
  const short =
    coatsShort(state, chosen) ??
    gateShort(state, operation, chosen, entry) ??
    loadShort(chosen, body) ??
    limitsBroken(state, route, chosen) ??
    checksMissing(state, chosen);
  if (short && !body.because) return short;
  const extra = short && body.because ? overriding(state, entry, chosen, body.because, short.refused) : {};
  return changed(state, entry, chosen, (piece) => passed(piece, route, entry.atMs), extra);
}

/** A load that is not measured as it must be; only the server sees the whole load, and says so with the entry. */
function loadShort({ pieces }: Chosen, body: DoneBody): Refusal | undefined {
  const against = body.facts?.against;
  const load = pieces.find((piece) => piece.load)?.load;
  if (against === undefined || !load) return undefined;
  return refuse(load.firstPiece ? 'first-piece' : 'checks-missing', against);
}

/** What can be done: pieces in hand at work, or pieces at a gate, which need no start. */
function chooseDone(state: BatchState, route: Route, body: DoneBody): Chosen | Refusal {
  const worked = (operation: Operation): boolean =>
    operation.mode === 'attended' || operation.mode === 'load';
  const inHand = choose(state, route, {
    selection: body,
    standings: ['inHand'],
    at: worked,
    standard: 'all',
  });
  if (!isRefusal(inHand)) return inHand;
  const gated = (operation: Operation): boolean => operation.mode === 'gate';
  const gate = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at: gated,
    standard: 'all',
  });
  if (!isRefusal(gate) || gate.code === 'not-enough') return gate;
  return inHand.code === 'nothing-here' ? (wrongVerb(state, route, body) ?? inHand) : inHand;
}

/** 'done' said of pieces that wait for another word. */
function wrongVerb(state: BatchState, route: Route, body: DoneBody): Refusal | undefined {
  const here = state.pieces
    .filter((p) => !hasLeft(p))
    .map((p) => ({ piece: p, operation: operationOf(route, p.operation) }));
  const meant = here.filter(
    ({ operation }) => body.operation === undefined || operation.key === body.operation,
  );
  if (meant.length === 0 || meant.some(({ operation }) => operation.key !== meant[0]?.operation.key))
    return undefined;
  const operation = meant[0]?.operation;
  if (operation?.mode === 'hold')
    return refuse('wrong-mode', `${state.code} is on hold at ${operation.name}: end the hold`);
  if (operation?.mode === 'join')
    return refuse('wrong-mode', `${operation.name} is a join: say 'join' and the other batch`);
  if (operation?.mode === 'split')
    return refuse('wrong-mode', `${operation.name} parts the pieces: say 'split'`);
  if (operation?.mode === 'ship')
    return refuse('wrong-mode', `${state.code} is at ${operation.name}: say 'ship'`);
  return undefined;
}

function gateShort(
  state: BatchState,
  operation: Operation,
  chosen: Chosen,
  entry: Entry,
): Refusal | undefined {
  if (operation.mode !== 'gate' || operation.gate.kind !== 'moisture') return undefined;
  const positions = chosen.pieces.map((piece) => piece.position);
  const sinceMs = Math.min(...chosen.pieces.map((piece) => piece.sinceMs));
  const { judgement } = judgeRack(windowOf(operation.gate), state.readings, {
    sinceMs,
    atMs: entry.atMs,
    positions,
  });
  if (judgement.verdict === 'pass') return undefined;
  return refuse('gate-not-passed', gateSentence(judgement, windowOf(operation.gate)));
}

function scrap(state: BatchState, route: Route, entry: Entry, body: ScrapBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'scrap needs a reason');
  const chosen = chooseFault(state, route, body);
  if (isRefusal(chosen)) return chosen;
  return changed(state, entry, chosen, (piece) => ({
    ...offTheTable(piece),
    standing: 'scrapped',
    sinceMs: entry.atMs,
    scrapReason: body.reason,
    called: null,
  }));
}

/** A fault is found on what is in hand first, then on what waits, then on what rests. */
function chooseFault(state: BatchState, route: Route, body: ScrapBody | ReworkBody): Chosen | Refusal {
  const inHand = choose(state, route, {
    selection: body,
    standings: ['inHand'],
    at: anywhere,
    standard: 'one',
  });
  if (!isRefusal(inHand) || inHand.code !== 'nothing-here') return inHand;
  return choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting', 'onHold'],
    at: anywhere,
    standard: 'one',
  });
}

function rework(state: BatchState, route: Route, entry: Entry, body: ReworkBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'rework needs a reason');
  const chosen = chooseFault(state, route, body);
  if (isRefusal(chosen)) return chosen;
  const from = chosen.operation;
  const targetKey = body.to ?? from.reworkTo;
  if (targetKey === null)
    return refuse('wrong-mode', `${from.name} sends nothing back: scrap it, or say where it goes`);
  const target = route.operations.find((operation) => operation.key === targetKey);
  if (!target)
    return refuse('unknown-operation', `the route of ${state.code} has no operation '${targetKey}'`);
  if (operationIndex(route, target.key) > operationIndex(route, from.key)) {
    return refuse('wrong-mode', `${target.name} comes after ${from.name}: rework goes back`);
  }
  const { reason, cause } = body;
  const sent = chosen.pieces.map((piece) => piece.position);
  const outcome = changed(
    state,
    entry,
    chosen,
    (piece) =>
      arrived(
        {
          ...piece,
          rework: { from: from.key, reason, ...(cause === undefined ? {} : { cause }) },
          ...(state.coats.length > 0 ? { coatsFrom: state.coats.length } : {}),
          ...(state.checks || state.measures.length > 0 ? { measuredFromMs: entry.atMs } : {}),
        },
        target,
        entry.atMs,
      ),
    {
      ...stripped(state, route, entry, sent, { from: from.key, to: target.key }),
      ...(cause === undefined
        ? {}
        : {
            slips: [
              ...(state.slips ?? []),
              {
                atMs: entry.atMs,
                by: entry.by,
                operation: from.key,
                to: target.key,
                positions: sent,
                reason,
                cause,
              },
            ],
          }),
    },
  );
  if (isRefusal(outcome) || body.rest !== 'waits') return outcome;
  return { ...outcome, state: restWaits(outcome.state, from.key, sent, entry.atMs) };
}

/** Pieces that go back lose the coats laid from there on: they are taken down to what lay on them before. */
function stripped(
  state: BatchState,
  route: Route,
  entry: Entry,
  positions: number[],
  { from, to }: { from: string; to: string },
): Pick<BatchState, 'sandings'> {
  const laidSince = (operation: string): boolean =>
    operationIndex(route, operation) >= operationIndex(route, to);
  const off = new Map<number, number[]>();
  for (const position of positions) {
    const removalUm = layersOn(state, position)
      .filter(({ coat: { operation } }) => laidSince(operation))
      .reduce((sum, { leftUm }) => sum + leftUm, 0);
    if (removalUm > 0) off.set(removalUm, [...(off.get(removalUm) ?? []), position]);
  }
  if (off.size === 0) return {};
  const taken = [...off].map(([removalUm, alike]) => ({
    ...{ atMs: entry.atMs, operation: from, positions: alike, removalUm },
    ...{ removalSdUm: 0, grits: [], measured: false },
  }));
  return { sandings: [...(state.sandings ?? []), ...taken].toSorted((a, b) => a.atMs - b.atMs) };
}

/** The rest of the rack at an operation waits for the pieces that were sent back from it. */
function restWaits(state: BatchState, operation: string, waitsFor: number[], atMs: number): BatchState {
  const reason = `waits for ${waitsFor.map((position) => pieceCode(state.code, position)).join(', ')}`;
  return {
    ...state,
    pieces: state.pieces.map((piece) =>
      piece.operation === operation && (piece.standing === 'waiting' || piece.standing === 'inHand')
        ? {
            ...piece,
            standing: 'onHold' as const,
            sinceMs: atMs,
            called: { reason, from: piece.standing, waitsFor },
          }
        : piece,
    ),
  };
}

function callHold(state: BatchState, route: Route, entry: Entry, body: HoldBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'a hold needs a reason');
  const chosen = choose(state, route, {
    selection: body,
    standings: ['waiting', 'inHand', 'onHold'],
    at: anywhere,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const called = chosen.pieces.find((piece) => piece.called);
  if (called)
    return refuse(
      'taken',
      `${pieceCode(state.code, called.position)} is held already: ${called.called?.reason ?? ''}`,
    );
  return changed(state, entry, chosen, (piece) => ({
    ...piece,
    standing: 'onHold',
    sinceMs: entry.atMs,
    called: {
      reason: body.reason,
      from: piece.standing === 'inHand' || piece.standing === 'onHold' ? piece.standing : 'waiting',
      // What rests goes on resting under it: its own hold counts on from when it began.
      ...(piece.standing === 'onHold' ? { restedSinceMs: piece.sinceMs } : {}),
    },
  }));
}

/** What a rule may look at for pieces on hold since one moment. */
export function holdContext(
  state: BatchState,
  group: { sinceMs: number; positions: number[] },
  atMs: number,
): HoldContext {
  const { sinceMs, positions } = group;
  const { readings, coats, measures, sandings = [], marks = [], ageing = [], rests = [], freed = [] } = state;
  // Field by field: asked of every rack at once, a spread before so many others is a hundred times as slow (Node 20).
  const context = {
    sinceMs,
    atMs,
    positions,
    readings,
    coats,
    measures,
    sandings,
    marks,
    ageing,
    rests,
    freed,
  };
  return { climate: [], ...context };
}

function endHold(state: BatchState, route: Route, entry: Entry, body: EndBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold'],
    at: anywhere,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const called = chosen.pieces.filter((piece) => piece.called);
  if (called.length > 0) {
    return changed(state, entry, { ...chosen, pieces: called }, (piece) => ({
      ...piece,
      standing: piece.called?.from ?? 'waiting',
      sinceMs: piece.called?.restedSinceMs ?? entry.atMs,
      called: null,
    }));
  }
  const { operation } = chosen;
  if (operation.mode !== 'hold')
    throw new Error(`end: '${operation.key}' holds pieces without a rule or a call`);
  const open =
    body.count !== undefined || body.pieces !== undefined || body.because
      ? chosen.pieces
      : ready(state, chosen, entry, body);
  const against = firstNotOver(state, { operation, pieces: open }, entry, body);
  if (against && !body.because) return refuse('hold-not-over', against);
  const extra = {
    ...(against && body.because
      ? overriding(state, entry, { operation, pieces: open }, body.because, against)
      : {}),
    ...freed(state, { operation, pieces: open }, entry, body, against),
  };
  return changed(
    state,
    entry,
    { operation, pieces: open },
    (piece) => passed(piece, route, entry.atMs),
    extra,
  );
}

/** Without a count, an end means the pieces whose hold is over; when none is, it means all and will be refused. */
function ready(state: BatchState, chosen: Chosen, entry: Entry, body: EndBody): PieceState[] {
  const over = chosen.pieces.filter(
    (piece) => !firstNotOver(state, { ...chosen, pieces: [piece] }, entry, body),
  );
  return over.length > 0 ? over : chosen.pieces;
}

/** The context the end of a hold is judged in: what the server knew of the cure goes before anything else. */
function contextOf(
  state: BatchState,
  group: { sinceMs: number; positions: number[] },
  entry: Entry,
  { facts }: EndBody,
): HoldContext {
  const [first] = group.positions;
  const cure = facts?.cured?.find(
    (fact) =>
      fact.sinceMs === group.sinceMs &&
      (fact.positions === undefined || (first !== undefined && fact.positions.includes(first))),
  );
  return { ...holdContext(state, group, entry.atMs), ...(cure ? { cure } : {}) };
}

/** Pieces that came onto a hold together and have the same coats. */
function heldAlike(
  state: BatchState,
  pieces: readonly PieceState[],
): { sinceMs: number; positions: number[] }[] {
  return [...new Set(pieces.map((piece) => piece.sinceMs))].flatMap((sinceMs) =>
    coatedAlike(
      state,
      pieces.filter((piece) => piece.sinceMs === sinceMs).map((piece) => piece.position),
    ).map((positions) => ({ sinceMs, positions })),
  );
}

/** The sentence of the first hold among these pieces that is not over; undefined when all are. */
function firstNotOver(state: BatchState, chosen: Chosen, entry: Entry, body: EndBody): string | undefined {
  const { operation } = chosen;
  if (operation.mode !== 'hold') return undefined;
  for (const group of heldAlike(state, chosen.pieces)) {
    const context = contextOf(state, group, entry, body);
    const judgement = isOver(operation, context);
    if (!judgement.over && !seenEnough(operation, context, body)) return judgement.sentence;
  }
  return undefined;
}

/** Ageing stops when it is wanted: once they came out of the cold and somebody says what is to be seen. */
function seenEnough(operation: HoldOperation, context: HoldContext, { seen }: EndBody): boolean {
  if (operation.rule.rule !== 'ageing' || !seen) return false;
  const { cycles, phase } = ageingSeen(context);
  return cycles > 0 && phase === 'warm';
}

/** What pieces were freed on, kept for ever: of a cure or ageing only. */
function freed(
  state: BatchState,
  { operation, pieces }: Chosen,
  entry: Entry,
  body: EndBody,
  against: string | undefined,
): Pick<BatchState, 'freed'> {
  if (operation.mode !== 'hold' || !['cure', 'ageing'].includes(operation.rule.rule)) return {};
  const notes = heldAlike(state, pieces).map((group): Freed => {
    const context = contextOf(state, group, entry, body);
    const { sentence } = isOver(operation, context);
    const { rule } = operation;
    const until = rule.rule === 'cure' ? { until: rule.until } : {};
    const by = {
      atMs: entry.atMs,
      by: entry.by,
      operation: operation.key,
      positions: group.positions,
      ...until,
    };
    const believed = context.cure?.panel;
    if (against !== undefined && believed !== undefined)
      return { ...by, on: 'panel', words: `${body.because ?? ''}; ${believed}; ${sentence}` };
    if (against !== undefined) return { ...by, on: 'reason', words: `${body.because ?? ''}; ${sentence}` };
    if (body.seen) return { ...by, on: 'sight', words: body.seen };
    if (believed !== undefined) return { ...by, on: 'panel', words: `${sentence} ${believed}.` };
    return { ...by, on: rule.rule === 'cure' && lastMark(context) ? 'mark' : 'clock', words: sentence };
  });
  return { freed: [...(state.freed ?? []), ...notes] };
}

function read(state: BatchState, _route: Route, entry: Entry, body: ReadBody): Outcome {
  const { valuesPct } = body;
  const here = state.pieces.filter((piece) => !hasLeft(piece));
  const operation = here[0]?.operation;
  if (operation === undefined) return refuse('nothing-here', `no piece of ${state.code} is left to read`);
  if (valuesPct.length < 1 || valuesPct.length > MOST_VALUES)
    return refuse('bad-value', `1 to ${MOST_VALUES} readings, not ${valuesPct.length}`);
  const wrong = valuesPct.find(
    (value) => !(value >= MOISTURE_POSSIBLE.lowPct && value <= MOISTURE_POSSIBLE.highPct),
  );
  if (wrong !== undefined) return refuse('bad-value', `${wrong} % is no moisture reading: 0 to 100 %`);
  const places = body.pieces ?? (valuesPct.length === here.length ? here.map((piece) => piece.position) : []);
  if (body.pieces && body.pieces.length !== valuesPct.length) {
    return refuse(
      'bad-value',
      `${count(valuesPct.length, 'reading')} for ${count(body.pieces.length, 'piece')}`,
    );
  }
  const strange = places.find((place) => !state.pieces.some((piece) => piece.position === place));
  if (strange !== undefined) return refuse('not-enough', `${state.code} has no piece ${strange}`);
  const set = {
    atMs: entry.atMs,
    operation,
    positions: places,
    valuesPct,
    woodTemperatureC: body.woodTemperatureC ?? null,
    ...(body.meter === undefined ? {} : { meter: body.meter }),
    ...(body.depth === undefined ? {} : { depth: body.depth }),
    ...(body.facts?.correctedPct === undefined ? {} : { correctedPct: body.facts.correctedPct }),
    ...(body.facts?.floorsPct === undefined ? {} : { floorsPct: body.facts.floorsPct }),
    ...(body.because === undefined ? {} : { because: body.because }),
  };
  return noted(state, entry, operation, places, {
    readings: [...state.readings, set].toSorted((a, b) => a.atMs - b.atMs),
  });
}

function measure(state: BatchState, route: Route, entry: Entry, body: MeasureBody): Outcome {
  const { valuesMm } = body;
  if (valuesMm.length < 1 || valuesMm.length > MOST_VALUES)
    return refuse('bad-value', `1 to ${MOST_VALUES} values, not ${valuesMm.length}`);
  const wrong = valuesMm.find((value) => !(value > 0 && value <= 10));
  if (wrong !== undefined) return refuse('bad-value', `an action of ${wrong} mm cannot be: above 0 to 10`);
  const assembly = (operation: Operation): boolean => operation.mode !== 'ship';
  const chosen = choose(state, route, {
    selection: { ...body, count: undefined },
    standings: ['inHand', 'waiting', 'onHold'],
    at: assembly,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  if (body.pieces && body.pieces.length !== valuesMm.length)
    return refuse(
      'bad-value',
      `${count(valuesMm.length, 'value')} for ${count(body.pieces.length, 'piece')}`,
    );
  const all = chosen.pieces.map((piece) => piece.position);
  const positions = valuesMm.length === all.length ? (body.pieces ?? all) : [];
  const set = { atMs: entry.atMs, operation: chosen.operation.key, positions, valuesMm };
  return noted(state, entry, chosen.operation.key, positions, { measures: [...state.measures, set] });
}

function join(state: BatchState, route: Route, entry: Entry, body: JoinBody): Outcome {
  const kind = body.partner.split('-')[0];
  const at = (operation: Operation): boolean =>
    operation.mode === 'join' && operation.role === body.role && operation.partnerKind === kind;
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const { takesIn, into, because } = body;
  const broken = limitsBroken(state, route, chosen);
  if (broken && !because) return broken;
  const against = [body.facts?.against, broken?.refused].filter((one) => one !== undefined).join('; ');
  const extra = because && against ? overriding(state, entry, chosen, because, against) : {};
  if (!endsRoute(route, chosen.operation)) {
    const goOn = (piece: PieceState, index: number): PieceState => {
      const taken = takesIn?.[index];
      const { partner: _met, ...rest } = piece;
      const parents = taken ? [...piece.parents, taken] : piece.parents;
      return passed({ ...rest, parents }, route, entry.atMs);
    };
    return changed(state, entry, chosen, goOn, extra);
  }
  return changed(
    state,
    entry,
    chosen,
    (piece, index) => ({
      ...offTheTable(piece),
      standing: 'joined',
      sinceMs: entry.atMs,
      station: null,
      joinedInto: into?.[index] ?? pieceCode(body.makes, body.firstPosition + index),
    }),
    extra,
  );
}

function split(state: BatchState, route: Route, entry: Entry, body: SplitBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'split';
  const standings = ['inHand', 'waiting'] as const;
  const chosen = choose(state, route, { selection: body, standings: [...standings], at, standard: 'all' });
  if (isRefusal(chosen)) return chosen;
  return changed(state, entry, chosen, (piece, index) => ({
    ...offTheTable(piece),
    standing: 'parted',
    sinceMs: entry.atMs,
    station: null,
    partedInto: body.makes.map(({ code, firstPosition }) => pieceCode(code, firstPosition + index)),
  }));
}

function ship(state: BatchState, route: Route, entry: Entry, body: ShipBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'ship';
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const broken = limitsBroken(state, route, chosen);
  if (broken && !body.because) return broken;
  const extra = broken && body.because ? overriding(state, entry, chosen, body.because, broken.refused) : {};
  const shipped = (piece: PieceState): PieceState => ({
    ...offTheTable(piece),
    standing: 'shipped',
    sinceMs: entry.atMs,
    station: null,
    rework: null,
  });
  return changed(state, entry, chosen, shipped, extra);
}
