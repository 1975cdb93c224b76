import { judgeSetup, type Measured } from '../assembly/setup.ts';
import { secondLooks, shelfOf } from '../holds/index.ts';
import type { BatchState, PieceState, Sheet, Standing } from '../ledger/index.ts';
import type { Check } from '../machining/check.ts';
import { operationOf, type Operation, type Route } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { eyesAt, lookedAtBy, valuesAt } from './checks-due.ts';

/** What a bench says of an instrument: read on, turn something, send it back, wait, or go on. */
export type BenchVerdict = 'pass' | 'measure' | 'adjust' | 'back' | 'wait';

/** One instrument where it is measured. */
export interface BenchPiece {
  position: number;
  /** Null: it has none yet. */
  serial: string | null;
  operation: string;
  standing: Standing;
  sinceMs: number;
  /** When its settling is over; null: it is not settling. */
  endsMs: number | null;
  verdict: BenchVerdict;
  /** One sentence with its numbers. */
  words: string;
  /** Where two people look at it: codes of those who have, in order. */
  by: string[];
}

/** What is open on the bench for one instrument. */
export interface BenchSheet extends BenchPiece {
  /** What is read here, in order. */
  checks: Check[];
  /** What counts of it here so far. */
  values: Measured;
  /** What it was before it settled; empty where it is not settling. */
  before: Measured;
  /** How far each may have moved since then, by key. */
  drifts: Record<string, number>;
  /** Every sheet of it, oldest first, of whatever operation. */
  sheets: Sheet[];
}

/** Pieces are measured one by one here: at a bench, an inspection, or when they have settled. */
export const isBench = (operation: Operation): boolean =>
  (operation.checks ?? []).some(({ every }) => every) &&
  (operation.mode === 'hold' ? shelfOf(operation) !== undefined : operation.mode !== 'load');

/** Instruments of a batch that stand where they are measured one by one, in order of place. `atMs`: as judged at. */
export function benchPieces(state: BatchState, route: Route, atMs: number): BenchPiece[] {
  const places = new Map<string, (piece: PieceState) => BenchPiece>();
  return state.pieces.flatMap((piece) => {
    if (!['waiting', 'inHand', 'onHold'].includes(piece.standing)) return [];
    const operation = operationOf(route, piece.operation);
    if (!isBench(operation)) return [];
    const judge = places.get(operation.key) ?? judgeAt(state, operation, atMs);
    places.set(operation.key, judge);
    return [judge(piece)];
  });
}

/** The sheet of one piece where it stands; null where nothing is measured piece by piece, or there is no such piece. */
export function benchSheet(
  state: BatchState,
  route: Route,
  position: number,
  atMs: number,
): BenchSheet | null {
  const piece = state.pieces.find((one) => one.position === position);
  const operation = piece && route.operations.find(({ key }) => key === piece.operation);
  if (!piece || !operation || !isBench(operation)) return null;
  const checks = operation.checks ?? [];
  const shelf = shelfOf(operation);
  const look = shelf && secondLooks(shelf, state, { sinceMs: piece.sinceMs, atMs })(position);
  return {
    ...judgeAt(state, operation, atMs)(piece),
    checks,
    values: look?.after ?? valuesAt(state, operation)(piece),
    ...{ before: look?.before ?? {}, drifts: shelf?.rule.drifts ?? {} },
    sheets: (state.sheets ?? []).filter((sheet) => sheet.position === position),
  };
}

/** How pieces at one operation are judged. What was measured of the batch is looked up once for all of them. */
function judgeAt(state: BatchState, operation: Operation, atMs: number): (piece: PieceState) => BenchPiece {
  const valuesOf = valuesAt(state, operation);
  const settled = onShelf(state, operation, atMs);
  const eyes = eyesAt(operation);
  const hours = operation.mode === 'hold' && operation.rule.rule === 'settle' ? operation.rule.hours : null;
  return (piece) => {
    const { position, serial = null, standing, sinceMs } = piece;
    const by = eyes > 1 ? lookedAtBy(state, operation, piece) : [];
    const said = piece.called
      ? { verdict: 'wait' as const, words: `Stopped: ${piece.called.reason}.` }
      : (settled?.(piece) ?? atBench(operation, piece, { values: valuesOf(piece), by }));
    const endsMs = hours === null ? null : sinceMs + hours * HOUR_MS;
    return { position, serial, operation: operation.key, standing, sinceMs, endsMs, ...said, by };
  };
}

function atBench(
  operation: Operation,
  piece: PieceState,
  { values, by }: { values: Measured; by: readonly string[] },
): { verdict: BenchVerdict; words: string } {
  const { verdict, sentence } = judgeSetup(values, operation.checks ?? []);
  if (verdict !== 'pass') return { verdict, words: sentence };
  if (by.length < eyesAt(operation) && eyesAt(operation) > 1)
    return { verdict: 'measure', words: `A second pair of eyes: ${by[0] ?? 'nobody'} alone has looked.` };
  if (operation.serial && piece.serial === undefined)
    return { verdict: 'measure', words: 'Passes, and has no serial yet.' };
  return { verdict, words: sentence };
}

/** How pieces on the settling shelf are judged; those that came onto it together are looked up together. Undefined: it is no shelf. */
function onShelf(
  state: BatchState,
  operation: Operation,
  atMs: number,
): ((piece: PieceState) => { verdict: BenchVerdict; words: string }) | undefined {
  const shelf = shelfOf(operation);
  if (!shelf) return undefined;
  const together = new Map<number, ReturnType<typeof secondLooks>>();
  return ({ position, sinceMs }) => {
    const leftHours = (sinceMs - atMs) / HOUR_MS + shelf.rule.hours;
    if (leftHours > 0) return { verdict: 'wait', words: `Settles: ${spanWords(leftHours)} left.` };
    const looks = together.get(sinceMs) ?? secondLooks(shelf, state, { sinceMs, atMs });
    together.set(sinceMs, looks);
    const { verdict, sentence } = looks(position);
    return { verdict, words: sentence };
  };
}
