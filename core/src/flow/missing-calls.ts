import { count, hasLeft } from '../ledger/index.ts';
import { operationIndex } from '../route/index.ts';
import type { Call } from './calls.ts';
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
/** So many racks are offered by a button, and so many named; the list of stock has the rest. */
const MOST_OFFERED = 3;
const MOST_NAMED = 6;

/** Pieces that still wait to be cut for the first time. */
export function uncutPieces({ state, route }: RoutedBatch): number {
  const first = route.operations.findIndex(({ mode }) => mode !== 'hold');
  return state.pieces.filter((piece) => {
    const at = operationIndex(route, piece.operation);
    return !hasLeft(piece) && (at < first || (at === first && piece.standing !== 'inHand'));
  }).length;
}

/** Wood that nobody chose yet and that can still be chosen: one call for all racks. */
export function woodCalls(wood: readonly WoodView[]): Call[] {
  const without = wood.filter(({ pieces, wooded }) => wooded < pieces);
  const [first] = without;
  if (!first) return [];
  const missing = ({ pieces, wooded }: WoodView): number => pieces - wooded;
  const named = without.slice(0, MOST_NAMED).map((one) => `${one.batch}: ${missing(one)} of ${one.pieces}`);
  const more = without.length - named.length;
  return [
    {
      id: 'wood-missing',
      kind: 'missing',
      title:
        without.length === 1
          ? `${first.batch} has no wood for ${missing(first)} of its ${count(first.pieces, 'piece')}`
          : `${without.length} racks are open without their wood`,
      detail: `${named.join(', ')}${more > 0 ? ` and ${more} more` : ''}. Choose their blanks before they are cut: by weight, figure, colour and moisture.`,
      cost: WOODLESS_COST * without.length,
      actions: without
        .slice(0, MOST_OFFERED)
        .map(({ batch }) => ({ label: `Choose wood for ${batch}`, href: `/wood/choose/${batch}` })),
      evidence: '/wood/stock',
    },
  ];
}

/** Pieces of a rack that wait at a join for pairs nobody measured: one call. */
export function pairCalls({ state, route }: RoutedBatch): Call[] {
  return route.operations.flatMap((operation): Call[] => {
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
        title: `${unpaired.length} of ${state.code} wait at ${operation.name} without a pair`,
        detail: `${bare === 0 ? 'All of them are measured' : `${bare} of them ${bare === 1 ? 'has' : 'have'} no ${hostCheck.replaceAll('-', ' ')} measured`}. Joined as they come, the gap is whatever it is: measure both sides and pair them.`,
        cost: UNPAIRED_COST,
        actions: [{ label: 'Pair them', href }],
        evidence: href,
      },
    ];
  });
}
