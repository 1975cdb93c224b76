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
  type Understood,
  type Vocabulary,
} from '@ample-crane/core';
import type { Floor, Rack } from '../api/queries.ts';

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

/** Who may be named in a line, and what whoever types it measures in. */
type Names = Pick<Vocabulary, 'people' | 'units'>;

/** The names a line may use, on the floor as this browser last saw it. */
function vocabularyOf(floor: Floor, names: Names): Vocabulary {
  const routeOf = new Map(floor.racks.map(({ code, routeId }) => [code, routeId]));
  const operations = new Map(floor.operations.map((one) => [one.routeId, one.operations]));
  return {
    stations: floor.stations,
    batches: [...routeOf.keys(), ...floor.lots],
    operationsOf: (code) => operations.get(routeOf.get(code) ?? '') ?? [],
    ...names,
  };
}

/** The racks a line is about: those whose state its preview needs. */
export function racksOf(line: string, floor: Floor | undefined, names: Names = {}): string[] {
  const parsed = floor && parseLine(line, vocabularyOf(floor, names));
  if (!parsed || 'notUnderstood' in parsed) return [];
  const { also = [], ...first } = parsed.understood;
  const named = [first, ...also].flatMap(({ batch, actions }) => [
    batch,
    ...actions.map((action) => (action.type === 'join' ? action.partner : null)),
  ]);
  const open = new Set(floor.racks.map(({ code }) => code));
  return [...new Set(named)].filter((code) => code !== null && open.has(code)) as string[];
}

/** The same parser and reducer as the server's, on the floor and the racks named as this browser last saw them. */
export function previewLine(
  line: string,
  floor: Floor | undefined,
  racks: ReadonlyMap<string, Rack>,
  nowMs: number,
  names: Names = {},
): Preview {
  if (line.trim() === '') return { kind: 'empty' };
  if (!floor) return { kind: 'unfinished', text: 'the floor is not loaded yet' };
  const vocabulary = vocabularyOf(floor, names);
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
  return effectOf(parsed.understood, floor, racks, nowMs);
}

function effectOf(
  { batch, moment, actions, also }: Understood,
  floor: Floor,
  racks: ReadonlyMap<string, Rack>,
  nowMs: number,
): Preview {
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
  if (floor.lots.includes(batch)) return lotEffect(batch, actions);
  if (actions.some(({ type }) => type === 'join' || type === 'split' || type === 'undo')) {
    if (actions.length > 1)
      return { kind: 'refused', text: 'a join, a split, a correction and a new batch are each filed alone' };
    if (only?.type === 'join') return joinPreview(racks, batch, only);
    return { kind: 'unseen', text: `${batch}: parts the pieces that stand at the split` };
  }
  if (actions.some((action) => action.type === 'end' && action.panel !== undefined))
    return { kind: 'unseen', text: `${batch}: Enter asks the server what the panel says` };
  const rack = racks.get(batch);
  if (!rack) return notSeen(batch, actions);
  const said = instantOf(moment, floor, nowMs);
  if (typeof said === 'object') return { kind: 'refused', text: said.refused };
  const atMs = said ?? nowMs;
  const bodies = actions.map((action) => bodyOf(action, rack));
  const outcome = applyAll(rack.state, rack.route, bodies, {
    seq: rack.seq + 1,
    atMs,
    filedMs: nowMs,
    by: '',
  });
  if (isRefusal(outcome)) return { kind: 'refused', text: outcome.refused };
  return { kind: 'good', text: lineEffect({ ...outcome, route: rack.route }) };
}

/** Without the rack's state the line is understood, but only the server knows what it does. */
const notSeen = (batch: string, actions: readonly LineAction[]): Preview => ({
  kind: 'unseen',
  text: `${batch}, ${actions.map(({ type }) => type).join(', ')}: Enter asks the server`,
});

/** The end of a hold knows the cure the server told with the rack; all else is as typed. */
function bodyOf(action: LineAction, { holds }: Rack): EntryBody {
  if (action.type === 'join' || action.type === 'split' || action.type === 'undo')
    throw new Error(`bodyOf: '${action.type}' is previewed apart`);
  if (action.type !== 'end') return action;
  const cured = holds.flatMap((hold) =>
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
  racks: ReadonlyMap<string, Rack>,
  code: string,
  action: Extract<LineAction, { type: 'join' }>,
): Preview {
  const [one, other] = [racks.get(code), racks.get(action.partner)];
  if (!one || !other) return notSeen(code, [action]);
  const { count, because } = action;
  const plan = planJoin({ one, other, count, because, made: null, madeRoute: one.route });
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
