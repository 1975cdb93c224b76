import {
  changed,
  choose,
  count,
  isRefusal,
  pieceCode,
  refuse,
  SELECTED,
  type BatchState,
  type Chosen,
  type Entry,
  type FiledKind,
  type Outcome,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';

/** Instruments get their serials; what is asked names the pieces, the serials are the server's to give. */
export interface SerialBody extends Selection {
  type: 'serial';
  /** One for each piece, lowest place first; absent: asked for, and not given yet. */
  serials?: string[];
}

type SerialAsked = Omit<SerialBody, 'serials'>;

/** Stands for a serial where a page shows what filing would do: it is given when it is filed. */
export const SERIAL_TO_COME = 'given when filed';

export const serial: FiledKind<SerialBody, SerialAsked> = {
  type: 'serial',
  apply,
  words: ({ serials }, pieces) =>
    serials?.length === 1
      ? `serial ${serials[0] ?? ''} given`
      : `${count(pieces, 'serial')} given${serials ? `, ${serials[0] ?? ''} to ${serials.at(-1) ?? ''}` : ''}`,
  asked: { fields: SELECTED, needs: [] },
  line: { verbs: { serial: ['serials', 'serialled'] } },
};

/** Pieces that a serial is asked for: of those where serials are given, the ones that have none. */
export function serialsDue(state: BatchState, route: Route, body: SerialAsked): Chosen | Refusal {
  const chosen = choose(state, route, {
    selection: { ...body, count: undefined },
    standings: ['inHand', 'waiting'],
    at: givesSerials,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const having = chosen.pieces.filter((piece) => piece.serial !== undefined);
  const bare = chosen.pieces.filter((piece) => piece.serial === undefined);
  const [first] = having;
  if (first && (bare.length === 0 || body.pieces))
    return refuse('taken', `${pieceCode(state.code, first.position)} has its serial: ${first.serial ?? ''}`);
  if (body.count !== undefined && body.count > bare.length)
    return refuse('not-enough', `only ${bare.length} of ${state.code} want a serial, not ${body.count}`);
  const pieces = bare.slice(0, body.count ?? bare.length).toSorted((a, b) => a.position - b.position);
  return { ...chosen, pieces };
}

const givesSerials = ({ serial: given }: Operation): boolean => given === true;

function apply(state: BatchState, route: Route, entry: Entry, body: SerialBody): Outcome {
  const due = serialsDue(state, route, body);
  if (isRefusal(due)) return due;
  const { serials } = body;
  if (serials && serials.length !== due.pieces.length)
    return refuse('bad-value', `${count(serials.length, 'serial')} for ${count(due.pieces.length, 'piece')}`);
  return changed(state, entry, due, (piece, i) => ({ ...piece, serial: serials?.[i] ?? SERIAL_TO_COME }));
}

/** Why pieces are not through where serials are given. */
export function serialMissing(state: BatchState, { operation, pieces }: Chosen): Refusal | undefined {
  if (!givesSerials(operation)) return undefined;
  return without(state, pieces, operation.name);
}

/** Why pieces may not leave: their route gives serials, and they have none. */
export const unserialled = (
  state: BatchState,
  route: Route,
  { pieces, operation }: Chosen,
): Refusal | undefined =>
  route.operations.some(givesSerials) ? without(state, pieces, operation.name) : undefined;

function without(state: BatchState, pieces: Chosen['pieces'], at: string): Refusal | undefined {
  const bare = pieces.filter((piece) => piece.serial === undefined);
  const [first] = bare;
  if (!first) return undefined;
  const more = bare.length > 1 ? ` and ${count(bare.length - 1, 'piece')} more have` : ' has';
  return refuse(
    'serial-missing',
    `${pieceCode(state.code, first.position)}${more} no serial yet, at ${at}: say '${state.code} serial'`,
  );
}
