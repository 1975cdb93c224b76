import {
  changed,
  choose,
  isRefusal,
  LONGEST_REASON,
  laidDown,
  overriding,
  passed,
  pieceCode,
  SELECTED,
  type BatchState,
  type Entry,
  type Facts,
  type FiledKind,
  type LineWords,
  type Outcome,
  type PieceState,
  type SaidVerb,
  type Selection,
} from '../ledger/index.ts';
import { limitsBroken } from '../measuring/index.ts';
import { endsRoute, type Operation, type Route } from '../route/index.ts';
import { name, plainWords } from '../units/json-schema.ts';

export interface JoinBody extends Selection {
  type: 'join';
  role: 'host' | 'guest';
  partner: string;
  /** Code of the instrument batch the pieces become. */
  makes: string;
  /** Position in the instrument batch of the first piece joined here. */
  firstPosition: number;
  /** For a host that goes on as what it is: the pieces taken in, one for each of its own. */
  takesIn?: string[];
  /** For its guest: the pieces that took them in. */
  into?: string[];
  /** Reason for joining what does not fit; `facts.against` says what was measured. */
  because?: string;
  facts?: Facts;
}

/** What a join is asked by: the server completes it for both sides. */
export interface JoinAsked {
  type: 'join';
  partner: string;
  count?: number;
  station?: string;
  because?: string;
}

export const join: FiledKind<JoinBody, JoinAsked> = {
  type: 'join',
  apply,
  words: ({ partner, makes }, pieces) => `${pieces} joined with ${partner}, making ${makes}`,
  asked: {
    fields: {
      partner: name(20),
      count: SELECTED.count,
      station: SELECTED.station,
      because: plainWords(LONGEST_REASON),
    },
    needs: ['partner'],
  },
  line: {
    verbs: { join: ['joined', 'joins', 'glue', 'glued'] },
    number: 'own',
    endsReason: true,
    take: joining,
  },
};

function joining(
  line: LineWords,
  verb: SaidVerb,
  told: Selection,
): Pick<JoinAsked, 'partner' | 'count' | 'because'> {
  const partner = line.partner(verb);
  const number = told.count ?? line.pieces();
  return { partner, ...(number === undefined ? {} : { count: number }), ...line.because() };
}

function apply(state: BatchState, route: Route, entry: Entry, body: JoinBody): Outcome {
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
      ...laidDown(piece),
      standing: 'joined',
      sinceMs: entry.atMs,
      station: null,
      joinedInto: into?.[index] ?? pieceCode(body.makes, body.firstPosition + index),
    }),
    extra,
  );
}
