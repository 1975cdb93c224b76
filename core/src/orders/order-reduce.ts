import { LARGEST_BATCH, refuse, type Ledger, type Refusal } from '../ledger/index.ts';
import { specDifference } from '../options/index.ts';
import type { CancelLineBody, ChangeLineBody, OrderBody, OrderedLine, OrderEntry } from './order-entry.ts';
import { lineCode, type OrderChange, type OrderLine, type OrderState } from './order.ts';

/** Lines of one order. */
export const MOST_LINES = 60;
/** Clocks of two tablets differ a little. */
const FUTURE_SLACK_MS = 5 * 60 * 1000;
const HEAVIEST_KG = 50;

type Outcome = OrderState | Refusal;
const bad = (refused: string, at?: string): Refusal => refuse('bad-value', refused, at);

/** The order after one entry, or why not. Pure; `state` is not changed. Corrections are made by replaying it. */
export function applyOrderEntry(state: OrderState | null, entry: OrderEntry): Outcome {
  const { body, atMs, filedMs } = entry;
  if (atMs > filedMs + FUTURE_SLACK_MS) return refuse('in-the-future', 'that has not happened yet');
  if (body.type === 'order')
    return state ? refuse('already-open', `${body.code} is already placed`) : place(body, atMs);
  if (!state) return refuse('unknown-batch', 'there is no such order');
  if (atMs < state.placedMs) return refuse('too-early', `${state.code} was not placed yet`);
  switch (body.type) {
    case 'order-add':
      return add(state, body.line, { addedMs: atMs });
    case 'order-change':
      return change(state, body, entry);
    case 'order-due':
      if (body.dueMs === state.dueMs) return bad(`${state.code} is due then already`, 'dueMs');
      return {
        ...state,
        dueMs: body.dueMs,
        changes: noted(state, entry, null, 'due another day', body.because),
      };
    case 'order-cancel':
      return cancel(state, body, entry);
    case 'undo':
      throw new Error('applyOrderEntry: corrections are made by replaying the order');
  }
}

/** How orders come out of their logs. */
export const orderLedger: Ledger<OrderState, OrderBody> = { apply: applyOrderEntry };

function place(body: Extract<OrderBody, { type: 'order' }>, placedMs: number): Outcome {
  const { code, customer, reference, dueMs, lines } = body;
  if (lines.length === 0) return bad('an order has a line at least', 'lines');
  if (dueMs <= placedMs) return bad('the due day is not after the order', 'dueMs');
  const empty: OrderState = {
    ...{ code, customer, reference: reference ?? null, placedMs, dueMs },
    ...{ lines: [], changes: [] },
  };
  let state: Outcome = empty;
  for (const line of lines) {
    state = add(state, line);
    if ('refused' in state) return state;
  }
  return state;
}

function add(state: OrderState, line: OrderedLine, when: Pick<OrderLine, 'addedMs'> = {}): Outcome {
  const number = state.lines.length + 1;
  if (number > MOST_LINES) return bad(`an order has ${MOST_LINES} lines at most`);
  const wrong = wrongQuantity(line.quantity) ?? wrongWeight(line.weightKg);
  if (wrong) return { ...wrong, refused: `line ${number}: ${wrong.refused}` };
  const { model, quantity, choices, spec, label, note, weightKg } = line;
  const added: OrderLine = {
    ...{ number, model, quantity, choices, spec, cancelled: null, ...when },
    ...{ label: label ?? null, note: note ?? null, weightKg: weightKg ?? null },
  };
  return { ...state, lines: [...state.lines, added] };
}

const wrongQuantity = (quantity: number): Refusal | undefined =>
  Number.isInteger(quantity) && quantity >= 1 && quantity <= LARGEST_BATCH
    ? undefined
    : bad(`1 to ${LARGEST_BATCH} pieces, not ${quantity}`, 'quantity');

const wrongWeight = (weight: OrderedLine['weightKg']): Refusal | undefined =>
  !weight || (weight.low > 0 && weight.low < weight.high && weight.high <= HEAVIEST_KG)
    ? undefined
    : bad(`${weight.low} to ${weight.high} kg is no weight of an instrument`, 'weightKg');

/** The line of a number that is still to be built. */
function wantedLine(state: OrderState, number: number): OrderLine | Refusal {
  const line = state.lines.find((one) => one.number === number);
  if (!line) return bad(`${state.code} has no line ${number}`, 'line');
  return line.cancelled === null
    ? line
    : refuse('nothing-here', `${lineCode(state.code, number)} was cancelled: ${line.cancelled}`);
}

function change(state: OrderState, body: ChangeLineBody, entry: OrderEntry): Outcome {
  const line = wantedLine(state, body.line);
  if ('refused' in line) return line;
  const { choices, spec, quantity, label, because } = body;
  const wrong = quantity === undefined ? undefined : wrongQuantity(quantity);
  if (wrong) return wrong;
  const next: OrderLine = {
    ...line,
    ...(choices && spec ? { choices, spec } : {}),
    ...(quantity === undefined ? {} : { quantity }),
    ...(label === undefined ? {} : { label }),
  };
  const what = changeWords(line, next);
  if (what.length === 0) return bad(`${lineCode(state.code, line.number)} is like that already`);
  return {
    ...state,
    lines: state.lines.map((one) => (one === line ? next : one)),
    changes: noted(state, entry, line.number, what.join(', '), because),
  };
}

/** What a line is otherwise: 'Frets jumbo (was medium)', '3 (were 2)'. */
function changeWords(before: OrderLine, after: OrderLine): string[] {
  const options = specDifference(before.spec, after.spec).map(
    ({ name, from, to }) => `${name} ${to ?? 'none'} (was ${from ?? 'none'})`,
  );
  const quantity =
    before.quantity === after.quantity ? [] : [`${after.quantity} pieces (were ${before.quantity})`];
  const label =
    before.label === after.label ? [] : [`label '${after.label ?? ''}' (was '${before.label ?? ''}')`];
  return [...options, ...quantity, ...label];
}

function cancel(state: OrderState, { line, because }: CancelLineBody, entry: OrderEntry): Outcome {
  const only = line === null ? undefined : wantedLine(state, line);
  if (only && 'refused' in only) return only;
  const ended = state.lines.filter((one) => one.cancelled === null && (!only || one === only));
  if (ended.length === 0) return refuse('nothing-here', `${state.code} was cancelled already`);
  return {
    ...state,
    lines: state.lines.map((one) => (ended.includes(one) ? { ...one, cancelled: because } : one)),
    changes: noted(state, entry, line, 'cancelled', because),
  };
}

const noted = (
  { changes }: OrderState,
  { atMs, by }: OrderEntry,
  line: number | null,
  what: string,
  because: string,
): OrderChange[] => [...changes, { atMs, by, line, what, because }];
