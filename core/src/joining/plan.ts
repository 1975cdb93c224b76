import {
  count,
  hasLeft,
  lineOf,
  pieceCode,
  refuse,
  type BatchState,
  type LinesOfPieces,
  type OpenBody,
  type PieceState,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import { endsRoute, type JoinOperation, type Route, type SplitOperation } from '../route/index.ts';
import type { ArriveBody } from './arrive.ts';
import { misfit } from './fit.ts';
import type { JoinBody } from './join.ts';
import type { SplitBody } from './split.ts';

export interface JoinSide {
  state: BatchState;
  /** As the batch works it. */
  route: Route;
}

/** The entries one join files: on the host, on the guest, and on the batch it makes. */
export interface JoinPlan {
  /** Code of the batch the pairs go on in: the one made, or the host itself. */
  makes: string;
  host: JoinBody;
  guest: JoinBody;
  /** Null: the host takes the guest in and goes on. */
  made: OpenBody | ArriveBody | null;
}

/** The operation at which a batch meets another kind, in a role. */
const joinOperation = (
  route: Route,
  role: 'host' | 'guest',
  partnerKind: string,
): JoinOperation | undefined =>
  route.operations.find(
    (o): o is JoinOperation => o.mode === 'join' && o.role === role && o.partnerKind === partnerKind,
  );

/** Pieces that stand at the join, in hand first, then by place. */
function candidates({ state }: JoinSide, operation: JoinOperation): PieceState[] {
  const there = state.pieces.filter(
    (piece) =>
      piece.operation === operation.key && (piece.standing === 'inHand' || piece.standing === 'waiting'),
  );
  const order = (standing: string): number => (standing === 'inHand' ? 0 : 1);
  return there.sort((a, b) => order(a.standing) - order(b.standing) || a.position - b.position);
}

interface Couple {
  host: number;
  guest: number;
}

/**
 * Who joins whom: pieces that were paired with each other keep together; those nobody paired follow in order of place. A piece
 * whose partner is still on its way, or in another batch, waits for it; one whose partner was lost is free again.
 */
function couples(
  host: JoinSide,
  guest: JoinSide,
  at: [JoinOperation, JoinOperation],
  { isCounted, mayMix }: { isCounted: boolean; mayMix: boolean },
): Couple[] {
  const hosts = candidates(host, at[0]);
  const guests = candidates(guest, at[1]);
  const guestOf = new Map(guests.map((piece) => [pieceCode(guest.state.code, piece.position), piece]));
  const paired = hosts.flatMap(({ position, partner }) => {
    const other = partner && guestOf.get(partner.piece);
    const mutual = other?.partner?.piece === pieceCode(host.state.code, position);
    return other && mutual ? [{ host: position, guest: other.position }] : [];
  });
  // Once some are paired by measurement, those are meant: the rest joins when it is paired, or counted in.
  if (paired.length > 0 && at[0].fit && !isCounted) return paired;
  const taken = new Set(paired.flatMap((pair) => [`h${pair.host}`, `g${pair.guest}`]));
  const freeHosts = hosts.filter((p) => !taken.has(`h${p.position}`) && !isPromised(p, guest.state));
  const freeGuests = guests.filter((p) => !taken.has(`g${p.position}`) && !isPromised(p, host.state));
  return [...paired, ...byLine(freeHosts, freeGuests, mayMix)];
}

/** Pieces nobody paired, in order of place: those of one line of an order, or both for stock; others only where they may mix. */
function byLine(hosts: readonly PieceState[], guests: readonly PieceState[], mayMix: boolean): Couple[] {
  const taken = new Set<number>();
  const guestOf = new Map<number, number>();
  const alike = [(host: PieceState, guest: PieceState) => host.line === guest.line, () => mayMix];
  for (const isAlike of alike)
    for (const host of hosts) {
      if (guestOf.has(host.position)) continue;
      const guest = guests.find((one) => !taken.has(one.position) && isAlike(host, one));
      if (!guest) continue;
      taken.add(guest.position);
      guestOf.set(host.position, guest.position);
    }
  return hosts.flatMap(({ position }) => {
    const guest = guestOf.get(position);
    return guest === undefined ? [] : [{ host: position, guest }];
  });
}

const pieceAt = ({ state }: JoinSide, position: number): PieceState | undefined =>
  state.pieces.find((piece) => piece.position === position);

/**
 * Why a pair is not of one line of an order. `goesOn`: the host takes the guest in and its own tag goes on, so that what it takes in may
 * be for stock.
 */
function otherOrder(
  host: JoinSide,
  guest: JoinSide,
  pairs: readonly Couple[],
  goesOn: boolean,
): string | undefined {
  for (const pair of pairs) {
    const [mine, its] = [pieceAt(host, pair.host)?.line, pieceAt(guest, pair.guest)?.line];
    if (mine === its || (its === undefined && goesOn)) continue;
    const [one, other] = [pieceCode(host.state.code, pair.host), pieceCode(guest.state.code, pair.guest)];
    return `${one} is built for ${mine ?? 'stock'}, ${other} for ${its ?? 'stock'}`;
  }
  return undefined;
}

/** Lines of orders that the pairs go on for, by their place in the rack made. */
function linesOfPairs(
  host: JoinSide,
  guest: JoinSide,
  pairs: readonly Couple[],
  firstPosition: number,
): LinesOfPieces[] {
  const lines = new Map<string, LinesOfPieces>();
  for (const [i, pair] of pairs.entries()) {
    const sides = [
      { side: host, piece: pieceAt(host, pair.host) },
      { side: guest, piece: pieceAt(guest, pair.guest) },
    ];
    const found = sides.find(({ piece }) => piece?.line !== undefined);
    const spec = found?.piece && lineOf(found.side.state, found.piece);
    if (!spec || found.piece?.line === undefined) continue;
    const { line } = found.piece;
    const pieces = [...(lines.get(line)?.pieces ?? []), firstPosition + i];
    lines.set(line, { line, spec, pieces });
  }
  return [...lines.values()];
}

/** Is a piece promised to one that is not lost? */
function isPromised({ partner }: PieceState, other: BatchState): boolean {
  if (!partner) return false;
  const [batch, place] = partner.piece.split('/');
  if (batch !== other.code) return true;
  const met = other.pieces.find(({ position }) => position === Number(place));
  return met !== undefined && !hasLeft(met);
}

/**
 * Plans the meeting of two batches: which pieces join which, and what that makes. The rack made keeps the host's
 * number (B-217 becomes I-217), or the host goes on as what it is. Both sides must be of one model, one host and one
 * guest, with enough pieces at their joins; measured pairs must still fit, unless there is a reason.
 */
export function planJoin(options: {
  one: JoinSide;
  other: JoinSide;
  /** How many pairs; as many as both sides have when left out. */
  count?: Selection['count'];
  station?: string | undefined;
  /** Reason for joining what does not fit. */
  because?: string | undefined;
  made: BatchState | null;
  /** Route of what is made; null where the host goes on. */
  madeRoute: Route | null;
  /** Code of what is made, where the host's own number is another's already. */
  makes?: string;
}): JoinPlan | Refusal {
  const { one, other, because } = options;
  const asHost = joinOperation(one.route, 'host', other.state.kind);
  const [host, guest] = asHost ? [one, other] : [other, one];
  const hostAt = joinOperation(host.route, 'host', guest.state.kind);
  const guestAt = joinOperation(guest.route, 'guest', host.state.kind);
  const codes = `${one.state.code} and ${other.state.code}`;
  if (!hostAt || !guestAt) return refuse('not-joinable', `${codes} do not join: their routes do not meet`);
  if (host.state.model !== guest.state.model) {
    return refuse(
      'not-joinable',
      `${codes} do not join: ${host.state.model} and ${guest.state.model} are different models`,
    );
  }
  const goesOn = !endsRoute(host.route, hostAt);
  const mayMix = goesOn || because !== undefined;
  const ready = couples(host, guest, [hostAt, guestAt], { isCounted: options.count !== undefined, mayMix });
  const wanted = options.count ?? ready.length;
  const short = tooFew(wanted, ready.length, { host, guest, hostAt, guestAt });
  if (short) return short;
  const pairs = ready.slice(0, wanted);
  const against = hostAt.fit && misfit(hostAt.fit, host.state, guest.state, pairs);
  if (against && !because) return refuse('not-paired', `${against}: pair them again, or say why`);
  const mixed = otherOrder(host, guest, pairs, goesOn);
  if (mixed && !because) return refuse('other-order', `${mixed}: give both to one line, or say why`);
  const made = goesOn ? host.state.code : (options.makes ?? numbered(hostAt.makesKind, host.state.code));
  const firstPosition = goesOn ? 1 : (options.made?.quantity ?? 0) + 1;
  const hostCodes = pairs.map((pair) => pieceCode(host.state.code, pair.host));
  const guestCodes = pairs.map((pair) => pieceCode(guest.state.code, pair.guest));
  const common = {
    type: 'join',
    makes: made,
    firstPosition,
    ...(options.station === undefined ? {} : { station: options.station }),
  } as const;
  return {
    makes: made,
    host: {
      ...common,
      role: 'host',
      partner: guest.state.code,
      pieces: pairs.map((pair) => pair.host),
      ...(goesOn ? { takesIn: guestCodes } : {}),
      ...(because ? { because } : {}),
      ...(because && (against ?? mixed)
        ? { facts: { against: [against, mixed].filter((one) => one !== undefined).join('; ') } }
        : {}),
    },
    guest: {
      ...common,
      role: 'guest',
      partner: host.state.code,
      pieces: pairs.map((pair) => pair.guest),
      ...(goesOn ? { into: hostCodes } : {}),
      ...(because ? { because } : {}),
    },
    made: goesOn
      ? null
      : madeBody(
          options,
          host.state,
          { code: made, kind: hostAt.makesKind },
          pairs.map((_, i) => [hostCodes[i] ?? '', guestCodes[i] ?? '']),
          linesOfPairs(host, guest, pairs, firstPosition),
        ),
  };
}

/** The code of what is made from a batch: another letter, the same number. */
export const numbered = (kind: string, code: string): string => `${kind}-${code.split('-')[1] ?? ''}`;

function madeBody(
  { made, madeRoute }: { made: BatchState | null; madeRoute: Route | null },
  from: BatchState,
  { code, kind }: { code: string; kind: string },
  parents: string[][],
  linesMade: LinesOfPieces[],
): OpenBody | ArriveBody {
  const lines = linesMade.length > 0 ? { lines: linesMade } : {};
  if (made) return { type: 'arrive', parents, ...lines };
  if (!madeRoute) throw new Error(`madeBody: ${code} has no route`);
  const { model, dueMs } = from;
  const quantity = parents.length;
  return { type: 'open', code, kind, model, routeId: madeRoute.id, quantity, dueMs, parents, ...lines };
}

function tooFew(
  wanted: number,
  ready: number,
  sides: { host: JoinSide; guest: JoinSide; hostAt: JoinOperation; guestAt: JoinOperation },
): Refusal | undefined {
  const there = [
    { side: sides.host, at: sides.hostAt, n: candidates(sides.host, sides.hostAt).length },
    { side: sides.guest, at: sides.guestAt, n: candidates(sides.guest, sides.guestAt).length },
  ];
  for (const { side, at, n } of there) {
    if (n > 0 && n >= wanted) continue;
    const be = n === 1 ? 'is' : 'are';
    return refuse(
      'not-enough',
      `only ${n} of ${side.state.code} ${be} at ${at.name}, ${wanted || 'some'} wanted`,
    );
  }
  if (ready >= wanted && ready > 0) return undefined;
  const waiting = Math.min(...there.map(({ n }) => n)) - ready;
  return refuse(
    'not-paired',
    `only ${count(ready, 'pair')} can join: ${count(waiting, 'piece')} of each wait for the partner they were paired with, or are not of one order`,
  );
}

/** Lines of orders that parted pieces go on for, by their place in a rack made. */
function linesOfParts(
  state: BatchState,
  pieces: readonly PieceState[],
  firstPosition: number,
): LinesOfPieces[] {
  const lines = [...new Set(pieces.flatMap(({ line }) => line ?? []))];
  return lines.flatMap((line) => {
    const places = pieces.flatMap((piece, i) => (piece.line === line ? [firstPosition + i] : []));
    const spec = lineOf(state, { line });
    return spec ? [{ line, spec, pieces: places }] : [];
  });
}

/** The entries one split files: on the batch that is parted, and on each batch it makes. */
export interface SplitPlan {
  parted: SplitBody;
  made: { kind: string; code: string; body: OpenBody | ArriveBody }[];
}

/** Plans the parting of pieces that stand at a split: each becomes one piece of every kind made, in order of place. */
export function planSplit(options: {
  side: JoinSide;
  selection: Selection;
  /** By kind letter: the code, what was made of this batch before, and the route for it. */
  made: ReadonlyMap<string, { code?: string; state: BatchState | null; route: Route }>;
}): SplitPlan | Refusal {
  const { side, selection, made } = options;
  const { state, route } = side;
  const at = route.operations.find((o): o is SplitOperation => o.mode === 'split');
  if (!at) return refuse('wrong-mode', `${state.code} is not parted anywhere on its route`);
  const there = state.pieces.filter(
    (p) => p.operation === at.key && (p.standing === 'inHand' || p.standing === 'waiting'),
  );
  const named = selection.pieces
    ? there.filter(({ position }) => selection.pieces?.includes(position))
    : there.slice(0, selection.count ?? there.length);
  const wanted = selection.pieces?.length ?? selection.count ?? Math.max(1, there.length);
  if (named.length < wanted)
    return refuse(
      'not-enough',
      `only ${named.length} of ${state.code} can be parted at ${at.name}, not ${wanted}`,
    );
  const parents = named.map(({ position }) => [pieceCode(state.code, position)]);
  const batches = at.makesKinds.map((kind) => {
    const before = made.get(kind);
    const code = before?.code ?? numbered(kind, state.code);
    const firstPosition = (before?.state?.quantity ?? 0) + 1;
    const body = madeBody(
      { made: before?.state ?? null, madeRoute: before?.route ?? null },
      state,
      { code, kind },
      parents,
      linesOfParts(state, named, firstPosition),
    );
    return { kind, code, body, firstPosition };
  });
  return {
    parted: {
      type: 'split',
      pieces: named.map(({ position }) => position),
      ...(selection.station === undefined ? {} : { station: selection.station }),
      makes: batches.map(({ code, firstPosition }) => ({ code, firstPosition })),
    },
    made: batches.map(({ kind, code, body }) => ({ kind, code, body })),
  };
}
