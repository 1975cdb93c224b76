import { isYesNo, unitSlip, type Check } from '../machining/check.ts';
import { hasLeft, pieceCode, type BatchState } from './batch.ts';
import type { AdjustBody, CheckBody, Entry, MeetBody, PairBody, PlaceBody } from './entry.ts';
import { latestValues } from './fit.ts';
import { count, isRefusal, refuse, type Refusal } from './refusal.ts';
import type { Operation, Route } from './route.ts';
import { choose } from './select.ts';
import { changed, noted, type Outcome } from './step.ts';

/** Values in one entry. */
const MOST_VALUES = 500;

/** Pieces laid in a press, carousel or table; how many it holds is the server's to know, who sees every batch. */
export function place(state: BatchState, route: Route, entry: Entry, body: PlaceBody): Outcome {
  const lies = (operation: Operation): boolean => operation.mode === 'hold' || operation.mode === 'load';
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold', 'inHand'],
    at: lies,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  return changed(state, entry, chosen, (piece) => ({ ...piece, bed: body.bed }));
}

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

/** More than this is not planed away or shimmed, mm. */
const MOST_ADJUSTED_MM = 2;

/**
 * Parts planed or shimmed at their join: the measured width goes on as it must be now, until it is measured anew. Planing takes
 * off a tenon and opens a pocket; a shim does the reverse.
 */
export function adjust(state: BatchState, route: Route, entry: Entry, body: AdjustBody): Outcome {
  const { how, byMm } = body;
  if (!(byMm > 0 && byMm <= MOST_ADJUSTED_MM))
    return refuse(
      'bad-value',
      `${byMm} mm cannot be ${how === 'plane' ? 'planed off' : 'shimmed'}: above 0 to ${MOST_ADJUSTED_MM}`,
    );
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at: (operation) => operation.mode === 'join' && operation.fit !== undefined,
    standard: 'one',
  });
  if (isRefusal(chosen)) return chosen;
  const { operation, pieces } = chosen;
  if (operation.mode !== 'join' || !operation.fit) throw new Error('adjust: no join with a fit');
  const key = operation.role === 'host' ? operation.fit.hostCheck : operation.fit.guestCheck;
  const widths = latestValues(state, key);
  const bare = pieces.find(({ position }) => !widths.has(position));
  if (bare)
    return refuse(
      'not-paired',
      `${pieceCode(state.code, bare.position)} is not measured: measure it first, then say what was done to it`,
    );
  const wider = (operation.role === 'host') === (how === 'plane');
  const positions = pieces.map(({ position }) => position);
  const values = positions.map(
    (position) => Math.round(((widths.get(position) ?? 0) + (wider ? byMm : -byMm)) * 1000) / 1000,
  );
  const measuredAt = route.operations.find(({ checks }) => checks?.some((one) => one.key === key));
  const set = {
    ...{ atMs: entry.atMs, operation: measuredAt?.key ?? operation.key, check: key, positions, values },
    source: 'reckoned' as const,
  };
  return noted(state, entry, operation.key, positions, {
    checks: [...(state.checks ?? []), set].toSorted((a, b) => a.atMs - b.atMs),
  });
}

export function meet(state: BatchState, entry: Entry, body: MeetBody): Outcome {
  if (body.partner === state.code) return refuse('not-joinable', `${state.code} cannot meet itself`);
  const { meets: _before, ...rest } = state;
  return noted(rest, entry, null, [], body.partner === null ? {} : { meets: body.partner });
}

/** Partners of pieces, as measured. An earlier pairing with the same batch is replaced; one with another batch stands in the way. */
export function pair(state: BatchState, entry: Entry, body: PairBody): Outcome {
  const of = new Map(body.pairs.map((one) => [one.piece, one]));
  if (of.size !== body.pairs.length) return refuse('bad-value', 'a piece is paired twice');
  for (const position of of.keys()) {
    const piece = state.pieces.find((candidate) => candidate.position === position);
    if (!piece || hasLeft(piece))
      return refuse(
        'not-enough',
        `${pieceCode(state.code, position)} is not on the rack any more, or never was`,
      );
    const other = piece.partner?.piece.split('/')[0];
    if (other !== undefined && other !== body.partner)
      return refuse(
        'not-paired',
        `${pieceCode(state.code, position)} is paired with ${piece.partner?.piece}: undo that pairing first`,
      );
  }
  const pieces = state.pieces.map((piece) => {
    const { partner, ...rest } = piece;
    const one = of.get(piece.position);
    if (one) {
      const allowed = body.allowedMm ? { allowedMm: body.allowedMm } : {};
      return { ...rest, partner: { piece: pieceCode(body.partner, one.with), gapMm: one.gapMm, ...allowed } };
    }
    return partner && partner.piece.split('/')[0] !== body.partner ? piece : rest;
  });
  return noted({ ...state, pieces }, entry, null, [...of.keys()], {});
}
