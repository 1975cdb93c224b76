import { count, hasLeft } from '../ledger/index.ts';
import { operationIndex } from '../route/index.ts';
import type { SingleCall } from './call.ts';
import type { RoutedBatch } from './station-load.ts';

/** Pieces of a rack that are not cut yet, and how many of them have their wood. */
export interface WoodView {
  batch: string;
  pieces: number;
  wooded: number;
}

/** A rack cut of whatever lay nearest costs its weights; a joint closed unmeasured may open. Days. */
const WOODLESS_COST = 0.3;
const UNPAIRED_COST = 1;

/** Pieces that still wait to be cut for the first time. */
export function uncutPieces({ state, route }: RoutedBatch): number {
  const first = route.operations.findIndex(({ mode }) => mode !== 'hold');
  return state.pieces.filter((piece) => {
    const at = operationIndex(route, piece.operation);
    return !hasLeft(piece) && (at < first || (at === first && piece.standing !== 'inHand'));
  }).length;
}

/** Racks whose wood nobody chose yet and that can still have it chosen: one call each. */
export function woodCalls(wood: readonly WoodView[]): SingleCall[] {
  return wood
    .filter(({ pieces, wooded }) => wooded < pieces)
    .map(({ batch, pieces, wooded }) => ({
      id: `wood-missing:${batch}`,
      kind: 'missing',
      subject: batch,
      cause: 'are open without their wood',
      pieces: pieces - wooded,
      title: `${batch} has no wood for ${pieces - wooded} of its ${count(pieces, 'piece')}`,
      detail: 'Choose its blanks before it is cut: by weight, figure, colour and moisture.',
      cost: WOODLESS_COST,
      actions: [{ label: `Choose wood for ${batch}`, href: `/wood/choose/${batch}` }],
      evidence: `/wood/choose/${batch}`,
    }));
}

/** Pieces of a rack that wait at a join for pairs nobody measured: one call. */
export function pairCalls({ state, route }: RoutedBatch): SingleCall[] {
  return route.operations.flatMap((operation): SingleCall[] => {
    if (operation.mode !== 'join' || !operation.fit || operation.role !== 'host') return [];
    const { hostCheck } = operation.fit;
    const there = state.pieces.filter(
      (piece) => piece.operation === operation.key && piece.standing === 'waiting',
    );
    const unpaired = there.filter((piece) => !piece.partner);
    if (unpaired.length === 0) return [];
    const measured = new Set(
      (state.checks ?? []).filter(({ check }) => check === hostCheck).flatMap(({ positions }) => positions),
    );
    const bare = unpaired.filter(({ position }) => !measured.has(position)).length;
    const href = `/fitting/pairing/${state.code}`;
    return [
      {
        id: `unpaired:${state.code}`,
        kind: 'missing',
        subject: state.code,
        cause: `wait at ${operation.name} without pairs`,
        pieces: unpaired.length,
        title: `${unpaired.length} of ${state.code} wait at ${operation.name} without a pair`,
        detail: `${bare === 0 ? 'All of them are measured' : `${bare} of them ${bare === 1 ? 'has' : 'have'} no ${hostCheck.replaceAll('-', ' ')} measured`}. Joined as they come, the gap is whatever it is: measure both sides and pair them.`,
        cost: UNPAIRED_COST,
        actions: [{ label: 'Pair them', href }],
        evidence: href,
      },
    ];
  });
}
