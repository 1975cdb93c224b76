import {
  actionWords,
  applyAll,
  instantOf,
  isRefusal,
  lineEffect,
  parseLine,
  planJoin,
  type EntryBody,
  type LineAction,
  type Route,
  type Understood,
} from '@ample-crane/core';
import type { Board, BoardBatch } from '../api/queries.ts';
import { routeFor } from '../api/routes.ts';

/** What a line may mean where it could mean two things: in words, and as the line that says it. */
export interface Choice {
  words: string;
  line: string;
}

/** What the log bar says about a line before Enter is pressed. */
export type Preview =
  | { kind: 'empty' }
  | { kind: 'good'; text: string }
  | { kind: 'unfinished'; text: string }
  /** Only the server can tell: the batch is closed, or was opened a moment ago. */
  | { kind: 'unseen'; text: string }
  | { kind: 'wrong'; text: string; start: number; length: number; choices: Choice[] }
  | { kind: 'refused'; text: string };

const BATCH_CODE = /^[a-z]-\d+$/i;

/** The same parser and reducer as the server's, on the board as this browser last saw it. */
export function previewLine(
  line: string,
  board: Board | undefined,
  nowMs: number,
  people: readonly { code: string; name: string }[] = [],
): Preview {
  if (line.trim() === '') return { kind: 'empty' };
  if (!board) return { kind: 'unfinished', text: 'the board is not loaded yet' };
  const racks = board.batches.map((batch) => batch.state.code);
  const vocabulary = {
    stations: board.stations,
    batches: [...racks, ...board.lots],
    operationsOf: (code: string) => rackOf(board, code)?.route.operations ?? [],
    people,
  };
  const parsed = parseLine(line, vocabulary);
  if ('notUnderstood' in parsed) {
    const { start, length, message, word, choices = [] } = parsed.notUnderstood;
    const withIt = parseLine(line, { ...vocabulary, batches: [...vocabulary.batches, word.toUpperCase()] });
    if (BATCH_CODE.test(word) && 'understood' in withIt) {
      return { kind: 'unseen', text: `${word.toUpperCase()} is not on the board: Enter asks the server` };
    }
    return length === 0
      ? { kind: 'unfinished', text: message }
      : { kind: 'wrong', text: message, start, length, choices };
  }
  return effectOf(parsed.understood, board, nowMs);
}

function effectOf({ batch, moment, actions, also }: Understood, board: Board, nowMs: number): Preview {
  const [only] = actions;
  if (batch === null || only?.type === 'undo') {
    return {
      kind: 'good',
      text:
        batch === null
          ? 'takes back the last thing you filed'
          : `${batch}: takes back the last thing filed on it`,
    };
  }
  if (also)
    return {
      kind: 'unseen',
      text: `${[batch, ...also.map((one) => one.batch)].join(', ')}: the same of each`,
    };
  if (board.lots.includes(batch)) return lotEffect(batch, actions);
  const found = rackOf(board, batch);
  if (!found) return { kind: 'refused', text: `${batch} is not on the board` };
  if (actions.some(({ type }) => type === 'join' || type === 'split' || type === 'undo')) {
    if (actions.length > 1)
      return { kind: 'refused', text: 'a join, a split, a correction and a new batch are each filed alone' };
    if (only?.type === 'join') return joinPreview(board, found, only);
    return { kind: 'unseen', text: `${batch}: parts the pieces that stand at the split` };
  }
  if (actions.some((action) => action.type === 'end' && action.panel !== undefined))
    return { kind: 'unseen', text: `${batch}: Enter asks the server what the panel says` };
  const said = instantOf(moment, board, nowMs);
  if (typeof said === 'object') return { kind: 'refused', text: said.refused };
  const atMs = said ?? nowMs;
  const bodies = actions.map((action) => bodyOf(action, found.batch));
  const outcome = applyAll(found.batch.state, found.route, bodies, {
    seq: found.batch.seq + 1,
    atMs,
    filedMs: nowMs,
    by: '',
  });
  if (isRefusal(outcome)) return { kind: 'refused', text: outcome.refused };
  return { kind: 'good', text: lineEffect({ ...outcome, route: found.route }) };
}

function rackOf(board: Board, code: string): { batch: BoardBatch; route: Route } | undefined {
  const batch = board.batches.find((candidate) => candidate.state.code === code);
  const route = batch && routeFor(board, batch.state);
  return batch && route && { batch, route };
}

/** The end of a hold knows the cure the server told with the board; all else is as typed. */
function bodyOf(action: LineAction, batch: BoardBatch): EntryBody {
  if (action.type === 'join' || action.type === 'split' || action.type === 'undo')
    throw new Error(`bodyOf: '${action.type}' is previewed apart`);
  if (action.type !== 'end') return action;
  const cured = batch.holds.flatMap((hold) =>
    hold.curedHours === null
      ? []
      : [
          {
            sinceMs: hold.sinceMs,
            referenceHours: hold.curedHours,
            ...(hold.neededHours === null ? {} : { neededHours: hold.neededHours }),
          },
        ],
  );
  return { ...action, facts: { cured } };
}

function joinPreview(
  board: Board,
  one: { batch: BoardBatch; route: Route },
  action: Extract<LineAction, { type: 'join' }>,
): Preview {
  const other = rackOf(board, action.partner);
  if (!other) return { kind: 'refused', text: `${action.partner} is not on the board` };
  const plan = planJoin({
    one: { state: one.batch.state, route: one.route },
    other: { state: other.batch.state, route: other.route },
    count: action.count,
    because: action.because,
    made: null,
    madeRoute: one.route,
  });
  if (isRefusal(plan)) return { kind: 'refused', text: plan.refused };
  return {
    kind: 'good',
    text: `${plan.guest.partner}: ${actionWords(plan.host, plan.host.pieces?.length ?? 0)}`,
  };
}

/** A line may only say what a lot reads; the rest is done on its page. */
function lotEffect(lot: string, actions: readonly LineAction[]): Preview {
  const [only] = actions;
  if (actions.length !== 1 || only?.type !== 'read')
    return { kind: 'refused', text: `${lot} is a lot of lumber: a line may say 'read' or 'undo'` };
  const { valuesPct } = only;
  const mean = valuesPct.reduce((sum, value) => sum + value, 0) / valuesPct.length;
  return {
    kind: 'good',
    text: `${lot}: ${valuesPct.length} ${valuesPct.length === 1 ? 'reading' : 'readings'}, mean ${mean.toFixed(2)} % as shown`,
  };
}
