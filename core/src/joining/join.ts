import {
  changed,
  choose,
  isRefusal,
  offTheTable,
  overriding,
  passed,
  pieceCode,
  type BatchState,
  type Entry,
  type JoinBody,
  type Outcome,
  type PieceState,
} from '../ledger/index.ts';
import { limitsBroken } from '../measuring/index.ts';
import { endsRoute, type Operation, type Route } from '../route/index.ts';

export function join(state: BatchState, route: Route, entry: Entry, body: JoinBody): Outcome {
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
