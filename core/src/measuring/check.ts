import {
  count,
  hasLeft,
  isRefusal,
  MOST_VALUES,
  noted,
  pieceCode,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Refusal,
  type Selection,
} from '../ledger/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { isYesNo, judgeCheck, unitSlip, type Check } from '../machining/check.ts';
import { list, name } from '../units/json-schema.ts';
import { summarise } from '../stats/descriptive.ts';

/** Values of one check of an operation. */
export interface CheckBody extends Selection {
  type: 'check';
  check: string;
  /** In the unit of the check. */
  values: number[];
  /** Whoever said so said lengths, here in mm: the check must be one. */
  unit?: 'mm';
  /** Load they were cut in. */
  load?: string;
  source?: 'typed' | 'gauge';
}

export const check: FiledKind<CheckBody> = {
  type: 'check',
  apply,
  words: ({ check: key, values }) =>
    `${key} of ${values.length} measured, mean ${summarise(values).mean.toFixed(2)}`,
  verdict: (route, { check: key, values }, { operation }) =>
    verdictOf(
      route.operations.filter((one) => operation === null || one.key === operation),
      key,
      values,
    ),
  asked: {
    fields: {
      ...SELECTED,
      check: name(60),
      values: list({ type: 'number' }, 1, MOST_VALUES),
      unit: { enum: ['mm'] },
      load: name(20),
      source: { enum: ['typed', 'gauge'] },
    },
    needs: ['check', 'values'],
  },
  line: {
    verbs: { check: ['checked', 'checks'] },
    number: 'own',
    take: (line, verb) => {
      const key = line.name(verb, 'a check');
      // The sign of a unit says that it is a length; without one it is in the unit of the check, whichever that is.
      if (line.isLength()) return { check: key, values: line.values(verb, 'values', 'mm'), unit: 'mm' };
      return { check: key, values: line.answers() ?? line.values(verb, 'values') };
    },
  },
};

/** What a check's values say against its limits; undefined: none of these operations has it. */
export function verdictOf(
  operations: readonly Operation[],
  key: string,
  values: readonly number[],
): string | undefined {
  const known = operations.flatMap(({ checks }) => checks ?? []).find((one) => one.key === key);
  if (!known) return undefined;
  const { sentence, pass } = judgeCheck(known, values);
  const told = sentence.replace(/\.$/, '');
  return pass ? told : `${told}: it may not go on without a reason`;
}

/** Values of a check; they move no piece. What was plainly typed in another unit is refused, with what it would be. */
function apply(state: BatchState, route: Route, entry: Entry, body: CheckBody): Outcome {
  const found = checkOf(state, route, body);
  if (isRefusal(found)) return found;
  if (body.unit && body.unit !== found.check.unit)
    return refuse(
      'bad-value',
      isYesNo(found.check)
        ? `${found.check.name.toLowerCase()} is answered by yes or no`
        : `${found.check.name.toLowerCase()} is told in ${found.check.unit}, not in ${body.unit} or inches`,
    );
  const wrong = wrongValues(found.check, body.values);
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
    by: entry.by,
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

/** The check a body means; where several operations have it, the one the first of its pieces stands at. */
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
  const [named] = body.pieces ?? [];
  const isMeant = (piece: BatchState['pieces'][number]): boolean =>
    named === undefined ? !hasLeft(piece) : piece.position === named;
  const standing = state.pieces.find(isMeant)?.operation;
  const meant = having.find(({ operation }) => operation.key === standing) ?? having[0];
  if (meant) return meant;
  const names = route.operations.flatMap((operation) => (operation.checks ?? []).map(({ key }) => key));
  const known = names.length > 0 ? `it has ${[...new Set(names)].join(', ')}` : 'it has none';
  return refuse('unknown-operation', `${state.code} has no check '${body.check}': ${known}`);
}

/** Why values cannot be of a check: too many, no such answer, or plainly read in another unit, with what they would be. */
export function wrongValues(spec: Check, values: readonly number[]): Refusal | undefined {
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
