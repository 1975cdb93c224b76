import {
  changed,
  choose,
  count,
  isRefusal,
  LONGEST_REASON,
  overriding,
  refuse,
  SELECTED,
  tallyAt,
  type BatchState,
  type Entry,
  type Facts,
  type FiledKind,
  type LineWords,
  type LoadMark,
  type Outcome,
  type PieceState,
  type Selection,
} from '../ledger/index.ts';
import { unaccepted } from './accept.ts';
import { kitMissing } from '../kits/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { name, plainWords } from '../units/json-schema.ts';

export interface StartBody extends Selection {
  type: 'start';
  /** Table or other place with room for several. */
  bed?: string;
  /** The load they are cut in. */
  load?: LoadMark;
  /** Code of the person who works on them; whoever files it when left out. */
  who?: string;
  /** Reason for starting against a rule: a load before its first piece is measured, an instrument without its kit. */
  because?: string;
  facts?: Facts;
}

export const start: FiledKind<StartBody, Omit<StartBody, 'facts' | 'load'>> = {
  type: 'start',
  apply,
  words: ({ load, bed, who, because }, pieces) =>
    [
      `${pieces} started`,
      load ? ` as ${load.code} on ${bed ?? 'a table'}` : '',
      who ? ` by ${who}` : '',
      because ? `, rule passed by (${because})` : '',
      load?.firstPiece ? ': the first piece, measure it before the rest is cut' : '',
    ].join(''),
  asked: {
    fields: { ...SELECTED, bed: name(40), who: name(60), because: plainWords(LONGEST_REASON) },
    needs: [],
  },
  line: {
    verbs: {
      start: ['started', 'starts', 'starting', 'begin', 'began', 'begun', 'take', 'took', 'taken'],
    },
    endsReason: true,
    take: (line) => ({ ...table(line), ...line.worker(), ...line.because() }),
  },
};

/** `table b1`, `on table-b1`: where a load is laid. */
function table(line: LineWords): { bed?: string } {
  if (line.word() === 'on' && line.word(1)?.startsWith('table')) line.take();
  const word = line.word() ?? '';
  if (word.startsWith('table-')) return { bed: line.take().text.toLowerCase() };
  return word === 'table' ? { bed: `table-${line.name(line.take(), 'the code of a table')}` } : {};
}

function apply(state: BatchState, route: Route, entry: Entry, body: StartBody): Outcome {
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
  const broken = [unaccepted(state, chosen), kitMissing(state, chosen)].filter((one) => one !== undefined);
  if (broken[0] && !body.because) return broken[0];
  const said = [body.facts?.against ?? [], ...broken.map(({ refused }) => refused)].flat();
  const extra =
    body.because && said.length > 0 ? overriding(state, entry, chosen, body.because, said.join('; ')) : {};
  const onto = (piece: PieceState): PieceState => ({
    ...piece,
    standing: 'inHand',
    sinceMs: entry.atMs,
    station,
    who: body.who ?? entry.by,
    ...(body.bed === undefined ? {} : { bed: body.bed }),
    ...(body.load === undefined ? {} : { load: body.load }),
  });
  return changed(state, entry, chosen, onto, extra);
}
