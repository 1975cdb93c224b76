import {
  choose,
  effectOf,
  isRefusal,
  noted,
  refuse,
  SELECTED,
  tooEarly,
  type BatchState,
  type Entry,
  type FiledKind,
  type LineWords,
  type Outcome,
  type SaidVerb,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { between, list } from '../units/json-schema.ts';

/** A scuff takes off next to nothing, µm. */
const SCUFF_UM = 1;

/** Pieces whose film was read before and after still differ by so much of what came off. */
const MEASURED_SD_SHARE = 0.1;

export const MOST_REMOVED_UM = 500;

/** Sanding, or a scuff between coats. */
export interface SandBody extends Selection {
  type: 'sand';
  /** Film taken off, µm, where it was read before and after; what the recipe expects when left out. */
  removalUm?: number;
  grits?: number[];
  /** Only scuffed, for the next coat to hold: takes off next to nothing. */
  scuff?: true;
}

export const sand: FiledKind<SandBody> = {
  type: 'sand',
  apply,
  words: ({ scuff, removalUm }, pieces) =>
    scuff ? `${pieces} scuffed` : `${pieces} sanded${removalUm === undefined ? '' : `, ${removalUm} µm off`}`,
  asked: {
    fields: {
      ...SELECTED,
      removalUm: between(0, MOST_REMOVED_UM),
      grits: list({ type: 'integer' }, 0, 10),
      scuff: { enum: [true] },
    },
    needs: [],
  },
  line: {
    verbs: { sand: ['sanded', 'sands', 'sanding', 'scuff', 'scuffed'] },
    number: 'own',
    take: sanding,
  },
};

/** `22 um grit 800 1000`, or a scuff between coats. */
function sanding(line: LineWords, verb: SaidVerb): Pick<SandBody, 'removalUm' | 'grits' | 'scuff'> {
  if (verb.text.toLowerCase().startsWith('scuff')) return { scuff: true };
  const removalUm = line.loneNumber('µm');
  const grits = ['grit', 'grits'].includes(line.word() ?? '') ? line.values(line.take(), 'grits') : undefined;
  return {
    ...(removalUm === undefined ? {} : { removalUm }),
    ...(grits === undefined ? {} : { grits }),
  };
}

function apply(state: BatchState, route: Route, entry: Entry, body: SandBody): Outcome {
  const { removalUm, grits, scuff } = body;
  if (removalUm !== undefined && !(removalUm >= 0 && removalUm <= MOST_REMOVED_UM))
    return refuse(
      'bad-value',
      `${removalUm} µm cannot be sanded off: 0 to ${MOST_REMOVED_UM} µm`,
      'removalUm',
    );
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
