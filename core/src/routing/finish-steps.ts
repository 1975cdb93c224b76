import { deltaE2000 } from '../finishing/delta-e.ts';
import { THICKEST_WET_UM } from '../finishing/film.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { pieceCode, type BatchState } from './batch.ts';
import type { AgeBody, CoatBody, ColourBody, Entry, MarkBody, RefinishBody, SandBody } from './entry.ts';
import { ageingSeen } from './holds/ageing.ts';
import type { Coat } from './holds/rules.ts';
import { spanWords } from './holds/words.ts';
import { count, isRefusal, refuse, type Refusal } from './refusal.ts';
import { operationOf, type AttendedOperation, type Operation, type Route } from './route.ts';
import { choose, type Chosen } from './select.ts';
import { changed, effectOf, noted, overriding, tooEarly, type Outcome } from './step.ts';

/** A scuff takes off next to nothing, µm. */
const SCUFF_UM = 1;
/** Pieces whose film was read before and after still differ by so much of what came off. */
const MEASURED_SD_SHARE = 0.1;
const MOST_REMOVED_UM = 500;

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

export function coat(state: BatchState, route: Route, entry: Entry, body: CoatBody): Outcome {
  const films = [...(body.wetUms ?? []), ...(body.wetUm === undefined ? [] : [body.wetUm])];
  const wrong = films.find((film) => !(film > 0 && film <= THICKEST_WET_UM));
  if (wrong !== undefined)
    return refuse('bad-value', `a wet film of ${wrong} µm cannot be: above 0 to ${THICKEST_WET_UM}`);
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
    ? refuse('bad-value', `${count(wetUms.length, 'film reading')} for ${count(pieces.length, 'piece')}`)
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

export function sand(state: BatchState, route: Route, entry: Entry, body: SandBody): Outcome {
  const { removalUm, grits, scuff } = body;
  if (removalUm !== undefined && !(removalUm >= 0 && removalUm <= MOST_REMOVED_UM))
    return refuse('bad-value', `${removalUm} µm cannot be sanded off: 0 to ${MOST_REMOVED_UM}`);
  if (grits?.some((grit) => !(grit >= 40 && grit <= 12_000)))
    return refuse('bad-value', `there is no such grit: ${grits.join(', ')}`);
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting'],
    at: ({ mode }) => mode === 'attended',
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const early = tooEarly(state, chosen, entry);
  if (early) return early;
  const planned = state.finish?.sandings.find(({ at }) => at === chosen.operation.key);
  const off = scuff ? SCUFF_UM : (removalUm ?? planned?.removalUm);
  if (off === undefined)
    return refuse(
      'bad-value',
      `no recipe says what sanding at ${chosen.operation.name} takes off: say how much, in µm`,
    );
  const measured = !scuff && removalUm !== undefined;
  const sanding = {
    atMs: entry.atMs,
    operation: chosen.operation.key,
    positions: chosen.pieces.map((piece) => piece.position),
    removalUm: off,
    removalSdUm:
      measured || scuff ? off * MEASURED_SD_SHARE : (planned?.removalSdUm ?? off * MEASURED_SD_SHARE),
    grits: grits ?? planned?.grits ?? [],
    measured,
  };
  const applied = noted(state, entry, sanding.operation, sanding.positions, {
    sandings: [...(state.sandings ?? []), sanding].toSorted((a, b) => a.atMs - b.atMs),
  });
  return { ...applied, effect: effectOf(chosen, body) };
}

export function mark(state: BatchState, route: Route, entry: Entry, body: MarkBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold'],
    at: (operation) => operation.mode === 'hold' && operation.rule.rule === 'cure',
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const early = tooEarly(state, chosen, entry);
  if (early) return early;
  const positions = chosen.pieces.map((piece) => piece.position);
  const tried = { atMs: entry.atMs, operation: chosen.operation.key, positions, passed: body.passed };
  const applied = noted(state, entry, chosen.operation.key, positions, {
    marks: [...(state.marks ?? []), tried].toSorted((a, b) => a.atMs - b.atMs),
  });
  return { ...applied, effect: effectOf(chosen, body) };
}

export function colour(state: BatchState, route: Route, entry: Entry, body: ColourBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting', 'onHold'],
    at: () => true,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  if (body.labs.length !== chosen.pieces.length)
    return refuse(
      'bad-value',
      `${count(body.labs.length, 'colour')} for ${count(chosen.pieces.length, 'piece')}`,
    );
  const wrong = body.labs.find(
    ({ l, a, b }) => !(l >= 0 && l <= 100 && Math.abs(a) <= 160 && Math.abs(b) <= 160),
  );
  if (wrong)
    return refuse(
      'bad-value',
      `L*${wrong.l} a*${wrong.a} b*${wrong.b} is no colour: L* 0 to 100, a* and b* −160 to 160`,
    );
  const positions = chosen.pieces.map((piece) => piece.position);
  const read = { atMs: entry.atMs, operation: chosen.operation.key, positions, labs: body.labs };
  const applied = noted(state, entry, chosen.operation.key, positions, {
    colours: [...(state.colours ?? []), read],
  });
  return { ...applied, effect: effectOf(chosen, body) };
}

/** Colour of each piece as last read, against the target and against each other. */
export function colourOf(state: BatchState): {
  pieces: { position: number; toTarget: number | null; lab: { l: number; a: number; b: number } }[];
  /** Largest difference of two pieces. */
  spread: number | null;
} {
  const latest = new Map<number, { l: number; a: number; b: number }>();
  for (const { positions, labs } of state.colours ?? [])
    positions.forEach((position, i) => {
      const lab = labs[i];
      if (lab) latest.set(position, lab);
    });
  const target = state.finish?.colour?.lab;
  const pieces = [...latest]
    .sort(([a], [b]) => a - b)
    .map(([position, lab]) => ({ position, lab, toTarget: target ? deltaE2000(target, lab) : null }));
  const differences = pieces.flatMap((one, i) =>
    pieces.slice(i + 1).map((other) => deltaE2000(one.lab, other.lab)),
  );
  return { pieces, spread: differences.length > 0 ? Math.max(...differences) : null };
}

export function age(state: BatchState, route: Route, entry: Entry, body: AgeBody): Outcome {
  const chosen = choose(state, route, {
    selection: body,
    standings: ['onHold'],
    at: (operation) => operation.mode === 'hold' && operation.rule.rule === 'ageing',
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  const { operation, pieces } = chosen;
  if (operation.mode !== 'hold' || operation.rule.rule !== 'ageing') throw new Error('age: no ageing');
  const positions = pieces.map((piece) => piece.position);
  const sinceMs = Math.min(...pieces.map((piece) => piece.sinceMs));
  const seen = ageingSeen({ ageing: state.ageing ?? [], positions, sinceMs, atMs: entry.atMs });
  const passed = (entry.atMs - seen.sinceMs) / HOUR_MS;
  const { coldHours, cycles } = operation.rule;
  const short =
    body.to === 'cold' && seen.cycles >= cycles
      ? refuse('hold-not-over', `${count(cycles, 'cycle')} are done, no more are wanted`)
      : body.to === 'warm' && passed < coldHours
        ? refuse(
            'hold-not-over',
            `${spanWords(coldHours - passed)} of cold are left in cycle ${seen.cycles + 1}`,
          )
        : undefined;
  if (seen.phase === body.to || (body.to === 'warm' && seen.phase === null))
    return refuse(
      'wrong-mode',
      body.to === 'cold' ? 'they are in the cold already' : 'they are not in the cold',
    );
  if (short && !body.because) return short;
  const extra = short && body.because ? overriding(state, entry, chosen, body.because, short.refused) : {};
  const turn = { atMs: entry.atMs, operation: operation.key, positions, to: body.to };
  return changed(
    state,
    entry,
    chosen,
    (piece) => {
      const { bed: _left, ...rest } = piece;
      return body.to === 'cold' && body.bed !== undefined ? { ...rest, bed: body.bed } : rest;
    },
    { ...extra, ageing: [...(state.ageing ?? []), turn] },
  );
}

export function refinish(state: BatchState, route: Route, entry: Entry, body: RefinishBody): Outcome {
  if (body.reason.trim() === '') return refuse('bad-value', 'another finish needs a reason');
  const from = state.finish?.recipe ?? 'no recipe';
  if (from === body.finish.recipe) return refuse('bad-value', `${state.code} has ${from} already`);
  const move = { atMs: entry.atMs, by: entry.by, from, to: body.finish.recipe, reason: body.reason };
  const here = state.pieces.find((piece) => operationOf(route, piece.operation));
  return noted(
    state,
    entry,
    here?.operation ?? null,
    state.pieces.map((piece) => piece.position),
    {
      finish: body.finish,
      moves: [...(state.moves ?? []), move],
    },
  );
}
