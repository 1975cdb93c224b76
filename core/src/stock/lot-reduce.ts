import { count, isRefusal, refuse, type Ledger, type Refusal } from '../ledger/index.ts';
import { MOISTURE_POSSIBLE } from '../wood/gate.ts';
import { cannotBeCut } from './cut-fits.ts';
import type { CutBody, LotBody, LotEntry, LotReadBody, TakeBody, ToCutBody } from './lot-entry.ts';
import { boardTag, isUsedUp, readableBoards, type Blank, type Board, type LotState } from './lot.ts';
import { MAY_BE } from '../units/may-be.ts';

/** More boards than a lorry brings. */
export const MOST_BOARDS = 500;
/** Clocks of two tablets differ a little. */
const FUTURE_SLACK_MS = 5 * 60 * 1000;
const LONGEST_MM = 10_000;
const HEAVIEST_KG = 500;

type Outcome = LotState | Refusal;
const bad = (refused: string, at?: string): Refusal => refuse('bad-value', refused, at);

/** The lot after one entry, or why not. Pure; `state` is not changed. Corrections are made by replaying it. */
export function applyLotEntry(state: LotState | null, entry: LotEntry): Outcome {
  const { body, atMs, filedMs } = entry;
  if (atMs > filedMs + FUTURE_SLACK_MS) return refuse('in-the-future', 'that has not happened yet');
  if (body.type === 'receive')
    return state ? refuse('already-open', `${body.code} is already received`) : receive(body, entry);
  if (!state) return refuse('unknown-batch', 'there is no such lot');
  const latest = state.moves.at(-1)?.atMs ?? state.receivedMs;
  if (atMs < latest && body.type === 'move')
    return refuse('too-early', `${state.code} has been moved since then`);
  if (atMs < state.receivedMs) return refuse('too-early', `${state.code} was not here yet`);
  switch (body.type) {
    case 'papers':
      return { ...state, papers: body.reference };
    case 'lot-read':
      return read(state, body, entry);
    case 'move':
      return body.room === state.room
        ? bad(`${state.code} is already in ${state.room}`)
        : { ...state, room: body.room, moves: [...state.moves, { atMs, room: body.room }] };
    case 'sort':
      return sort(state, body.boards);
    case 'to-cut':
      return toCut(state, body, entry);
    case 'cut':
      return cut(state, body, entry);
    case 'weigh':
      return weigh(state, body.blank, body.weightKg);
    case 'take':
      return take(state, body, entry);
    case 'give-back':
      return giveBack(state, body.blanks);
    case 'lot-scrap':
      return scrap(state, body);
    case 'undo':
      throw new Error('applyLotEntry: corrections are made by replaying the lot');
  }
}

/** How lots come out of their logs. */
export const lotLedger: Ledger<LotState, LotBody> = { apply: applyLotEntry };

function receive(body: Extract<LotBody, { type: 'receive' }>, { atMs }: LotEntry): Outcome {
  const { boards } = body;
  if (boards.length === 0 || boards.length > MOST_BOARDS) return bad(`a lot has 1 to ${MOST_BOARDS} boards`);
  if (!(body.thicknessMm > 0 && body.thicknessMm <= 300))
    return bad(`${body.thicknessMm} mm is no thickness of a board`, 'thicknessMm');
  const wrong = boards.findIndex(
    (b) => !size(b.lengthMm) || !size(b.widthMm) || (b.weightKg !== undefined && !weight(b.weightKg)),
  );
  if (wrong >= 0) return bad(`board ${wrong + 1} has a size or weight that cannot be`);
  const { species, thicknessMm, boardFeet, supplier, papers, endsSealed, dryness, room, code } = body;
  return {
    ...{ code, species, thicknessMm, boardFeet, supplier, papers, endsSealed, dryness, room },
    receivedMs: atMs,
    moves: [{ atMs, room }],
    boards: boards.map((board, i) => ({
      number: i + 1,
      lengthMm: board.lengthMm,
      widthMm: board.widthMm,
      weightKg: board.weightKg ?? null,
      grade: board.grade ?? null,
      ...(board.colour ? { colour: board.colour } : {}),
      status: 'stacked',
    })),
    blanks: [],
    looks: [],
    overrides: [],
  };
}

const size = (mm: number): boolean => mm > 0 && mm <= LONGEST_MM;
const weight = (kg: number): boolean => kg > 0 && kg <= HEAVIEST_KG;

/** Readings outside what a meter resolves are kept; only what no meter can say is refused. */
function read(state: LotState, body: LotReadBody, { atMs, by }: LotEntry): Outcome {
  if (isUsedUp(state))
    return refuse('nothing-here', `${state.code} is used up: nothing of it is left to read`);
  if (body.readings.length === 0) return bad('there is no reading');
  const readable = readableBoards(state);
  const seen = new Set<number>();
  for (const { board, readingPct } of body.readings) {
    if (!(readingPct >= MOISTURE_POSSIBLE.lowPct && readingPct <= MOISTURE_POSSIBLE.highPct))
      return bad(`${readingPct} % is no moisture: 0 to 100 % of dry mass`);
    if (board === null) continue;
    if (!state.boards.some((candidate) => candidate.number === board))
      return bad(`${state.code} has no board ${board}`);
    if (!readable.includes(board))
      return refuse('nothing-here', `board ${boardTag(state.code, board)} is used up`);
    if (seen.has(board)) return bad(`board ${board} stands there twice`);
    seen.add(board);
  }
  const { meter, woodTemperatureC, depth, readings, because, facts } = body;
  const { least, most } = MAY_BE.woodC;
  if (woodTemperatureC !== null && !(woodTemperatureC >= least && woodTemperatureC <= most))
    return bad(
      `${woodTemperatureC} °C is no temperature of wood here: ${least} to ${most} °C`,
      'woodTemperatureC',
    );
  const look = {
    ...{ atMs, by, meter, woodTemperatureC, depth, readings },
    ...(because === undefined ? {} : { because }),
    ...(facts === undefined ? {} : { floorsPct: facts.floorsPct }),
  };
  return { ...state, looks: [...state.looks, look] };
}

/** Boards changed one by one; a refusal when one of them is not there or not as it must be. */
function changeBoards(
  state: LotState,
  numbers: readonly number[],
  change: (board: Board) => Board | Refusal,
): Outcome {
  const boards = [...state.boards];
  for (const number of new Set(numbers)) {
    const at = boards.findIndex((board) => board.number === number);
    const board = boards[at];
    if (!board) return bad(`${state.code} has no board ${number}`);
    const changed = change(board);
    if (isRefusal(changed)) return changed;
    boards[at] = changed;
  }
  return { ...state, boards };
}

function changeBlanks(
  state: LotState,
  ids: readonly string[],
  change: (blank: Blank) => Blank | Refusal,
): Outcome {
  const blanks = [...state.blanks];
  for (const id of new Set(ids)) {
    const at = blanks.findIndex((blank) => blank.id === id);
    const blank = blanks[at];
    if (!blank) return bad(`there is no blank ${id}`);
    const changed = change(blank);
    if (isRefusal(changed)) return changed;
    blanks[at] = changed;
  }
  return { ...state, blanks };
}

function sort(state: LotState, boards: Extract<LotBody, { type: 'sort' }>['boards']): Outcome {
  return changeBoards(
    state,
    boards.map(({ board }) => board),
    (board) => {
      const found = boards.find((candidate) => candidate.board === board.number);
      if (found?.weightKg !== undefined && !weight(found.weightKg))
        return bad(`${found.weightKg} kg is no weight of a board`, 'weightKg');
      return {
        ...board,
        weightKg: found?.weightKg ?? board.weightKg,
        grade: found?.grade ?? board.grade,
        ...(found?.colour ? { colour: found.colour } : {}),
      };
    },
  );
}

function toCut(state: LotState, body: ToCutBody, entry: LotEntry): Outcome {
  if (body.boards.length === 0) return refuse('nothing-here', 'no board is named');
  const failing = body.boards.filter((board) => !body.facts.passing.includes(board));
  const because = body.because?.trim();
  if (failing.length > 0 && !because) {
    const which = failing.length === body.boards.length ? 'they do not' : `${listed(failing)} do not`;
    return refuse(
      'gate-not-passed',
      `${which} pass the gate. ${body.facts.sentence} Send the others to cut, wait, or give a reason.`,
    );
  }
  if (body.facts.papersMissing && !because)
    return refuse(
      'gate-not-passed',
      `${state.species} needs papers and none are noted with ${state.code}: note them, or give a reason`,
    );
  const sent = changeBoards(state, body.boards, (board) =>
    board.status === 'stacked'
      ? { ...board, status: 'to-cut' }
      : refuse('nothing-here', `board ${board.number} is ${board.status}`),
  );
  if (isRefusal(sent) || !because) return sent;
  const what = `sent ${count(failing.length, 'board')} to cut past the gate: ${listed(failing)}`;
  return {
    ...sent,
    overrides: [...sent.overrides, { atMs: entry.atMs, by: entry.by, what, because }],
  };
}

const listed = (numbers: readonly number[]): string => numbers.join(', ');

function cut(state: LotState, body: CutBody, entry: LotEntry): Outcome {
  if (body.blanks.length === 0) return bad('a cut makes at least one blank');
  const impossible = body.blanks.find(
    (b) => !size(b.lengthMm) || !size(b.widthMm) || !size(b.thicknessMm) || !weight(b.weightKg),
  );
  if (impossible) return bad('a blank has a size or weight that cannot be');
  if (body.matched && body.blanks.length !== 2)
    return bad(`a book-matched pair is two halves, not ${body.blanks.length}`);
  const board = state.boards.find((candidate) => candidate.number === body.board);
  const unfit = board && cannotBeCut(state, board, body.blanks);
  if (unfit) return unfit;
  const because = body.because?.trim();
  if (board?.status === 'stacked' && !because)
    return refuse(
      'gate-not-passed',
      `board ${boardTag(state.code, body.board)} is not to be cut yet: send it to cut, or say why it is cut now`,
    );
  const changed = changeBoards(state, [body.board], (candidate) =>
    candidate.status === 'cut' || candidate.status === 'scrapped'
      ? refuse(
          'nothing-here',
          `board ${boardTag(state.code, candidate.number)} is already ${candidate.status}`,
        )
      : { ...candidate, status: 'cut' },
  );
  if (isRefusal(changed)) return changed;
  const ids = body.blanks.map((_, i) => `${boardTag(state.code, body.board)}.${i + 1}`);
  const blanks = body.blanks.map((blank, i): Blank => ({
    ...{ id: ids[i] ?? '', board: body.board, ...blank },
    grade: board?.grade ?? 'plain',
    ...(board?.colour ? { colour: board.colour } : {}),
    matchedWith: body.matched ? (ids[1 - i] ?? null) : null,
    status: 'stock',
    batch: null,
  }));
  const overrides =
    because && board?.status === 'stacked'
      ? [
          ...changed.overrides,
          { atMs: entry.atMs, by: entry.by, what: `cut board ${body.board} before it passed`, because },
        ]
      : changed.overrides;
  return { ...changed, blanks: [...changed.blanks, ...blanks], overrides };
}

function weigh(state: LotState, id: string, weightKg: number): Outcome {
  if (!weight(weightKg)) return bad(`${weightKg} kg is no weight of a blank`, 'weightKg');
  return changeBlanks(state, [id], (blank) => ({ ...blank, weightKg }));
}

const inStock = (blank: Blank): Refusal | null =>
  blank.status === 'stock'
    ? null
    : refuse(
        'nothing-here',
        `blank ${blank.id} is ${blank.status === 'taken' ? `taken for ${blank.batch}` : 'scrapped'}`,
      );

function take(state: LotState, body: TakeBody, entry: LotEntry): Outcome {
  if (body.blanks.length === 0) return refuse('nothing-here', 'no blank is named');
  const because = body.because?.trim();
  const parted = state.blanks.filter(
    (blank) =>
      body.blanks.includes(blank.id) &&
      blank.matchedWith !== null &&
      !body.blanks.includes(blank.matchedWith),
  );
  const [first] = parted;
  if (first && !because)
    return refuse(
      'not-joinable',
      `${first.id} is one half of a book-matched pair with ${first.matchedWith}: take both, or give a reason`,
    );
  const { pieces } = body;
  if (pieces && pieces.length !== body.blanks.length)
    return bad(`${count(body.blanks.length, 'blank')} for ${count(pieces.length, 'piece')}`);
  const taken = changeBlanks(state, body.blanks, (blank) => {
    const piece = pieces?.[body.blanks.indexOf(blank.id)];
    return (
      inStock(blank) ?? {
        ...{ ...blank, status: 'taken', batch: body.batch },
        ...(piece === undefined ? {} : { piece }),
      }
    );
  });
  if (isRefusal(taken) || parted.length === 0 || !because) return taken;
  const apart = new Set(parted.flatMap((blank) => [blank.id, blank.matchedWith ?? '']));
  return {
    ...taken,
    blanks: taken.blanks.map((blank) => (apart.has(blank.id) ? { ...blank, matchedWith: null } : blank)),
    overrides: [
      ...taken.overrides,
      { atMs: entry.atMs, by: entry.by, what: `parted the pair ${[...apart].join(' and ')}`, because },
    ],
  };
}

function giveBack(state: LotState, ids: readonly string[]): Outcome {
  return changeBlanks(state, ids, ({ piece: _piece, ...blank }) =>
    blank.status === 'taken'
      ? { ...blank, status: 'stock', batch: null }
      : refuse('nothing-here', `blank ${blank.id} is not taken`),
  );
}

function scrap(state: LotState, body: Extract<LotBody, { type: 'lot-scrap' }>): Outcome {
  if (body.boards.length + body.blanks.length === 0)
    return refuse('nothing-here', 'no board or blank is named');
  const boards = changeBoards(state, body.boards, (board) =>
    board.status === 'stacked' || board.status === 'to-cut'
      ? { ...board, status: 'scrapped' }
      : refuse('nothing-here', `board ${board.number} is already ${board.status}`),
  );
  if (isRefusal(boards)) return boards;
  return changeBlanks(boards, body.blanks, (blank) => inStock(blank) ?? { ...blank, status: 'scrapped' });
}
