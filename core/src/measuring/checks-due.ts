import {
  count,
  looksOf,
  pieceCode,
  refuse,
  type BatchState,
  type Chosen,
  type Look,
  type PieceState,
  type Refusal,
} from '../ledger/index.ts';
import { operationIndex, type Operation, type Route } from '../route/index.ts';
import { judgeCheck, limitsWords, valueWords, type Check } from '../machining/check.ts';

/** A value that counts for a piece: the latest of its check, taken since the piece came back to the operation, if it did. */
interface Taken {
  atMs: number;
  value: number;
}

/** Looks by operation and check, each list oldest first. */
type Looks = ReadonlyMap<string, Look[]>;

const NONE: readonly Look[] = [];
const keyOf = (operation: string, check: string): string => `${operation}|${check}`;
const looksAt = (looks: Looks, operation: string, { key }: Check): readonly Look[] =>
  looks.get(keyOf(operation, key)) ?? NONE;

function looksBy(state: BatchState): Looks {
  const looks = new Map<string, Look[]>();
  for (const look of looksOf(state)) {
    const key = keyOf(look.operation, look.check);
    const known = looks.get(key);
    if (known) known.push(look);
    else looks.set(key, [look]);
  }
  return looks;
}

function valueOf(looks: Looks, check: Check, operation: string, piece: PieceState): Taken | undefined {
  const from = piece.measuredFromMs ?? -Infinity;
  const own = looksAt(looks, operation, check);
  for (let i = own.length - 1; i >= 0; i -= 1) {
    const look = own[i];
    if (!look || look.atMs < from) continue;
    const at = look.positions.indexOf(piece.position);
    const value = look.values[at];
    if (at >= 0 && value !== undefined) return { atMs: look.atMs, value };
  }
  return undefined;
}

/** Values that were not told apart, of the last look at a check. */
function untold(looks: Looks, check: Check, operation: string): number {
  const last = looksAt(looks, operation, check).at(-1);
  return last?.positions.length === 0 ? last.values.length : 0;
}

/** One check of an operation for some pieces: how many of them are measured, of how many that must be. */
export interface CheckDue {
  check: Check;
  measured: number;
  wanted: number;
  /** Places that nobody has measured, in order. */
  open: number[];
}

/** What an operation asks of pieces before they are through it. */
export function checksDue(state: BatchState, { operation, pieces }: Chosen): CheckDue[] {
  const looks = looksBy(state);
  return (operation.checks ?? []).map((check) => {
    const open = pieces.filter((piece) => !valueOf(looks, check, operation.key, piece));
    const told = pieces.length - open.length + untold(looks, check, operation.key);
    return {
      check,
      measured: Math.min(pieces.length, told),
      wanted: check.every ? pieces.length : Math.min(check.sample, pieces.length),
      open: open.map((piece) => piece.position),
    };
  });
}

/**
 * Why pieces may not pass an operation yet: a measurement that is due was not made. Of a load the whole load is asked, by who sees
 * every batch in it.
 */
export function checksMissing(state: BatchState, chosen: Chosen): Refusal | undefined {
  if (chosen.pieces.some((piece) => piece.load)) return undefined;
  const missing = checksDue(state, chosen).flatMap(({ check, measured, wanted }) =>
    measured < wanted ? [`${check.name.toLowerCase()} of ${measured} of ${wanted}`] : [],
  );
  return missing.length === 0
    ? undefined
    : refuse('checks-missing', `${chosen.operation.name} is not measured yet: ${missing.join(', ')}`);
}

/** A value outside its limits that nobody passed by with a reason. */
export interface OutsideLimits {
  position: number;
  check: Check;
  operation: Operation;
  value: number;
  atMs: number;
}

/** Values of pieces outside the limits of their checks, at the operations of the route up to one of them. */
export function outsideLimits(
  state: BatchState,
  route: Route,
  pieces: readonly PieceState[],
  upTo?: string,
): OutsideLimits[] {
  const looks = looksBy(state);
  if (looks.size === 0) return [];
  const last = upTo === undefined ? route.operations.length : operationIndex(route, upTo);
  const asked = route.operations
    .slice(0, last + 1)
    .flatMap((operation) => (operation.checks ?? []).map((check) => ({ operation, check })));
  return pieces.flatMap((piece) =>
    asked.flatMap(({ operation, check }) => {
      const taken = valueOf(looks, check, operation.key, piece);
      if (!taken || judgeCheck(check, [taken.value]).pass) return [];
      const isPassedBy = state.overrides.some(
        ({ atMs, positions, operation: at }) =>
          atMs >= taken.atMs &&
          positions?.includes(piece.position) &&
          operationIndex(route, at) >= operationIndex(route, operation.key),
      );
      return isPassedBy ? [] : [{ position: piece.position, check, operation, ...taken }];
    }),
  );
}

const outsideWords = (code: string, { position, check, value }: OutsideLimits): string =>
  `${check.name.toLowerCase()} of ${pieceCode(code, position)} is ${valueWords(check, value)}, limits ${limitsWords(check)}`;

/** How many of them are told one by one. */
const MOST_TOLD = 3;

/** Why pieces may not pass an operation: what was measured of them lies outside its limits. */
export function limitsBroken(
  state: BatchState,
  route: Route,
  { operation, pieces }: Chosen,
): Refusal | undefined {
  const outside = outsideLimits(state, route, pieces, operation.key);
  if (outside.length === 0) return undefined;
  const told = outside.slice(0, MOST_TOLD).map((one) => outsideWords(state.code, one));
  const more = outside.length - told.length;
  return refuse(
    'outside-limits',
    `${told.join('; ')}${more > 0 ? `; and ${count(more, 'value')} more` : ''}: send back what is wrong, or give a reason`,
  );
}

/** How many people look at a piece here, one after the other. */
export const eyesAt = (operation: Operation): number =>
  operation.mode === 'gate' && operation.gate.kind === 'inspection' ? (operation.gate.eyes ?? 1) : 1;

/**
 * Why pieces may not pass an inspection that wants two pairs of eyes: fewer than two people have looked at them since they came.
 */
export function secondEyesMissing(state: BatchState, { operation, pieces }: Chosen): Refusal | undefined {
  if (eyesAt(operation) < 2) return undefined;
  const short = pieces.flatMap((piece) => {
    const people = lookedAtBy(state, operation, piece);
    return people.length < 2 ? [{ piece, people }] : [];
  });
  const [first] = short;
  if (!first) return undefined;
  const [by] = first.people;
  return refuse(
    'second-eyes',
    `${operation.name} wants two pairs of eyes: ${pieceCode(state.code, first.piece.position)} was looked at, all of it, by ${by ?? 'nobody'}${by === undefined ? '' : ' alone'}${short.length > 1 ? `; and ${count(short.length - 1, 'piece')} more` : ''}`,
  );
}

/**
 * Codes of the people who looked at the whole of a piece at an operation, every check of it, since it last came there; in order of their
 * first look, by whatever way they filed it.
 */
export function lookedAtBy(state: BatchState, operation: Operation, piece: PieceState): string[] {
  const from = piece.measuredFromMs ?? -Infinity;
  const seen = new Map<string, Set<string>>();
  for (const { atMs, by, operation: at, check, positions } of looksOf(state)) {
    if (by === undefined || at !== operation.key || atMs < from || !positions.includes(piece.position))
      continue;
    seen.set(by, (seen.get(by) ?? new Set()).add(check));
  }
  const all = (operation.checks ?? []).map(({ key }) => key);
  return [...seen].flatMap(([by, checks]) => (all.every((key) => checks.has(key)) ? [by] : []));
}

/** What counts of pieces at an operation, by key of its checks: the latest of each, since they came back if they did. */
export function valuesAt(
  state: BatchState,
  operation: Operation,
): (piece: PieceState) => Record<string, number> {
  const looks = looksBy(state);
  return (piece) =>
    Object.fromEntries(
      (operation.checks ?? []).flatMap((check) => {
        const taken = valueOf(looks, check, operation.key, piece);
        return taken ? [[check.key, taken.value]] : [];
      }),
    );
}
