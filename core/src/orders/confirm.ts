import {
  choose,
  count,
  isRefusal,
  lineOf,
  noted,
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
import { operationSpec } from '../options/index.ts';
import type { Route } from '../route/index.ts';
import { name } from '../units/json-schema.ts';

/** Something about to be built in is held against the tags of the pieces that stand there. */
export interface ConfirmBody extends Selection {
  type: 'confirm';
  option: string;
  value: string;
  /** Places whose tag says otherwise, as it was filed; absent: none. */
  wrong?: number[];
}

const places = (wrong: readonly number[]): string =>
  `place${wrong.length === 1 ? '' : 's'} ${wrong.join(', ')}`;

type ConfirmAsked = Omit<ConfirmBody, 'wrong'>;

export const confirm: FiledKind<ConfirmBody, ConfirmAsked> = {
  type: 'confirm',
  apply,
  words: ({ option, value, wrong = [] }, pieces) =>
    wrong.length === 0
      ? `${option} ${value} confirmed on ${count(pieces, 'tag')}`
      : `${option} ${value} held against ${count(pieces, 'tag')}, wrong for ${places(wrong)}`,
  verdict: (_route, { option, value, wrong = [] }) =>
    wrong.length === 0
      ? undefined
      : `stop: ${value} is not the ${option} on the tag of ${places(wrong)}; fetch what it says and confirm that`,
  asked: { fields: { ...SELECTED, option: name(60), value: name(60) }, needs: ['option', 'value'] },
  line: {
    verbs: { confirm: ['confirmed', 'confirms', 'tag', 'tagged'] },
    number: 'own',
    take: (line, verb) => ({
      option: line.name(verb, 'an option'),
      value: line.name(verb, 'what is to be built in'),
    }),
  },
};

/** What is held against which tags: the pieces here whose spec builds that option in here, apart by whether it is right. */
export interface Held extends Chosen {
  right: number[];
  wrong: number[];
}

/** Which tags something is held against, and which of them say so. */
export function heldAgainst(state: BatchState, route: Route, body: ConfirmAsked): Held | Refusal {
  const built = state.pieces.filter((piece) => {
    const spec = lineOf(state, piece);
    return (
      spec !== undefined &&
      operationSpec(spec, { kind: route.kind, key: piece.operation }).some(
        (line) => line.built && line.option === body.option,
      )
    );
  });
  const there = new Set(built.map(({ position }) => position));
  const operations = new Set(built.map(({ operation }) => operation));
  const strange = body.pieces?.find((position) => !there.has(position));
  if (strange !== undefined && state.pieces.some(({ position }) => position === strange))
    return refuse(
      'nothing-here',
      `${pieceCode(state.code, strange)} gets no '${body.option}' where it stands`,
      'option',
    );
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at: ({ key }) => operations.has(key),
    standard: 'all',
  });
  if (isRefusal(chosen))
    return built.length === 0
      ? refuse('nothing-here', `no piece of ${state.code} gets '${body.option}' where it stands`, 'option')
      : chosen;
  const pieces = chosen.pieces.filter(({ position }) => there.has(position));
  const says = (position: number): boolean =>
    pieces.some(
      (piece) =>
        piece.position === position &&
        lineOf(state, piece)?.lines.some(
          ({ option, value }) => option === body.option && value === body.value,
        ) === true,
    );
  const positions = pieces.map(({ position }) => position);
  return {
    ...{ operation: chosen.operation, pieces },
    right: positions.filter((position) => says(position)),
    wrong: positions.filter((position) => !says(position)),
  };
}

/** It moves no piece. What is wrong is kept, too: that it was caught, where, and by whom. */
function apply(state: BatchState, route: Route, entry: Entry, body: ConfirmBody): Outcome {
  const held = heldAgainst(state, route, body);
  if (isRefusal(held)) return held;
  const { operation, right, wrong, pieces } = held;
  const { option, value } = body;
  const said = {
    ...{ atMs: entry.atMs, by: entry.by, operation: operation.key },
    ...{ option, value, right, wrong },
  };
  const confirms = [...(state.confirms ?? []), said].toSorted((a, b) => a.atMs - b.atMs);
  return noted(
    state,
    entry,
    operation.key,
    pieces.map(({ position }) => position),
    { confirms },
  );
}
