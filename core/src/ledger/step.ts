import { operationAfter, operationIndex, type Operation, type Route } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { pieceCode, type BatchState, type Override, type PieceState } from './batch.ts';
import type { AnyBody, Entry } from './entry.ts';
import { refuse, type Refusal } from './refusal.ts';
import type { Chosen } from './select.ts';

/** The pieces an entry touched and the operation it touched them at. */
export interface Effect {
  operation: string | null;
  station: string | null;
  positions: number[];
}

/** What an accepted entry leaves behind. */
export interface Applied {
  state: BatchState;
  effect: Effect;
}

export type Outcome = Applied | Refusal;

/** A piece out of the hands it was in, and of the table or press it lay in. */
export function laidDown(piece: PieceState): PieceState {
  const { bed: _bed, load: _load, who: _who, ...rest } = piece;
  return rest;
}

/** A piece as it comes to an operation: on hold where a rule holds it, waiting anywhere else. */
export function arrived(piece: PieceState, operation: Operation, atMs: number): PieceState {
  const standing = operation.mode === 'hold' ? 'onHold' : 'waiting';
  return {
    ...laidDown(piece),
    operation: operation.key,
    standing,
    sinceMs: atMs,
    station: null,
    called: null,
  };
}

/** A piece as it stands at the first operation of its route. @throws when the route has none. */
export function newPiece(position: number, parents: string[], route: Route, atMs: number): PieceState {
  const blank: PieceState = {
    position,
    operation: '',
    standing: 'waiting',
    sinceMs: atMs,
    station: null,
    rework: null,
    called: null,
    joinedInto: null,
    parents,
    scrapReason: null,
  };
  const first = route.operations[0];
  if (!first) throw new Error(`newPiece: route ${route.id} has no operations`);
  return arrived(blank, first, atMs);
}

/** Past an operation; a rework that this operation had sent back is settled by it. */
export function passed(piece: PieceState, route: Route, atMs: number): PieceState {
  const next = operationAfter(route, piece.operation);
  if (!next)
    throw new Error(`passed: '${piece.operation}' ends route ${route.id} and is neither a join nor shipping`);
  const settled =
    piece.rework && operationIndex(route, piece.rework.from) <= operationIndex(route, piece.operation);
  return arrived({ ...piece, rework: settled ? null : piece.rework }, next, atMs);
}

/** A refusal when one of the pieces came to where it stands only after the entry is said to have happened. */
export function tooEarly(state: BatchState, chosen: Chosen, entry: Entry): Refusal | undefined {
  const late = chosen.pieces.find((piece) => piece.sinceMs > entry.atMs);
  if (!late) return undefined;
  const early = spanWords((late.sinceMs - entry.atMs) / HOUR_MS);
  return refuse(
    'too-early',
    `${pieceCode(state.code, late.position)} came to ${chosen.operation.name} ${early} after that`,
  );
}

/** The state with the chosen pieces changed. */
export function changed(
  state: BatchState,
  entry: Entry,
  chosen: Chosen,
  change: (piece: PieceState, index: number) => PieceState,
  extra: Partial<BatchState> = {},
): Outcome {
  const early = tooEarly(state, chosen, entry);
  if (early) return early;
  const places = new Map(chosen.pieces.map((piece, index) => [piece.position, index]));
  const pieces = state.pieces.map((piece) => {
    const index = places.get(piece.position);
    return index === undefined ? piece : change(piece, index);
  });
  const next = { ...state, ...extra, pieces, lastMs: Math.max(state.lastMs, entry.atMs) };
  return { state: next, effect: effectOf(chosen, entry.body) };
}

/** Where an entry touched which pieces: the station it names, else where they are in hand, else the operation's usual one. */
export function effectOf(chosen: Chosen, body: AnyBody): Effect {
  const station = body.station ?? chosen.pieces[0]?.station ?? chosen.operation.stations[0] ?? null;
  return {
    operation: chosen.operation.key,
    station,
    positions: chosen.pieces.map((piece) => piece.position),
  };
}

/** The batch's overrides with one more: a rule was passed by for a reason, `against` what it said at that moment. */
export function overriding(
  state: BatchState,
  entry: Entry,
  chosen: Chosen,
  reason: string,
  against: string,
): Partial<BatchState> {
  const override: Override = {
    atMs: entry.atMs,
    by: entry.by,
    operation: chosen.operation.key,
    pieces: chosen.pieces.length,
    positions: chosen.pieces.map(({ position }) => position),
    reason,
    against,
  };
  return { overrides: [...state.overrides, override] };
}

/** An entry that records something and moves no piece. */
export function noted(
  state: BatchState,
  entry: Entry,
  operation: string | null,
  positions: number[],
  extra: Partial<BatchState>,
): Applied {
  const next = { ...state, ...extra, lastMs: Math.max(state.lastMs, entry.atMs) };
  return { state: next, effect: { operation, station: entry.body.station ?? null, positions } };
}
