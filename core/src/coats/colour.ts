import {
  choose,
  count,
  effectOf,
  isRefusal,
  MOST_VALUES,
  noted,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { deltaE2000, type Lab } from '../finishing/delta-e.ts';
import { between, list, object } from '../units/json-schema.ts';

/** Colour of pieces, one reading each. */
export interface ColourBody extends Selection {
  type: 'colour';
  labs: Lab[];
}

export const colour: FiledKind<ColourBody> = {
  type: 'colour',
  apply,
  words: ({ labs }) => `colour of ${labs.length} read`,
  asked: {
    fields: {
      ...SELECTED,
      labs: list(
        object({ l: between(0, 100), a: between(-160, 160), b: between(-160, 160) }),
        1,
        MOST_VALUES,
      ),
    },
    needs: ['labs'],
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: ColourBody): Outcome {
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
      'labs',
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
