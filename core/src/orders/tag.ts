import {
  lineOf,
  pieceCode,
  refuse,
  type BatchState,
  type PieceState,
  type Refusal,
} from '../ledger/index.ts';
import { operationSpec, placeOf, type Place, type SpecHere } from '../options/index.ts';
import { operationIndex, type Operation, type Route } from '../route/index.ts';

/** One option of a piece where it stands, and what was held against its tag there. */
export interface TagLine extends SpecHere {
  /** null: nobody has yet; false: what was last held against it was another. */
  confirmed: boolean | null;
}

/**
 * What the tag of a piece says that matters where it stands, what is built in there first; nothing for a piece that is built
 * for stock. What was confirmed before it was sent back does not count.
 */
export function tagHere(state: BatchState, route: Route, piece: PieceState): TagLine[] {
  const spec = lineOf(state, piece);
  if (!spec) return [];
  const seen = (state.confirms ?? []).filter(
    ({ operation, atMs }) => operation === piece.operation && atMs >= (piece.measuredFromMs ?? -Infinity),
  );
  return operationSpec(spec, { kind: route.kind, key: piece.operation }).map((line) => {
    const last = seen.findLast(
      ({ option, right, wrong }) =>
        option === line.option && (right.includes(piece.position) || wrong.includes(piece.position)),
    );
    const said = last && last.right.includes(piece.position) && last.value === line.value;
    return { ...line, confirmed: said ?? null };
  });
}

/** One value of an option on the pieces of a rack that stand together. */
export interface TagValue {
  value: string;
  valueName: string;
  /** 1-based places that are to have it. */
  positions: number[];
  /** Those of them that were held against their tags, and those where what was in the hand was another. */
  right: number[];
  wrong: number[];
}

/** One option of the tags at an operation; a piece without it has no place here. */
export interface TagOption extends Pick<SpecHere, 'option' | 'name' | 'built'> {
  values: TagValue[];
}

/** What the tags of a rack say at one operation. */
export interface TagsThere {
  operation: string;
  options: TagOption[];
}

/**
 * What the tags of a rack say where its pieces wait or are in hand, operation by operation in the order of the pieces, what is
 * built in first; nothing where nothing matters, or all are built for stock.
 * @param only place of the one piece that is asked about
 */
export function tagsOf(state: BatchState, route: Route, only?: number): TagsThere[] {
  const there = new Map<string, TagsThere>();
  for (const piece of state.pieces) {
    if (piece.standing !== 'waiting' && piece.standing !== 'inHand') continue;
    if (only !== undefined && piece.position !== only) continue;
    const lines = tagHere(state, route, piece);
    if (lines.length === 0) continue;
    const here = there.get(piece.operation) ?? { operation: piece.operation, options: [] };
    there.set(piece.operation, here);
    for (const line of lines) noted(here, line, piece.position);
  }
  return [...there.values()];
}

function noted(here: TagsThere, line: TagLine, position: number): void {
  const { option, name, built, value, valueName, confirmed } = line;
  let of = here.options.find((one) => one.option === option);
  if (!of) here.options.push((of = { option, name, built, values: [] }));
  let same = of.values.find((one) => one.value === value);
  if (!same) of.values.push((same = { value, valueName, positions: [], right: [], wrong: [] }));
  same.positions.push(position);
  if (confirmed !== null) (confirmed ? same.right : same.wrong).push(position);
}

/** Why pieces are not through where an option is built in: nobody held it against their tags, or it was another. */
export function unconfirmed(
  state: BatchState,
  route: Route,
  { pieces, operation }: { pieces: readonly PieceState[]; operation: Operation },
): Refusal | undefined {
  const open = pieces.flatMap((piece) =>
    tagHere(state, route, piece)
      .filter(({ built, confirmed }) => built && confirmed !== true)
      .map((line) => ({ piece, line })),
  );
  const [first] = open;
  if (!first) return undefined;
  const { piece, line } = first;
  const code = pieceCode(state.code, piece.position);
  const others = new Set(open.map((one) => one.piece.position)).size - 1;
  const more = others > 0 ? `, and ${others} more` : '';
  const what = `${line.name} ${line.valueName}`;
  return line.confirmed === false
    ? refuse('other-option', `${code} is to have ${what}: something else was held against its tag${more}`)
    : refuse(
        'unconfirmed',
        `${what} of ${code} is not confirmed against its tag at ${operation.name}${more}: say '${state.code} confirm ${line.option} ${line.value}'`,
      );
}

/**
 * Whether what is done at a place is done of a piece: it is behind the place on its route, or was made of parts whose route that
 * place is on. An instrument that ships has all its parts behind it.
 */
export function isBehind(route: Route, piece: PieceState, place: Place): boolean {
  const own = route.operations.find(({ key }) => placeOf(route.kind, key) === place);
  if (own) {
    const here = operationIndex(route, piece.operation);
    return operationIndex(route, own.key) < here || ['joined', 'parted', 'shipped'].includes(piece.standing);
  }
  const kind = place.split('/')[0] ?? '';
  const ships = route.operations.some(({ mode }) => mode === 'ship');
  return piece.parents.length > 0 && (ships || piece.parents.some((parent) => parent.startsWith(`${kind}-`)));
}
