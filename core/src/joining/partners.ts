import { operationOf, type Route } from '../route/index.ts';
import type { BatchState } from '../ledger/index.ts';

/** A rack that another one may be joined with. */
export interface JoinPartner {
  batch: string;
  /** Kind letter. */
  kind: string;
}

/** Racks of a model whose pieces stand at their side of a join, waiting or in hand; in the order given. */
export function joinPartners(
  { code, model }: Pick<BatchState, 'code' | 'model'>,
  racks: readonly { state: BatchState; route: Route }[],
): JoinPartner[] {
  return racks
    .filter(
      ({ state, route }) =>
        state.code !== code &&
        state.model === model &&
        state.pieces.some(
          ({ standing, operation }) =>
            (standing === 'waiting' || standing === 'inHand') &&
            operationOf(route, operation).mode === 'join',
        ),
    )
    .map(({ state }) => ({ batch: state.code, kind: state.kind }));
}
