import {
  count,
  hasLeft,
  isRefusal,
  MOST_VALUES,
  noted,
  pieceCode,
  refuse,
  type BatchState,
  type CheckBody,
  type Entry,
  type Outcome,
  type Refusal,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { isYesNo, unitSlip, type Check } from '../machining/check.ts';

/** Values of a check; they move no piece. What was plainly typed in another unit is refused, with what it would be. */
export function check(state: BatchState, route: Route, entry: Entry, body: CheckBody): Outcome {
  const found = checkOf(state, route, body);
  if (isRefusal(found)) return found;
  const wrong = wrongValue(found.check, body.values);
  if (wrong) return wrong;
  const here = state.pieces.filter((piece) => !hasLeft(piece)).map((piece) => piece.position);
  const at = state.pieces
    .filter((piece) => !hasLeft(piece) && piece.operation === found.operation.key)
    .map((piece) => piece.position);
  // 'Looks right', said once, is said of every piece that is there.
  const [said] = body.values;
  const values =
    isYesNo(found.check) && body.values.length === 1 && said !== undefined
      ? (body.pieces ?? at).map(() => said)
      : body.values;
  const whole = [at, here].find((all) => all.length === values.length);
  const places = body.pieces ?? whole ?? [];
  if (body.pieces && body.pieces.length !== values.length)
    return refuse(
      'bad-value',
      `${count(body.values.length, 'value')} for ${count(body.pieces.length, 'piece')}`,
    );
  const strange = places.find((position) => !here.includes(position));
  if (strange !== undefined)
    return refuse(
      'not-enough',
      `${pieceCode(state.code, strange)} is not on the rack any more, or never was`,
    );
  const set = {
    atMs: entry.atMs,
    operation: found.operation.key,
    check: body.check,
    positions: places,
    values,
    ...(body.load === undefined ? {} : { load: body.load }),
    source: body.source ?? ('typed' as const),
  };
  const checks = [...(state.checks ?? []), set].toSorted((a, b) => a.atMs - b.atMs);
  return noted(state, entry, found.operation.key, places, { checks });
}

/** The check a body means; where several operations have it, the one the first piece stands at. */
function checkOf(
  state: BatchState,
  route: Route,
  body: CheckBody,
): { operation: Operation; check: Check } | Refusal {
  const having = route.operations.flatMap((operation) => {
    if (body.operation !== undefined && operation.key !== body.operation) return [];
    const known = operation.checks?.find(({ key }) => key === body.check);
    return known ? [{ operation, check: known }] : [];
  });
  const standing = state.pieces.find((piece) => !hasLeft(piece))?.operation;
  const meant = having.find(({ operation }) => operation.key === standing) ?? having[0];
  if (meant) return meant;
  const names = route.operations.flatMap((operation) => (operation.checks ?? []).map(({ key }) => key));
  const known = names.length > 0 ? `it has ${[...new Set(names)].join(', ')}` : 'it has none';
  return refuse('unknown-operation', `${state.code} has no check '${body.check}': ${known}`);
}

function wrongValue(spec: Check, values: readonly number[]): Refusal | undefined {
  if (values.length < 1 || values.length > MOST_VALUES)
    return refuse('bad-value', `1 to ${MOST_VALUES} values, not ${values.length}`);
  for (const value of values) {
    if (isYesNo(spec) && value !== 0 && value !== 1)
      return refuse('bad-value', `${spec.name.toLowerCase()} is answered by yes or no`);
    if (!Number.isFinite(value) || (value <= 0 && spec.nominal > 0 && !isYesNo(spec)))
      return refuse('bad-value', `${value} ${spec.unit} is no ${spec.name.toLowerCase()}`);
    const slip = unitSlip(spec, value);
    if (slip)
      return refuse(
        'implausible',
        `${value} was read in ${slip.readIn === 'in' ? 'inches' : 'mm'}: ${spec.name.toLowerCase()} is about ` +
          `${spec.nominal} ${spec.unit}, and ${value} ${slip.readIn} are ${slip.meant} ${spec.unit}`,
      );
  }
  return undefined;
}
