import { count, hasLeft, pieceCode } from '../ledger/index.ts';
import { isBench, outsideLimits } from '../measuring/index.ts';
import { limitsWords, valueWords } from '../machining/check.ts';
import type { SingleCall } from './call.ts';
import type { RoutedBatch } from './station-load.ts';

/** A piece that is going to be sent back or scrapped costs its own days, and what is done to it meanwhile. */
const OUTSIDE_COST = 1.5;

/**
 * Racks with pieces that were measured outside their limits, and are still here: one call a rack. What is in hand at the bench that read it
 * is being put right, and what moved on the settling shelf is the shelf's own call.
 */
export function checkCalls(racks: readonly RoutedBatch[]): SingleCall[] {
  return racks.flatMap(({ state, route }) => {
    const here = state.pieces.filter((piece) => !hasLeft(piece));
    const outside = outsideLimits(state, route, here).filter(({ position, operation }) => {
      const piece = here.find((one) => one.position === position);
      const atWork = piece?.standing === 'inHand' || piece?.standing === 'onHold';
      return !(atWork && piece.operation === operation.key && isBench(operation));
    });
    const [first] = outside;
    if (!first) return [];
    const pieces = new Set(outside.map(({ position }) => position)).size;
    const told = outside
      .slice(0, 3)
      .map(
        ({ position, check, value }) =>
          `${pieceCode(state.code, position)}: ${check.name.toLowerCase()} ${valueWords(check, value)}, limits ${limitsWords(check)}`,
      );
    const more = outside.length - told.length;
    const href = `/batch/${state.code}`;
    return [
      {
        id: `outside:${state.code}`,
        kind: 'outside-limits' as const,
        subject: state.code,
        cause: 'limits',
        pieces,
        title: `${count(pieces, 'piece')} of ${state.code} ${pieces === 1 ? 'is' : 'are'} outside limits`,
        detail: `${told.join('; ')}${more > 0 ? `; and ${more} more` : ''}. Send back, scrap, or pass it by with a reason.`,
        cost: OUTSIDE_COST * pieces,
        actions: [{ label: 'Decide', href }],
        evidence: href,
      },
    ];
  });
}
