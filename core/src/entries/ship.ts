import {
  changed,
  choose,
  isRefusal,
  LONGEST_REASON,
  laidDown,
  overriding,
  pieceCode,
  refuse,
  SELECTED,
  type BatchState,
  type Chosen,
  type Entry,
  type FiledKind,
  type Outcome,
  type PieceState,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import { kitUnfilled } from '../kits/index.ts';
import { limitsBroken } from '../measuring/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { plainWords } from '../units/json-schema.ts';
import { unserialled } from './serial.ts';

export interface ShipBody extends Selection {
  type: 'ship';
  to?: string;
  /** The order they are for. */
  order?: string;
  /** Number the carrier gave them. */
  carrier?: string;
  /** What goes with them: case, strap, papers. */
  contents?: string;
  /** Reason for shipping what lies outside its limits, has no serial, papers or all of its kit, or was sent back and not put right. */
  because?: string;
  /** The protected wood they are made of, as its lots knew it when they left: added while it is filed. */
  papers?: WoodPapers[];
}

/** Protected wood of one instrument, with the papers its lot came with. */
export interface WoodPapers {
  /** 1-based place on the rack. */
  position: number;
  species: string;
  lot: string;
  /** Null: none are noted with the lot. */
  reference: string | null;
}

/** An order's or a carrier's number. */
const LONGEST_NUMBER = 60;

export const ship: FiledKind<ShipBody, Omit<ShipBody, 'papers'>> = {
  type: 'ship',
  apply,
  words: ({ to, order, because }, pieces) =>
    `${pieces} shipped${to ? ` to ${to}` : ''}${order ? `, order ${order}` : ''}${because ? `, rule passed by (${because})` : ''}`,
  asked: {
    fields: {
      ...SELECTED,
      to: plainWords(LONGEST_REASON),
      order: plainWords(LONGEST_NUMBER),
      carrier: plainWords(LONGEST_NUMBER),
      contents: plainWords(LONGEST_REASON),
      because: plainWords(LONGEST_REASON),
    },
    needs: [],
  },
  line: {
    verbs: { ship: ['shipped', 'ships', 'send', 'sent', 'packed'] },
    endsReason: true,
    take: (line) => ({
      ...(line.word() === 'to' ? { to: line.reason(line.take()) } : {}),
      ...line.because(),
    }),
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: ShipBody): Outcome {
  const at = (operation: Operation): boolean => operation.mode === 'ship';
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const against = shippingAgainst(state, route, chosen, body.papers ?? []);
  if (against && !body.because) return against;
  const { to, order, carrier, contents } = body;
  const shipment = {
    ...{ atMs: entry.atMs, by: entry.by, positions: chosen.pieces.map(({ position }) => position) },
    ...(to === undefined ? {} : { to }),
    ...(order === undefined ? {} : { order }),
    ...(carrier === undefined ? {} : { carrier }),
    ...(contents === undefined ? {} : { contents }),
  };
  const extra = {
    ...(against && body.because ? overriding(state, entry, chosen, body.because, against.refused) : {}),
    shipments: [...(state.shipments ?? []), shipment],
  };
  const shipped = (piece: PieceState): PieceState => ({
    ...laidDown(piece),
    standing: 'shipped',
    sinceMs: entry.atMs,
    station: null,
    rework: null,
  });
  return changed(state, entry, chosen, shipped, extra);
}

/**
 * Why pieces may not leave without a reason: outside limits, no serial, a kit that lacks something, sent back and not put right,
 * protected wood without papers; undefined: they may.
 */
export const shippingAgainst = (
  state: BatchState,
  route: Route,
  chosen: Chosen,
  papers: readonly WoodPapers[],
): Refusal | undefined =>
  limitsBroken(state, route, chosen) ??
  unserialled(state, route, chosen) ??
  kitUnfilled(state, chosen.pieces) ??
  unfinished(state, chosen) ??
  unpapered(state, chosen, papers);

/** What is made of protected wood leaves with the papers of its lot. */
function unpapered(
  { code }: BatchState,
  { pieces }: Chosen,
  papers: readonly WoodPapers[],
): Refusal | undefined {
  const missing = papers.find(
    ({ position, reference }) => reference === null && pieces.some((piece) => piece.position === position),
  );
  return missing
    ? refuse(
        'no-papers',
        `${missing.species} of ${pieceCode(code, missing.position)} needs papers and none are noted with ${missing.lot}: note them there`,
      )
    : undefined;
}

/** A piece that was sent back and not put right is not sent out. */
function unfinished(state: BatchState, { pieces }: Chosen): Refusal | undefined {
  const back = pieces.find(({ rework }) => rework !== null);
  return back
    ? refuse(
        'open-rework',
        `${pieceCode(state.code, back.position)} was sent back (${back.rework?.reason ?? ''}) and is not put right`,
      )
    : undefined;
}
