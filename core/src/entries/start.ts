import {
  changed,
  choose,
  count,
  isRefusal,
  overriding,
  refuse,
  tallyAt,
  type BatchState,
  type Entry,
  type Outcome,
  type PieceState,
  type StartBody,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';
export function start(state: BatchState, route: Route, entry: Entry, body: StartBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode !== 'hold';
  const chosen = choose(state, route, { selection: body, standings: ['waiting'], at, standard: 'all' });
  if (isRefusal(chosen)) return chosen;
  const { operation } = chosen;
  if (operation.mode === 'load') {
    const free = operation.places - tallyAt(state, route, operation.key).inHand;
    const named = body.count !== undefined || body.pieces !== undefined;
    if (free <= 0)
      return refuse('over-places', `all ${operation.places} places at ${operation.name} are taken`);
    if (named && chosen.pieces.length > free) {
      return refuse(
        'over-places',
        `${operation.name} has ${count(free, 'place')} free, not ${chosen.pieces.length}`,
      );
    }
    chosen.pieces = chosen.pieces.slice(0, free);
  }
  const station = body.station ?? operation.stations[0] ?? null;
  const against = body.facts?.against;
  const extra = body.because && against ? overriding(state, entry, chosen, body.because, against) : {};
  const onto = (piece: PieceState): PieceState => ({
    ...piece,
    standing: 'inHand',
    sinceMs: entry.atMs,
    station,
    ...(body.bed === undefined ? {} : { bed: body.bed }),
    ...(body.load === undefined ? {} : { load: body.load }),
  });
  return changed(state, entry, chosen, onto, extra);
}
