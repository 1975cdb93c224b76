import {
  choose,
  count,
  effectOf,
  isRefusal,
  LONGEST_REASON,
  MOST_VALUES,
  noted,
  overriding,
  pieceCode,
  refuse,
  SELECTED,
  tooEarly,
  type BatchState,
  type Chosen,
  type Coat,
  type Entry,
  type Facts,
  type FiledKind,
  type LineWords,
  type Outcome,
  type Refusal,
  type Selection,
  type Word,
} from '../ledger/index.ts';
import type { AttendedOperation, Operation, Route } from '../route/index.ts';
import { THICKEST_WET_UM } from '../finishing/film.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { list, name, plainWords, whole } from '../units/json-schema.ts';

/** More coats than any recipe has at one operation. */
const MOST_COATS = 60;

export interface CoatBody extends Selection {
  type: 'coat';
  /** Wet film, µm, when it was taken. */
  wetUm?: number;
  /** One for each piece, when every piece was read. */
  wetUms?: number[];
  /** Which of the recipe's coats this is, counted from 1 at its operation: another one than is due is refused. */
  number?: number;
  booth?: string;
  /** The booth's room, as the server knows it. */
  room?: string;
  /** Lot of the material, or the mix it came out of. */
  lot?: string;
  /** Code of the person who sprayed; whoever files it when left out. */
  who?: string;
  /** Reason for laying it too early, too late, or though the recipe asks for no more. */
  because?: string;
  facts?: Facts;
}

export const coat: FiledKind<CoatBody, Omit<CoatBody, 'facts' | 'room'>> = {
  type: 'coat',
  apply,
  words: ({ number, wetUm, who, because }, pieces) =>
    [
      `${number === undefined ? 'a coat' : `coat ${number}`} on ${pieces}`,
      wetUm === undefined ? '' : `, ${wetUm} µm wet`,
      who ? ` by ${who}` : '',
      because ? ` (${because})` : '',
    ].join(''),
  asked: {
    fields: {
      ...SELECTED,
      wetUm: { type: 'number' },
      wetUms: list({ type: 'number' }, 1, MOST_VALUES),
      number: whole(1, MOST_COATS),
      booth: name(40),
      lot: name(20),
      who: name(60),
      because: plainWords(LONGEST_REASON),
    },
    needs: [],
  },
  line: {
    verbs: { coat: ['coated', 'coats', 'spray', 'sprayed', 'laid'] },
    number: whichCoat,
    ordinal: true,
    take: (line, { ordinal }) => ({
      ...(ordinal === undefined ? {} : { number: ordinal }),
      ...coating(line),
    }),
  },
};

/** What may be said of a coat, in any order: `wet 105 booth 3 lot TL-88 by tamsin because …`. */
function coating(line: LineWords): Pick<CoatBody, 'wetUm' | 'booth' | 'lot' | 'who' | 'number' | 'because'> {
  const said: Pick<CoatBody, 'wetUm' | 'booth' | 'lot' | 'who' | 'number'> = {};
  for (;;) {
    const word = line.word() ?? '';
    if (word === 'wet') said.wetUm = line.numberAfter(line.take(), 'µm');
    else if (['number', 'no', '#'].includes(word)) said.number = line.numberAfter(line.take());
    else if (word === 'booth') said.booth = boothNamed(line);
    else if (word === 'lot' || word === 'mix')
      said.lot = line.name(line.take(), 'a lot of material').toUpperCase();
    else if (word === 'by') Object.assign(said, line.worker());
    else return { ...said, ...line.because() };
  }
}

/** Booths go by their number. */
function boothNamed(line: LineWords): string {
  const said = line.name(line.take(), 'the number of a booth');
  return /^\d+$/.test(said) ? `booth-${said}` : said;
}

/** 'coat 3': the third, or a coat on three pieces? */
function whichCoat(line: LineWords, verb: Word, number: Word, n: number): never {
  return line.ask(verb, number, `coat ${n}: coat number ${n}, or a coat on ${count(n, 'piece')}?`, [
    { words: `coat number ${n}`, say: `${n}${n === 1 ? 'st' : n === 2 ? 'nd' : n === 3 ? 'rd' : 'th'} coat` },
    { words: `a coat on ${count(n, 'piece')}`, say: `${n} coat` },
  ]);
}

/** The recipe's coats at an operation, in order: one place in the list for each coat. */
export function coatsAsked(
  state: Pick<BatchState, 'finish'>,
  operation: Operation,
): NonNullable<BatchState['finish']>['coats'] {
  return (state.finish?.coats ?? [])
    .filter(({ at }) => at === operation.key)
    .flatMap((step) => Array.from({ length: step.coats }, () => step));
}

/** Coats to lay at an operation before it is done: the recipe's, or the route's where no recipe was given. */
export function coatsWanted(state: Pick<BatchState, 'finish'>, operation: Operation): number {
  if (operation.mode !== 'attended') return 0;
  return state.finish ? coatsAsked(state, operation).length : (operation.coats?.wanted ?? 0);
}

/** Minutes of spraying one coat takes a piece: its share of what the route says of the operation. */
export function coatMinutes(state: Pick<BatchState, 'finish'>, operation: Operation): number {
  const wanted = coatsWanted(state, operation);
  return operation.mode === 'attended' && wanted > 0 ? operation.pieceMinutes / wanted : 0;
}

const isSprayed =
  (state: BatchState) =>
  (operation: Operation): operation is AttendedOperation =>
    operation.mode === 'attended' && (operation.coats !== null || coatsAsked(state, operation).length > 0);

/** Coats laid on a piece at its operation since it came there: a piece that was sent back starts again at none. */
export function coatsOn(
  { coats }: BatchState,
  piece: { position: number; operation: string; sinceMs: number; coatsFrom?: number },
): number {
  return coats.filter(
    (coat, i) =>
      i >= (piece.coatsFrom ?? 0) &&
      coat.operation === piece.operation &&
      coat.positions.includes(piece.position) &&
      coat.atMs >= piece.sinceMs,
  ).length;
}

function apply(state: BatchState, route: Route, entry: Entry, body: CoatBody): Outcome {
  const films = [...(body.wetUms ?? []), ...(body.wetUm === undefined ? [] : [body.wetUm])];
  const wrong = films.find((film) => !(film > 0 && film <= THICKEST_WET_UM));
  if (wrong !== undefined)
    return refuse(
      'bad-value',
      `a wet film of ${wrong} µm cannot be: above 0 to ${THICKEST_WET_UM} µm`,
      'wetUm',
    );
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand'],
    at: isSprayed(state),
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const problem =
    tooEarly(state, chosen, entry) ?? filmsFit(body, chosen) ?? beforeLast(state, chosen, entry);
  if (problem) return problem;
  const asked = coatsAsked(state, chosen.operation);
  const due = chosen.pieces.map((piece) => coatsOn(state, piece) + 1);
  const number = Math.max(...due);
  const turn = wrongNumber(state, body, chosen, due);
  if (turn) return turn;
  const against = body.facts?.against;
  if (against !== undefined && !body.because) return refuse('hold-not-over', against);
  const planned = asked[number - 1];
  const isExtra = state.finish !== undefined && !planned;
  if (isExtra && !body.because)
    return refuse(
      'coats-missing',
      `${count(asked.length, 'coat')} of ${state.finish?.title ?? ''} are on at ${chosen.operation.name}: another one wants a reason`,
    );
  const positions = chosen.pieces.map((piece) => piece.position);
  const laid = layOf(state, entry, body, chosen, planned ?? asked.at(-1));
  const extra = against === undefined ? {} : overriding(state, entry, chosen, body.because ?? '', against);
  const applied = noted(state, entry, chosen.operation.key, positions, {
    ...extra,
    coats: [...state.coats, { ...laid, ...(isExtra && body.because ? { extra: body.because } : {}) }],
  });
  return { ...applied, effect: effectOf(chosen, body) };
}

function layOf(
  state: BatchState,
  entry: Entry,
  body: CoatBody,
  chosen: Chosen,
  planned: ReturnType<typeof coatsAsked>[number] | undefined,
): Coat {
  const { wetUms, booth, room, lot } = body;
  const meanUm = wetUms && wetUms.reduce((sum, um) => sum + um, 0) / wetUms.length;
  return {
    atMs: entry.atMs,
    operation: chosen.operation.key,
    positions: chosen.pieces.map((piece) => piece.position),
    wetUm: body.wetUm ?? meanUm ?? null,
    ...(wetUms === undefined ? {} : { wetUms }),
    ...(planned === undefined ? {} : { step: planned.step, spec: planned.spec }),
    ...(booth === undefined ? {} : { booth }),
    ...(room === undefined ? {} : { room }),
    ...(lot === undefined ? {} : { lot }),
  };
}

function filmsFit({ wetUms }: CoatBody, { pieces }: Chosen): Refusal | undefined {
  return wetUms && wetUms.length !== pieces.length
    ? refuse(
        'bad-value',
        `${count(wetUms.length, 'film reading')} for ${count(pieces.length, 'piece')}`,
        'wetUm',
      )
    : undefined;
}

/** Coats are laid one on the other: none can be told of before the last one that is on. */
function beforeLast(state: BatchState, { pieces }: Chosen, entry: Entry): Refusal | undefined {
  const positions = new Set(pieces.map((piece) => piece.position));
  const later = state.coats.find(
    (one) => one.atMs > entry.atMs && one.positions.some((p) => positions.has(p)),
  );
  return later
    ? refuse(
        'too-early',
        `a coat was laid ${spanWords((later.atMs - entry.atMs) / HOUR_MS)} after that: coats out of order, take that one back first`,
      )
    : undefined;
}

/** Another coat than the one said is due: it was logged already, or one was left out. */
function wrongNumber(
  state: BatchState,
  { number }: CoatBody,
  chosen: Chosen,
  due: number[],
): Refusal | undefined {
  if (number === undefined) return undefined;
  const at = due.findIndex((one) => one !== number);
  const piece = chosen.pieces[at];
  const next = due[at];
  if (!piece || next === undefined) return undefined;
  const code = pieceCode(state.code, piece.position);
  return next > number
    ? refuse(
        'taken',
        `coat ${number} is on ${code} already: coat ${next} is next at ${chosen.operation.name}`,
      )
    : refuse(
        'coats-missing',
        `coat ${next} of ${chosen.operation.name} is not on ${code} yet: coats out of order`,
      );
}

/** Why an operation is not done yet: its coats are not all on. */
export function coatsShort(state: BatchState, { operation, pieces }: Chosen): Refusal | undefined {
  const wanted = coatsWanted(state, operation);
  if (wanted === 0) return undefined;
  const fewest = Math.min(...pieces.map((piece) => coatsOn(state, piece)));
  return fewest >= wanted
    ? undefined
    : refuse('coats-missing', `${fewest} of ${count(wanted, 'coat')} on at ${operation.name}`);
}
