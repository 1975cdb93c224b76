import { judgeSetup } from '../assembly/setup.ts';
import {
  choose,
  hasLeft,
  isRefusal,
  LONGEST_REASON,
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
import { isYesNo } from '../machining/check.ts';
import type { Operation, Route } from '../route/index.ts';
import { key, plainWords } from '../units/json-schema.ts';
import { wrongValues } from './check.ts';

/** A bench sheet: several checks of one piece in one go, at the operation it stands at. */
export interface SheetBody extends Selection {
  type: 'sheet';
  /** The one piece it is of. */
  pieces: number[];
  /** By the key of the check, in its unit; yes is 1, no is 0. */
  values: Record<string, number>;
  /** What was turned, or seen. */
  note?: string;
}

const MOST_ON_A_SHEET = 40;

export const sheet: FiledKind<SheetBody> = {
  type: 'sheet',
  apply,
  words: ({ pieces, values, note }) =>
    `sheet of /${pieces[0] ?? '?'}: ${Object.keys(values).length} read${note ? ` (${note})` : ''}`,
  verdict: (route, { pieces, values }, { operation }) => {
    const checks = route.operations.find(({ key: of }) => of === operation)?.checks ?? [];
    const read = checks.filter((one) => values[one.key] !== undefined);
    const { sentence, verdict } = judgeSetup(values, read);
    return `/${pieces[0] ?? '?'} ${sentence.replace(/\.$/, '')}${verdict === 'adjust' ? ': it may not go on without a reason' : ''}`;
  },
  asked: {
    fields: {
      ...SELECTED,
      pieces: { ...SELECTED.pieces, maxItems: 1 },
      values: {
        type: 'object',
        propertyNames: key,
        additionalProperties: { type: 'number' },
        minProperties: 1,
        maxProperties: MOST_ON_A_SHEET,
      },
      note: plainWords(LONGEST_REASON),
    },
    needs: ['pieces', 'values'],
  },
};

/** Values of the checks of where the piece stands; they move nothing. */
function apply(state: BatchState, route: Route, entry: Entry, body: SheetBody): Outcome {
  const { values, note } = body;
  const [position] = body.pieces;
  if (position === undefined || body.pieces.length > 1)
    return refuse('bad-value', 'a sheet is of one piece', 'pieces');
  const gone = state.pieces.find((piece) => piece.position === position && hasLeft(piece));
  if (gone)
    return refuse('nothing-here', `${pieceCode(state.code, position)} has left: it is ${gone.standing}`);
  const chosen = choose(state, route, {
    selection: body,
    standings: ['inHand', 'waiting', 'onHold'],
    at: measures,
    standard: 'one',
  });
  if (isRefusal(chosen)) return chosen;
  const { operation } = chosen;
  const said = Object.entries(values);
  if (said.length === 0) return refuse('bad-value', 'nothing is on the sheet', 'values');
  for (const [name, value] of said) {
    const spec = operation.checks?.find((one) => one.key === name);
    if (!spec)
      return refuse(
        'unknown-operation',
        `${operation.name} has no check '${name}': it has ${(operation.checks ?? []).map((one) => one.key).join(', ')}`,
        'values',
      );
    const wrong = wrongValues(spec, [value]);
    if (wrong) return { ...wrong, at: isYesNo(spec) ? 'values' : name };
  }
  const filed = {
    ...{ atMs: entry.atMs, by: entry.by, operation: operation.key, position, values },
    ...(note === undefined ? {} : { note }),
  };
  const sheets = [...(state.sheets ?? []), filed].toSorted((a, b) => a.atMs - b.atMs);
  return noted(state, entry, operation.key, [position], { sheets });
}

/** Not on the table of a machine: what is read there is of the load, by its checks, and stands in its charts. */
const measures = ({ checks, mode }: Operation): boolean => (checks ?? []).length > 0 && mode !== 'load';
