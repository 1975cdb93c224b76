import { coatsShort } from '../coats/index.ts';
import { judgeRack } from '../holds/index.ts';
import {
  changed,
  choose,
  hasLeft,
  isRefusal,
  LONGEST_REASON,
  overriding,
  passed,
  refuse,
  SELECTED,
  type BatchState,
  type Chosen,
  type Entry,
  type Facts,
  type FiledKind,
  type Outcome,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import { kitMissing } from '../kits/index.ts';
import { checksMissing, limitsBroken, secondEyesMissing } from '../measuring/index.ts';
import { unconfirmed } from '../orders/index.ts';
import { operationOf, windowOf, type Operation, type Route } from '../route/index.ts';
import { gateSentence } from '../wood/gate.ts';
import { plainWords } from '../units/json-schema.ts';
import { unaccepted } from './accept.ts';
import { serialMissing } from './serial.ts';

export interface DoneBody extends Selection {
  type: 'done';
  /** Reason for passing a gate, or stopping short of the coats, past the rule. */
  because?: string;
  facts?: Facts;
}

export const done: FiledKind<DoneBody> = {
  type: 'done',
  apply,
  words: ({ because }, pieces) => `${pieces} done${because ? `, rule passed by (${because})` : ''}`,
  asked: { fields: { ...SELECTED, because: plainWords(LONGEST_REASON) }, needs: [] },
  line: {
    verbs: { done: ['finished', 'finish', 'finishes', 'complete', 'completed', 'buffed', 'polished'] },
    endsReason: true,
    take: (line) => line.because(),
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: DoneBody): Outcome {
  const chosen = chooseDone(state, route, body);
  if (isRefusal(chosen)) return chosen;
  const { operation } = chosen;
  const short =
    unacceptedAtGate(state, chosen) ??
    coatsShort(state, chosen) ??
    gateShort(state, operation, chosen, entry) ??
    loadShort(chosen, body) ??
    limitsBroken(state, route, chosen) ??
    checksMissing(state, chosen) ??
    kitMissing(state, chosen) ??
    serialMissing(state, chosen) ??
    unconfirmed(state, route, chosen) ??
    secondEyesMissing(state, chosen);
  if (short && !body.because) return short;
  const extra = short && body.because ? overriding(state, entry, chosen, body.because, short.refused) : {};
  return changed(state, entry, chosen, (piece) => passed(piece, route, entry.atMs), extra);
}

/** At a gate nothing is started: what comes is accepted before it is passed. */
const unacceptedAtGate = (state: BatchState, chosen: Chosen): Refusal | undefined =>
  chosen.operation.mode === 'gate' ? unaccepted(state, chosen) : undefined;

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
