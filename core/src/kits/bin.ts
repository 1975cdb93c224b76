import {
  hasLeft,
  lineOf,
  pieceCode,
  refuse,
  type BatchState,
  type KitPart,
  type PieceState,
  type Refusal,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';

/** The bin of one instrument. */
export interface Bin {
  /** What is written on it; null: nothing was said. */
  bin: string | null;
  /** What lies in it. */
  parts: KitPart[];
  /** What it still wants. */
  missing: KitPart[];
  /** Values of the options its bill asks about, as it was picked by. */
  choices: Readonly<Record<string, string>>;
}

/** The same parts for the same thing added up; what came to nothing is left out. */
export function addedUp(parts: readonly KitPart[]): KitPart[] {
  const sums = new Map<string, KitPart>();
  for (const { slot, part, quantity } of parts) {
    const id = `${slot}|${part}`;
    sums.set(id, { slot, part, quantity: (sums.get(id)?.quantity ?? 0) + quantity });
  }
  return [...sums.values()].filter(({ quantity }) => quantity !== 0);
}

/** The bin of the instrument at a place; undefined: nobody picked it one, or all of it was put back. */
export function binOf({ kits }: Pick<BatchState, 'kits'>, position: number): Bin | undefined {
  const turns = (kits ?? []).filter(({ positions }) => positions.includes(position));
  const last = turns.at(-1);
  if (!last) return undefined;
  const parts = addedUp(turns.flatMap((turn) => turn.parts));
  if (parts.length === 0) return undefined;
  const bin = turns.findLast((turn) => turn.bin !== null)?.bin ?? null;
  return { bin, parts, missing: last.missing, choices: last.choices };
}

/** An option that was changed since a bin was picked; undefined: the bin is as the tag says. */
export function pickedOtherwise(
  state: BatchState,
  piece: PieceState,
  { choices }: Bin,
): { name: string; was: string; is: string } | undefined {
  const changed = lineOf(state, piece)?.lines.find(
    ({ option, value }) => choices[option] !== undefined && choices[option] !== value,
  );
  return changed && { name: changed.name, was: choices[changed.option] ?? '', is: changed.valueName };
}

/** The operation before which the kits of a route are picked; undefined: it wants none. */
export const kitOperation = ({ operations }: Pick<Route, 'operations'>): Operation | undefined =>
  operations.find(({ kit }) => kit);

/** How far the kit of an instrument is: none picked, short of something, whole, or picked for another spec than its tag says. */
export type BinStanding = 'none' | 'short' | 'whole' | 'otherwise';

/** How far the kit of one instrument is. */
export function binStanding(state: BatchState, piece: PieceState): BinStanding {
  const bin = binOf(state, piece.position);
  if (!bin) return 'none';
  if (pickedOtherwise(state, piece, bin)) return 'otherwise';
  return bin.missing.length > 0 ? 'short' : 'whole';
}

/** Instruments that have not left and stand at the operation their kit is wanted before, or before that. */
export function awaitKit(state: BatchState, { operations }: Pick<Route, 'operations'>): PieceState[] {
  const at = operations.findIndex(({ kit }) => kit);
  const before = new Set(operations.slice(0, at + 1).map(({ key }) => key));
  return state.pieces.filter((piece) => !hasLeft(piece) && before.has(piece.operation));
}

/**
 * Instruments whose kit is still to be picked or filled: those that await one; and those that went on without all of it, for a
 * reason, until they leave.
 */
export function kitsToPick(state: BatchState, route: Route): PieceState[] {
  if (!kitOperation(route)) return [];
  const ahead = new Set(awaitKit(state, route));
  return state.pieces.filter((piece) => {
    const standing = binStanding(state, piece);
    if (hasLeft(piece) || standing === 'whole') return false;
    return ahead.has(piece) || standing === 'short';
  });
}

/** '6 tuners, pickups': what is missing, in words. */
export const kitPartWords = (parts: readonly KitPart[]): string =>
  parts.map(({ slot, quantity }) => (quantity === 1 ? slot : `${quantity} ${slot}`)).join(', ');

/** Why pieces are not taken in hand where their kit must be there: nobody picked it, it lacks something, or the tag changed. */
export function kitMissing(
  state: BatchState,
  { pieces, operation }: { pieces: readonly PieceState[]; operation: Operation },
): Refusal | undefined {
  if (!operation.kit) return undefined;
  const short = pieces.filter((piece) => binStanding(state, piece) !== 'whole');
  const [first] = short;
  if (!first) return undefined;
  const code = pieceCode(state.code, first.position);
  const more = short.length > 1 ? `, and ${short.length - 1} more` : '';
  const bin = binOf(state, first.position);
  if (!bin) return refuse('kit-missing', `${code} has no kit yet${more}: pick it before it is taken in hand`);
  const changed = pickedOtherwise(state, first, bin);
  return changed
    ? refuse(
        'other-option',
        `the kit of ${code} was picked for ${changed.name} '${changed.was}', its tag says ${changed.is}${more}: put it back and pick it anew`,
      )
    : refuse('kit-missing', `the kit of ${code} lacks ${kitPartWords(bin.missing)}${more}`);
}

/** Why instruments may not leave: they went on without all of their kit, and nobody laid the rest in. */
export function kitUnfilled(state: BatchState, pieces: readonly PieceState[]): Refusal | undefined {
  const short = pieces.find((piece) => binStanding(state, piece) === 'short');
  return (
    short &&
    refuse(
      'kit-missing',
      `the kit of ${pieceCode(state.code, short.position)} lacks ${kitPartWords(binOf(state, short.position)?.missing ?? [])}`,
    )
  );
}
