import {
  choose,
  count,
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
import { ACTION_CHECK } from '../machining/check.ts';
import type { Operation, Route } from '../route/index.ts';
import { verdictOf } from './check.ts';
import { list } from '../units/json-schema.ts';
import { summarise } from '../stats/descriptive.ts';

export interface MeasureBody extends Selection {
  type: 'measure';
  /** Action at fret 12, mm, one value for each instrument measured. */
  valuesMm: number[];
}

export const measure: FiledKind<MeasureBody> = {
  type: 'measure',
  apply,
  words: ({ valuesMm }) =>
    `${valuesMm.length} measured, mean action ${summarise(valuesMm).mean.toFixed(2)} mm`,
  verdict: (route, { valuesMm }) => verdictOf(route.operations, ACTION_CHECK, valuesMm),
  asked: {
    fields: { ...SELECTED, valuesMm: list({ type: 'number' }, 1, MOST_VALUES) },
    needs: ['valuesMm'],
  },
  line: {
    verbs: { measure: ['measured', 'measures', 'action'] },
    number: 'own',
    take: (line, verb) => ({ valuesMm: line.values(verb, 'values in mm', 'mm') }),
  },
};

function apply(state: BatchState, route: Route, entry: Entry, body: MeasureBody): Outcome {
  const { valuesMm } = body;
  const asked = benchChecks(route);
  if (asked)
    return refuse(
      'unknown-operation',
      `${state.code} is measured by a bench sheet, instrument by instrument: ${asked.join(', ')}`,
    );
  if (valuesMm.length < 1 || valuesMm.length > MOST_VALUES)
    return refuse('bad-value', `1 to ${MOST_VALUES} values, not ${valuesMm.length}`);
  const wrong = valuesMm.find((value) => !(value > 0 && value <= 10));
  if (wrong !== undefined) return refuse('bad-value', `an action of ${wrong} mm cannot be: above 0 to 10 mm`);
  const assembly = (operation: Operation): boolean => operation.mode !== 'ship';
  const chosen = choose(state, route, {
    selection: { ...body, count: undefined },
    standings: ['inHand', 'waiting', 'onHold'],
    at: assembly,
    standard: 'all',
  });
  if (isRefusal(chosen)) return chosen;
  if (body.pieces && body.pieces.length !== valuesMm.length)
    return refuse(
      'bad-value',
      `${count(valuesMm.length, 'value')} for ${count(body.pieces.length, 'piece')}`,
    );
  const all = chosen.pieces.map((piece) => piece.position);
  const positions = valuesMm.length === all.length ? (body.pieces ?? all) : [];
  const set = { atMs: entry.atMs, operation: chosen.operation.key, positions, valuesMm };
  return noted(state, entry, chosen.operation.key, positions, { measures: [...state.measures, set] });
}

/** Where a bench sheet asks more than one action of the rack, that one would count for nothing: what it asks instead. */
function benchChecks({ operations }: Route): string[] | undefined {
  const shelf = operations.find(
    (operation) => operation.mode === 'hold' && operation.rule.rule === 'settle' && operation.rule.drifts,
  );
  const asksAction = operations.some(({ checks }) => checks?.some(({ key }) => key === ACTION_CHECK));
  return shelf && !asksAction ? (shelf.checks ?? []).map(({ key }) => key) : undefined;
}
