import {
  choose,
  isRefusal,
  noted,
  pieceCode,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type FiledKind,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { latestValues } from './fit.ts';

/** A part made to fit its partner: planed down, or a shim glued on. */
export interface AdjustBody extends Selection {
  type: 'adjust';
  how: 'plane' | 'shim';
  byMm: number;
}

export const adjust: FiledKind<AdjustBody> = {
  type: 'adjust',
  apply,
  words: ({ how, byMm }, pieces) =>
    `${pieces} ${how === 'plane' ? 'planed' : 'shimmed'} by ${byMm.toFixed(2)} mm: measure again`,
  asked: {
    fields: { ...SELECTED, how: { enum: ['plane', 'shim'] }, byMm: { type: 'number' } },
    needs: ['how', 'byMm'],
  },
  line: {
    verbs: { plane: ['planed', 'planes', 'planing'], shim: ['shimmed', 'shims'] },
    number: 'own',
    take: (line, verb) => ({
      how: verb.verb === 'shim' ? 'shim' : 'plane',
      byMm: line.numberAfter(verb, 'mm'),
    }),
  },
};

/** More than this is not planed away or shimmed, mm. */
const MOST_ADJUSTED_MM = 2;

/**
 * Parts planed or shimmed at their join: the measured width goes on as it must be now, until it is measured anew. Planing takes
 * off a tenon and opens a pocket; a shim does the reverse.
 */
function apply(state: BatchState, route: Route, entry: Entry, body: AdjustBody): Outcome {
  const { how, byMm } = body;
  if (!(byMm > 0 && byMm <= MOST_ADJUSTED_MM))
    return refuse(
      'bad-value',
      `${byMm} mm cannot be ${how === 'plane' ? 'planed off' : 'shimmed'}: above 0 to ${MOST_ADJUSTED_MM} mm`,
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
