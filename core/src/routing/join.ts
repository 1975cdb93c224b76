import { pieceCode, type BatchState } from './batch.ts';
import type { ArriveBody, JoinBody, OpenBody, Selection } from './entry.ts';
import { refuse, type Refusal } from './refusal.ts';
import type { JoinOperation, Route } from './route.ts';

export interface JoinSide {
  state: BatchState;
  route: Route;
}

/** The entries one join files: on the host, on the guest, and on the batch it makes. */
export interface JoinPlan {
  makes: string;
  host: JoinBody;
  guest: JoinBody;
  made: OpenBody | ArriveBody;
}

const joinOperation = (route: Route, role: 'host' | 'guest'): JoinOperation | undefined =>
  route.operations.find((o): o is JoinOperation => o.mode === 'join' && o.role === role);

/** Pieces that stand at the join, in hand first, then by place. */
function candidates({ state }: JoinSide, operation: JoinOperation): number[] {
  const there = state.pieces.filter(
    (piece) =>
      piece.operation === operation.key && (piece.standing === 'inHand' || piece.standing === 'waiting'),
  );
  const order = (standing: string): number => (standing === 'inHand' ? 0 : 1);
  return there
    .sort((a, b) => order(a.standing) - order(b.standing) || a.position - b.position)
    .map((p) => p.position);
}

/**
 * Plans the meeting of two batches: which pieces join which, and what that makes. The rack made keeps the host's
 * number (B-217 becomes I-217); pairs are taken in order of place. Both sides must be of one model, one host and
 * one guest, with enough pieces at their joins.
 */
export function planJoin(options: {
  one: JoinSide;
  other: JoinSide;
  /** How many pairs; as many as both sides have when left out. */
  count?: Selection['count'];
  station?: string | undefined;
  made: BatchState | null;
  madeRoute: Route;
}): JoinPlan | Refusal {
  const { one, other } = options;
  const [host, guest] = joinOperation(one.route, 'host') ? [one, other] : [other, one];
  const hostAt = joinOperation(host.route, 'host');
  const guestAt = joinOperation(guest.route, 'guest');
  const codes = `${one.state.code} and ${other.state.code}`;
  if (
    !hostAt ||
    !guestAt ||
    hostAt.partnerKind !== guest.state.kind ||
    guestAt.partnerKind !== host.state.kind
  ) {
    return refuse('not-joinable', `${codes} do not join: their routes do not meet`);
  }
  if (host.state.model !== guest.state.model) {
    return refuse(
      'not-joinable',
      `${codes} do not join: ${host.state.model} and ${guest.state.model} are different models`,
    );
  }
  const hostThere = candidates(host, hostAt);
  const guestThere = candidates(guest, guestAt);
  const pairs = options.count ?? Math.min(hostThere.length, guestThere.length);
  for (const [side, there, at] of [
    [host, hostThere, hostAt],
    [guest, guestThere, guestAt],
  ] as const) {
    if (there.length === 0 || there.length < pairs) {
      const be = there.length === 1 ? 'is' : 'are';
      return refuse(
        'not-enough',
        `only ${there.length} of ${side.state.code} ${be} at ${at.name}, ${pairs || 'some'} wanted`,
      );
    }
  }
  const makes = `${hostAt.makesKind}-${host.state.code.split('-')[1] ?? ''}`;
  const firstPosition = (options.made?.quantity ?? 0) + 1;
  const hostPieces = hostThere.slice(0, pairs);
  const guestPieces = guestThere.slice(0, pairs);
  const parents = hostPieces.map((position, i) => [
    pieceCode(host.state.code, position),
    pieceCode(guest.state.code, guestPieces[i] ?? 0),
  ]);
  const station = options.station === undefined ? {} : { station: options.station };
  const common = { type: 'join', makes, firstPosition, ...station } as const;
  return {
    makes,
    host: { ...common, role: 'host', partner: guest.state.code, pieces: hostPieces },
    guest: { ...common, role: 'guest', partner: host.state.code, pieces: guestPieces },
    made: options.made
      ? { type: 'arrive', parents }
      : {
          type: 'open',
          code: makes,
          kind: hostAt.makesKind,
          model: host.state.model,
          routeId: options.madeRoute.id,
          quantity: pairs,
          dueMs: host.state.dueMs,
          parents,
        },
  };
}
